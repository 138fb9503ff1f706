using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Tests.Drawings.Dxf;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>What a file leaves open or hides, and the order its cuts should run in.</summary>
public class AsidesTests
{
    private static DrawingSummary Summary(string svg) =>
        DrawingReading.Summarise("x.svg", SvgReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(svg))));

    private static DrawingSummary Page(string attributes, string inner = "<rect width='50' height='50' stroke='red' fill='none'/>") =>
        Summary($"<svg xmlns='http://www.w3.org/2000/svg' {attributes}>{inner}</svg>");

    private static DrawingSummary Sheet(string inner) => Page("width='300mm' height='200mm' viewBox='0 0 300 200'", inner);

    private static List<Finding> Of(DrawingSummary drawing, string code) =>
        [.. DrawingFindings.Of(drawing, TestColours.Map, GateCase.Heron, thicknessMm: 3).Where(f => f.Code == code)];

    [Theory]
    [InlineData("width='595.28' height='841.89'", "A4")] // A4 in points, which are 72 to the inch
    [InlineData("width='841.89px' height='595.28px'", "A4")] // lying
    [InlineData("width='744.09' height='1052.36'", "A4")] // A4 at 90 to the inch
    [InlineData("viewBox='0 0 612 792'", "letter")]
    public void ScaleSuspicious_PageInOtherPixels_Asks(string page, string name)
    {
        var found = Of(Page(page), "scale.suspicious").ShouldHaveSingleItem();
        (found.Severity, found.Asks).ShouldBe((Severity.Warn, true));
        found.Text.ShouldContain(name);
    }

    [Theory]
    [InlineData("width='210mm' height='297mm' viewBox='0 0 595 842'")] // points, with its size stated
    [InlineData("width='793.7' height='1122.5'")] // A4 at 96 to the inch
    [InlineData("width='400' height='300'")]
    [InlineData("width='11in' height='8.5in'")]
    public void ScaleSuspicious_SoundPages_AreNot(string page) => Of(Page(page), "scale.suspicious").ShouldBeEmpty();

    [Theory]
    [InlineData("<rect width='1.5' height='1' stroke='red'/>", true)] // an inch and a half, taken for mm
    [InlineData("<rect width='40' height='30' stroke='red'/>", false)]
    [InlineData("<rect width='2540' height='1270' stroke='red'/>", true)] // 100 mm, taken for inches
    [InlineData("<rect width='900' height='300' stroke='red'/>", false)] // only too large
    public void ScaleSuspicious_FactorOf25_4(string inner, bool asks) => (Of(Sheet(inner), "scale.suspicious").Count > 0).ShouldBe(asks);

    [Theory]
    [InlineData("", 6, true)] // no unit, six of them
    [InlineData("9 $INSUNITS|70 1", 6, false)]
    [InlineData("9 $INSUNITS|70 4", 6, false)]
    [InlineData("9 $INSUNITS|70 0", 60, false)]
    public void ScaleSuspicious_DxfWithoutAUnit(string header, double size, bool asks)
    {
        var file = DxfText.File($"0 LINE|62 1|10 0|20 0|11 {size}|21 {size}", header);
        Of(
            DrawingReading.Summarise("x.dxf", DrawingFile.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(file)))),
            "scale.suspicious"
        )
            .Count.ShouldBe(asks ? 1 : 0);
    }

    [Theory]
    [InlineData("<path d='M-40 -40h30v30h-30z' stroke='red'/>", 1)]
    [InlineData("<path d='M-40 10h50' stroke='red'/>", 0)] // reaches onto the page
    [InlineData(
        "<path d='M301 10h50M400 300h9' stroke='red'/><circle cx='50' cy='250' r='20'/><rect x='9' y='9' width='9' height='9'/>",
        2
    )]
    public void OffPage_IsCounted_WhereAPageIsStated(string inner, int shapes)
    {
        Of(Sheet(inner), "page.outside").Sum(f => f.Count).ShouldBe(shapes);
        Of(Page("", inner), "page.outside").ShouldBeEmpty("without a size the page is what is drawn");
    }

    /// <summary>Each names a corner of the shape it is about, where that was placed.</summary>
    [Theory]
    [InlineData("page.outside", "<path d='M10 10h9' stroke='red'/><path d='M310 20h9' stroke='red'/>", 310, 20)]
    [InlineData(
        "clip.ignored",
        "<path d='M10 10h9' stroke='red'/><g clip-path='url(#c)' transform='translate(5 6)'><path d='M30 40h9' stroke='red'/></g>",
        35,
        46
    )]
    [InlineData(
        "paint.noted",
        "<path d='M10 10h9' stroke='red'/><rect x='50' y='60' width='9' height='9' fill='url(#p)'/><linearGradient id='p'/>",
        50,
        60
    )]
    [InlineData("path.broken", "<path d='M10 10h9' stroke='red'/><path d='M70 80h9 x 3' stroke='red'/>", 70, 80)]
    public void WhatIsCounted_HasItsPlace(string code, string inner, double x, double y)
    {
        var at = Of(Sheet(inner), code).ShouldHaveSingleItem().At.ShouldHaveSingleItem();
        (at.X, at.Y).ShouldBe((x, y));
    }

    [Fact]
    public void WhatIsCounted_HasUpToFiftyPlaces() =>
        Of(Sheet(string.Concat(Enumerable.Range(0, 70).Select(i => $"<path d='M400 {i}h9' stroke='red'/>"))), "page.outside")
            .Single()
            .ShouldSatisfyAllConditions(f => f.Count.ShouldBe(70), f => f.At.Count.ShouldBe(50));

    [Fact]
    public void ColourLeftOut_IsSaid()
    {
        var found = Of(Sheet("<path d='M0 0h10M0 9h10' stroke='#ff00ff'/><path d='M0 0h10' stroke='red'/>"), "colour.ignored")
            .ShouldHaveSingleItem();
        (found.Severity, found.Count, found.LengthMm).ShouldBe((Severity.Note, 2, 20));
        found.Text.ShouldStartWith("#ff00ff is left out");
    }

    [Fact]
    public void ClipsMasksPatterns_AreSaid()
    {
        const string defs =
            "<defs><clipPath id='c'><rect width='9' height='9'/></clipPath><pattern id='p' width='1' "
            + "height='1'/></defs><style>.m{mask:url(#m)}</style>";
        var drawing = Sheet(
            defs
                + "<path clip-path='url(#c)' d='M0 0h50' stroke='red'/><g class='m'><path d='M0 9h50' stroke='red'/></g><path "
                + "clip-path='none' d='M0 30h50' stroke='red'/><rect x='60' width='20' height='20' fill='url(#p)'/>"
        );
        Of(drawing, "clip.ignored").ShouldHaveSingleItem().Count.ShouldBe(2);
        Of(drawing, "paint.noted").ShouldHaveSingleItem().Count.ShouldBe(1);
    }

    [Fact]
    public void ShapeFilled_WithoutAnOutline_IsNoted()
    {
        var found = Of(
                Sheet(
                    "<rect width='20' height='20' fill='red'/><rect x='30' width='20' height='20' fill='lime' stroke='red'/><path "
                        + "d='M0 50h20' stroke='red'/>"
                ),
                "shape.filled"
            )
            .ShouldHaveSingleItem();
        (found.Severity, found.Count).ShouldBe((Severity.Note, 1));
    }

    /// <summary>Whoever fills in the colour that cuts meant the cut: the fill would be engraved over all of it, or left out.</summary>
    [Theory]
    [InlineData("<rect width='20' height='20' fill='red' stroke='red'/>", 1)]
    [InlineData("<rect width='20' height='20' fill='red' stroke='blue'/><rect x='30' width='20' height='20' fill='red' stroke='red'/>", 2)]
    [InlineData("<rect width='20' height='20' fill='black' stroke='red'/>", 0)]
    [InlineData("<path d='M0 0h20' fill='red' stroke='red'/>", 0)]
    public void ShapeFilled_InAColourThatCuts_IsSaid(string inner, int shapes)
    {
        var found = Of(Sheet(inner), "shape.filled").Where(f => f.Severity == Severity.Warn).ToList();
        found.Sum(f => f.Count).ShouldBe(shapes);
    }

    private const string Outer = "<rect width='100' height='100' stroke='red' fill='none'/>",
        Hole = "<circle cx='30' cy='30' r='10' stroke='red' fill='none'/>",
        Far = "<rect x='150' width='40' height='40' stroke='red' fill='none'/>";

    [Theory]
    [InlineData(Outer + Hole + Far, 1)]
    [InlineData(Hole + Outer + Far, 0)]
    [InlineData(Outer + Far, 0)]
    [InlineData(Hole + Outer + Hole, 1)] // the same hole again, too late
    [InlineData("<path d='M0 0h100v100h-100zM20 20h60v60h-60zM40 40h20v20h-20z' stroke='red'/>", 2)] // nested twice, from outside inwards
    public void OrderInnerFirst_CountsWhatIsDrawnTooLate(string inner, int late) =>
        Of(Sheet(inner), "order.innerFirst").Sum(f => f.Count).ShouldBe(late);

    /// <summary>Squares that share edges lie beside each other, and lines that reach into each other lie in none.</summary>
    [Theory]
    [InlineData(
        "<rect width='20' height='20' stroke='red'/><rect x='20' width='20' height='20' stroke='red'/><rect y='20' width='20' "
            + "height='20' stroke='red'/>"
    )]
    [InlineData("<path d='M0 0h60v60h-60v-20h40v-20h-40z' stroke='red'/><path d='M-10 25h30v10h-30z' stroke='red'/>")]
    [InlineData("<rect width='30' height='30' stroke='red'/><rect x='15' y='15' width='30' height='30' stroke='red'/>")]
    [InlineData("<path d='M0 0v50h20v-40h20v40h20v-50z' stroke='red'/><path d='M25 15h10v30h-10z' stroke='red'/>")] // in the bay of a U
    public void Nesting_OfNeighbours_IsNone(string inner) =>
        Sheet(inner).Nested.ShouldNotBeNull().SelectMany(n => n.Levels).ShouldAllBe(l => l.Round == 0);

    [Fact]
    public void RunOrder_EngravesScoresThenCutsFromTheInside()
    {
        var steps = RunOrder.Of(
            Sheet(
                Outer
                    + Hole
                    + "<path d='M20 60h10' stroke='red'/><path d='M20 80h30' stroke='blue'/><rect x='60' y='60' width='9' height='9'/>"
            ),
            TestColours.Map
        );
        steps
            .Select(s => (s.Operation, s.What, s.Lines, Math.Round(s.LengthMm)))
            .ShouldBe([
                (StrokeMeaning.Engrave, "filled shapes", 0, 0),
                (StrokeMeaning.Score, "line", 1, 30),
                (StrokeMeaning.Cut, "open line", 1, 10),
                (StrokeMeaning.Cut, "inner line", 1, 63),
                (StrokeMeaning.Cut, "outline", 1, 400),
            ]);
    }
}
