using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>What lies from one distance to below another, lengths in mm. Stored as a list of its numbers.</summary>
/// <param name="AlongMm">Length side by side.</param>
/// <param name="InsideMm">Of this, within a part.</param>
/// <param name="CrowdedMm">Length of line whose nearest neighbour is here; 0 between two colours.</param>
/// <param name="Runs">Places.</param>
/// <param name="RunsInside">Of these, within a part.</param>
[JsonConverter(typeof(NumbersJson<SpacingBin>))]
public readonly record struct SpacingBin(
    double FromMm,
    double ToMm,
    double AlongMm,
    double InsideMm,
    double CrowdedMm,
    int Runs,
    int RunsInside
) : INumbers<SpacingBin>
{
    void INumbers<SpacingBin>.Write(Utf8JsonWriter writer)
    {
        writer.WriteNumberValue(FromMm);
        writer.WriteNumberValue(ToMm);
        writer.WriteNumberValue(AlongMm);
        writer.WriteNumberValue(InsideMm);
        writer.WriteNumberValue(CrowdedMm);
        writer.WriteNumberValue(Runs);
        writer.WriteNumberValue(RunsInside);
    }

    static SpacingBin INumbers<SpacingBin>.Read(IReadOnlyList<double> n) =>
        new(FromMm: n[0], ToMm: n[1], AlongMm: n[2], InsideMm: n[3], CrowdedMm: n[4], Runs: (int)n[5], RunsInside: (int)n[6]);
}

/// <summary>
/// How near lines of two colours, or of one, run to one another: what lies alongside with nothing of the two between.
/// </summary>
/// <param name="Bins">By distance.</param>
/// <param name="Places">The longest at each order of distance.</param>
public sealed record LineSpacing(string ColourA, string ColourB, IReadOnlyList<SpacingBin> Bins, IReadOnlyList<Gap> Places)
{
    /// <summary>What lies from one distance to below another. A bin belongs where it begins: a limit within one takes it whole.</summary>
    public SpacingSum Between(double fromMm, double toMm)
    {
        var bins = Bins.Where(b => b.FromMm >= fromMm - 1e-6 && b.FromMm < toMm - 1e-6).ToList();
        return new SpacingSum(
            bins.Sum(b => b.AlongMm),
            bins.Sum(b => b.InsideMm),
            bins.Sum(b => b.CrowdedMm),
            bins.Sum(b => b.Runs),
            bins.Sum(b => b.RunsInside),
            [.. Places.Where(p => p.Mm >= fromMm - 1e-3 && p.Mm < toMm - 1e-3).OrderBy(p => p.Mm)]
        );
    }
}

/// <param name="AlongMm">Length side by side, once for two lines.</param>
/// <param name="InsideMm">Of this, where the strip between is part of a piece of work.</param>
/// <param name="CrowdedMm">Length of line that has a neighbour so near, each line for itself.</param>
public sealed record SpacingSum(double AlongMm, double InsideMm, double CrowdedMm, int Runs, int RunsInside, IReadOnlyList<Gap> Places);
