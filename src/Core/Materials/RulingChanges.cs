using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>Which way a change of rulings goes.</summary>
public enum RulingDirection
{
    Same,

    /// <summary>Stricter somewhere and milder nowhere: it holds at once.</summary>
    Tightens,

    /// <summary>Milder somewhere: a second steward or the countersigner has to agree.</summary>
    Loosens,
}

/// <summary>One cell of the shelf: a material under one kind of laser by one operation. Its ranges of thickness change together.</summary>
public sealed record RulingCell(MaterialId MaterialId, LaserKind Kind, Operation Operation)
{
    public static RulingCell Of(Ruling ruling) => new(ruling.MaterialId, ruling.Kind, ruling.Operation);
}

/// <summary>
/// How a house may change what it says of a material. Tightening is immediate, loosening takes two, and <see cref="RulingStatus.Never"/>
/// is
/// loosened by nobody. Source: house practice; what is never allowed gives acid, fibres or an explosion.
/// </summary>
public static class RulingChanges
{
    /// <summary>Longest hazard, handling or practice text, in characters.</summary>
    public const int LongestText = 600;

    /// <summary>A ruling is looked at again after a year, unless its owner says sooner. House practice.</summary>
    public const int ReviewMonths = 12;

    /// <summary>Greatest thickness a ruling speaks of, in mm: more than any shared machine takes.</summary>
    public const decimal ThickestMm = 1000;

    /// <summary>Codes of what is wrong with a material, each in plain words.</summary>
    public static IReadOnlyDictionary<string, string> Reasons { get; } =
        new Dictionary<string, string>
        {
            ["chlorine"] = "gives hydrogen chloride",
            ["fluorine"] = "gives hydrogen fluoride",
            ["cyanide"] = "gives hydrogen cyanide",
            ["formaldehyde"] = "gives formaldehyde",
            ["isocyanate"] = "gives isocyanates",
            ["styrene"] = "gives styrene",
            ["chromium"] = "chromium in the smoke",
            ["dust"] = "harmful dust",
            ["residue"] = "sticky residue",
            ["fire-melt"] = "melts and burns",
            ["smoulder"] = "smoulders unseen",
            ["reflection"] = "throws the beam back",
            ["will-not-cut"] = "does not cut",
            ["transparent"] = "lets the beam through",
            ["curl"] = "curls into the beam",
            ["odour"] = "strong smell",
            ["optics"] = "eats optics and rails",
            ["unknown"] = "make-up not known",
        };

    /// <summary>The one material that a house rule of its own is about.</summary>
    public const string PolycarbonateId = "polycarbonate";

    /// <summary>What is wrong with the ranges of one cell, each with the field at fault.</summary>
    /// <param name="ranges">All of one cell, in the order they were written.</param>
    public static IReadOnlyList<Refusal> Check(IReadOnlyList<Ruling> ranges)
    {
        var wrong = new List<Refusal>();
        if (ranges.Count == 0)
            wrong.Add(MaterialsProblems.RulingEmpty.Refuse("ranges"));
        for (var i = 0; i < ranges.Count; i++)
        {
            var range = ranges[i];
            if (range.MinMm < 0 || range.MinMm > ThickestMm)
                wrong.Add(MaterialsProblems.RulingRange.Refuse($"ranges[{i}].min", ThickestMm));
            if (range.MaxMm is { } max && (max <= range.MinMm || max > ThickestMm))
                wrong.Add(
                    new Refusal(
                        MaterialsProblems.RulingRange,
                        $"A range ends above its beginning and at {ThickestMm:0} mm at most; leave it empty where only the machine "
                            + "limits it.",
                        $"ranges[{i}].max"
                    )
                );
        }
        var inOrder = ranges.Select((r, i) => (Ruling: r, At: i)).OrderBy(r => r.Ruling.MinMm).ToList();
        foreach (var (before, after) in inOrder.Zip(inOrder.Skip(1)))
        {
            if (before.Ruling.MaxMm is null || after.Ruling.MinMm <= before.Ruling.MaxMm)
                wrong.Add(
                    MaterialsProblems.RulingOverlap.Refuse($"ranges[{after.At}].min", Length.Show(after.Ruling.MinMm, LengthUnit.Mm))
                );
        }
        var texts = ranges.Take(1).ToList();
        if (texts.Any(r => string.IsNullOrWhiteSpace(r.Hazard)))
            wrong.Add(MaterialsProblems.RulingHazard.Refuse("hazard"));
        if (texts.Any(r => r.Hazard.Length > LongestText))
            wrong.Add(MaterialsProblems.RulingLong.Refuse("hazard", LongestText));
        if (texts.Any(r => r.Handling.Length > LongestText))
            wrong.Add(MaterialsProblems.RulingLong.Refuse("handling", LongestText));
        foreach (var code in texts.SelectMany(r => r.Reasons).Where(c => !Reasons.ContainsKey(c)).Distinct())
            wrong.Add(MaterialsProblems.RulingReason.Refuse("reasons", code, string.Join(", ", Reasons.Keys)));
        return wrong;
    }

    /// <summary>Refuses what would loosen a ruling that no house can loosen.</summary>
    public static Refusal? Loosened(IReadOnlyList<Ruling> before, IReadOnlyList<Ruling> after) =>
        Thicknesses(before, after).Any(t => At(before, t)?.Standing == RulingStatus.Never && At(after, t)?.Standing != RulingStatus.Never)
            ? MaterialsProblems.RulingNever.Refuse("ranges")
            : null;

