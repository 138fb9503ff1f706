using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>
/// A job so small that whole checks and a whole clean-down would be most of its time: tested settings, plain stock, ten minutes of runs at
/// most. House practice; a house says whether it has them.
/// </summary>
public static class ShortJob
{
    public const decimal RunMinutes = 10;
    public const decimal ChecksMinutes = 5;
    public const decimal CleanDownMinutes = 5;
    public const int SlotMinutes = 15;

    /// <param name="runs">Minutes of each item; null where nobody knows.</param>
    public static bool Is(HouseRules rules, IReadOnlyList<decimal?> runs, bool heavyResidue, int untested, int changeovers) =>
        rules.ShortJobs && !heavyResidue && untested == 0 && changeovers == 0 && !runs.Contains(null) && runs.Sum() <= RunMinutes;
}
