using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>Seconds of each kind of work.</summary>
public sealed record SecondsBy(double Cut, double Score, double Engrave, double Travel);

/// <summary>Of one layer, beam on.</summary>
/// <param name="Colour">Null for what several colours share.</param>
public sealed record LayerSeconds(string? Colour, Operation Operation, double Seconds);

/// <summary>
/// How long a drawing runs: engrave, then score, then what lies inside, then outlines; always on to the nearest end.
/// </summary>
/// <param name="Low">What it may well take at least; <paramref name="High"/> at most.</param>
/// <param name="Layers">Beam on, one for each colour and operation.</param>
public sealed record DrawingTime(double Seconds, double Low, double High, SecondsBy ByOperation, IReadOnlyList<LayerSeconds> Layers)
{
    private const int MostRows = 20_000;

    /// <param name="timeline">Takes every move, where somebody wants to see them.</param>
    public static DrawingTime Of(Drawing drawing, ColourMap colours, RunSettings settings, RunTimeline? timeline = null)
    {
        var meant = drawing
            .Shapes.Where(s => s.Stroke is not null)
            .SelectMany(s => s.Subpaths.Select(p => (Line: new ColouredPath(p, s.Stroke!), Means: colours.Of(s.Stroke!))))
            .ToLookup(p => p.Means, p => p.Line);
        var engraved = drawing
            .Shapes.Where(s => s.Fill is not null || (s.Stroke is not null && colours.Of(s.Stroke) == StrokeMeaning.Engrave))
            .Select(RasterRows.BoxOf)
            .Concat((drawing.Pictures ?? []).Select(p => p.Covers).OfType<Extent>().Select(RasterRows.BoxOf));
        var sum = new TimeSum(settings);
        Engrave([.. engraved.Where(b => !b.IsEmpty)], settings, sum, timeline);
        // The way to the first path is no part of the run: the head stands where it was set.
        Point? at = null;
        Group(meant[StrokeMeaning.Score], Operation.Score, settings with { Passes = 1 }, sum, timeline, ref at);
        foreach (var level in ByDepth(drawing, [.. meant[StrokeMeaning.Cut]]))
            Group(level, Operation.Cut, settings, sum, timeline, ref at);
        return sum.Total();
    }

    private static void Group(
        IEnumerable<ColouredPath> lines,
        Operation operation,
        RunSettings settings,
        TimeSum sum,
        RunTimeline? timeline,
        ref Point? at
    )
    {
        var all = lines.ToList();
        if (all.Count == 0)
            return;
        var speed = operation == Operation.Cut ? settings.CutMmS : settings.ScoreMmS;
        var limits = new HeadLimits(speed, settings.AccelerationMmS2, settings.CornerMmS);
        foreach (var layer in all.GroupBy(l => l.Colour))
        {
            var once = layer.Sum(l => HeadMotion.Seconds(MotionPiece.Of(l.Path), limits));
            var startUp = sum.Add(operation, layer.Key, settings.Passes * once);
            timeline?.Wait(operation, startUp);
        }
        var paths = all.Select(l => l.Path).ToList();
        for (var pass = 0; pass < settings.Passes; pass++)
        {
            var (hops, end, order) = HeadRoute.Of(paths, at ?? new Point(0, 0));
            sum.Travel(operation, hops.Skip(at is null ? 1 : 0).Sum(h => HeadMotion.Hop(h, settings.RapidMmS, settings.AccelerationMmS2)));
            timeline?.Lines(operation, order.Select(o => (paths[o.Path], o.FromEnd)), limits, settings.RapidMmS);
            at = end;
        }
    }

    private static void Engrave(IReadOnlyList<Box> boxes, RunSettings settings, TimeSum sum, RunTimeline? timeline)
    {
        if (boxes.Count == 0)
            return;
        var startUp = sum.Add(Operation.Engrave, null, Raster(boxes, settings));
        if (timeline is null)
            return;
        timeline.Wait(Operation.Engrave, startUp);
        var rows = RasterRows.Lines(boxes, RowsOf(boxes, settings)).ToList();
        var marked = rows.Sum(r => r.High - r.Low) / settings.EngraveMmS + 2 * TurnRound(settings) * rows.Count;
        // Very many lines are shown several at a time: all together they take what was counted.
        timeline.Rows(rows, settings.EngraveMmS, 2 * TurnRound(settings), Raster(boxes, settings) / marked);
    }

    /// <summary>The deepest first: what lies inside a part is cut while the sheet still holds it.</summary>
    private static IEnumerable<IEnumerable<ColouredPath>> ByDepth(Drawing drawing, IReadOnlyCollection<ColouredPath> cuts)
    {
        if (cuts.Count == 0)
            return [];
        var pieces = new LinePieces(drawing);
        var depth = DrawingReading.Depths(pieces, new Nesting(pieces));
        return cuts.GroupBy(c => depth(c.Path)).OrderByDescending(g => g.Key);
    }

    /// <summary>Line by line over what is engraved, blank rows left out.</summary>
    internal static double Raster(IReadOnlyList<Box> boxes, RunSettings settings) =>
        boxes.Count == 0 ? 0 : Raster(RasterRows.Of(boxes, RowsOf(boxes, settings)), settings);

    /// <summary>Very many lines are taken several at a time.</summary>
    private static int RowsOf(IReadOnlyList<Box> boxes, RunSettings settings) =>
        (int)Math.Clamp(Math.Ceiling((boxes.Max(b => b.MaxY) - boxes.Min(b => b.MinY)) / settings.PitchMm), 1, MostRows);

    /// <summary>
    /// Each line from its first mark to its last at speed, and from speed to rest and back at both ends, over the run-out of the machine
    /// where it is longer than braking takes.
    /// </summary>
    internal static double Raster(RasterRows rows, RunSettings settings) =>
        rows.HeightMm <= 0
            ? 0
            : Math.Max(1, rows.HeightMm / settings.PitchMm)
                * (rows.AreaMm2 / rows.HeightMm / settings.EngraveMmS + 2 * TurnRound(settings));

    private static double TurnRound(RunSettings settings)
    {
        var (v, a) = (settings.EngraveMmS, settings.AccelerationMmS2);
        return v / a + Math.Max(0, (settings.OverscanMm ?? 0) - v * v / (2 * a)) / v;
    }

    /// <summary>A line with the colour that it is drawn in.</summary>
    private sealed record ColouredPath(Subpath Path, string Colour);
}
