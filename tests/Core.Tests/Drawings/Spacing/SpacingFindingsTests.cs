using System.Globalization;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings.Spacing;

/// <summary>Kerf 0.2 mm, sheet 3 mm, all in red, which cuts.</summary>
public class SpacingFindingsTests
{
    private static readonly MachineSpec Machine = GateCase.Heron with { KerfMm = 0.2m };

    private static IReadOnlyList<Finding> Find(string d, decimal thick = 3) => Of($"<path d='{d}' stroke='red'/>", thick);

    private static IReadOnlyList<Finding> Of(string inner, decimal thick = 3) =>
        DrawingFindings.Of(SvgReaderTests.Summary(inner), TestColours.Map, Machine, thicknessMm: thick);

    private static Finding? Only(IReadOnlyList<Finding> all, string code) =>
        all.Where(f => f.Code == code).ToList() is [var one] ? one : null;

    [Theory]
    [InlineData("M0 0H20M0 .1H20", 20)] // side by side
    [InlineData("M0 0H20M30 .1H12", 8)] // in part, and backwards
    [InlineData("M0 0H20M5 .19H15", 10)]
    [InlineData("M0 0H20M0 .1H10M10 .1H20", 20)] // split elsewhere
    [InlineData("M0 0H30M0 .05L30 .15", 30)] // not quite parallel
    [InlineData("M0 0H20M0 .1H20M0 .2H20", 40)] // three lines have two gaps
    [InlineData("M0 0h20v20h-20zM20.1 0h20v20h-20z", 20)] // tiles moved by a tenth
    [InlineData("M30 0A30 30 0 0 1 -30 0A30 30 0 0 1 30 0M30.1 0A30.1 30.1 0 0 1 -30.1 0A30.1 30.1 0 0 1 30.1 0", 188.8)] // rings
    [InlineData("M30 0A30 30 0 0 1 -30 0M30.1 0A30.1 30.1 0 0 1 0 30.1A30.1 30.1 0 0 1 -30.1 0", 94.4)] // split elsewhere
    [InlineData("M0 0C10 20 30 20 40 0M0 .1C10 20.1 30 20.1 40 .1", 53)] // moved up: less where it is steep
    public void LineNear_MoreThanFive_Stops(string d, double mm)
    {
        var near = Only(Find(d), "line.near").ShouldNotBeNull();
        near.Severity.ShouldBe(Severity.Stop);
        near.LengthMm.ShouldBe(mm, mm * 0.02);
        near.At.Count.ShouldBeGreaterThan(0);
        near.Spans!.ShouldAllBe(s => s.Mm < 0.2);
        Find(d).ShouldNotContain(f => f.Code == "line.duplicate");
    }

    [Theory]
    [InlineData("M0 0H4M0 .1H4", Severity.Warn)]
    [InlineData("M0 0H20M0 .2H20", null)] // as wide as the beam is not nearer
    [InlineData("M0 0H20M0 .21H20", null)]
    [InlineData("M0 0H20M20 0H40", null)] // one after the other
    [InlineData("M0 0H20M0 10L20 -10", null)] // across
    [InlineData("M0 0H20M0 0H20", null)] // that is a doubled line
    [InlineData("M0 0h20v20h-20z", null)]
    public void LineNear_OtherCases(string d, Severity? severity) =>
        Find(d).Where(f => f.Code == "line.near").Select(f => (Severity?)f.Severity).SingleOrDefault().ShouldBe(severity);

    [Theory]
    [InlineData("M0 0H50M0 2H50", 100, true)] // a fifth and more of all there is: asked
    [InlineData("M0 0H50M0 2H50M0 50H900", 100, false)]
    [InlineData("M0 0H50M0 1H50M0 2H50", 150, true)]
    [InlineData("M0 0H50M0 2H50M0 2.1H50", 50, true)] // of two that are nearly doubled, and said to be, only the third is crowded
    public void GapTooClose_MeasuresEachLineForItself_AndAsksForAFifth(string d, double mm, bool asks)
    {
        var close = Only(Find(d), "gap.tooClose").ShouldNotBeNull();
        (close.Severity, close.Asks).ShouldBe((Severity.Warn, asks));
        close.LengthMm.ShouldBe(mm, 0.5);
    }

    /// <summary>Lines that cross at nine degrees and more run alongside nowhere.</summary>
    [Fact]
    public void CrossingLines_AreCrowdedNowhereElse()
    {
        var summary = SvgReaderTests.Summary("<path d='M0 50H200M0 66L200 34M0 34L200 66' stroke='red'/>");
        summary.Spacing.ShouldNotBeNull().Sum(s => s.Between(0, 3).CrowdedMm).ShouldBe(0, 1e-6);
        Find("M0 50H200M0 66L200 34M0 34L200 66").ShouldNotContain(f => f.Code == "gap.tooClose" || f.Code == "line.near");
    }

