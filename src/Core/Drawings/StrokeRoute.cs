namespace VelvetGate.Core.Drawings;

/// <summary>The way of the head between the lines of a colour, the innermost first and always on to the nearest.</summary>
/// <param name="Hops">From line to line, in mm; null where there are too many to look for the nearest.</param>
/// <param name="From">Where the first line begins.</param>
/// <param name="To">Where the last one ends.</param>
/// <param name="Rows">What engraving its shapes line by line covers.</param>
public sealed record StrokeRoute(IReadOnlyList<MoveBin>? Hops, Place From, Place To, RasterRows Rows)
{
    /// <summary>Of more lines the way in drawing order is taken.</summary>
    private const int MostPaths = 5_000;

    internal static StrokeRoute Of(IReadOnlyList<Shape> shapes, IReadOnlyList<Subpath> paths, Func<Subpath, int> depth)
    {
        var rows = RasterRows.Of([.. shapes.Select(RasterRows.BoxOf)]);
        if (paths.Count > MostPaths)
            return new StrokeRoute(null, At(paths[0].Start), At(paths[^1].End), rows);
        var hops = new MoveBins();
        Point? at = null;
        var from = paths[0].Start;
        foreach (var level in paths.GroupBy(depth).OrderByDescending(g => g.Key))
        {
            var (found, end, _) = HeadRoute.Of([.. level], at ?? new Point(0, 0));
            if (at is null)
                from = HeadRoute.First([.. level]);
            foreach (var hop in found.Skip(at is null ? 1 : 0))
            {
                hops.Go(hop, double.PositiveInfinity);
                hops.Stop();
            }
            at = end;
        }
        return new StrokeRoute(hops.Done(), At(from), At(at!.Value), rows);
    }

    private static Place At(Point p) => new(Math.Round(p.X, 3), Math.Round(p.Y, 3));
}

/// <summary>What engraving line by line covers, blank rows left out: it serves any line pitch.</summary>
/// <param name="HeightMm">Of the rows with something in them.</param>
/// <param name="AreaMm2">From the first mark of each row to its last.</param>
public sealed record RasterRows(double HeightMm, double AreaMm2)
{
    /// <summary>Rows that are looked at: fewer where there are very many boxes.</summary>
    private const int MostRows = 1_000;
    private const int FewestRows = 50;
    private const int Work = 200_000;

    /// <summary>A line along a row is one row, however thin.</summary>
    private const double Thinnest = 1e-3;

    public static RasterRows Of(IReadOnlyList<Box> boxes) => Of(boxes, Math.Clamp(Work / Math.Max(1, boxes.Count), FewestRows, MostRows));

    /// <param name="count">Rows that are looked at, at least 1.</param>
    public static RasterRows Of(IReadOnlyList<Box> boxes, int count)
    {
        var all = boxes.Where(b => !b.IsEmpty).ToList();
        if (all.Count == 0)
            return new RasterRows(0, 0);
        var (top, bottom) = (all.Min(b => b.MinY), all.Max(b => b.MaxY));
        if (bottom - top < Thinnest)
            return new RasterRows(Thinnest, Math.Round(Thinnest * (all.Max(b => b.MaxX) - all.Min(b => b.MinX)), 6));
        var step = (bottom - top) / count;
        var (height, area) = (0.0, 0.0);
        foreach (var (_, low, high) in Lines(all, count))
        {
            height += step;
            area += step * (high - low);
        }
        return new RasterRows(Math.Round(height, 3), Math.Round(area, 3));
    }

    /// <summary>Rows with something in them, from the top: the middle of each, its first mark and its last.</summary>
    /// <param name="boxes">None of them empty.</param>
    internal static IEnumerable<(double Y, double Low, double High)> Lines(IReadOnlyCollection<Box> boxes, int count)
    {
        var (top, bottom) = (boxes.Min(b => b.MinY), boxes.Max(b => b.MaxY));
        var step = Math.Max(Thinnest, bottom - top) / count;
        var (low, high) = (new double[count], new double[count]);
        Array.Fill(low, double.PositiveInfinity);
        Array.Fill(high, double.NegativeInfinity);
        int Row(double y) => Math.Clamp((int)((y - top) / step), 0, count - 1);
        foreach (var box in boxes)
        {
            // The last row is one that the box reaches into, not one that it only touches.
            var last = Math.Max(Row(box.MinY), Row(box.MaxY - 1e-9));
            for (var row = Row(box.MinY); row <= last; row++)
                (low[row], high[row]) = (Math.Min(low[row], box.MinX), Math.Max(high[row], box.MaxX));
        }
        for (var row = 0; row < count; row++)
            if (high[row] >= low[row])
                yield return (top + (row + 0.5) * step, low[row], high[row]);
    }

    internal static Box BoxOf(Shape shape)
    {
        var box = new Box();
        shape.Extend(ref box);
        return box;
    }

    internal static Box BoxOf(Extent extent)
    {
        var box = new Box();
        box.Add(new Point(extent.MinX, extent.MinY));
        box.Add(new Point(extent.MaxX, extent.MaxY));
        return box;
    }
}
