namespace VelvetGate.Core.Materials;

/// <summary>Whether rulings say the same in the same words.</summary>
public sealed class SameWords : IEqualityComparer<Ruling>
{
    private static readonly SameWords Instance = new();

    /// <summary>Two states of one cell.</summary>
    public static bool InAll(IReadOnlyList<Ruling> before, IReadOnlyList<Ruling> after) =>
        before.OrderBy(r => r.MinMm).SequenceEqual(after.OrderBy(r => r.MinMm), Instance);

    /// <returns>Null when the change changes something.</returns>
    public static Refusal? Unchanged(
        RulingDirection direction,
        IEnumerable<(IReadOnlyList<Ruling> Before, IReadOnlyList<Ruling> After)> cells
    ) =>
        direction == RulingDirection.Same && cells.All(c => InAll(c.Before, c.After))
            ? MaterialsProblems.RulingSame.Refuse("ranges")
            : null;

    public bool Equals(Ruling? x, Ruling? y) =>
        x is not null && y is not null && x.Reasons.SequenceEqual(y.Reasons) && x with { Reasons = [] } == y with { Reasons = [] };

    public int GetHashCode(Ruling obj) => HashCode.Combine(obj.MaterialId, obj.MinMm);
}
