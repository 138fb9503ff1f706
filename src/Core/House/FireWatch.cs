namespace VelvetGate.Core.House;

/// <summary>Watching after a flame, and after the last run of the day.</summary>
public static class FireWatch
{
    /// <summary>How long, in minutes. Hot-work codes and insurers ask for it (from memory); house practice.</summary>
    public const int Minutes = 60;

    /// <returns>Null when a house may watch for so long: shorter than usual only where its insurer has said so on paper.</returns>
    public static Refusal? MayLast(int minutes, string? paper) =>
        minutes < Minutes && string.IsNullOrWhiteSpace(paper) ? HouseProblems.WatchShort.Refuse("fireWatchPaper", Minutes) : null;
}
