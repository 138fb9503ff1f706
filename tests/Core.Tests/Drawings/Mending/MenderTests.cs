using System.Globalization;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Dxf;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Tests.Drawings.Spacing;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings.Mending;

public class MenderTests
{
    private const double Kerf = 0.2;

    private static readonly MendingQuestion Usual = new(Doubled: true, Near: true, CloseMm: 0.1);

    private static Drawing Read(string inner) =>
        SvgReaderTests.Read($"<svg xmlns='http://www.w3.org/2000/svg' width='300mm' height='200mm' viewBox='0 0 300 200'>{inner}</svg>");

    private static Drawing Cuts(string d) => Read($"<path d='{d}' fill='none' stroke='#f00'/>");

    private static Mended Mend(Drawing drawing, MendingQuestion ask) => Mender.Mend(drawing, ask, TestColours.Map, Kerf);

    private static DrawingSummary Measure(Drawing drawing) => DrawingReading.Summarise("m", drawing);

    private static List<string> Codes(Drawing drawing) =>
        [.. DrawingFindings.Of(Measure(drawing), TestColours.Map, GateCase.Heron with { KerfMm = 0.2m }).Select(f => f.Code)];

    private static double Length(Drawing drawing) => Measure(drawing).Strokes.Sum(s => s.LengthMm);

    [Theory]
    [InlineData("M0 0H20M0 0H20", 20)]
    [InlineData("M0 0H20M30 0H5", 30)] // in part, backwards
    [InlineData("M0 0H10M10 0H20M0 0H20M0 0H20", 20)] // three times
    [InlineData("M0 0h20v20h-20zM20 0h20v20h-20z", 140)] // a shared edge
    [InlineData("M0 0h20v20h-20zM0 0h20v20h-20z", 80)]
    // a circle, and half of it split elsewhere
    [InlineData("M30 20A10 10 0 0 1 10 20A10 10 0 0 1 30 20M30 20A10 10 0 0 1 20 30A10 10 0 0 1 10 20", 62.832)]
    [InlineData("M0 0C10 20 30 20 40 0M40 0C30 20 10 20 0 0", 52.6837)] // the same curve backwards
    public void Doubled_LeavesEachLineOnce(string d, double mm)
    {
        var before = Cuts(d);
        var mended = Mend(before, new MendingQuestion(Doubled: true));
        Length(mended.Drawing).ShouldBe(mm, mm * 0.002);
        mended.Steps.ShouldHaveSingleItem().LengthMm.ShouldBe(Length(before) - Length(mended.Drawing), 0.01);
        Codes(mended.Drawing).ShouldNotContain("line.duplicate");
        Apart(before, mended.Drawing).ShouldBeLessThan(0.015);
        Apart(mended.Drawing, before).ShouldBeLessThan(0.015);
    }

    [Fact]
    public void Doubled_ASharedEdge_LeavesNothingOpen() =>
        Codes(Mend(Cuts("M0 0h20v20h-20zM20 0h20v20h-20z"), new MendingQuestion(Doubled: true)).Drawing).ShouldNotContain("path.open");

    [Fact]
    public void Doubled_OfTwoMeanings_Stays() =>
        Length(Mend(Read("<path d='M0 0H20' stroke='red'/><path d='M0 0H20' stroke='blue'/>"), new MendingQuestion(Doubled: true)).Drawing)
            .ShouldBe(40, 1e-6);

    [Theory]
    [InlineData("M0 0H20M0 .1H20", 20)]
    [InlineData("M0 0h20v20h-20zM20.1 0h20v20h-20z", 140)]
    [InlineData("M0 0H20M0 .15H20M0 .3H20", 40)] // the third is near only to the one that goes
    [InlineData("M0 0H40M10 .1H30", 40)]
    public void Near_LeavesOneLineOfEachPair_AndJoinsTheRestToIt(string d, double mm)
    {
        var before = Cuts(d);
        var mended = Mend(before, new MendingQuestion(Near: true)).Drawing;
        Length(mended).ShouldBe(mm, 0.6);
        Codes(mended).ShouldNotContain("line.near");
        if (d.EndsWith('z'))
            Codes(mended).ShouldNotContain("path.open");
        Apart(before, mended).ShouldBeLessThan(Kerf + 0.01);
        Apart(mended, before).ShouldBeLessThan(Kerf + 0.01);
    }

    [Theory]
    [InlineData("M0 0H10M10.3 0V10M10.2 10.2H0M-.2 10V.2", 4)] // a square of four lines
    [InlineData("M0 0H10V10H0V.4", 1)] // one path
    [InlineData("M0 0H10M11 0H20", 0)] // too far
    [InlineData("M0 0H.3M5 5H9V9H5Z", 0)] // a crumb is not bent back on itself
    public void Close_JoinsTheNearestEnds(string d, int gaps)
    {
        var mended = Mend(Cuts(d), new MendingQuestion(CloseMm: 0.5));
        mended.Steps.ShouldHaveSingleItem().Count.ShouldBe(gaps);
        Codes(mended.Drawing).Contains("path.open").ShouldBe(gaps == 0);
    }

