using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Jobs;

/// <summary>A box of finger joints. Lengths in mm.</summary>
/// <param name="Inside">The three sizes are those of the room inside; else of the whole box.</param>
/// <param name="ThicknessMm">As measured: what a label says is a tenth off.</param>
/// <param name="KerfMm">Width that the beam takes away; the lines run half of it outside the parts.</param>
/// <param name="FingerMm">About how wide fingers are.</param>
/// <param name="PlayMm">How much looser than exact each joint is; below 0 it is tighter.</param>
public sealed record BoxWish(
    decimal WidthMm,
    decimal DepthMm,
    decimal HeightMm,
    bool Inside,
    bool Lid,
    decimal ThicknessMm,
    decimal KerfMm,
    decimal FingerMm,
    decimal PlayMm
)
{
    public const decimal Smallest = 20;
    public const decimal Largest = 2000;

    /// <summary>The whole box.</summary>
    public (decimal Width, decimal Depth, decimal Height) Outer =>
        Inside
            ? (WidthMm + 2 * ThicknessMm, DepthMm + 2 * ThicknessMm, HeightMm + (Lid ? 2 : 1) * ThicknessMm)
            : (WidthMm, DepthMm, HeightMm);

    /// <returns>One refusal for each field at fault.</returns>
    public IEnumerable<Refusal> Wrong()
    {
        foreach (var (field, mm) in new[] { ("width", WidthMm), ("depth", DepthMm), ("height", HeightMm) })
            if (mm is < Smallest or > Largest)
                yield return SettingsProblems.BoxSize.Refuse(field, Smallest, Largest);
        if (ThicknessMm is <= 0 or > 20)
            yield return SettingsProblems.BoxThickness.Refuse("thickness");
        else if (FingerMm < 1.5m * ThicknessMm)
            yield return SettingsProblems.BoxFinger.Refuse("finger", decimal.Round(1.5m * ThicknessMm, 2));
        else if (
            new[] { WidthMm, DepthMm, HeightMm }.All(mm => mm is >= Smallest and <= Largest)
            && 3 * FingerMm > Math.Min(Outer.Width, Math.Min(Outer.Depth, Outer.Height))
        )
            yield return SettingsProblems.BoxFingerWide.Refuse("finger");
        if (KerfMm is < 0 or > 2)
            yield return SettingsProblems.BoxKerf.Refuse("kerf");
        if (Math.Abs(PlayMm) > 0.5m)
            yield return SettingsProblems.BoxPlay.Refuse("play");
    }
}

/// <summary>One side of a box, from its lower left corner, y upwards; the outline of the part itself.</summary>
/// <param name="Name">front, back, left, right, bottom or lid.</param>
public sealed record BoxPanel(string Name, IReadOnlyList<Point> Outline, double WidthMm, double HeightMm);

/// <summary>
/// A box with finger joints from a measured sheet and kerf. Front and back have fingers at every end, the sides lie between them, bottom
/// and lid have their gaps at every end: each corner belongs to exactly one of them. Source: common practice.
/// </summary>
public static class BoxMaker
{
    private enum Edge
    {
        /// <summary>A finger at both ends.</summary>
        Fingers,

        /// <summary>A gap at both ends.</summary>
        Gaps,
        Plain,
    }

    public static IReadOnlyList<BoxPanel> Panels(BoxWish wish)
    {
        var (width, depth, height) = ((double)wish.Outer.Width, (double)wish.Outer.Depth, (double)wish.Outer.Height);
        var top = wish.Lid ? Edge.Fingers : Edge.Plain;
        BoxPanel Front(string name) => Panel(name, wish, width, height, [Edge.Fingers, Edge.Fingers, top, Edge.Fingers]);
        BoxPanel Side(string name) => Panel(name, wish, depth, height, [Edge.Fingers, Edge.Gaps, top, Edge.Gaps]);
        BoxPanel Flat(string name) => Panel(name, wish, width, depth, [Edge.Gaps, Edge.Gaps, Edge.Gaps, Edge.Gaps]);
        return [Front("front"), Front("back"), Side("left"), Side("right"), Flat("bottom"), .. wish.Lid ? [Flat("lid")] : (BoxPanel[])[]];
    }