    [Theory]
    [InlineData("M0 0H50M0 3H50", 3)] // as far apart as the sheet is thick is right
    [InlineData("M0 0H50M0 3.2H50", 3)]
    [InlineData("M0 0H50M0 20H50", 12.7)]
    public void GapTooClose_AsFarAsTheSheetIsThick_IsNot(string d, double thick) =>
        Find(d, (decimal)thick).ShouldNotContain(f => f.Code == "gap.tooClose");

    [Theory]
    [InlineData("M0 0h60v2h-60z", 60, true)] // a strip of 2 mm
    [InlineData("M0 0h60v40h-60zM2 5h20v20h-20z", 20, true)] // a web of 2 mm between an edge and a hole
    [InlineData("M0 0h60v40h-60zM5 5h20v30h-20zM27 5h20v30h-20z", 30, true)] // between two holes
    [InlineData("M0 0h60v40h-60zM5 5h2v20h-2z", 0, false)] // a slot of 2 mm is waste
    [InlineData("M0 0h20v20h-20zM22 0h20v20h-20z", 0, false)] // between two parts is waste
    [InlineData("M0 0h60v40h-60zM5 5h40v30h-40zM6 6h38v28h-38z", 0, false)] // a part within a hole: the ring between is waste
    [InlineData("M0 0h60v40h-60zM5 5h50v30h-50zM10 10h2v20h-2z", 0, true)] // a strip that lies in a hole is a part again
    public void DetailThin_IsWhatStays(string d, double mm, bool thin)
    {
        var all = Find(d);
        all.ShouldContain(f => f.Code == "gap.tooClose");
        all.Any(f => f.Code == "detail.thin").ShouldBe(thin);
        if (mm > 0)
            Only(all, "detail.thin")!.LengthMm.ShouldBe(mm, 1);
    }

    [Fact]
    public void Spacing_ScalesWithTheSheetAndTheKerf()
    {
        const string d = "M0 0h60v4h-60zM0 30h60v4h-60z";
        Find(d, 3).ShouldNotContain(f => f.Code == "detail.thin");
        Find(d, 5).ShouldContain(f => f.Code == "detail.thin");
        var wide = DrawingFindings.Of(
            SvgReaderTests.Summary("<path d='M0 0H20M0 .3H20' stroke='red'/>"),
            TestColours.Map,
            Machine with
            {
                KerfMm = 0.4m,
            },
            thicknessMm: 3
        );
        wide.ShouldContain(f => f.Code == "line.near");
    }

    [Fact]
    public void Scores_AndOtherColours_AreLeftAlone()
    {
        Of("<path d='M0 0H20M0 .1H20' stroke='blue'/>").ShouldNotContain(f => f.Code == "line.near");
        Of("<path d='M0 0H20' stroke='red'/><path d='M0 .1H20' stroke='blue'/>").ShouldNotContain(f => f.Code == "line.near");
        var two = new ColourMap(new Dictionary<string, StrokeMeaning> { ["#ff0000"] = StrokeMeaning.Cut, ["#00ff00"] = StrokeMeaning.Cut });
        DrawingFindings
            .Of(SvgReaderTests.Summary("<path d='M0 0H20' stroke='#f00'/><path d='M0 .1H20' stroke='#0f0'/>"), two, Machine, thicknessMm: 3)
            .Single(f => f.Code == "line.near")
            .LengthMm.ShouldBe(20, 0.01);
    }

    /// <summary>What is sound: nothing of it stops, and only the hinge is asked about.</summary>
    [Theory]
    [InlineData("gear")]
    [InlineData("box")]
    [InlineData("hinge")]
    [InlineData("star")]
    public void SoundDrawings_AreNotStopped_AtAnyAngle(string kind)
    {
        for (var turn = 0; turn < 360; turn += 7)
        {
            var all = Of(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<path transform='translate(400 300) rotate({turn}.3)' d='{SoundDrawings.Of(kind)}' stroke='red'/>"
                )
            );
            all.ShouldNotContain(f => f.Severity == Severity.Stop, $"turned by {turn}");
            all.Any(f => f.Asks).ShouldBe(kind == "hinge", $"turned by {turn}");
        }
    }

    /// <summary>
    /// Seeded faults: one line of a sound drawing drawn again, moved by half a kerf. Each is found, with its length, at every angle.
    /// </summary>
    [Theory]
    [InlineData("gear")]
    [InlineData("box")]
    [InlineData("hinge")]
    public void SeededNearLines_AreAllFound(string kind)
    {
        var random = new Random(11);
        for (var i = 0; i < 60; i++)
        {
            var (turn, y, length) = (random.NextDouble() * 360, 100 + random.NextDouble() * 50, 6 + random.NextDouble() * 60);
            var all = Of(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<path transform='translate(400 300) rotate({turn:0.###})' d='{SoundDrawings.Of(kind)}M0 {y:0.###}h80M3 "
                        + $"{y + 0.02 + random.NextDouble() * 0.16:0.###}h{length:0.###}' stroke='red'/>"
                )
            );
            Only(all, "line.near").ShouldNotBeNull($"seed {i}").LengthMm.ShouldBe(length, 0.05, $"seed {i}");
        }
    }
}
