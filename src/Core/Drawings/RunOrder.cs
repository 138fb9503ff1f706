using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>One step of a job, in the order it should run.</summary>
/// <param name="What">Such as "inner lines": what the operation is done to.</param>
/// <param name="Lines">How many; 0 for fills, which are counted by area.</param>
public sealed record RunStep(StrokeMeaning Operation, string What, int Lines, double LengthMm);

/// <summary>
/// Engrave, then score, then cut from the inside outwards: a part that has come free moves, and what is cut in it afterwards is cut askew.
/// Source: common practice.
/// </summary>
public static class RunOrder
{
    public static IReadOnlyList<RunStep> Of(DrawingSummary drawing, ColourMap colours)
    {
        colours = drawing.Meanings(colours);
        var steps = new List<RunStep>();
        var pictures = (drawing.Pictures ?? []).Count(p => p.Covers is not null);
        if (pictures > 0)
            steps.Add(new(StrokeMeaning.Engrave, One(pictures, "picture"), pictures, 0));
        if (drawing.Fills.Count > 0)
            steps.Add(new(StrokeMeaning.Engrave, "filled shapes", 0, 0));
        foreach (var meaning in new[] { StrokeMeaning.Engrave, StrokeMeaning.Score })
        {
            var strokes = drawing.Strokes.Where(s => colours.Of(s.Colour) == meaning).ToList();
            if (strokes.Count > 0)
                steps.Add(new(meaning, One(strokes.Sum(s => s.Paths), "line"), strokes.Sum(s => s.Paths), strokes.Sum(s => s.LengthMm)));
        }
        var cuts = drawing.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Cut).ToList();
        var levels = (drawing.Nested ?? [])
            .Where(n => colours.Of(n.Colour) == StrokeMeaning.Cut)
            .SelectMany(n => n.Levels)
            .GroupBy(l => l.Round)
            .Select(g => (Depth: g.Key, Lines: g.Sum(l => l.Lines), Mm: g.Sum(l => l.LengthMm)))
            .OrderByDescending(l => l.Depth)
            .ToList();
        var (open, openMm) = (cuts.Sum(s => s.Paths) - levels.Sum(l => l.Lines), cuts.Sum(s => s.LengthMm) - levels.Sum(l => l.Mm));
        // Slits are cut while all of the sheet still holds them.
        if (open > 0)
            steps.Add(new(StrokeMeaning.Cut, One(open, levels.Count == 0 ? "line" : "open line"), open, Math.Max(0, openMm)));
        foreach (var level in levels)
            steps.Add(
                new(
                    StrokeMeaning.Cut,
                    level.Depth > 1
                        ? $"{One(level.Lines, "inner line")}, {level.Depth} deep"
                        : One(
                            level.Lines,
                            level.Depth == 1 ? "inner line"
                                : levels.Count > 1 ? "outline"
                                : "closed line"
                        ),
                    level.Lines,
                    level.Mm
                )
            );
        return steps;
    }

    private static string One(int count, string what) => count == 1 ? what : what + "s";
}
