using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Drawings;

/// <summary>What runs too near to what: nearer than the beam is wide, and nearer than the sheet is thick.</summary>
internal static class SpacingFindings
{
    /// <param name="thicknessMm">Null where no sheet is named: then only the kerf is looked at.</param>
    public static void Add(
        List<Finding> found,
        DrawingSummary drawing,
        ColourMap colours,
        MachineSpec machine,
        decimal? thicknessMm,
        LengthUnit unit,
        DrawingTolerances tolerances
    )
    {
        var cuts = (drawing.Spacing ?? [])
            .Where(s => colours.Of(s.ColourA) == StrokeMeaning.Cut && colours.Of(s.ColourB) == StrokeMeaning.Cut)
            .ToList();
        if (cuts.Count == 0)
            return;
        var kerf = (double)machine.KerfMm;
        AddNear(found, Sum(cuts, 0, kerf), machine, unit, (double)tolerances.NearStopMm);
        // Thicker sheets than lines are measured apart are not cut here.
        if (thicknessMm is not { } thick || Math.Min((double)thick, Neighbours.FarthestMm) is var t && t <= kerf)
            return;
        var close = Sum(cuts, kerf, t);
        AddClose(
            found,
            close,
            drawing.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Cut).Sum(s => s.LengthMm),
            thick,
            unit,
            (double)tolerances.CrowdedPercent / 100
        );
        AddThin(found, close, thick, unit);
    }

    private static SpacingSum Sum(List<LineSpacing> cuts, double from, double to)
    {
        var all = cuts.Select(c => c.Between(from, to)).ToList();
        return new SpacingSum(
            all.Sum(s => s.AlongMm),
            all.Sum(s => s.InsideMm),
            all.Sum(s => s.CrowdedMm),
            all.Sum(s => s.Runs),
            all.Sum(s => s.RunsInside),
            [.. all.SelectMany(s => s.Places)]
        );
    }

    private static void AddNear(List<Finding> found, SpacingSum near, MachineSpec machine, LengthUnit unit, double stopsAboveMm)
    {
        if (near.AlongMm < 0.05)
            return;
        found.Add(
            new(
                kind: FindingKinds.LineNear,
                severity: near.AlongMm > stopsAboveMm ? Severity.Stop : Severity.Warn,
                count: Math.Max(1, near.Runs),
                lengthMm: near.AlongMm,
                at: Middles(near.Places),
                text: $"{Show(near.AlongMm, unit)} of cut line runs nearer to another cut than the beam is wide "
                    + $"({Length.Show(machine.KerfMm, unit)}).",
                why: "It looks like one line and is cut twice: the second pass has nothing left to cut, and becomes heat, and fire."
            )
            {
                Spans = near.Places.Take(50).ToList(),
            }
        );
    }

    private static void AddClose(List<Finding> found, SpacingSum close, double cutMm, decimal thick, LengthUnit unit, double asksAbove)
    {
        // Between two colours only stretches are known, not which of them have a nearer neighbour.
        var crowded = Math.Min(cutMm, close.CrowdedMm > 0 ? close.CrowdedMm : 2 * close.AlongMm);
        if (crowded < 0.05)
            return;
        var share = cutMm > 0 ? crowded / cutMm : 0;
        found.Add(
            new(
                kind: FindingKinds.GapTooClose,
                severity: Severity.Warn,
                count: Math.Max(1, close.Runs),
                lengthMm: crowded,
                at: Middles(close.Places),
                text: $"{Show(crowded, unit)} of cut line, {Math.Round(100 * share)} % of all, runs nearer to another cut than the sheet "
                    + $"is thick ({Length.Show(thick, unit)}).",
                why: "Cuts so close heat each other: the sheet warps, and may catch fire. Hinges do this by design: slow work, "
                    + "and eyes on it."
            )
            {
                Asks = share > asksAbove,
                Spans = close.Places.Take(50).ToList(),
            }
        );
    }

    private static void AddThin(List<Finding> found, SpacingSum close, decimal thick, LengthUnit unit)
    {
        if (close.InsideMm < 0.05)
            return;
        var places = close.Places.Where(p => p.WithinPart).Take(50).ToList();
        found.Add(
            new(
                kind: FindingKinds.DetailThin,
                severity: Severity.Warn,
                count: Math.Max(1, close.RunsInside),
                lengthMm: close.InsideMm,
                at: Middles(places),
                text: $"{Show(close.InsideMm, unit)} of strip or web thinner than the sheet ({Length.Show(thick, unit)}).",
                why: "Thin slivers curl, burn and break. Was the drawing made smaller?"
            )
            {
                Spans = places,
            }
        );
    }

    private static List<Place> Middles(IReadOnlyList<Gap> places) => [.. places.Take(50).Select(p => p.Middle)];

    private static string Show(double mm, LengthUnit unit) => Length.Show((decimal)Math.Round(mm, 3), unit);
}