    [Fact]
    public void Outline_Scale_Recolour_DoWhatTheySay()
    {
        var drawing = Read(
            "<rect width='20' height='20' fill='#00f'/><path d='M0 50h30' stroke='#0a0'/><circle cx='60' cy='20' r='5' fill='#000' "
                + "stroke='#000'/>"
        );
        var mended = Mend(
            drawing,
            new MendingQuestion(Outline: "#FF0000", Scale: 2, Recolour: new Dictionary<string, string> { ["#00aa00"] = "#ff0000" })
        );
        mended.Steps.Select(s => (s.Kind, s.Count)).ShouldBe([("recolour", 1), ("outline", 1), ("scale", 3)]);
        var after = Measure(mended.Drawing);
        after.Strokes.Single(s => s.Colour == "#ff0000").LengthMm.ShouldBe(2 * (80 + 30), 1e-6);
        after.Fills.ShouldHaveSingleItem().AreaMm2.ShouldBe(4 * Math.PI * 25, 0.01);
        (after.WidthMm, after.HeightMm).ShouldBe((600, 400));
    }

    [Fact]
    public void WhatAMendedFileDoesNotHold_IsSaid() =>
        Mend(
            Read("<text>Hi</text><path d='M0 0H9M0 0H9' stroke='red'/><image href='x.png' width='9' height='9'/>"),
            new MendingQuestion(Doubled: true)
        )
            .LeftOut.ShouldBe(["1 piece of live lettering", "1 pixel picture that is linked or cannot be read"]);

    [Theory]
    [InlineData("0 mm", null, null, "close")]
    [InlineData("9 mm", null, null, "close")]
    [InlineData("a little", null, null, "close")]
    [InlineData(null, "0", null, "scale")]
    [InlineData(null, "-2", null, "scale")]
    [InlineData(null, "twice", null, "scale")]
    [InlineData(null, "1e9", null, "scale")]
    [InlineData(null, null, "red", "outline")]
    [InlineData(null, "2", null, "width", "30 mm")] // both
    [InlineData(null, null, null, "width", "wide")]
    [InlineData(null, null, null, "width", "0.01 mm")]
    [InlineData(null, " ", " ", "doubled")] // nothing asked
    public void Words_ThatCannotBe_NameTheField(string? close, string? scale, string? outline, string field, string? width = null)
    {
        new MendWords(Doubled: false, Near: false, Close: close, Outline: outline, Scale: scale, Recolour: [], Width: width).Read(
            LengthUnit.Mm,
            out var refusals
        );
        refusals.ShouldHaveSingleItem().Field.ShouldBe(field);
    }

    [Fact]
    public void Words_AreReadInTheirUnit_WithAPointOrAComma()
    {
        var ask = new MendWords(false, false, "0.004", "#FF0000", "2,5", [("#00AA00", "#0000ff"), ("#ff0000", "#FF0000")]).Read(
            LengthUnit.In,
            out var refusals
        );
        refusals.ShouldBeEmpty();
        (ask.CloseMm, ask.Scale, ask.Outline).ShouldBe((0.1016, 2.5, "#FF0000"));
        ask.Recolour.ShouldBe(new Dictionary<string, string> { ["#00aa00"] = "#0000ff" });
        new MendWords(true, false, null, null, null, [("red", "#0000ff"), (null, null)]).Read(LengthUnit.Mm, out refusals);
        refusals.ShouldHaveSingleItem().Field.ShouldBe("recolour");
    }

    /// <summary>Hatching in a colour that scores or engraves is as near as its maker likes.</summary>
    [Fact]
    public void Near_IsForCutsAlone() =>
        Length(
                Mend(
                    Read("<path d='M0 0H20M0 .1H20M0 .2H20' stroke='blue'/><path d='M0 9H20M0 9.1H20' stroke='red'/>"),
                    new MendingQuestion(Near: true)
                ).Drawing
            )
            .ShouldBe(80, 1e-6);

