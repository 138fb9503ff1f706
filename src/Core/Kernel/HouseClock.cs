using NodaTime;
using NodaTime.TimeZones;

namespace VelvetGate.Core.Kernel;

/// <summary>What a wall-clock time means as an instant. Closed: these are all the cases.</summary>
public abstract record LocalReading
{
    private LocalReading() { }

    /// <summary>One instant, as on nearly every day.</summary>
    public sealed record Once(Instant At) : LocalReading;

    /// <summary>The clocks went back: the time happens twice, and the person has to say which.</summary>
    public sealed record Twice(ZonedDateTime First, ZonedDateTime Second) : LocalReading;

    /// <summary>The clocks went forward over it: there is no such time. <paramref name="Next"/> is the first after the gap.</summary>
    public sealed record Missing(ZonedDateTime Next) : LocalReading;
}

/// <summary>The only place where a house's wall-clock time becomes an instant, strictly: never guessed.</summary>
public sealed class HouseClock(DateTimeZone zone)
{
    public DateTimeZone Zone { get; } = zone;

    /// <exception cref="DateTimeZoneNotFoundException">The tz database has no such zone.</exception>
    public static HouseClock For(string zoneId) => new(DateTimeZoneProviders.Tzdb[zoneId]);

    public LocalReading Read(LocalDateTime local)
    {
        var map = Zone.MapLocal(local);
        return map.Count switch
        {
            1 => new LocalReading.Once(map.First().ToInstant()),
            2 => new LocalReading.Twice(map.First(), map.Last()),
            _ => new LocalReading.Missing(map.LateInterval.Start.InZone(Zone)),
        };
    }

    public ZonedDateTime At(Instant instant) => instant.InZone(Zone);

    public LocalDate DateOf(Instant instant) => At(instant).Date;

    /// <summary>The instants of a local day from <paramref name="from"/> to <paramref name="to"/> on its wall clock.
    /// A doubled bound takes the wider reading, a missing one moves forward: opening hours are never shortened by a clock change.</summary>
    public Interval Between(LocalDate day, LocalTime from, LocalTime to)
    {
        var end = to == LocalTime.Midnight ? day.PlusDays(1).At(to) : day.At(to);
        return new Interval(Edge(day.At(from), first: true), Edge(end, first: false));
    }

    /// <summary>A whole local day: 23, 24 or 25 hours.</summary>
    public Interval Day(LocalDate day) => new(Zone.AtStartOfDay(day).ToInstant(), Zone.AtStartOfDay(day.PlusDays(1)).ToInstant());

    /// <summary>What the clocks do on a local day, in one sentence; null on nearly every day.</summary>
    public string? ChangeOn(LocalDate day)
    {
        var whole = Day(day);
        var change = Zone.GetZoneIntervals(whole.Start, whole.End).Skip(1).FirstOrDefault();
        if (change is null)
            return null;
        var (before, after) = (At(change.Start - Duration.Epsilon), At(change.Start));
        var wasAt = change.Start.WithOffset(before.Offset).TimeOfDay;
        return after.Offset > before.Offset
            ? $"The clocks go forward at {wasAt:HH:mm}: there is no {wasAt:HH:mm} to {after.TimeOfDay:HH:mm}; the next time is "
                + $"{after.TimeOfDay:HH:mm} {Name(after)}."
            : $"The clocks go back at {wasAt:HH:mm}: {after.TimeOfDay:HH:mm} to {wasAt:HH:mm} comes twice, first {Name(before)}, then "
                + $"{Name(after)}.";

        static string Name(ZonedDateTime at) => at.GetZoneInterval().Name;
    }

    private Instant Edge(LocalDateTime local, bool first) =>
        Read(local) switch
        {
            LocalReading.Once once => once.At,
            LocalReading.Twice twice => (first ? twice.First : twice.Second).ToInstant(),
            LocalReading.Missing missing => missing.Next.ToInstant(),
            _ => throw new InvalidOperationException("A reading without a case."),
        };
}
