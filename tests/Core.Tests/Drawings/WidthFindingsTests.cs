using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>How wide lines are drawn, and what a file hides.</summary>
public class WidthFindingsTests
{
    private static Drawing Read(string shapes, string unit = "mm") =>
        DrawingFile.Read(
            new MemoryStream(
                Encoding.UTF8.GetBytes(
                    $"<svg xmlns='http://www.w3.org/2000/svg' width='100{unit}' height='100{unit}' viewBox='0 0 100 100'>{shapes}</svg>"
                )
            )
        );

    private static Finding? Wide(Drawing drawing, decimal? most) =>
        DrawingFindings
            .Of(DrawingReading.Summarise("a", drawing), TestColours.Map, GateCase.Heron with { WidestLineMm = most })
            .SingleOrDefault(f => f.Code == "stroke.wide");

    /// <summary>By hand: 0.5 under a scale of 2 is 1 mm; without a width SVG draws 1 unit; 3 px are 3/96 of an inch.</summary>
    [Theory]
    [InlineData("<path d='M0 0H10' stroke='red' stroke-width='0.5'/>", 0.5)]
    [InlineData("<g transform='scale(2)'><path d='M0 0H10' stroke='red' stroke-width='0.5'/></g>", 1)]
    [InlineData("<g transform='scale(2 8)'><path d='M0 0H10' stroke='red' stroke-width='0.5'/></g>", 2)]
    [InlineData("<path d='M0 0H10' stroke='red'/>", 1)]
    [InlineData("<g style='stroke-width:0.2'><path d='M0 0H10' stroke='red'/><path d='M0 5H10' stroke='red' stroke-width='0.3'/></g>", 0.3)]
    public void Width_IsInMm_AfterAllScales(string shapes, double mm) =>
        DrawingReading.Summarise("a", Read(shapes)).Strokes.Single().WidestMm!.Value.ShouldBe(mm, 1e-4);

    [Fact]
    public void AWideCutLine_IsSaid_WhereTheMachineWantsThinOnes()
    {
        var drawing = Read("<g fill='none'><path d='M10 20H60' stroke='red' stroke-width='0.7'/><path d='M0 90H9' stroke='blue'/></g>");
        var finding = Wide(drawing, 0.1m)!;
        finding.Text.ShouldBe("Cut lines up to 0.7 mm wide: Heron takes 0.1 mm at most for a cut.");
        finding.Severity.ShouldBe(Severity.Warn);
        (finding.LengthMm, finding.At[0]).ShouldBe((50, new Place(10, 20)));
        Wide(drawing, null).ShouldBeNull("the width does not matter");
        Wide(drawing, 0.7m).ShouldBeNull("just so wide");
        Wide(Read("<path d='M0 0H10' stroke='blue' stroke-width='3'/>"), 0.1m).ShouldBeNull("a score");
    }

    /// <summary>A hairline, read again from its file, is no longer found; scores keep their width.</summary>
    [Fact]
    public void Thin_DrawsCutsAsHairlines()
    {
        var drawing = Read("<g fill='none'><path d='M10 20H60' stroke='red'/><path d='M0 90H9' stroke='blue' stroke-width='0.8'/></g>");
        var mended = Mender.Mend(drawing, new MendingQuestion(Thin: true), TestColours.Map, 0.2);
        mended.Steps.ShouldBe([new MendStep("thin", 1, 0)]);
        var again = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(SvgWriter.Write(mended.Drawing))));
        Wide(again, 0.0254m).ShouldBeNull();
        DrawingReading.Summarise("a", again).Strokes.Single(s => s.Colour == "#0000ff").WidestMm.ShouldBe(0.8);
    }

    [Theory]
    [InlineData("<g style='display:none'><path d='M0 0H10' stroke='red'/></g><path d='M0 5H10' stroke='red'/>", 1)]
    [InlineData("<path d='M0 0H10' stroke='red' visibility='hidden'/><path d='M0 5H10' stroke='red' display='none'/>", 2)]
    [InlineData("<path d='M0 0H10' stroke='red'/>", 0)]
    public void WhatAFileHides_IsCountedAndSaid(string shapes, int hidden)
    {
        var summary = DrawingReading.Summarise("a", Read(shapes));
        (summary.Asides?.Hidden ?? 0).ShouldBe(hidden);
        DrawingFindings.Of(summary, TestColours.Map, GateCase.Heron).Count(f => f.Code == "layer.hidden").ShouldBe(hidden > 0 ? 1 : 0);
    }

    /// <summary>A layer that is off, by its colour below zero.</summary>
    [Fact]
    public void ADxfLayerThatIsOff_IsSaid()
    {
        const string dxf =
            "0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n0\nLAYER\n2\nNotes\n62\n-3\n0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n"
            + "0\nLINE\n8\nNotes\n10\n0\n20\n0\n11\n10\n21\n0\n0\nLINE\n8\n0\n10\n0\n20\n5\n11\n10\n21\n5\n0\nENDSEC\n0\nEOF\n";
        var summary = DrawingReading.Summarise("a.dxf", DrawingFile.Read(new MemoryStream(Encoding.ASCII.GetBytes(dxf))));
        (summary.Asides!.Hidden, summary.Strokes.Sum(s => s.Paths)).ShouldBe((1, 1));
    }

    /// <summary>What nobody looked for is not said to be absent: without a width of the machine, in DXF, in old readings.</summary>
    [Theory]
    [InlineData(null, 1.0, true, false)]
    [InlineData(0.1, null, true, false)]
    [InlineData(0.1, 0.05, true, true)]
    [InlineData(0.1, 0.05, false, true)]
    public void WhatNobodyLookedAt_IsNotSaidToBeAbsent(double? most, double? drawn, bool hiddenCounted, bool widthsKnown)
    {
        var summary = DrawingReading.Summarise("a", Read("<path d='M0 0H10' stroke='red'/>"));
        summary = summary with
        {
            Strokes = [summary.Strokes[0] with { WidestMm = drawn }],
            Asides = summary.Asides! with { Hidden = hiddenCounted ? 0 : null },
        };
        var machine = GateCase.Heron with { WidestLineMm = (decimal?)most };
        var looked = DrawingFindings.NotFoundIn([], summary, TestColours.Map, machine);
        var not = string.Join('\n', DrawingFindings.NotLookedAt(summary, TestColours.Map, machine));
        looked.Contains("cut lines too wide to count as cuts").ShouldBe(widthsKnown);
        not.Contains("line widths").ShouldBe(!widthsKnown);
        looked.Contains("hidden layers and objects").ShouldBe(hiddenCounted);
        not.Contains("hidden layers and objects").ShouldBe(!hiddenCounted);
    }
}
