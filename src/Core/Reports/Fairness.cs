namespace VelvetGate.Core.Reports;

/// <summary>How evenly something is spread over people, without saying who has how much.</summary>
public static class Fairness
{
    /// <summary>So many people at the top.</summary>
    public const int Top = 10;

    /// <summary>
    /// The Gini coefficient: 0 where all have the same, towards 1 where one has everything. Mean difference of all pairs over twice the
    /// mean: C. Gini, <i>Variabilità e mutabilità</i>, 1912, computed over the sorted values.
    /// </summary>
    /// <param name="amounts">None below zero.</param>
    /// <returns>Null for nobody, and where nobody has anything.</returns>
    public static double? Gini(IReadOnlyCollection<double> amounts)
    {
        var total = amounts.Sum();
        if (amounts.Count == 0 || total <= 0)
            return null;
        var weighted = amounts.Order().Select((x, i) => (i + 1) * x).Sum();
        return 2 * weighted / (amounts.Count * total) - (amounts.Count + 1.0) / amounts.Count;
    }

    /// <summary>The share of all that the ten who have most hold together, 0 to 1.</summary>
    /// <returns>Null where nobody has anything.</returns>
    public static double? TopShare(IReadOnlyCollection<double> amounts)
    {
        var total = amounts.Sum();
        return total <= 0 ? null : amounts.OrderDescending().Take(Top).Sum() / total;
    }
}
