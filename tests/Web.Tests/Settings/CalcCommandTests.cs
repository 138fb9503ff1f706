using System.Text.Json;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary><c>vg calc</c> and <c>vg time</c> as scripts call them: one JSON document, any unit, and words where it cannot be.</summary>
public class CalcCommandTests
{
    private static JsonElement Json(params string[] args)
    {
        var (exit, text, error) = Outside.Vg(args);
        exit.ShouldBe(0, error);
        return JsonDocument.Parse(text).RootElement;
    }

    [Theory]
    [InlineData("mismatch --settings-for 6.35mm --sheet 3.175mm", "ratio:2 standing:shut code:settings.double")]
    [InlineData("mismatch --settings-for 6.35mm --sheet 6mm", "standing:clear code:")]
    [InlineData("rotary --height 8.5in --diameter 2.8in", "pageWidthMm:215.9 pageHeightMm:223.4301 taper:0 refused:false")]
    [InlineData("rotary --height 100 --diameter 70 --handle", "refused:true standing:shut")]
    [InlineData("kerf --parts 10 --nominal 20mm --measured 197.8mm", "kerfMm:0.22 offsetPerEdgeMm:0.11")]
    [InlineData("slot --sheet 2.94mm --kerf 0.22mm", "drawnMm:2.72")]
    [InlineData("air --volume 0.45 --flow 520", "seconds:43.04 wait:44")]
    [InlineData("sag --radius 250mm --width 80mm", "sagMm:3.2207 belowTopMm:1.6103")]
    [InlineData("spot --focal 50.8mm --beam 6mm --m2 1.2 --nm 10600", "spotMm:0.13712 rayleighMm:1.1609")]
    [InlineData("energy --watts 15 --speed 15in/min", "jPerMm:2.3622")]
    [InlineData("eyewear --watts 10 --nm 450", "od:5.4145")]
    public void Calc_AnswersOneDocument(string line, string expected)
    {
        var answer = Json(["calc", .. line.Split(' '), "--json"]);
        foreach (var pair in expected.Split(' ').Select(p => p.Split(':')))
        {
            var value = answer.GetProperty(pair[0]);
            var said = value.ValueKind == JsonValueKind.Null ? "" : value.ToString().ToLowerInvariant();
            said.ShouldStartWith(pair[1], customMessage: $"{line}: {pair[0]}");
        }
        answer.GetProperty("working").GetArrayLength().ShouldBeGreaterThan(0);
    }

    [Theory]
    [InlineData("--sheet", "calc mismatch --settings-for 6mm")]
    [InlineData("--speed", "calc energy --watts 15 --speed 0mm/s")]
    [InlineData("--flow", "calc air --volume 0.45 --flow 0")]
    [InlineData("--colour", "calc kerf --colour red")]
    [InlineData("--speed", "time nothing.svg")]
    [InlineData("far apart", "calc energy --watts 1e-28 --speed 19999mm/s --other-watts 9999")]
    public void Nonsense_IsRefusedInWords(string names, string line)
    {
        var (exit, text, error) = Outside.Vg(line.Split(' '));
        (exit, text).ShouldBe((2, ""));
        if (line.StartsWith("calc", StringComparison.Ordinal))
            error.ShouldContain(names);
        error.Trim().ShouldEndWith(".");
    }

    [Fact]
    public void Time_OfASquare_IsTheClosedForm_AndAFileThatIsNoneIsRefused()
    {
        var file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.svg");
        File.WriteAllText(
            file,
            "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='200mm' viewBox='0 0 200 200'>"
                + "<path d='M20 20h100v100h-100z' fill='none' stroke='#000000'/></svg>"
        );
        var time = Json("time", file, "--speed", "20", "--accel", "3000", "--corner", "0", "--json");
        time.GetProperty("seconds").GetDouble().ShouldBe(20.027, 0.001);
        time.GetProperty("byOperation").GetProperty("cut").GetDouble().ShouldBe(20.027, 0.001);
        (time.GetProperty("low").GetDouble() < 20.027 && time.GetProperty("high").GetDouble() > 20.027).ShouldBeTrue();
        File.WriteAllText(file, "no drawing");
        Outside.Vg("time", file, "--speed", "20").Exit.ShouldBe(2);
        File.Delete(file);
    }

    /// <summary>Lengths of a written piece, read by an independent parser of XML and numbers.</summary>
    [Fact]
    public void TestPiece_IsWritten_WithItsCard()
    {
        var file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.svg");
        var card = Json(
            "testpiece",
            "kerf",
            "--machine",
            "heron",
            "--material",
            "birch-ply-laser",
            "--thickness",
            "1/8 in",
            "--out",
            file,
            "--json"
        );
        card.GetProperty("card")[0].GetString()!.ShouldContain("measure them");
        var svg = System.Xml.Linq.XDocument.Load(file).Root!;
        svg.Attribute("width")!.Value.ShouldBe($"{card.GetProperty("widthMm").GetDecimal()}mm");
        svg.Elements()
            .Count(e => e.Attribute("stroke")?.Value == card.GetProperty("cells")[0].GetProperty("colour").GetString())
            .ShouldBe(9);
        Outside.Vg("check", file, "--all-cut").Exit.ShouldBe(0);
        File.Delete(file);
        Outside.Vg("testpiece", "star", "--out", file).Exit.ShouldBe(2);
        Outside
            .Vg("testpiece", "kerf", "--machine", "heron", "--material", "birch-ply-laser", "--thickness", "thin", "--out", file)
            .Exit.ShouldBe(2);
        File.Exists(file).ShouldBeFalse();
        var (exit, _, error) = Outside.Vg(
            "testpiece",
            "cut",
            "--machine",
            "heron",
            "--material",
            "pvc-sheet",
            "--thickness",
            "3",
            "--out",
            file
        );
        (exit, File.Exists(file)).ShouldBe((2, false));
        error.ShouldStartWith("Never");
        Outside
            .Vg(
                "testpiece",
                "kerf",
                "--machine",
                "heron",
                "--material",
                "birch-ply-laser",
                "--thickness",
                "3",
                "--out",
                "/nowhere/at/all.svg"
            )
            .Error.ShouldContain("--out");
    }
}