    /// <summary>Both formats are read again with the same lengths and places; curves of a DXF file are chords.</summary>
    [Theory]
    [InlineData("gear")]
    [InlineData("box")]
    [InlineData("star")]
    public void Files_AreReadAgainAsTheyWere(string kind)
    {
        var drawing = Read(
            $"<path transform='translate(150 100)' d='{SoundDrawings.Of(kind)}' fill='none' stroke='#f00'/><path d='M9 9C20 30 30 3 "
                + "60 12' fill='none' stroke='#123456'/>"
        );
        foreach (var text in new[] { SvgWriter.Write(drawing), DxfWriter.Write(drawing) })
        {
            var again = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(text)));
            var (was, now) = (Measure(drawing), Measure(again));
            now.Strokes.Select(s => (s.Colour, s.Paths, s.OpenPaths)).ShouldBe(was.Strokes.Select(s => (s.Colour, s.Paths, s.OpenPaths)));
            foreach (var (a, b) in was.Strokes.Zip(now.Strokes))
                b.LengthMm.ShouldBe(a.LengthMm, a.LengthMm * 1e-4);
            (now.ExtentMm!.Width, now.ExtentMm.Height).ShouldBe((was.ExtentMm!.Width, was.ExtentMm.Height), new Within(0.01));
            // There and back: upright both times.
            Apart(
                    drawing,
                    SvgReaderTests.Read(SvgWriter.Write(again)) is var back && again.Format == "dxf" ? Shifted(back, was.ExtentMm) : back
                )
                .ShouldBeLessThan(0.01);
        }
    }

    /// <summary>
    /// Random tilings with edges drawn twice, some of them moved by less than the kerf: after mending none is left, and no line is lost or
    /// invented.
    /// </summary>
    [Fact]
    public void RandomTilings_AreMendedWhole()
    {
        for (var seed = 0; seed < 25; seed++)
        {
            var random = new Random(seed);
            var text = new StringBuilder();
            for (var i = 0; i < 12; i++)
            {
                var (x, y) = (i % 4 * 20 + random.NextDouble() * 0.15, i / 4 * 20 + (random.Next(2) == 0 ? 0 : random.NextDouble() * 0.15));
                text.Append(CultureInfo.InvariantCulture, $"M{x:0.####} {y:0.####}h20v20h-20z");
            }
            var before = Read(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<path transform='translate(100 50) rotate({random.NextDouble() * 90:0.##})' d='{text}' fill='none' stroke='#f00'/>"
                )
            );
            var mended = Mend(before, Usual).Drawing;
            Codes(mended)
                .ShouldNotContain(
                    c => c == "line.duplicate" || c == "line.near",
                    $"seed {seed}: "
                        + $"{string.Join("; ", DrawingFindings.Of(Measure(mended), TestColours.Map, GateCase.Heron with { KerfMm = 0.2m }).Select(f => $"{f.Code} {f.Count} {f.LengthMm:0.###}"))}"
                );
            Apart(before, mended).ShouldBeLessThan(Kerf + 0.01, $"seed {seed}");
            Apart(mended, before).ShouldBeLessThan(Kerf + 0.01, $"seed {seed}");
        }
    }

    private sealed record Within(double Mm) : IEqualityComparer<(double, double)>
    {
        public bool Equals((double, double) x, (double, double) y) => Math.Abs(x.Item1 - y.Item1) < Mm && Math.Abs(x.Item2 - y.Item2) < Mm;

        public int GetHashCode((double, double) obj) => 0;
    }

    /// <summary>A DXF file has no page: what comes back stands in the corner.</summary>
    private static Drawing Shifted(Drawing drawing, Extent to)
    {
        var own = Measure(drawing).ExtentMm!;
        var move = Matrix.Translate(to.MinX - own.MinX, to.MinY - own.MinY);
        return drawing with { Shapes = [.. drawing.Shapes.Select(s => s with { Subpaths = [.. s.Subpaths.Select(p => p.Map(move))] })] };
    }

    /// <summary>How far the farthest place of one drawing's lines is from the other's: sampled at every half millimetre.</summary>
    private static double Apart(Drawing from, Drawing to)
    {
        var target = Chords(to).ToList();
        double worst = 0;
        foreach (var (a, b) in Chords(from))
        {
            var steps = Math.Max(1, (int)Math.Ceiling((b - a).Length / 0.5));
            for (var i = 0; i <= steps; i++)
            {
                var p = a + (double)i / steps * (b - a);
                worst = Math.Max(worst, target.Min(t => Distance(p, t.A, t.B)));
            }
        }
        return worst;
    }

    private static IEnumerable<(Point A, Point B)> Chords(Drawing drawing)
    {
        foreach (var path in drawing.Shapes.Where(s => s.Stroke is not null).SelectMany(s => s.Subpaths))
        {
            for (var i = 0; i < path.Count; i++)
            {
                var pieces = path[i].Straight ? 1 : 60;
                for (var k = 0; k < pieces; k++)
                    yield return (path[i].At((double)k / pieces), path[i].At((k + 1.0) / pieces));
            }
        }
    }

    private static double Distance(Point p, Point a, Point b)
    {
        var (d, v) = (b - a, p - a);
        var size = d.X * d.X + d.Y * d.Y;
        return (v - Math.Clamp(size > 0 ? (v.X * d.X + v.Y * d.Y) / size : 0, 0, 1) * d).Length;
    }
}
