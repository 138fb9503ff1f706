using System.Globalization;
using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>Times as the house writes them: 24 h, weekday and day first.</summary>
public static class HouseDates
{
    public static string Day(LocalDate day) => day.ToString("d MMM uuuu", CultureInfo.InvariantCulture);

    public static string Day(Instant at, HouseRules rules) => Day(at, rules.Clock);

    public static string Day(Instant at, HouseClock clock) => Day(clock.DateOf(at));

    /// <summary>The last day of what ends at an instant that no longer belongs to it, as papers print it.</summary>
    public static string LastDay(Instant end, HouseRules rules) => Kernel.LastDay.Before(end, rules.Clock).ToString();

    public static string Moment(Instant at, HouseRules rules) =>
        rules.Clock.At(at).ToString("ddd d MMM HH:mm", CultureInfo.InvariantCulture);
}
