using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>A machine on which nothing ran for long. How long that is, is a house rule.</summary>
public static class Breaks
{
    /// <summary>When a machine was last used, as far as a break goes; null where nothing is known.</summary>
    /// <param name="ran">End of its last run.</param>
    /// <param name="looked">When it was last looked at after a break.</param>
    public static Instant? LastUse(Instant? ran, Instant? looked, SetUpFacts setUp) => new[] { ran, looked, setUp.On }.Max();

    /// <param name="used">When something last ran on it, it was set up, or looked at after a break; null where none is known, which the
    /// missing commissioning sheet says.</param>
    public static bool IsAfter(Instant? used, Instant now, HouseRules rules) =>
        used is { } last && now - last > Duration.FromDays(rules.BreakDays);
}
