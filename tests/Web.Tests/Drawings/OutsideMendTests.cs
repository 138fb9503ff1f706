using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>Files that <c>vg check --mend</c> writes, read by ezdxf, which this project did not make.</summary>
public sealed class OutsideMendTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-mend-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private JsonElement Mend(string svg, string to, params string[] more)
    {
        var file = Path.Combine(_folder, "drawing.svg");
        File.WriteAllText(file, svg);
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")
            ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test web.");
        var (exit, text, error) = Run(
            "dotnet",
            [Path.Combine(app, "cli", "vg.dll"), "check", file, "--kerf", "0.2", "--json", "--mend", Path.Combine(_folder, to), .. more]
        );
        exit.ShouldBeLessThan(2, error);
        return JsonDocument.Parse(text).RootElement;
    }

    private static (int Exit, string Out, string Error) Run(string program, string[] args)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, args) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var text = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, text, error.Result);
    }

    private static string Svg(string inner) =>
        $"<svg xmlns='http://www.w3.org/2000/svg' width='300mm' height='200mm' viewBox='0 0 300 200'>{inner}</svg>";

    [Fact]
    public void MendedDxf_IsReadByEzdxf_WithoutAFault_AndWithTheLengthsWeSay()
    {
        var files = new Dictionary<string, JsonElement>();
        var random = new Random(5);
        for (var i = 0; i < 8; i++)
        {
            var inner = string.Create(
                CultureInfo.InvariantCulture,
                $"<g fill='none' transform='translate(80 60) rotate({random.Next(90)})'><path d='M0 0h40v30h-40zM40 0h40v30h-40z' "
                    + $"stroke='#9c2f4f'/><circle cx='20' cy='15' r='{3 + random.Next(9)}' stroke='#2e6e8e'/><path d='M0 50C20 "
                    + $"{random.Next(100)} 30 3 60 62' stroke='#123456'/><ellipse cx='60' cy='15' rx='12' ry='7' stroke='#9c2f4f'/></g>"
            );
            files[Path.Combine(_folder, $"{i}.dxf")] = Mend(Svg(inner), $"{i}.dxf").GetProperty("mended").GetProperty("report");
        }
        var (exit, text, error) = Run(
            "/usr/bin/python3",
            [Repo.Path("tests", "outside", "dxf", "drawings.py"), "--measure", .. files.Keys]
        );
        exit.ShouldBe(0, error);
        foreach (var (file, theirs) in JsonDocument.Parse(text).RootElement.EnumerateObject().Select(p => (p.Name, p.Value)))
        {
            theirs.GetProperty("faults").GetInt32().ShouldBe(0, file);
            foreach (var stroke in files[file].GetProperty("strokes").EnumerateArray())
            {
                // Colours that are not in the index of this release come near.
                var colour = stroke.GetProperty("colour").GetString()!;
                if (colour == "#123456")
                    continue;
                theirs
                    .GetProperty("lengths")
                    .GetProperty(colour)
                    .GetDouble()
                    .ShouldBe(stroke.GetProperty("lengthMm").GetDouble(), 0.1, $"{colour} of {Path.GetFileName(file)}");
            }
            var (x, extent) = (theirs.GetProperty("extent"), files[file].GetProperty("extentMm"));
            (x[2].GetDouble() - x[0].GetDouble()).ShouldBe(
                extent.GetProperty("maxX").GetDouble() - extent.GetProperty("minX").GetDouble(),
                0.01
            );
        }
    }

    [Fact]
    public void MendedSvg_CheckedAgain_HasNoSuchFinding()
    {
        var answer = Mend(
            Svg(
                "<path d='M10 10h40M50 10h-40M10 30h50M20 30.1h20M100 100h30v30h-29.95v-30.02' fill='none' "
                    + "stroke='#9c2f4f'/><text>Hi</text>"
            ),
            "out.svg"
        );
        answer
            .GetProperty("findings")
            .EnumerateArray()
            .Select(f => f.GetProperty("code").GetString())
            .ShouldBe(["line.duplicate", "line.near", "text.live", "path.open"], ignoreOrder: true);
        var mended = answer.GetProperty("mended");
        mended.GetProperty("leftOut")[0].GetString().ShouldBe("1 piece of live lettering");
        mended
            .GetProperty("report")
            .GetProperty("findings")
            .EnumerateArray()
            .Select(f => f.GetProperty("code").GetString())
            .ShouldBe(["path.open"]);
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")!;
        Run("dotnet", [Path.Combine(app, "cli", "vg.dll"), "check", Path.Combine(_folder, "out.svg"), "--kerf", "0.2"]).Exit.ShouldBe(0);
    }

    [Theory]
    [InlineData("out.pdf", ".svg or .dxf")]
    [InlineData("drawing.svg", "name another file")]
    [InlineData("out.svg", "a factor", "--scale", "0")]
    [InlineData("out.svg", "#rrggbb", "--outline", "red")]
    [InlineData("out.svg", "not a pair of colours", "--recolour", "red=blue")]
    public void BadMends_SayWhatToType(string to, string says, params string[] more)
    {
        var file = Path.Combine(_folder, "drawing.svg");
        File.WriteAllText(file, Svg("<path d='M0 0h10' stroke='#9c2f4f'/>"));
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")!;
        var (exit, text, error) = Run(
            "dotnet",
            [Path.Combine(app, "cli", "vg.dll"), "check", file, "--mend", Path.Combine(_folder, to), .. more]
        );
        (exit, text).ShouldBe((2, ""));
        error.ShouldContain(says);
        File.ReadAllText(file).ShouldContain("M0 0h10");
    }
}
