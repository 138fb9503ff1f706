using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Jobs;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>A box whose parts fill every place of its walls exactly once, whatever its sizes.</summary>
public class BoxMakerTests
{
    private static readonly BoxWish Usual = new(
        WidthMm: 120,
        DepthMm: 80,
        HeightMm: 60,
        Inside: false,
        Lid: true,
        ThicknessMm: 3,
        KerfMm: 0.2m,
        FingerMm: 10,
        PlayMm: 0
    );

    /// <summary>Even and odd crossings of a ray: an independent way to say whether a place lies in an outline.</summary>
    private static bool In(BoxPanel panel, double x, double y)
    {
        var (inside, o) = (false, panel.Outline);
        for (var i = 0; i < o.Count; i++)
        {
            var (a, b) = (o[i], o[(i + 1) % o.Count]);
            if (a.Y > y != b.Y > y && x < a.X + (y - a.Y) / (b.Y - a.Y) * (b.X - a.X))
                inside = !inside;
        }
        return inside;
    }

    /// <summary>
    /// Random boxes: of every place in the walls (the whole box without its room), exactly one panel is made; in the room, none.
    /// </summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Panels_FillTheWallsOnce(bool lid)
    {
        var random = new Random(11);
        for (var n = 0; n < 40; n++)
        {
            var wish = new BoxWish(
                WidthMm: random.Next(60, 200),
                DepthMm: random.Next(60, 200),
                HeightMm: random.Next(60, 200),
                Inside: false,
                Lid: lid,
                ThicknessMm: 2 + (decimal)random.NextDouble() * 4,
                KerfMm: 0.2m,
                FingerMm: random.Next(9, 18),
                PlayMm: 0
            );
            wish.Wrong().ShouldBeEmpty();
            var (w, d, h, t) = ((double)wish.WidthMm, (double)wish.DepthMm, (double)wish.HeightMm, (double)wish.ThicknessMm);
            var panels = BoxMaker.Panels(wish).ToDictionary(p => p.Name);
            panels.Count.ShouldBe(lid ? 6 : 5);
            for (var i = 0; i < 400; i++)
            {
                // Half of them near an edge, where something can go wrong.
                double Of(double size) =>
                    (random.Next(4)) switch
                    {
                        0 => random.NextDouble() * t,
                        1 => size - random.NextDouble() * t,
                        _ => random.NextDouble() * size,
                    };
                var (x, y, z) = (Of(w), Of(d), Of(h));
                var made = 0;
                made += y < t && In(panels["front"], x, z) ? 1 : 0;
                made += y > d - t && In(panels["back"], x, z) ? 1 : 0;
                made += x < t && In(panels["left"], y, z) ? 1 : 0;
                made += x > w - t && In(panels["right"], y, z) ? 1 : 0;
                made += z < t && In(panels["bottom"], x, y) ? 1 : 0;
                made += lid && z > h - t && In(panels["lid"], x, y) ? 1 : 0;
                var wall = x < t || x > w - t || y < t || y > d - t || z < t || (lid && z > h - t);
                made.ShouldBe(wall ? 1 : 0, $"{wish} at {x}, {y}, {z}");
            }
        }
    }

    /// <summary>By hand: a room of 100 x 60 x 40 in 3 mm has outer sizes 106, 66 and 46, and 43 without a lid.</summary>
    [Theory]
    [InlineData(true, 46)]
    [InlineData(false, 43)]
    public void Inside_AddsTheWalls(bool lid, decimal height) =>
        (Usual with { WidthMm = 100, DepthMm = 60, HeightMm = 40, Inside = true, Lid = lid }).Outer.ShouldBe((106, 66, height));

    [Theory]
    [InlineData(120, 10, 11)]
    [InlineData(110, 10, 11)]
    [InlineData(30, 10, 3)]
    [InlineData(25, 10, 3)]
    public void Fingers_AreOdd_AndAtLeastThree(double length, double finger, int count) => BoxMaker.Fingers(length, finger).ShouldBe(count);

    /// <summary>
    /// Read again from its file: six closed parts, and with a kerf of 0.2 mm every line lies 0.1 mm outside; what the beam leaves is the
    /// part. A play of 0.2 mm takes that back. The product finds nothing wrong with it.
    /// </summary>
    [Theory]
    [InlineData(0, 120.2)]
    [InlineData(0.2, 120)]
    public void Draw_RunsHalfTheKerfOutside(double play, double wide)
    {
        var file = SvgWriter.Write(BoxMaker.Draw(Usual with { PlayMm = (decimal)play }, "#ff0000"));
        var drawing = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(file)));
        drawing.Shapes.Count.ShouldBe(6);
        var front = new Box();
        drawing.Shapes[0].Extend(ref front);
        front.Width.ShouldBe(wide, 1e-6);
        var summary = DrawingReading.Summarise("box.svg", drawing);
        summary.Strokes.Single().OpenPaths.ShouldBe(0);
        DrawingFindings
            .Of(summary, TestColours.Map, Gating.GateCase.Heron, thicknessMm: 3)
            .Where(f => f.Severity != Severity.Note)
            .ShouldBeEmpty();
    }

    [Fact]
    public void InColourOf_TakesAColourThatCuts_OrSaysThatThereIsNone()
    {
        var red = new ColourMap(
            new Dictionary<string, StrokeMeaning> { ["#00ff00"] = StrokeMeaning.Score, ["#aa0000"] = StrokeMeaning.Cut }
        );
        BoxMaker.InColourOf(Usual, red).Value.Shapes.ShouldAllBe(s => s.Stroke == "#aa0000");
        var none = new ColourMap(new Dictionary<string, StrokeMeaning> { ["#00ff00"] = StrokeMeaning.Score });
        BoxMaker.InColourOf(Usual, none).Refusal!.Code.ShouldBe("box.noColour");
    }

    public static TheoryData<BoxWish, string> Refused =>
        new()
        {
            { Usual with { WidthMm = 10 }, "width" },
            { Usual with { HeightMm = 3000 }, "height" },
            { Usual with { ThicknessMm = 0 }, "thickness" },
            { Usual with { FingerMm = 4 }, "finger" },
            { Usual with { FingerMm = 25 }, "finger" },
            { Usual with { KerfMm = 3 }, "kerf" },
            { Usual with { PlayMm = -1 }, "play" },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public void Wrong_NamesTheField(BoxWish wish, string field) => wish.Wrong().Select(r => r.Field).ShouldBe([field]);
}
