using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Machines;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

public class FindingsTests
{
    private static IReadOnlyList<Finding> Findings(string inner, MachineSpec? machine = null) =>
        DrawingFindings.Of(SvgReaderTests.Summary(inner), TestColours.Map, machine ?? Gating.GateCase.Heron);

    [Theory]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M0 0h10' stroke='red'/>", 10)]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M10 0h-10' stroke='red'/>", 10)] // backwards
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M4 0h10' stroke='red'/>", 6)] // in part
    [InlineData("<path d='M0 0h10M0 0h10M0 0h10' stroke='red'/>", 20)] // three times counts twice
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M0 0h5' stroke='red'/><path d='M5 0h5' stroke='red'/>", 10)] // split elsewhere
    [InlineData("<circle cx='50' cy='50' r='10' stroke='red'/><circle cx='50' cy='50' r='10' stroke='red'/>", 62.831853)]
    [InlineData("<path d='M0 0C5 9 9 5 20 0' stroke='red'/><path d='M20 0C9 5 5 9 0 0' stroke='red'/>", 23.46910)] // 200,000 chords
    [InlineData("<rect width='20' height='20' stroke='red'/><rect x='20' width='20' height='20' stroke='red'/>", 20)] // a shared edge
    [InlineData(
        "<g transform='rotate(31.7 3 9)'><rect width='20' height='20' stroke='red'/><rect x='20' width='20' height='20' stroke='red'/></g>",
        20
    )]
    public void LineDuplicate_Cuts_AreStoppedWithTheirRedundantLength(string inner, double mm)
    {
        var found = Findings(inner).Where(f => f.Code == "line.duplicate").ShouldHaveSingleItem();
        found.Severity.ShouldBe(Severity.Stop);
        found.LengthMm.ShouldBe(mm, 0.01);
        found.At.Count.ShouldBeGreaterThan(0);
    }

    [Theory]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M0 .1h10' stroke='red'/>")]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M10 0h10' stroke='red'/>")]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M0 0v10' stroke='red'/>")]
    [InlineData("<path d='M0 0h10' stroke='red'/><path d='M0 0h10' stroke='blue'/>")] // cut over score is two works
    [InlineData("<path d='M0 0h10M0 0h10' stroke='magenta'/>")] // ignored
    [InlineData("<path d='M0 0h10v10h-10z' stroke='red'/>")]
    public void LineDuplicate_WhatOnlyTouches_IsNot(string inner) => Findings(inner).ShouldNotContain(f => f.Code == "line.duplicate");

    [Fact]
    public void LineDuplicate_OnScores_IsAWarning() =>
        Findings("<path d='M0 0h10M0 0h10' stroke='blue'/>").Single(f => f.Code == "line.duplicate").Severity.ShouldBe(Severity.Warn);

    /// <summary>
    /// Seeded faults: tiled squares with one shared edge drawn twice at every angle; each is found, and none on the clean tiling.
    /// </summary>
    [Fact]
    public void LineDuplicate_SeededAtManyAngles_AllFoundAndNoneInvented()
    {
        var random = new Random(7);
        for (var i = 0; i < 200; i++)
        {
            var place = FormattableString.Invariant(
                $"translate({random.NextDouble() * 500:0.###},{random.NextDouble() * 300:0.###}) rotate({random.NextDouble() * 360:0.###})"
            );
            Findings($"<g transform='{place}'><path d='M0 0h30v20h-30z' stroke='red'/><path d='M30 0h30v20h-30z' stroke='red'/></g>")
                .Single(f => f.Code == "line.duplicate")
                .LengthMm.ShouldBe(20, 0.01);
            Findings($"<g transform='{place}'><path d='M0 0h30v20h-30z' stroke='red'/><path d='M31 0h30v20h-30z' stroke='red'/></g>")
                .ShouldNotContain(f => f.Code == "line.duplicate");
        }
    }

    [Fact]
    public void ColourUnknown_IsRefusedNotGuessed()
    {
        var found = Findings("<path d='M0 0h10' stroke='#00aa00'/>").Single(f => f.Code == "colour.unknown");
        (found.Severity, found.Count, found.LengthMm).ShouldBe((Severity.Stop, 1, 10));
    }

    [Theory]
    [InlineData(80, 80, null)]
    [InlineData(95, 50, "size.overMargin")]
    [InlineData(101, 50, "size.offBed")]
    public void Size_AgainstTheBed(int width, int height, string? code)
    {
        var bed = Gating.GateCase.Heron with { BedWidthMm = 100, BedHeightMm = 100, MarginMm = 5 };
        var sizes = Findings($"<rect width='{width}' height='{height}' stroke='red'/>", bed)
            .Where(f => f.Code.StartsWith("size.", StringComparison.Ordinal))
            .ToList();
        if (code is null)
            sizes.ShouldBeEmpty();
        else
            sizes.ShouldHaveSingleItem().Code.ShouldBe(code);
    }

    [Fact]
    public void Size_ThatFitsTurned_SaysSo() =>
        Findings(
                "<rect width='50' height='95' stroke='red'/>",
                Gating.GateCase.Heron with
                {
                    BedWidthMm = 120,
                    BedHeightMm = 80,
                    MarginMm = 5,
                }
            )
            .Single(f => f.Code == "size.offBed")
            .Text.ShouldContain("turned");

    [Fact]
    public void TextLive_AndEmpty()
    {
        Findings("<text>Hi</text><path d='M0 0h1' stroke='red'/>").ShouldContain(f => f.Code == "text.live" && f.Severity == Severity.Stop);
        Findings("").ShouldHaveSingleItem().Code.ShouldBe("file.empty");
    }
}
