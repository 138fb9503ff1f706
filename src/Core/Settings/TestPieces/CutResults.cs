using System.Globalization;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>How one square of a cut row came out.</summary>
public sealed record CellResult(double JPerMm, bool Through, bool Charred = false);

/// <summary>The energy at which one in two is through, in J/mm, with its interval at 95 %.</summary>
/// <param name="Low">Null where the cells cannot say.</param>
/// <param name="Separated">All that was through lies above all that was not: the interval is those two cells.</param>
public sealed record CutBoundary(double JPerMm, double? Low, double? High, bool Separated);

/// <param name="KeepJPerMm">The energy to keep; null where no setting is kept.</param>
/// <param name="Why">What decided it, or why none is kept.</param>
public sealed record CutResults(CutBoundary Boundary, double? KeepJPerMm, string Why)
{
    /// <summary>Above the boundary by so much. House practice.</summary>
    public const double Margin = 0.1;
    private const int Fewest = 4;

    /// <summary>
    /// Fits the boundary, and keeps the larger of it with the house's margin and of the lowest cell where every repeat was through and none
    /// charred; where there is no such cell, nothing is kept.
    /// </summary>
    /// <returns>Or why no boundary can be found: too few cells, all alike, or results that contradict.</returns>
    public static Result<CutResults> Of(IReadOnlyList<CellResult> cells, double margin = Margin)
    {
        if (cells.Count < Fewest || cells.Any(c => !(c.JPerMm > 0) || !double.IsFinite(c.JPerMm)))
            return SettingsProblems.TestFew.Refuse("cells", Fewest);
        if (cells.Select(c => c.JPerMm).Distinct().Count() < 2)
            return SettingsProblems.TestOneEnergy.Refuse("cells");
        if (cells.All(c => c.Through))
            return SettingsProblems.TestAllThrough.Refuse("cells");
        if (cells.All(c => !c.Through))
            return SettingsProblems.TestNoneThrough.Refuse("cells");
        var x = cells.Select(c => Math.Log(c.JPerMm)).ToList();
        var through = cells.Select(c => c.Through).ToList();
        var curve = ThroughCurve.Fit(x, through);
        if (curve.Slope <= 0)
            return SettingsProblems.TestContradicts.Refuse("cells");
        var (highestNot, lowestThrough) = (cells.Where(c => !c.Through).Max(c => c.JPerMm), cells.Where(c => c.Through).Min(c => c.JPerMm));
        var separated = highestNot < lowestThrough;
        var (low, high) = separated ? (Math.Log(highestNot), Math.Log(lowestThrough)) : curve.Interval(x, through);
        var boundary = new CutBoundary(Math.Exp(curve.Half), Power(low), Power(high), separated);
        var clean = cells
            .GroupBy(c => Math.Round(c.JPerMm, 4))
            .Where(g => g.All(c => c is { Through: true, Charred: false }))
            .Select(g => (double?)g.Key)
            .Min();
        if (clean is not { } lowest)
            return new CutResults(
                boundary,
                null,
                "No energy was through in every repeat without charring: nothing is kept. Try another piece."
            );
        var with = boundary.JPerMm * (1 + margin);
        return new CutResults(
            boundary,
            Math.Max(with, lowest),
            with >= lowest
                ? string.Create(CultureInfo.InvariantCulture, $"the boundary and {margin * 100:0} %")
                : "the lowest energy that was through in every repeat and charred in none"
        );
    }

    /// <summary>A piece shows that a setting comes out clean where a cell of about its energy did, and none of about it charred.</summary>
    public static bool Show(IEnumerable<CellResult> cells, decimal jPerMm)
    {
        var near = cells.Where(c => double.IsFinite(c.JPerMm) && Tested.IsNear((decimal)c.JPerMm, jPerMm)).ToList();
        return near.Count > 0 && near.All(c => c is { Through: true, Charred: false });
    }

    private static double? Power(double? log) => log is { } l ? Math.Exp(l) : null;
}
