using System.Text;
using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>
/// Lengths and extents of real SVG files against a program this project did not make: headless Chromium, for style, visibility and
/// matrices, and for lengths along geometry enlarged above 1,000 units (smaller, its own lengths are up to 10 % short).
/// </summary>
[Collection(Houses.Sheets)]
public class OutsideDrawingsTests(LiveServer server)
{
    private const double Tolerance = 0.005;

    private static readonly string Outside = Repo.Path("tests", "outside");

    private const string ClipArt = "/usr/share/openclipart/svg";

    private static readonly string Measure = File.ReadAllText(Path.Combine(Outside, "measure.js"));

    /// <summary>
    /// Fifty files of each of three icon sets, spread over the alphabet. A set drawn in fills only is given a stroke, the same for both.
    /// </summary>
    [Theory]
    [InlineData("lucide-static/icons", "")]
    [InlineData("heroicons/24/outline", "")]
    [InlineData("bootstrap-icons/icons", " stroke='#9c2f4f'")]
    public void IconSet_LengthsAndExtents_AgreeWithinHalfAPercent(string set, string stroke)
    {
        var files = Directory.GetFiles(Path.Combine(Outside, "node_modules", set), "*.svg").Order(StringComparer.Ordinal).ToList();
        files.Count.ShouldBeGreaterThan(200);
        var chosen = Enumerable.Range(0, 50).Select(i => files[i * files.Count / 50]).ToList();
        Compare(
            chosen
                .Select(f => (Path.GetFileName(f), File.ReadAllText(f).Replace("<svg", "<svg" + stroke, StringComparison.Ordinal)))
                .ToList()
        );
    }

    /// <summary>Files with copies, classes, transforms, units, nested pages, percentages and unequal scales.</summary>
    [Fact]
    public void TrickyFiles_LengthsAndExtents_AgreeWithinHalfAPercent() =>
        Compare(
            Directory
                .GetFiles(Path.Combine(Outside, "drawings"), "*.svg")
                .Order(StringComparer.Ordinal)
                .Select(f => (Path.GetFileName(f), File.ReadAllText(f)))
                .ToList(),
            atLeast: 10
        );

    /// <summary>
    /// Clip art that many hands drew in several programs, from Debian's openclipart-svg, spread over the alphabet. Chromium takes minutes
    /// to walk along larger ones.
    /// </summary>
    [Fact]
    public void ClipArt_LengthsAndExtents_AgreeWithinHalfAPercent()
    {
        var files = Directory
            .GetFiles(ClipArt, "*.svg", SearchOption.AllDirectories)
            .Where(f => new FileInfo(f).Length < 10_000)
            .Order(StringComparer.Ordinal)
            .ToList();
        files.Count.ShouldBeGreaterThan(4000);
        Compare(
            Enumerable
                .Range(0, 160)
                .Select(i => files[i * files.Count / 160])
                .Select(f => (Path.GetRelativePath(ClipArt, f), File.ReadAllText(f)))
                .ToList(),
            atLeast: 160,
            strokes: false
        );
    }

    private void Compare(List<(string Name, string Svg)> files, int atLeast = 50, bool strokes = true)
    {
        files.Count.ShouldBeGreaterThanOrEqualTo(atLeast);
        using var browser = new Browser(server.Address);
        browser.Open("about:blank");
        var measured = new List<JsonElement>();
        foreach (var some in files.Chunk(25))
        {
            var answer = (string)browser.Driver.ExecuteAsyncScript(Measure, some.Select(f => (object)f.Svg).ToArray())!;
            measured.AddRange(JsonDocument.Parse(answer).RootElement.EnumerateArray());
            measured[^1].TryGetProperty("error", out _).ShouldBeFalse(answer[..Math.Min(600, answer.Length)]);
        }
        var wrong = new List<string>();
        for (var i = 0; i < files.Count; i++)
        {
            wrong.AddRange(
                Read(files[i].Name, files[i].Svg) is { } ours ? Differences(files[i].Name, ours, measured[i], strokes)
                : measured[i].TryGetProperty("unreadable", out _) ? []
                : [$"{files[i].Name}: not read"]
            );
        }
        wrong.ShouldBeEmpty($"{wrong.Count} differences");
    }

    /// <returns>Null for what is no XML, which Chromium does not read either.</returns>
    private static DrawingSummary? Read(string name, string svg)
    {
        try
        {
            return DrawingReading.Summarise(name, SvgReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg))));
        }
        catch (UnreadableDrawingException)
        {
            return null;
        }
    }

    private static IEnumerable<string> Differences(string name, DrawingSummary ours, JsonElement theirs, bool strokes)
    {
        var lengths = theirs.GetProperty("strokes").EnumerateObject().ToDictionary(s => s.Name, s => s.Value.GetDouble());
        if (lengths.Count == 0 && strokes)
            yield return $"{name}: nothing measured";
        foreach (var colour in lengths.Keys.Union(ours.Strokes.Select(s => s.Colour)))
        {
            var their = lengths.GetValueOrDefault(colour);
            var our = ours.Strokes.FirstOrDefault(s => s.Colour == colour)?.LengthMm ?? 0;
            if (Math.Abs(our - their) > Tolerance * Math.Max(their, 1e-6))
                yield return $"{name} {colour}: {our:0.####} mm, Chromium {their:0.####} mm";
        }
        // Infinite, which JSON has not, where nothing is drawn.
        var box = theirs
            .GetProperty("box")
            .EnumerateArray()
            .Where(v => v.ValueKind == JsonValueKind.Number)
            .Select(v => v.GetDouble())
            .ToArray();
        if (box.Length == 0 && !strokes && ours.ExtentMm is null)
            yield break;
        if (box.Length == 0 || ours.ExtentMm is not { } e)
        {
            yield return $"{name}: no extent";
            yield break;
        }
        var size = Math.Max(box[2] - box[0], box[3] - box[1]);
        double[] our4 = [e.MinX, e.MinY, e.MaxX, e.MaxY];
        for (var i = 0; i < 4; i++)
        {
            if (Math.Abs(our4[i] - box[i]) > Tolerance * size)
                yield return $"{name} extent[{i}]: {our4[i]:0.####} mm, Chromium {box[i]:0.####} mm";
        }
    }
}
