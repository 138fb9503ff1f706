using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>Seconds of each kind of work.</summary>
public sealed record SecondsBy(double Cut, double Score, double Engrave, double Travel);

/// <summary>
/// How long a drawing runs: engrave, then score, then what lies inside, then outlines; always on to the nearest end.
/// </summary>
/// <param name="Low">What it may well take at least: until a house has logged runs enough, a tenth less.</param>
/// <param name="High">At most: a quarter more. Common practice.</param>
public sealed record DrawingTime(double Seconds, double Low, double High, SecondsBy ByOperation)
{
    private const double Less = 0.9;
    private const double More = 1.25;
    private const int MostRows = 20_000;

    public static DrawingTime Of(Drawing drawing, ColourMap colours, RunSettings settings)
    {
        var meant = drawing
            .Shapes.Where(s => s.Stroke is not null)
            .SelectMany(s => s.Subpaths.Select(p => (Path: p, Means: colours.Of(s.Stroke!))))
            .ToLookup(p => p.Means, p => p.Path);
        var engraved = drawing
            .Shapes.Where(s => s.Fill is not null || (s.Stroke is not null && colours.Of(s.Stroke) == StrokeMeaning.Engrave))
            .Select(RasterRows.BoxOf)
            .Concat((drawing.Pictures ?? []).Select(p => p.Covers).OfType<Extent>().Select(RasterRows.BoxOf));
        var engrave = Raster([.. engraved.Where(b => !b.IsEmpty)], settings);
        var (score, cut, travel) = (0.0, 0.0, 0.0);
        // The way to the first path is no part of the run: the head stands where it was set.
        Point? at = null;
        score += Group(meant[StrokeMeaning.Score], settings.ScoreMmS, 1, settings, ref at, ref travel);
        foreach (var level in ByDepth(drawing, [.. meant[StrokeMeaning.Cut]]))
            cut += Group(level, settings.CutMmS, settings.Passes, settings, ref at, ref travel);
        return Of(cut, score, engrave, travel);
    }

    /// <summary>With how far it may be off.</summary>
    internal static DrawingTime Of(double cut, double score, double engrave, double travel)
    {
        var all = engrave + score + cut + travel;
        return new DrawingTime(all, all * Less, all * More, new SecondsBy(cut, score, engrave, travel));
    }

    private static double Group(
        IEnumerable<Subpath> paths,
        double speed,
        int passes,
        RunSettings settings,
        ref Point? at,
        ref double travel
    )
    {
        var all = paths.ToList();
        if (all.Count == 0)
            return 0;
        var limits = new HeadLimits(speed, settings.AccelerationMmS2, settings.CornerMmS);
        var once = all.Sum(p => HeadMotion.Seconds(MotionPiece.Of(p), limits));
        for (var pass = 0; pass < passes; pass++)
        {
            var (hops, end) = HeadRoute.Of(all, at ?? new Point(0, 0));
            travel += hops.Skip(at is null ? 1 : 0).Sum(h => HeadMotion.Hop(h, settings.RapidMmS, settings.AccelerationMmS2));
            at = end;
        }
        return once * passes;
    }

    /// <summary>The deepest first: what lies inside a part is cut while the sheet still holds it.</summary>
    private static IEnumerable<IEnumerable<Subpath>> ByDepth(Drawing drawing, IReadOnlyCollection<Subpath> cuts)
    {
        if (cuts.Count == 0)
            return [];
        var pieces = new LinePieces(drawing);
        return cuts.GroupBy(DrawingReading.Depths(pieces, new Nesting(pieces))).OrderByDescending(g => g.Key);
    }

    /// <summary>Line by line over what is engraved, blank rows left out.</summary>
    internal static double Raster(IReadOnlyList<Box> boxes, RunSettings settings) =>
        boxes.Count == 0
            ? 0
            : Raster(
                RasterRows.Of(
                    boxes,
                    // Very many lines are taken several at a time.
                    (int)Math.Clamp(Math.Ceiling((boxes.Max(b => b.MaxY) - boxes.Min(b => b.MinY)) / settings.PitchMm), 1, MostRows)
                ),
                settings
            );

    /// <summary>Each line from its first mark to its last at speed, and from speed to rest and back at both ends.</summary>
    internal static double Raster(RasterRows rows, RunSettings settings) =>
        rows.HeightMm <= 0
            ? 0
            : Math.Max(1, rows.HeightMm / settings.PitchMm)
                * (rows.AreaMm2 / rows.HeightMm / settings.EngraveMmS + 2 * settings.EngraveMmS / settings.AccelerationMmS2);
}
