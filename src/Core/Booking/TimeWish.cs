using NodaTime;

namespace VelvetGate.Core.Booking;

/// <summary>When somebody can come; what is null leaves every time in.</summary>
/// <param name="After">No start before it.</param>
/// <param name="Before">No end after it.</param>
/// <param name="NotOn">Weekdays left out, by the day of the start.</param>
/// <param name="From">On each day, no start before it.</param>
/// <param name="To">On each day, no end after it; midnight is the end of the day.</param>
public sealed record TimeWish(
    Instant? After = null,
    Instant? Before = null,
    IReadOnlyList<IsoDayOfWeek>? NotOn = null,
    LocalTime? From = null,
    LocalTime? To = null
)
{
    public static readonly TimeWish Any = new();

    /// <summary>Both wishes at once.</summary>
    public TimeWish And(TimeWish other) =>
        new(
            After: Later(After, other.After),
            Before: Sooner(Before, other.Before),
            NotOn: (NotOn ?? []).Union(other.NotOn ?? []).Order().ToList() is { Count: > 0 } days ? days : null,
            From: Later(From, other.From),
            // The end of a day is the latest of its times.
            To: To == LocalTime.Midnight ? other.To ?? To
                : other.To == LocalTime.Midnight ? To ?? other.To
                : Sooner(To, other.To)
        );

    /// <summary>True when a time over <c>[start, end)</c> is wanted.</summary>
    public bool Allows(Instant start, Instant end, HouseClock clock)
    {
        if (start < After || end > Before)
            return false;
        if (NotOn is not { Count: > 0 } && From is null && To is null)
            return true;
        var at = clock.At(start).LocalDateTime;
        if (NotOn?.Contains(at.DayOfWeek) == true || at.TimeOfDay < From)
            return false;
        return To is not { } to || clock.At(end).LocalDateTime <= (to == LocalTime.Midnight ? at.Date.PlusDays(1).At(to) : at.Date.At(to));
    }

    /// <returns>Null when some time can be wanted so.</returns>
    public Refusal? Check() =>
        NotOn?.Count == 7 || Before <= After || (From is { } from && To is { } to && to != LocalTime.Midnight && to <= from)
            ? BookingProblems.WishEmpty.Refuse("words")
            : null;

    private static T? Later<T>(T? a, T? b)
        where T : struct, IComparable<T> => Nullable.Compare(a, b) >= 0 ? a : b;

    private static T? Sooner<T>(T? a, T? b)
        where T : struct, IComparable<T> =>
        a is null ? b
        : b is null ? a
        : Nullable.Compare(a, b) <= 0 ? a
        : b;
}
