namespace VelvetGate.Core.Upkeep;

/// <summary>What is refused about the upkeep of machines, each once.</summary>
public static class UpkeepProblems
{
    public static readonly Problem UpkeepNext = new("upkeep.next", ProblemKind.Invalid, "It is due next on a day to come.");

    public static readonly Problem UpkeepNextUnread = new("upkeep.next", ProblemKind.Invalid, "Write the day like 2027-01-15.");
}
