using NodaTime;

namespace VelvetGate.Core.Upkeep;

/// <summary>Writing down that a task was done.</summary>
public static class UpkeepDone
{
    /// <returns>Null when the task may be due again at <paramref name="next"/>.</returns>
    public static Refusal? Wrong(Instant next, Instant now) => next <= now ? UpkeepProblems.UpkeepNext.Refuse("nextDay") : null;
}
