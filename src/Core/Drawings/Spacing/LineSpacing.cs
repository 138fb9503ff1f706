namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>
/// How near lines of two colours, or of one, run to one another: what lies alongside with nothing of the two between. Lengths in mm.
/// </summary>
/// <param name="Bins">By distance: [from, to, length side by side, of this within a part, length of line whose nearest neighbour is here (0
/// between two colours), places, of these within a part].</param>
/// <param name="Places">The longest at each order of distance: [x, y on the one line, x, y on the other, 1 within a part, else 0].</param>
public sealed record LineSpacing(string ColourA, string ColourB, IReadOnlyList<double[]> Bins, IReadOnlyList<double[]> Places)
{
    /// <summary>What lies from one distance to below another. A bin belongs where it begins: a limit within one takes it whole.</summary>
    public SpacingSum Between(double fromMm, double toMm)
    {
        var bins = Bins.Where(b => b[0] >= fromMm - 1e-6 && b[0] < toMm - 1e-6).ToList();
        return new SpacingSum(
            bins.Sum(b => b[2]),
            bins.Sum(b => b[3]),
            bins.Sum(b => b[4]),
            (int)bins.Sum(b => b[5]),
            (int)bins.Sum(b => b[6]),
            [.. Places.Where(p => Apart(p) is var apart && apart >= fromMm - 1e-3 && apart < toMm - 1e-3).OrderBy(Apart)]
        );
    }

    private static double Apart(double[] place) =>
        Math.Sqrt((place[2] - place[0]) * (place[2] - place[0]) + (place[3] - place[1]) * (place[3] - place[1]));
}

/// <param name="AlongMm">Length side by side, once for two lines.</param>
/// <param name="InsideMm">Of this, where the strip between is part of a piece of work.</param>
/// <param name="CrowdedMm">Length of line that has a neighbour so near, each line for itself.</param>
public sealed record SpacingSum(
    double AlongMm,
    double InsideMm,
    double CrowdedMm,
    int Runs,
    int RunsInside,
    IReadOnlyList<double[]> Places
);
