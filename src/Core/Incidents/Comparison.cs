using System.Globalization;

namespace VelvetGate.Core.Incidents;

/// <summary>Two periods held against each other.</summary>
/// <param name="ByChance">How likely chance alone parts them so far; null where hours are missing.</param>
/// <param name="Says">In words for people.</param>
public sealed record Comparison(Rate Now, Rate Before, double? ByChance, string Says)
{
    /// <summary>Below it chance alone is no good explanation: a usual line, drawn by habit and not by nature.</summary>
    public const double Unlikely = 0.05;

    public const string Caution =
        "A rate goes up when telling improves: more near misses told is good news. They are never added to incidents.";

    public static Comparison Of(int count, double? hours, int countBefore, double? hoursBefore)
    {
        var now = Rate.Of(count, hours);
        var before = Rate.Of(countBefore, hoursBefore);
        if (hours is not { } h || hoursBefore is not { } b)
            return new(now, before, null, "Hours are missing for one of the two: their rates cannot be held against each other.");
        var chance = Rate.ByChance(count, h, countBefore, b);
        var more = now.Per100 > before.Per100 ? "More" : "Fewer";
        var says =
            count + countBefore == 0 ? "None in either."
            : now.Per100 == before.Per100 ? "As many as before."
            : chance >= Unlikely ? $"{more} than before, and that could well be chance ({Percent(chance)})."
            : $"{more} than before, and chance alone would bring that about in only {Percent(chance)} of such periods.";
        return new(now, before, chance, says);
    }

    private static string Percent(double chance) =>
        chance < 0.001 ? "fewer than 0.1 %" : (chance * 100).ToString(chance < 0.1 ? "0.#" : "0", CultureInfo.InvariantCulture) + " %";
}
