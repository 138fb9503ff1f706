using System.Text.Json;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary><c>vg check</c> as scripts call it: the published program, without a database.</summary>
public sealed class CheckCommandTests : IDisposable
{
    private readonly string _file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.svg");

    public void Dispose() => File.Delete(_file);

    private (int Exit, string Out, string Error) Check(string svg, params string[] more)
    {
        File.WriteAllText(_file, svg);
        return Run([_file, "--machine", "heron", "--material", "birch-ply-laser", "--thickness", "3", .. more]);
    }

    private static (int Exit, string Out, string Error) Run(string[] args) => Outside.Vg(["check", .. args]);

    private static string Svg(string inner) =>
        $"<svg xmlns='http://www.w3.org/2000/svg' width='4in' height='2in' viewBox='0 0 400 200'>{inner}</svg>";

    [Fact]
    public void Check_AClean_ExitsZeroWithTheWholeDocument()
    {
        var (exit, text, _) = Check(
            Svg("<path d='M0 0h100v100h-100z' fill='none' stroke='#9c2f4f'/><rect x='200' width='100' height='100'/>"),
            "--json"
        );
        exit.ShouldBe(0);
        var json = JsonDocument.Parse(text).RootElement;
        json.EnumerateObject()
            .Select(p => p.Name)
            .ShouldBe(["widthMm", "heightMm", "extentMm", "strokes", "fills", "findings", "time", "order", "notFound", "notLookedAt"]);
        json.GetProperty("widthMm").GetDouble().ShouldBe(101.6, 1e-6);
        json.GetProperty("extentMm").GetProperty("maxX").GetDouble().ShouldBe(76.2, 1e-3);
        var stroke = json.GetProperty("strokes")[0];
        stroke.GetProperty("colour").GetString().ShouldBe("#9c2f4f");
        stroke.GetProperty("operation").GetString().ShouldBe("cut");
        stroke.GetProperty("lengthMm").GetDouble().ShouldBe(101.6, 1e-3);
        (stroke.GetProperty("paths").GetInt32(), stroke.GetProperty("openPaths").GetInt32()).ShouldBe((1, 0));
        json.GetProperty("fills")[0].GetProperty("areaMm2").GetDouble().ShouldBe(25.4 * 25.4, 0.1);
        json.GetProperty("time").GetProperty("runSeconds").GetDouble().ShouldBeGreaterThan(0);
    }

    [Fact]
    public void Check_WithAStopFinding_ExitsOneWithItsPlace()
    {
        var (exit, text, _) = Check(Svg("<path d='M0 0h100M100 0h-100' stroke='#9c2f4f'/>"), "--json");
        exit.ShouldBe(1);
        var finding = JsonDocument.Parse(text).RootElement.GetProperty("findings")[0];
        (finding.GetProperty("code").GetString(), finding.GetProperty("severity").GetString()).ShouldBe(("line.duplicate", "stop"));
        finding.GetProperty("lengthMm").GetDouble().ShouldBe(25.4, 1e-3);
        finding.GetProperty("at")[0][0].GetDouble().ShouldBe(12.7, 1e-3);
    }

