namespace VelvetGate.Core.Booking;

/// <summary>A run that many have made.</summary>
/// <param name="What">As a member would say it.</param>
public sealed record TypicalRun(string What, int Minutes);

/// <summary>What to take for a run that nobody has estimated: not knowing is not nothing. Source: common practice.</summary>
public static class TypicalRuns
{
    public static readonly IReadOnlyList<TypicalRun> All =
    [
        new("a small job in card", 15),
        new("a full sheet of card, a dozen cuts", 20),
        new("many parts in thick acrylic", 120),
    ];
}
