using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings.Jobs;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>One drawing of all copies: read again from its file, every line lies where the layout says.</summary>
public class PlacingTests
{
    private static readonly (decimal Width, decimal Height) Sheet = (300, 200);

    /// <summary>A flag on a pole, 30 x 40: the pole along its left edge, the flag at the top right of it.</summary>
    private const string Flag =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'><g fill='none' stroke='#ff0000'>"
        + "<path d='M20 30V70'/><path d='M20 30H50'/></g></svg>";

    private static Drawing Read(string svg) => DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)));

    private static Drawing Place(Drawing drawing, Placement placement, (decimal, decimal) part)
    {
        var layout = placement.Layout(part, Sheet, 3)!;
        var (placed, left) = Placing.On(drawing, placement, layout, ((double)Sheet.Width, (double)Sheet.Height));
        left.ShouldBeEmpty();
        return Read(SvgWriter.Write(placed));
    }

    private static IEnumerable<string> Lines(Drawing drawing) =>
        drawing.Shapes.Select(s =>
            $"{s.Subpaths[0].Start.X:0.##} {s.Subpaths[0].Start.Y:0.##} to {s.Subpaths[0].End.X:0.##} {s.Subpaths[0].End.Y:0.##}"
        );

    /// <summary>By hand, from the sheet's lower left corner with 5 mm free; y downwards on a sheet 200 high.</summary>
    [Theory]
    [InlineData(0, false, "5 155 to 5 195", "5 155 to 35 155")]
    [InlineData(0, true, "35 155 to 35 195", "35 155 to 5 155")]
    [InlineData(1, false, "45 165 to 5 165", "45 165 to 45 195")]
    [InlineData(2, false, "35 195 to 35 155", "35 195 to 5 195")]
    [InlineData(3, false, "5 195 to 45 195", "5 195 to 5 165")]
    [InlineData(1, true, "45 195 to 5 195", "45 195 to 45 165")]
    public void On_TurnsToTheRight_AndMirrorsFirst(int quarters, bool mirror, string pole, string flag)
    {
        var placed = Place(Read(Flag), new Placement(1, Quarters: quarters, Mirror: mirror), (30, 40));
        (placed.WidthMm, placed.HeightMm).ShouldBe((300, 200));
        Lines(placed).ShouldBe([pole, flag]);
    }

    /// <summary>Nine copies, each with the length of the one; none reaches into another or over the edge.</summary>
    [Fact]
    public void On_CopiesLieApart_AndKeepTheirLength()
    {
        var one = DrawingReading.Summarise("a", Read(Flag));
        var placed = Place(Read(Flag), new Placement(9, SheetAnchor.Middle), (30, 40));
        var all = DrawingReading.Summarise("b", placed);
        all.Strokes.Sum(s => s.LengthMm).ShouldBe(9 * one.Strokes.Sum(s => s.LengthMm), 1e-6);
        placed.Shapes.Count.ShouldBe(18);
        var boxes = placed.Shapes.Chunk(2).Select(RasterRowsOf).ToList();
        foreach (var (a, i) in boxes.Select((a, i) => (a, i)))
        foreach (var b in boxes.Skip(i + 1))
            (
                b.MinX - a.MaxX >= 3 - 1e-6 || a.MinX - b.MaxX >= 3 - 1e-6 || b.MinY - a.MaxY >= 3 - 1e-6 || a.MinY - b.MaxY >= 3 - 1e-6
            ).ShouldBeTrue();
        boxes.Min(b => b.MinX).ShouldBe(300 - boxes.Max(b => b.MaxX), 1e-6);
        boxes.Min(b => b.MinY).ShouldBe(200 - boxes.Max(b => b.MaxY), 1e-6);

        static Box RasterRowsOf(Shape[] shapes)
        {
            var box = new Box();
            foreach (var shape in shapes)
                shape.Extend(ref box);
            return box;
        }
    }

    /// <summary>In DXF y grows upwards: the same flag comes to lie the same way up.</summary>
    [Fact]
    public void On_ADxf_ComesToLieUpright()
    {
        var dxf = VelvetGate.Core.Drawings.Dxf.DxfWriter.Write(Read(Flag));
        Lines(Place(Read(dxf), new Placement(1, Quarters: 0), (30, 40))).ShouldBe(["5 155 to 5 195", "5 155 to 35 155"], ignoreOrder: true);
    }

    /// <summary>A picture of one pixel, 20 x 10, turned by a quarter: 10 x 20, at the lower left corner.</summary>
    [Fact]
    public void On_PicturesComeAlong()
    {
        const string pixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==";
        var svg =
            "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'>"
            + $"<image x='40' y='40' width='20' height='10' preserveAspectRatio='none' href='data:image/png;base64,{pixel}'/></svg>";
        var placed = Place(Read(svg), new Placement(2, Quarters: 1), (20, 10));
        placed.Pictures!.Count.ShouldBe(2);
        var covers = placed.Pictures[0].Covers!;
        new[] { covers.MinX, covers.MinY, covers.MaxX, covers.MaxY }.ShouldBe([5, 175, 15, 195], 1e-6);
    }

    [Fact]
    public void On_NothingDrawn_IsRefused() =>
        Should.Throw<ArgumentException>(() =>
            Placing.On(
                Read("<svg xmlns='http://www.w3.org/2000/svg' width='1mm' height='1mm'/>"),
                new Placement(1),
                new Placement(1).Layout((10, 10), Sheet, 3)!,
                (300, 200)
            )
        );
}
