using System.Text;
using System.Xml.Linq;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Settings.Jobs;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>The map by which parts are known once they lie on the table.</summary>
public class PartsMapTests
{
    private static Drawing Read(string shapes) =>
        DrawingFile.Read(
            new MemoryStream(
                Encoding.UTF8.GetBytes(
                    "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='100mm' viewBox='0 0 200 100'>"
                        + $"<g fill='none' stroke='red'>{shapes}</g></svg>"
                )
            )
        );

    /// <summary>Two rows of two, drawn in any order; the second stands a little lower and still in its row.</summary>
    [Fact]
    public void Of_NumbersRowByRow_FromTheLeft()
    {
        var parts = PartsMap.Of(
            Read(
                "<rect x='60' y='53' width='30' height='30'/><rect x='10' y='10' width='30' height='30'/>"
                    + "<rect x='10' y='50' width='30' height='30'/><rect x='60' y='14' width='30' height='30'/>"
            ),
            TestColours.Map
        );
        parts.Select(p => (p.Number, p.Box.MinX, p.Box.MinY)).ShouldBe([(1, 10, 10), (2, 60, 14), (3, 10, 50), (4, 60, 53)]);
    }

    /// <summary>A ring is one part; what lies in its hole is another. Open lines and scores are none.</summary>
    [Fact]
    public void Of_HolesAreNoParts_AndWhatLiesInAHoleIsOne()
    {
        var drawing = Read(
            "<rect x='0' y='0' width='90' height='90'/><rect x='10' y='10' width='70' height='70'/>"
                + "<rect x='30' y='30' width='20' height='20'/><path d='M100 10H150'/>"
                + "<rect x='100' y='50' width='20' height='20' stroke='blue'/>"
        );
        PartsMap.Of(drawing, TestColours.Map).Select(p => p.Box.Width).ShouldBe([90, 20], ignoreOrder: true);
    }

    [Fact]
    public void ToSvg_HasANumberInTheMiddleOfEach_AndSaysWhatItIsFor()
    {
        XNamespace svg = "http://www.w3.org/2000/svg";
        var map = XDocument.Parse(PartsMap.ToSvg(Read("<circle cx='50' cy='40' r='20'/>"), TestColours.Map)).Root!;
        map.Element(svg + "title")!.Value.ShouldContain("not for the machine");
        var number = map.Descendants(svg + "text").Single();
        // The circle begins at 30 and 20; the map leaves 5 mm round it.
        (number.Value, (double)number.Attribute("x")!, (double)number.Attribute("font-size")!).ShouldBe(("1", 25, 10));
        XDocument.Parse(PartsMap.ToSvg(Read(""), TestColours.Map)).Descendants(svg + "text").ShouldBeEmpty();
    }
}