    /// <summary>The box in the first colour that cuts in this house.</summary>
    public static Result<Drawing> InColourOf(BoxWish wish, ColourMap colours) =>
        colours.Strokes.Where(s => s.Value == StrokeMeaning.Cut).Select(s => s.Key).Order(StringComparer.Ordinal).FirstOrDefault()
            is { } cut
            ? Draw(wish, cut)
            : SettingsProblems.BoxNoColour.Refuse();

    /// <summary>Two panels to a row, on a page round all of them; lines lie outside the parts by half the kerf, less the play.</summary>
    /// <param name="colour">That cuts in this house.</param>
    public static Drawing Draw(BoxWish wish, string colour)
    {
        var out1 = (double)(wish.KerfMm - wish.PlayMm) / 2;
        var gap = (double)(wish.ThicknessMm + SheetLayout.LeastGapMm) + 2 * Math.Abs(out1);
        var (shapes, y, width) = (new List<Shape>(), gap, 0.0);
        foreach (var row in Panels(wish).Chunk(2))
        {
            var x = gap;
            var high = row.Max(p => p.HeightMm);
            foreach (var panel in row)
            {
                var (left, foot) = (x, y + high);
                var outline = Offset(panel.Outline, out1).Select(p => new Point(left + p.X, foot - p.Y)).ToList();
                var lines = outline.Select((p, i) => Segment.Line(p, outline[(i + 1) % outline.Count])).ToArray();
                shapes.Add(new Shape([new Subpath(lines, closedByCommand: true)], colour, null, false, WidthMm: 0.0254));
                x += panel.WidthMm + gap;
            }
            (y, width) = (y + high + gap, Math.Max(width, x));
        }
        return new Drawing(
            Format: "svg",
            WidthMm: width,
            HeightMm: y,
            Shapes: shapes,
            TextAt: [],
            Images: 0,
            Broken: 0,
            Asides: new DrawingAsides(PageStated: true, Hidden: 0)
        );
    }

    /// <summary>Fingers along an edge: an odd number, so that both its ends are alike, and at least three.</summary>
    public static int Fingers(double lengthMm, double fingerMm)
    {
        var count = (int)Math.Floor(lengthMm / fingerMm + 1e-9);
        return Math.Max(3, count % 2 == 0 ? count - 1 : count);
    }

    /// <summary>Round the panel from its lower left corner: bottom, right, top and left edge.</summary>
    private static BoxPanel Panel(string name, BoxWish wish, double width, double height, Edge[] edges)
    {
        var (t, finger) = ((double)wish.ThicknessMm, (double)wish.FingerMm);
        var corners = new Point[] { new(0, 0), new(width, 0), new(width, height), new(0, height) };
        var along = new Point[] { new(1, 0), new(0, 1), new(-1, 0), new(0, -1) };
        var outline = new List<Point>();
        for (var e = 0; e < 4; e++)
        {
            var (before, edge) = (edges[(e + 3) % 4], edges[e]);
            var (go, inward) = (along[e], along[(e + 1) % 4]);
            // Where the edge before ends in a gap, this one begins so much farther on; so too, inwards, with a gap of its own.
            outline.Add(corners[e] + (Depth(before, 0) * go) + (Depth(edge, 0) * inward));
            if (edge == Edge.Plain)
                continue;
            var length = e % 2 == 0 ? width : height;
            var count = Fingers(length, finger);
            for (var i = 1; i < count; i++)
            {
                var at = corners[e] + (length * i / count * go);
                outline.Add(at + (Depth(edge, i - 1) * inward));
                outline.Add(at + (Depth(edge, i) * inward));
            }
        }
        return new BoxPanel(name, outline, width, height);

        double Depth(Edge edge, int i) =>
            edge switch
            {
                Edge.Fingers => i % 2 == 0 ? 0 : t,
                Edge.Gaps => i % 2 == 0 ? t : 0,
                _ => 0,
            };
    }

    /// <summary>Every line of an outline of right angles moved outwards.</summary>
    /// <param name="outline">Round the part with it on the left hand.</param>
    private static IEnumerable<Point> Offset(IReadOnlyList<Point> outline, double mm)
    {
        for (var i = 0; i < outline.Count; i++)
        {
            var (into, on) = (outline[i] - outline[(i + outline.Count - 1) % outline.Count], outline[(i + 1) % outline.Count] - outline[i]);
            // The outer side of a way (x, y) is (y, -x).
            var a = mm / into.Length * new Point(into.Y, -into.X);
            var b = mm / on.Length * new Point(on.Y, -on.X);
            yield return outline[i] + a + b;
        }
    }
}
