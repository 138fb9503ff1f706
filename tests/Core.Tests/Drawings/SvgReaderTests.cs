using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Small drawings whose lengths follow from geometry. Real files are held against a browser in the browser tests.</summary>
public class SvgReaderTests
{
    private const double MmPerPx = 25.4 / 96;

    internal static Drawing Read(string svg) => SvgReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)));

    internal static DrawingSummary Summary(string inner, string attributes = "width=\"100mm\" height=\"100mm\" viewBox=\"0 0 100 100\"") =>
        DrawingReading.Summarise(
            "t.svg",
            Read($"<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" {attributes}>{inner}</svg>")
        );

    private static double Length(string inner, string? attributes = null) =>
        (attributes is null ? Summary(inner) : Summary(inner, attributes)).Strokes.Sum(s => s.LengthMm);

    [Theory]
    [InlineData("width=\"100mm\" height=\"50mm\" viewBox=\"0 0 100 50\"", 100, 50, 10)]
    [InlineData("width=\"4in\" height=\"2in\" viewBox=\"0 0 400 200\"", 101.6, 50.8, 2.54)]
    [InlineData("width=\"96\" height=\"48\"", 25.4, 12.7, 10 * MmPerPx)]
    [InlineData("viewBox=\"0 0 96 48\"", 25.4, 12.7, 10 * MmPerPx)]
    [InlineData("width=\"100%\" height=\"100%\" viewBox=\"0 0 96 48\"", 25.4, 12.7, 10 * MmPerPx)]
    [InlineData("width=\"72pt\" height=\"6pc\" viewBox=\"0 0 100 100\"", 25.4, 25.4, 2.54)]
    [InlineData("width=\"10cm\" viewBox=\"0 0 200 100\"", 100, 50, 5)]
    [InlineData("width=\"100mm\" height=\"50mm\" viewBox=\"0 0 50 50\"", 100, 50, 10)] // meet: the smaller scale, centred
    public void Read_PageSizes_GiveTrueMillimetres(string attributes, double width, double height, double tenUnits)
    {
        var summary = Summary("<path d='M0 0h10' stroke='red'/>", attributes);
        summary.WidthMm.ShouldBe(width, 1e-6);
        summary.HeightMm.ShouldBe(height, 1e-6);
        summary.Strokes[0].LengthMm.ShouldBe(tenUnits, 1e-6);
    }

    [Theory]
    [InlineData("<rect x='1' y='1' width='20' height='10' stroke='red'/>", 60)]
    [InlineData("<rect width='20' height='10' rx='2' stroke='red'/>", 60 - 16 + 4 * Math.PI)]
    [InlineData("<circle cx='50' cy='50' r='10' stroke='red'/>", 20 * Math.PI)]
    [InlineData("<line x1='0' y1='0' x2='3' y2='4' stroke='red'/>", 5)]
    [InlineData("<polyline points='0,0 3,4 3,14' stroke='red' fill='none'/>", 15)]
    [InlineData("<polygon points='0,0 3,4 3,14' stroke='red'/>", 15 + 14.317821063276353)]
    [InlineData("<path d='m10 10 l5 0 v5 h-5 z' stroke='red'/>", 20)]
    [InlineData("<path d='M10 10A10 10 0 0 1 30 10' stroke='red'/>", 10 * Math.PI)]
    [InlineData("<path d='M10 10a10 10 0 0120 0' stroke='red'/>", 10 * Math.PI)] // flags may touch their neighbours
    [InlineData("<path d='M0 0C10 0 20 0 30 0S50 0 60 0' stroke='red'/>", 60)]
    [InlineData("<path d='M0 0Q5 0 10 0T30 0' stroke='red'/>", 30)]
    [InlineData("<path d='M0-5L.5.5-5e0 0' stroke='red'/>", 5.522680508593631 + 5.522680508593631)]
    [InlineData("<path d='M0 0h10M0 5h10' stroke='red'/>", 20)]
    public void Read_EveryShape_HasItsLength(string shape, double mm) => Length(shape).ShouldBe(mm, mm * 1e-5);

    /// <summary>
    /// Perimeter of an ellipse 30 x 10: 4·a·E(e), a = 15, computed with the complete elliptic integral (Abramowitz and Stegun 17.3):
    /// 66.8245.
    /// </summary>
    [Fact]
    public void Read_Ellipse_HasItsPerimeter() => Length("<ellipse cx='50' cy='50' rx='15' ry='5' stroke='red'/>").ShouldBe(66.8245, 0.001);

    [Theory]
    [InlineData("translate(5 5)", 10)]
    [InlineData("scale(2)", 20)]
    [InlineData("scale(3, 9)", 30)]
    [InlineData("rotate(37) translate(1,2)", 10)]
    [InlineData("matrix(0 2 -2 0 0 0)", 20)]
    [InlineData("skewY(45)", 14.142135623730951)]
    public void Read_Transforms_Apply(string transform, double mm)
    {
        Length($"<g transform='{transform}'><path d='M0 0h10' stroke='red'/></g>").ShouldBe(mm, 1e-6);
        Length($"<path style='transform:{transform}' d='M0 0h10' stroke='red'/>").ShouldBe(mm, 1e-6);
    }

    [Theory]
    [InlineData("<style>.c{stroke:#f00}</style><path class='a c' d='M0 0h10'/>", "#ff0000")]
    [InlineData("<style>path{stroke:blue} .c{stroke:red}</style><path class='c' d='M0 0h10'/>", "#ff0000")]
    [InlineData("<style>#x{stroke:blue}</style><path id='x' style='stroke:red' d='M0 0h10'/>", "#ff0000")]
    [InlineData("<style>#x{stroke:blue!important}</style><path id='x' style='stroke:red' d='M0 0h10'/>", "#0000ff")]
    [InlineData("<style>g > path{stroke:rgb(255,0,0)}</style><g><path d='M0 0h10'/></g>", "#ff0000")]
    [InlineData("<g stroke='currentColor' color='lime'><path d='M0 0h10'/></g>", "#00ff00")]
    [InlineData("<g style='stroke:hsl(240,100%,50%)'><path d='M0 0h10'/></g>", "#0000ff")]
    [InlineData("<path stroke='#F00C' d='M0 0h10'/>", "#ff0000")]
    [InlineData("<path stroke='rebeccapurple' d='M0 0h10'/>", "#663399")]
    [InlineData("<path stroke='url(#g) red' d='M0 0h10'/>", "#ff0000")]
    // Selectors Level 4, sections 12.4 and 12.5: places among siblings, and among those of one kind.
    [InlineData("<style>path:nth-child(2){stroke:red}</style><path d='M0 0h10'/>", "#ff0000")]
    [InlineData("<style>g path:first-child{stroke:red}</style><g><path d='M0 0h10'/><path d='M0 0h99'/></g>", "#ff0000")]
    [InlineData("<style>g path:last-child{stroke:red}</style><g><path d='M0 0h99'/><path d='M0 0h10'/></g>", "#ff0000")]
    [InlineData(
        "<style>g path:only-child{stroke:red}</style><g><path d='M0 0h10'/></g><g><path d='M0 0h99'/><path d='M0 0h99'/></g>",
        "#ff0000"
    )]
    [InlineData("<style>g path:first-of-type{stroke:red}</style><g><desc/><path d='M0 0h10'/><path d='M0 0h99'/></g>", "#ff0000")]
    [InlineData("<style>g path:last-of-type{stroke:red}</style><g><path d='M0 0h99'/><path d='M0 0h10'/><desc/></g>", "#ff0000")]
    [InlineData(
        "<style>g path:only-of-type{stroke:red}</style><g><path d='M0 0h10'/><desc/></g><g><path d='M0 0h99'/><path d='M0 0h99'/></g>",
        "#ff0000"
    )]
    [InlineData(
        "<style>g path:nth-child(2n+3){stroke:red}</style><g><path d='M0 0h99'/><path d='M0 0h99'/><path d='M0 0h10'/><path d='M0 "
            + "0h99'/></g>",
        "#ff0000"
    )]
    [InlineData("<style>g path:nth-child(-n+1){stroke:red}</style><g><path d='M0 0h10'/><path d='M0 0h99'/></g>", "#ff0000")]
    [InlineData("<style>g path:nth-last-child(2){stroke:red}</style><g><path d='M0 0h99'/><path d='M0 0h10'/><desc/></g>", "#ff0000")]
    [InlineData(
        "<style>g path:nth-of-type(even){stroke:red}</style><g><path d='M0 0h99'/><desc/><path d='M0 0h10'/><path d='M0 0h99'/></g>",
        "#ff0000"
    )]
    [InlineData(
        "<style>g path:nth-last-of-type(3){stroke:red}</style><g><path d='M0 0h10'/><desc/><path d='M0 0h99'/><path d='M0 0h99'/></g>",
        "#ff0000"
    )]
    [InlineData("<style>g path:not(:last-child){stroke:red}</style><g><path d='M0 0h10'/><path d='M0 0h99'/></g>", "#ff0000")]
    [InlineData("<style>:is(.a, .b) > path{stroke:red}</style><g class='b'><path d='M0 0h10'/></g>", "#ff0000")]
    [InlineData("<style>path[class~=b]{stroke:red}</style><path class='a b' d='M0 0h10'/>", "#ff0000")]
    [InlineData(
        "<style>.a > .b path{stroke:red}</style><g class='a'><g class='b'><g><g class='b'><path d='M0 0h10'/></g></g></g></g>",
        "#ff0000"
    )] // the nearer .b has no .a above it
    // SVG 2, section 5.6: a copy is matched where its original stands, and inherits where the copy stands.
    [InlineData(
        "<style>.was path{stroke:red} .is path{stroke:lime}</style><defs><g class='was'><path id='p' d='M0 0h10'/></g></defs><g "
            + "class='is'><use href='#p'/></g>",
        "#ff0000"
    )]
    [InlineData(
        "<style>use + path{stroke:lime} defs > path:first-child{stroke:red}</style><defs><path id='p' d='M0 0h10'/></defs><use href='#p'/>",
        "#ff0000"
    )]
    public void Read_StylesCascade(string inner, string colour)
    {
        var stroke = Summary(inner).Strokes.ShouldHaveSingleItem();
        stroke.Colour.ShouldBe(colour);
        stroke.LengthMm.ShouldBe(10, 1e-9);
    }

    [Theory]
    [InlineData("path:where(.a){stroke:red}", 1)]
    [InlineData("g:has(path){display:none}", 1)]
    [InlineData("path:hover{stroke:red} path::before{stroke:red}", 0)] // states of a screen: they never hold on a sheet
    [InlineData("path:where(.a){cursor:pointer}", 0)]
    public void Read_AStyleThatCannotBeMatched_IsSaid(string style, int unread)
    {
        var summary = Summary($"<style>{style}</style><g><path d='M0 0h10' stroke='red'/></g>");
        (summary.Asides?.StylesUnread ?? 0).ShouldBe(unread);
        DrawingFindings.Of(summary, TestColours.Map, null).Any(f => f.Code == "style.unread").ShouldBe(unread > 0);
    }

    /// <summary>Fifteen hundred rules over fifteen hundred elements: each element looks at the rules that can concern it.</summary>
    [Theory]
    [InlineData(".c{0}", "class='c{0}'")]
    [InlineData("#c{0}", "id='c{0}'")]
    [InlineData("g .c{0}:not(.x)", "class='c{0}'")]
    public void Read_ManyRules_AreLookedUp_NotAllTried(string selector, string attribute)
    {
        const int n = 20_000;
        var text =
            "<style>"
            + string.Concat(
                Enumerable
                    .Range(0, n)
                    .Select(i => string.Format(System.Globalization.CultureInfo.InvariantCulture, selector, i) + "{stroke:red}")
            )
            + "</style><g>"
            + string.Concat(
                Enumerable
                    .Range(0, n)
                    .Select(i => $"<path {string.Format(System.Globalization.CultureInfo.InvariantCulture, attribute, i)} d='M0 0h1'/>")
            )
            + "</g>";
        // All tried on all would be 400 million tests, of which 20 million are the limit.
        Summary(text).Strokes.ShouldHaveSingleItem().Paths.ShouldBe(n);
    }

    [Theory]
    [InlineData("<g display='none'><path d='M0 0h10' stroke='red'/></g>")]
    [InlineData("<path d='M0 0h10' stroke='red' visibility='hidden'/>")]
    [InlineData("<defs><path id='p' d='M0 0h10' stroke='red'/></defs>")]
    [InlineData("<symbol id='s'><path d='M0 0h10' stroke='red'/></symbol>")]
    [InlineData("<clipPath><path d='M0 0h10' stroke='red'/></clipPath>")]
    [InlineData("<path d='M0 0h10' fill='none'/>")]
    [InlineData("<path d='M0 0h10' stroke='transparent'/>")]
    [InlineData("<path d='M0 0h10' stroke='red' stroke-width='0'/>")]
    [InlineData("<circle r='0' stroke='red'/>")]
    [InlineData("<path d='10 10 L5 5' stroke='red'/>")]
    public void Read_WhatIsNotDrawn_IsNotCounted(string inner) => Length(inner).ShouldBe(0);

    [Theory]
    [InlineData(
        "<defs><path id='p' d='M0 0h10'/></defs><use href='#p' stroke='red'/><use xlink:href='#p' stroke='red' x='5' "
            + "transform='scale(2)'/>",
        30
    )]
    [InlineData("<symbol id='s' viewBox='0 0 10 10'><path d='M0 0h10' stroke='red'/></symbol><use href='#s' width='50' height='50'/>", 50)]
    [InlineData("<svg x='10' y='10' width='50' height='50' viewBox='0 0 10 10'><path d='M0 0h10' stroke='red'/></svg>", 50)]
    [InlineData("<switch><path systemLanguage='fr' d='M0 0h99' stroke='red'/><path d='M0 0h10' stroke='red'/></switch>", 10)]
    // as drawing programs save beside their own data
    [InlineData("<switch><foreignObject requiredExtensions='http://example.org/own/'/><path d='M0 0h10' stroke='red'/></switch>", 10)]
    [InlineData(
        "<path requiredExtensions='' d='M0 0h99' stroke='red'/><path systemLanguage='fr, de' d='M0 0h99' stroke='red'/><path "
            + "systemLanguage='fr, en-GB' d='M0 0h10' stroke='red'/>",
        10
    )]
    public void Read_CopiesAndInnerPages(string inner, double mm) => Length(inner).ShouldBe(mm, 1e-6);

    [Fact]
    public void Read_BadPathData_CountsUpToItsErrorAndSaysSo()
    {
        var summary = Summary("<path d='M0 0h10 v5 X 3 h99' stroke='red'/>");
        summary.Strokes[0].LengthMm.ShouldBe(15);
        summary.Broken.ShouldBe(1);
    }

    [Fact]
    public void Read_SubpathsAndClosing_AreCounted()
    {
        var stroke = Summary("<path d='M0 0h10v10h-10z M20 0h5 M30 0h5v5l-5-5 M40 0h1l-1 .0005' stroke='red'/>").Strokes[0];
        stroke.Paths.ShouldBe(4);
        stroke.OpenPaths.ShouldBe(1);
    }

    [Fact]
    public void Read_TextAndImages_AreNotedNotMeasured()
    {
        var summary = Summary("<text x='5' y='6'>Hi</text><text style='display:none'>no</text><image href='x.png' width='5' height='5'/>");
        (summary.Texts, summary.Images, summary.Strokes.Count).ShouldBe((1, 1, 0));
        summary.TextAt[0].ShouldBe(new Place(5, 6));
    }

    [Theory]
    [InlineData("<rect width='20' height='10'/>", 200)]
    [InlineData("<circle r='10' cx='50' cy='50'/>", 100 * Math.PI)]
    [InlineData("<path d='M0 0h20v20h-20z M5 5h10v10h-10z'/>", 400)] // same way round, nonzero: the inner square is filled
    [InlineData("<path fill-rule='evenodd' d='M0 0h20v20h-20z M5 5h10v10h-10z'/>", 300)]
    [InlineData("<path d='M0 0h20v20h-20z M5 5v10h10v-10z'/>", 300)]
    public void Read_FilledAreas(string inner, double mm2) => Summary(inner).Fills.Sum(f => f.AreaMm2).ShouldBe(mm2, mm2 * 0.003);

    [Fact]
    public void Read_Extents_TakeTheCurveNotItsHandles()
    {
        var extent = Summary("<path d='M10 50C10 10 90 10 90 50' stroke='red' fill='none' stroke-width='9'/>").ExtentMm!;
        (extent.MinX, extent.MaxX, extent.MaxY).ShouldBe((10, 90, 50));
        extent.MinY.ShouldBe(20, 1e-9);
    }

    [Theory]
    [InlineData("")]
    [InlineData("not xml")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><g>")]
    [InlineData("<html></html>")]
    [InlineData(
        "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;'><!ENTITY c "
            + "'&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;'><!ENTITY d '&c;&c;&c;&c;&c;&c;&c;&c;&c;&c;'><!ENTITY e "
            + "'&d;&d;&d;&d;&d;&d;&d;&d;&d;&d;'><!ENTITY f '&e;&e;&e;&e;&e;&e;&e;&e;&e;&e;'><!ENTITY g "
            + "'&f;&f;&f;&f;&f;&f;&f;&f;&f;&f;'>]><svg xmlns='http://www.w3.org/2000/svg'>&g;</svg>"
    )]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><g id='a'><use href='#a'/></g></svg>")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g></svg>")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><path stroke='red' d='M0 0H1e308'/></svg>")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><path stroke='red' transform='scale(1e300)' d='M0 0H1e10'/></svg>")]
    public void Read_HostileOrBroken_IsRefusedWithASentence(string svg) =>
        Should.Throw<UnreadableDrawingException>(() => Read(svg)).Message.ShouldEndWith(".");

    [Fact]
    public void Read_ExternalEntity_IsNotFetched()
    {
        var secret = Path.GetTempFileName();
        File.WriteAllText(secret, "<path d='M0 0h10' stroke='red'/>");
        var svg = $"<!DOCTYPE svg [<!ENTITY x SYSTEM 'file://{secret}'>]><svg xmlns='http://www.w3.org/2000/svg'>&x;</svg>";
        Should.Throw<UnreadableDrawingException>(() => Read(svg)).Message.ShouldContain("never fetched");
    }

    [Fact]
    public void Read_UseDoublingAtEachLevel_StopsAtTheLimit()
    {
        var levels = string.Concat(Enumerable.Range(1, 28).Select(i => $"<g id='l{i}'><use href='#l{i - 1}'/><use href='#l{i - 1}'/></g>"));
        Should.Throw<UnreadableDrawingException>(() =>
            Read(
                $"<svg xmlns='http://www.w3.org/2000/svg'><defs><path id='l0' d='M0 0h1' stroke='red'/>{levels}</defs><use "
                    + "href='#l28'/></svg>"
            )
        );
    }

    [Fact]
    public void Read_NestedTenThousandDeep_IsRefusedNotOverflowed() =>
        Should.Throw<UnreadableDrawingException>(() =>
            Read(
                "<svg xmlns='http://www.w3.org/2000/svg'>"
                    + string.Concat(Enumerable.Repeat("<g>", 10_000))
                    + string.Concat(Enumerable.Repeat("</g>", 10_000))
                    + "</svg>"
            )
        );

    [Fact]
    public void Read_PatienceAtAnEnd_IsRefused()
    {
        using var patience = new CancellationTokenSource();
        patience.Cancel();
        Should.Throw<UnreadableDrawingException>(() =>
            SvgReader.Read(new MemoryStream("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray()), patience.Token)
        );
    }
}