    /// <summary>Compares two states of one cell at every thickness where they could differ.</summary>
    public static RulingDirection Direction(IReadOnlyList<Ruling> before, IReadOnlyList<Ruling> after)
    {
        var stricter = false;
        foreach (var (was, becomes) in Thicknesses(before, after).Select(t => (At(before, t), At(after, t))))
        {
            if (Milder(was, becomes))
                return RulingDirection.Loosens;
            stricter |= Milder(becomes, was);
        }
        return stricter ? RulingDirection.Tightens : RulingDirection.Same;
    }

    /// <summary>The direction of several cells together: one that loosens makes the whole change loosen.</summary>
    public static RulingDirection Together(IEnumerable<RulingDirection> directions) =>
        directions.DefaultIfEmpty(RulingDirection.Same).Max();

    /// <summary>
    /// Polycarbonate chars and fumes: most houses ban it. A house that offers it does so by arrangement alone, with a written reason.
    /// Source: common practice; practitioners differ.
    /// </summary>
    /// <param name="offered">House rule.</param>
    /// <returns>Null for any other material, and where this is allowed.</returns>
    public static Refusal? Polycarbonate(MaterialId materialId, IReadOnlyList<Ruling> after, bool offered)
    {
        if (materialId != PolycarbonateId || after.All(r => r.Standing >= RulingStatus.Banned))
            return null;
        if (!offered)
            return MaterialsProblems.RulingPolycarbonate.Refuse("ranges");
        return after.Any(r => r.Standing == RulingStatus.Permitted)
            ? new Refusal(
                MaterialsProblems.RulingPolycarbonate,
                "Polycarbonate goes by arrangement at most: a steward clears each sheet.",
                "ranges"
            )
            : null;
    }

    /// <summary>Whether this person may agree to a loosening that another proposed.</summary>
    /// <param name="mayRule">Is a steward or a countersigner.</param>
    public static Refusal? MayAgree(PersonId proposedBy, PersonId by, bool mayRule)
    {
        if (by == proposedBy)
            return MaterialsProblems.RulingSelf.Refuse();
        return mayRule ? null : MaterialsProblems.RulingRole.Refuse();
    }

    /// <summary>One cell in words, thinnest first, such as “to 6.35 mm permitted; above it banned”.</summary>
    public static string Say(IReadOnlyList<Ruling> ranges, LengthUnit unit) =>
        ranges.Count == 0
            ? "no ruling: shut"
            : string.Join("; ", ranges.OrderBy(r => r.MinMm).Select(r => $"{Range(r, unit)}{Words(r.Standing)}{Asks(r)}"));

    private static string Range(Ruling r, LengthUnit unit) =>
        (r.MinMm, r.MaxMm) switch
        {
            (0, null) => "",
            (0, { } max) => $"to {Length.Limit(max, unit)} ",
            ({ } min, null) => $"from {Length.Limit(min, unit)} ",
            ({ } min, { } max) => $"{Length.Limit(min, unit)} to {Length.Limit(max, unit)} ",
        };

    private static string Words(RulingStatus standing) =>
        standing switch
        {
            RulingStatus.Permitted => "permitted",
            RulingStatus.ByArrangement => "by arrangement",
            RulingStatus.Banned => "banned",
            RulingStatus.Never => "never",
            _ => "cannot",
        };

    private static string Asks(Ruling r) =>
        r.Standing > RulingStatus.ByArrangement
            ? ""
            : r.Evidence switch
            {
                Evidence.None => ", nothing to show",
                Evidence.Declared => ", source declared",
                _ => ", with a cleared tag",
            };

    // Limits are inclusive and rulings change only at them: ends, points between ends, and one beyond the last tell all.
    private static IEnumerable<decimal> Thicknesses(IReadOnlyList<Ruling> before, IReadOnlyList<Ruling> after)
    {
        var ends = before
            .Concat(after)
            .SelectMany(r => r.MaxMm is { } max ? new[] { r.MinMm, max } : [r.MinMm])
            .Append(0m)
            .Distinct()
            .Order()
            .ToList();
        return ends.Concat(ends.Zip(ends.Skip(1), (a, b) => (a + b) / 2)).Append(ends[^1] + 1);
    }

    private static Ruling? At(IReadOnlyList<Ruling> ranges, decimal thicknessMm) => ranges.FirstOrDefault(r => r.Covers(thicknessMm));

    private static bool Milder(Ruling? was, Ruling? becomes)
    {
        if (Strictness(becomes) != Strictness(was))
            return Strictness(becomes) < Strictness(was);
        if (Strictness(becomes) > 1)
            return false;
        return becomes!.Evidence < was!.Evidence || (was.FilteredNeedsArrangement && !becomes.FilteredNeedsArrangement);
    }

    /// <summary>Without a ruling the gate is shut, as for what is banned and for what a laser cannot do.</summary>
    private static int Strictness(Ruling? ruling) =>
        ruling?.Standing switch
        {
            RulingStatus.Permitted => 0,
            RulingStatus.ByArrangement => 1,
            RulingStatus.Never => 3,
            _ => 2,
        };
}
