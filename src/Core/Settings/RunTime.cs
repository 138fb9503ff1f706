using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Motion;

namespace VelvetGate.Core.Settings;

/// <summary>
/// How long a drawing runs, from its summary alone: within 2 % of <see cref="DrawingTime"/>, which looks at each line, at a small part of
/// its cost.
/// </summary>
public static class RunTime
{
    public static DrawingTime Of(DrawingSummary drawing, ColourMap house, RunSettings settings)
    {
        var colours = drawing.Meanings(house);
        var sum = new TimeSum(settings);
        sum.Add(
            Operation.Engrave,
            null,
            DrawingTime.Raster(drawing.Filled ?? Boxed([.. drawing.Fills.Select(f => f.Box), .. drawing.Covered]), settings)
        );
        foreach (var stroke in Of(StrokeMeaning.Engrave))
            sum.Add(Operation.Engrave, stroke.Colour, DrawingTime.Raster(stroke.Route?.Rows ?? Boxed([stroke.Box]), settings));
        // The way to the first line is no part of the run: the head stands where it was set.
        Place? at = null;
        foreach (var stroke in Of(StrokeMeaning.Score))
        {
            sum.Add(Operation.Score, stroke.Colour, Along(stroke, settings.ScoreMmS, settings));
            sum.Travel(Operation.Score, Between(stroke, settings, ref at));
        }
        foreach (var stroke in Of(StrokeMeaning.Cut))
        {
            sum.Add(Operation.Cut, stroke.Colour, settings.Passes * Along(stroke, settings.CutMmS, settings));
            for (var pass = 0; pass < settings.Passes; pass++)
                sum.Travel(Operation.Cut, Between(stroke, settings, ref at));
        }
        return sum.Total();

        IEnumerable<StrokeWork> Of(StrokeMeaning meaning) => drawing.Strokes.Where(s => colours.Of(s.Colour) == meaning);
    }

    /// <summary>Seconds along the lines of a colour, from corner to corner.</summary>
    private static double Along(StrokeWork stroke, double speed, RunSettings settings)
    {
        var seconds = stroke.Moves.Sum(m => m.Count * Move(m, speed, settings));
        // A path begins and ends at rest, whatever the speed at its corners.
        var corner = Math.Min(settings.CornerMmS, speed);
        return seconds + stroke.Paths * (2 * speed * corner - corner * corner) / (speed * settings.AccelerationMmS2);
    }

    /// <summary>Seconds of one run of a bin: slower where it lies on curves.</summary>
    private static double Move(MoveBin bin, double speed, RunSettings settings)
    {
        var curved = (bin.Curves ?? []).Sum(c => c.Mm);
        var slow = (bin.Curves ?? []).Sum(c => c.Mm / Math.Min(speed, Math.Sqrt(settings.AccelerationMmS2 * c.RadiusMm)));
        // Where lines of many small turns overlap, more may be counted as curved than there is.
        if (curved > bin.TotalMm)
            (curved, slow) = (bin.TotalMm, slow * bin.TotalMm / curved);
        var top = bin.TotalMm / (slow + (bin.TotalMm - curved) / speed);
        var mm = bin.TotalMm / bin.Count;
        var (a, corner) = (settings.AccelerationMmS2, Math.Min(settings.CornerMmS, top));
        var peak = Math.Sqrt(corner * corner + a * mm);
        return peak <= top ? 2 * (peak - corner) / a : mm / top + (top - corner) * (top - corner) / (top * a);
    }

    /// <summary>Seconds from line to line of a colour, and to its first from where the head stands.</summary>
    private static double Between(StrokeWork stroke, RunSettings settings, ref Place? at)
    {
        double Hop(double mm) => HeadMotion.Hop(mm, settings.RapidMmS, settings.AccelerationMmS2);
        var seconds = 0.0;
        if (stroke.Route is { } route)
        {
            if (at is { } from)
                seconds += Hop(Math.Sqrt(Math.Pow(route.From.X - from.X, 2) + Math.Pow(route.From.Y - from.Y, 2)));
            at = route.To;
        }
        if (stroke.Route?.Hops is { } hops)
            return seconds + hops.Sum(h => h.Count * Hop(h.TotalMm / h.Count));
        var count = Math.Max(0, stroke.Paths - 1);
        return seconds + (count == 0 ? 0 : count * Hop(stroke.TravelMm / count));
    }

    /// <summary>The box round all of them, of which older summaries know no more.</summary>
    private static RasterRows Boxed(IReadOnlyList<Extent> boxes)
    {
        var all = new Box();
        foreach (var box in boxes)
        {
            all.Add(new Point(box.MinX, box.MinY));
            all.Add(new Point(box.MaxX, box.MaxY));
        }
        return RasterRows.Of([all], 1);
    }
}
