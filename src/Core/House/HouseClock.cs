using NodaTime;
using NodaTime.TimeZones;

namespace VelvetGate.Core.House;

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
    public Interval Day(LocalDate day) =>
        new(Zone.AtStartOfDay(day).ToInstant(), Zone.AtStartOfDay(day.PlusDays(1)).ToInstant());

    private Instant Edge(LocalDateTime local, bool first) => Read(local) switch
    {
        LocalReading.Once once => once.At,
        LocalReading.Twice twice => (first ? twice.First : twice.Second).ToInstant(),
        LocalReading.Missing missing => missing.Next.ToInstant(),
        _ => throw new InvalidOperationException("A reading without a case."),
    };
}
