using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>Mends a drawing. Every line that remains lies on one that was there, or within the kerf or the stated gap of it.</summary>
public static class Mender
{
    /// <param name="kerfMm">How near is nearly doubled.</param>
    /// <exception cref="ArgumentException">The ask is refused by its own rule.</exception>
    /// <exception cref="UnreadableDrawingException">It takes too long, or would become too large.</exception>
    public static Mended Mend(Drawing drawing, MendingQuestion ask, ColourMap colours, double kerfMm, CancellationToken patience = default)
    {
        try
        {
            return Do(drawing, ask, colours, kerfMm, patience);
        }
        catch (OperationCanceledException)
        {
            throw new UnreadableDrawingException("The drawing takes too long to mend here. Mend it with vg check --mend, or split it.");
        }
    }

    private static Mended Do(Drawing drawing, MendingQuestion ask, ColourMap colours, double kerfMm, CancellationToken patience)
    {
        if (ask.Refused() is { } refusal)
            throw new ArgumentException(refusal.Text, nameof(ask));
        var steps = new List<MendStep>();
        if (ask.Recolour is { Count: > 0 } recolour)
            drawing = Recolour(drawing, recolour, steps);
        if (ask.Outline is { } outline)
            drawing = Outline(drawing, ColourMap.Tidy(outline)!, steps);
        if (ask.ScaleOf(drawing) is var by and not 1)
            drawing = Scale(drawing, by, steps);
        if (ask.Doubled)
            drawing = DoubledStretches.TakeOut(drawing, colours, 0, "doubled", steps, patience);
        // Gaps before what is near: a join may be near to something, while what is led to the line that stays has no gap.
        if (ask.CloseMm is { } gap)
            drawing = Closed(drawing, colours, gap, ask.Doubled, steps, patience);
        if (ask.Near)
            drawing = Near(drawing, colours, kerfMm, steps, patience);
        if (ask.Thin)
            drawing = Thin(drawing, colours, steps);
        var (plain, leftOut) = PlainDrawing.Of(drawing);
        var pictures = plain.Pictures?.Count ?? 0;
        return new Mended(
            plain,
            steps,
            pictures == 0
                ? leftOut
                :
                [
                    .. leftOut,
                    PlainDrawing.Count(pictures, "pixel picture, where it is taken as DXF", "pixel pictures, where it is taken as DXF"),
                ]
        );
    }

    /// <summary>
    /// What joins a cut end to the line that stays may lie on a third line: that is taken out again, and nothing joined to it.
    /// </summary>
    private static Drawing Near(Drawing drawing, ColourMap colours, double kerfMm, List<MendStep> steps, CancellationToken patience)
    {
        var own = new List<MendStep>();
        drawing = DoubledStretches.TakeOut(drawing, colours, kerfMm, "near", own, patience);
        if (own[0].Count > 0)
        {
            drawing = DoubledStretches.TakeOut(drawing, colours, 0, "near", own, patience, join: false);
            drawing = DoubledStretches.TakeOut(drawing, colours, kerfMm, "near", own, patience, join: false);
        }
        steps.Add(new("near", own[0].Count, Math.Round(own.Sum(s => s.LengthMm), 4)));
        return drawing;
    }

    /// <summary>A gap may lie on another line, which then closes it as well.</summary>
    private static Drawing Closed(
        Drawing drawing,
        ColourMap colours,
        double mm,
        bool doubled,
        List<MendStep> steps,
        CancellationToken patience
    )
    {
        drawing = Gaps.Close(drawing, mm, steps);
        return doubled && steps[^1].Count > 0
            ? DoubledStretches.TakeOut(drawing, colours, 0, "doubled", [], patience, join: false)
            : drawing;
    }

    private static Drawing Recolour(Drawing drawing, IReadOnlyDictionary<string, string> colours, List<MendStep> steps)
    {
        var changed = 0;
        var shapes = drawing
            .Shapes.Select(s =>
            {
                var (stroke, fill) = (Of(s.Stroke), Of(s.Fill));
                if (stroke == s.Stroke && fill == s.Fill)
                    return s;
                changed++;
                return s with { Stroke = stroke, Fill = fill };
            })
            .ToList();
        steps.Add(new("recolour", changed, 0));
        return drawing with { Shapes = shapes };

        string? Of(string? colour) => colour is not null && colours.TryGetValue(colour, out var other) ? other : colour;
    }

    /// <summary>A thousandth of an inch: what drivers that ask for hairlines take.</summary>
    private const double HairlineMm = 0.0254;

    private static Drawing Thin(Drawing drawing, ColourMap colours, List<MendStep> steps)
    {
        var changed = 0;
        var shapes = drawing
            .Shapes.Select(s =>
            {
                if (s.Stroke is null || colours.Of(s.Stroke) != StrokeMeaning.Cut || s.WidthMm <= HairlineMm)
                    return s;
                changed++;
                return s with { WidthMm = HairlineMm };
            })
            .ToList();
        steps.Add(new("thin", changed, 0));
        return drawing with { Shapes = shapes };
    }

    private static Drawing Outline(Drawing drawing, string colour, List<MendStep> steps)
    {
        var changed = 0;
        var shapes = drawing
            .Shapes.Select(s =>
            {
                if (s is not { Fill: not null, Stroke: null })
                    return s;
                changed++;
                return s with { Stroke = colour, Fill = null };
            })
            .ToList();
        steps.Add(new("outline", changed, 0));
        return drawing with { Shapes = shapes };
    }

    private static Drawing Scale(Drawing drawing, double by, List<MendStep> steps)
    {
        var matrix = Matrix.Scale(by, by);
        var shapes = drawing
            .Shapes.Select(s => s with { Subpaths = [.. s.Subpaths.Select(p => p.Map(matrix))], WidthMm = s.WidthMm * by })
            .ToList();
        if (shapes.Any(s => s.Subpaths.Any(p => !p.LiesWithin(DrawingLimits.CoordinateMm))))
            throw new UnreadableDrawingException("So large the drawing would reach ten kilometres. Choose a smaller factor.");
        var pictures = drawing.Pictures?.Select(p => p.Map(matrix)).ToList();
        steps.Add(new("scale", shapes.Count + (pictures?.Count ?? 0), 0));
        return drawing with { Shapes = shapes, Pictures = pictures, WidthMm = drawing.WidthMm * by, HeightMm = drawing.HeightMm * by };
    }
}