    [Theory]
    [InlineData("not a drawing")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><path")]
    public void Check_Unreadable_ExitsTwoWithASentence(string text)
    {
        var (exit, output, error) = Check(text, "--json");
        (exit, output).ShouldBe((2, ""));
        error.Trim().ShouldEndWith(".");
    }

    [Fact]
    public void Check_Options_ChangeColoursBedAndKerf()
    {
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>")).Exit.ShouldBe(1);
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>"), "--colours", "#123456=score").Exit.ShouldBe(0);
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>"), "--all-cut").Exit.ShouldBe(0);
        Check(Svg("<path d='M0 0h100' stroke='#9c2f4f'/>"), "--bed", "20x20", "--kerf", "0.3").Exit.ShouldBe(1);
    }

    [Fact]
    public void Check_AFolder_IsOneTable_WithWhatCannotBeRead()
    {
        var folder = Directory.CreateTempSubdirectory("vg-folder-").FullName;
        try
        {
            Run([folder]).ShouldSatisfyAllConditions(r => r.Exit.ShouldBe(2), r => r.Error.ShouldContain("no SVG, DXF, PNG or JPEG file"));
            File.WriteAllText(Path.Combine(folder, "b, twice.svg"), Svg("<path d='M0 0h100M100 0h-100' stroke='#9c2f4f'/>"));
            File.WriteAllText(
                Path.Combine(folder, "a.DXF"),
                "0\nSECTION\n2\nENTITIES\n0\nLINE\n420\n10235727\n10\n0\n20\n0\n11\n3\n21\n4\n0\nENDSEC\n0\nEOF\n"
            );
            File.WriteAllText(Path.Combine(folder, "notes.txt"), "not a drawing");
            var (exit, text, _) = Run([folder]);
            var lines = text.TrimEnd().ReplaceLineEndings("\n").Split('\n');
            exit.ShouldBe(1);
            lines[0].ShouldBe("file,widthMm,heightMm,cutMm,scoreMm,engraveMm,fillMm2,runSeconds,stop,warn,note,codes,problem");
            lines[1].ShouldStartWith("a.DXF,3,4,5,0,0,0,");
            lines[2].ShouldStartWith("\"b, twice.svg\",101.6,50.8,50.8,0,0,0,");
            lines[2].ShouldEndWith(",1,0,0,line.duplicate,");
            lines.Length.ShouldBe(3);
            File.WriteAllText(Path.Combine(folder, "c.svg"), "<svg");
            var (bad, json, _) = Run([folder, "--json"]);
            bad.ShouldBe(2);
            var files = JsonDocument.Parse(json).RootElement.GetProperty("files");
            files.EnumerateArray().Select(f => f.GetProperty("file").GetString()).ShouldBe(["a.DXF", "b, twice.svg", "c.svg"]);
            files[2].GetProperty("problem").GetString()!.ShouldContain("not well-formed SVG");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public void Check_WrongUse_ExitsTwo()
    {
        Run(["nowhere.svg"]).Exit.ShouldBe(2);
        Check(Svg(""), "--machine", "osprey").Exit.ShouldBe(2);
        Check(Svg(""), "--loud").Exit.ShouldBe(2);
    }

    private static byte[] Code()
    {
        using var data = QRCoder.QRCodeGenerator.GenerateQrCode("velvet", QRCoder.QRCodeGenerator.ECCLevel.M);
        return new QRCoder.PngByteQRCode(data).GetGraphic(20);
    }

    /// <summary>A picture alone: told by its first bytes whatever it is called, measured, and placed by its width.</summary>
    [Fact]
    public void Check_APicture_IsMeasured_AndPlacedByItsWidth()
    {
        var to = _file + ".out.svg";
        try
        {
            File.WriteAllBytes(_file, Code());
            var (exit, text, _) = Run([_file, "--json", "--mend", to, "--width", "30 mm"]);
            exit.ShouldBe(0);
            var json = JsonDocument.Parse(text).RootElement;
            json.GetProperty("pictures")[0].GetProperty("pixels").GetInt32().ShouldBe(580);
            json.GetProperty("findings")
                .EnumerateArray()
                .Select(f => f.GetProperty("code").GetString())
                .ShouldBe(["image.lowResolution", "image.noSize", "image.placed"], ignoreOrder: true);
            json.GetProperty("mended")
                .GetProperty("report")
                .GetProperty("pictures")[0]
                .GetProperty("widthMm")
                .GetDouble()
                .ShouldBe(30, 1e-3);
            var again = Run([to]);
            again.Exit.ShouldBe(0);
            again.Out.ShouldContain("picture of 580 x 580 pixels, 30 x 30 mm, 491 pixels to the inch");
        }
        finally
        {
            File.Delete(to);
        }
    }

    [Theory]
    [InlineData("20,20", true)]
    [InlineData("380,180; 20,20", true)]
    [InlineData("380,180", false)]
    public void Check_Clamps_AreHeldAgainstTheFrame(string clamps, bool inTheWay)
    {
        var (exit, text, _) = Check(Svg("<path d='M0 0h100v100h-100z' fill='none' stroke='#9c2f4f'/>"), "--clamps", clamps);
        exit.ShouldBe(0, "a note stops nothing");
        text.Contains("frame.obstructed", StringComparison.Ordinal).ShouldBe(inTheWay);
    }

    [Theory]
    [InlineData("Write their places in mm", "--clamps", "here")]
    [InlineData("not both", "--mend", "out.svg", "--width", "30", "--scale", "2")]
    [InlineData("from 0.1 mm", "--mend", "out.svg", "--width", "0.01")]
    [InlineData("is not a length", "--mend", "out.svg", "--width", "wide")]
    [InlineData("goes with --mend", "--width", "30")]
    public void Check_BadOptions_SayWhatToType(string says, params string[] options)
    {
        var (exit, text, error) = Check(Svg("<path d='M0 0h10' stroke='#9c2f4f'/>"), options);
        (exit, text).ShouldBe((2, ""));
        error.ShouldContain(says);
    }

    [Fact]
    public void Check_AFolderWithPictures_HasARowForEach()
    {
        var folder = Directory.CreateTempSubdirectory("vg-folder-").FullName;
        try
        {
            File.WriteAllBytes(Path.Combine(folder, "code.png"), Code());
            File.WriteAllBytes(Path.Combine(folder, "short.JPG"), [0xFF, 0xD8, 0xFF, 0xE0]);
            File.WriteAllText(Path.Combine(folder, "part.svg"), Svg("<path d='M0 0h10' stroke='#9c2f4f'/>"));
            File.WriteAllText(Path.Combine(folder, "notes.txt"), "not a drawing");
            var (exit, text, _) = Run([folder]);
            exit.ShouldBe(2, "one cannot be read");
            var rows = text.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
            rows.Length.ShouldBe(4);
            rows[1].ShouldStartWith("code.png,153.458,153.458,0,0,0,0,");
            rows[1].ShouldContain("image.lowResolution");
            rows[2].ShouldStartWith("part.svg,");
            rows[3].ShouldContain("damaged or cut short");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
