using System.Globalization;
using NodaTime;

namespace VelvetGate.Core.Kernel;

/// <summary>A day until and including which something holds: it ends as the next day of the house begins.</summary>
public readonly record struct LastDay(LocalDate Date)
{
    /// <summary>The last day of what ends at an instant that no longer belongs to it.</summary>
    public static LastDay Before(Instant end, HouseClock clock) => new(clock.DateOf(end - Duration.Epsilon));

    /// <summary>From here on it holds no more: 23, 24 or 25 hours after its last day began.</summary>
    public Instant End(HouseClock clock) => clock.Day(Date).End;

    /// <summary>As papers print it.</summary>
    public override string ToString() => Date.ToString("d MMM uuuu", CultureInfo.InvariantCulture);
}
