namespace VelvetGate.Core.House;

/// <summary>Watching after a flame, and after the last run of the day.</summary>
public static class FireWatch
{
    /// <summary>How long, in minutes. Hot-work codes and insurers ask for it (from memory); house practice.</summary>
    public const int Minutes = 60;
}
