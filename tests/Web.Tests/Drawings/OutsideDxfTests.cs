using System.Diagnostics;
using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>What other programs wrote, and what they make of it: once for all tests.</summary>
public sealed class OutsideDxf : IAsyncLifetime
{
    public string Folder { get; } = Directory.CreateTempSubdirectory("vg-dxf-").FullName;

    public JsonElement Measured { get; private set; }

    public async ValueTask InitializeAsync()
    {
        // Debian's interpreter, since its packages are for it.
        using var process = Process.Start(
            new ProcessStartInfo("/usr/bin/python3", [Repo.Path("tests", "outside", "dxf", "drawings.py"), Folder])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var errors = process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        var text = await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        process.ExitCode.ShouldBe(0, await errors);
        Measured = JsonDocument.Parse(text).RootElement;
    }

    public ValueTask DisposeAsync()
    {
        Directory.Delete(Folder, recursive: true);
        return ValueTask.CompletedTask;
    }
}

/// <summary>
/// DXF against programs that this project did not make: files that ezdxf and potrace wrote, read and drawn by ezdxf, lengths of curves
/// integrated by mpmath.
/// </summary>
public sealed class OutsideDxfTests(OutsideDxf outside) : IClassFixture<OutsideDxf>
{
    private static DrawingSummary Read(string file)
    {
        using var stream = File.OpenRead(file);
        return DrawingReading.Summarise(Path.GetFileName(file), DrawingFile.Read(stream));
    }

    /// <summary>ezdxf makes a quarter circle one cubic, which is 3 parts in 10,000 too long: hence the tolerance.</summary>
    [Fact]
    public void Drawings_WrittenByEzdxfAndPotrace_HaveTheLengthsAndExtentsThatEzdxfDraws()
    {
        var (drawings, lengths) = (0, 0);
        foreach (var (file, measured) in outside.Measured.GetProperty("drawings").EnumerateObject().Select(p => (p.Name, p.Value)))
        {
            var ours = Read(file);
            var name = $"{Path.GetFileName(file)}, {measured.GetProperty("version")}";
            var wanted = measured.GetProperty("lengths").EnumerateObject().ToDictionary(l => l.Name, l => l.Value.GetDouble());
            ours.Strokes.Select(s => s.Colour).ShouldBe(wanted.Keys, ignoreOrder: true, name);
            foreach (var stroke in ours.Strokes)
                stroke.LengthMm.ShouldBe(wanted[stroke.Colour], 2e-3 * wanted[stroke.Colour], $"{stroke.Colour} of {name}");
            var extent = measured.GetProperty("extent").EnumerateArray().Select(v => v.GetDouble()).ToList();
            var e = ours.ExtentMm!;
            var size = Math.Max(e.Width, e.Height);
            foreach (var (our, theirs) in new[] { e.MinX, e.MinY, e.MaxX, e.MaxY }.Zip(extent))
                our.ShouldBe(theirs, 2e-3 * size, $"extent of {name}");
            ours.Broken.ShouldBe(0, name);
            drawings++;
            lengths += wanted.Count;
        }
        drawings.ShouldBe(48);
        lengths.ShouldBeGreaterThan(200);
    }

    [Fact]
    public void Curves_HaveTheLengthOfTheirIntegral()
    {
        var worst = 0.0;
        foreach (var curve in outside.Measured.GetProperty("curves").EnumerateObject())
        {
            var wanted = curve.Value.GetDouble();
            var off = Math.Abs(Read(curve.Name).Strokes.ShouldHaveSingleItem().LengthMm - wanted) / wanted;
            off.ShouldBeLessThan(2e-5, Path.GetFileName(curve.Name));
            worst = Math.Max(worst, off);
        }
        TestContext.Current.TestOutputHelper?.WriteLine($"worst of 48 curves: {worst:0.0e0}");
    }

    /// <summary>
    /// To one step of 255. Left out are the six greys and the two darkest pale shades of each hue, in which published tables differ.
    /// </summary>
    [Fact]
    public void Colours_OfTheIndex_AreThoseOfEzdxf()
    {
        var theirs = outside.Measured.GetProperty("colours").EnumerateArray().Select(c => c.GetString()!).ToList();
        for (var index = 1; index < 250; index++)
        {
            if (index >= 10 && index % 10 is 7 or 9)
                continue;
            var file = Path.Combine(outside.Folder, "colour.dxf");
            File.WriteAllText(file, $"0\nSECTION\n2\nENTITIES\n0\nLINE\n62\n{index}\n10\n0\n20\n0\n11\n1\n21\n1\n0\nENDSEC\n0\nEOF\n");
            var ours = Read(file).Strokes.Single().Colour;
            // 7 is white on a screen and black on paper.
            foreach (var (our, their) in Channels(ours).Zip(Channels(index == 7 ? "#000000" : theirs[index])))
                our.ShouldBeInRange(their - 1, their + 1, $"index {index}: {ours}, {theirs[index]}");
        }
    }

    private static IEnumerable<int> Channels(string colour) => colour[1..].Chunk(2).Select(c => Convert.ToInt32(new string(c), 16));
}
