using NodaTime;
using NodaTime.Text;

namespace VelvetGate.Core.Kernel;

/// <summary>What people and programs type, as what it means; null where it means nothing. Who asks says what to type instead.</summary>
public static class Typed
{
    private static readonly LocalTimePattern Minutes = LocalTimePattern.CreateWithInvariantCulture("HH:mm");

    /// <summary>A day of the calendar (ISO 8601), such as 2027-05-31, of these centuries: a slip of the keys is none.</summary>
    public static LocalDate? Day(string? text) =>
        LocalDatePattern.Iso.Parse(text?.Trim() ?? "") is { Success: true, Value.Year: > 1900 and < 2200 } day ? day.Value : null;

    /// <summary>A time of day to the minute, such as 09:30.</summary>
    public static LocalTime? Time(string? text) => Minutes.Parse(text?.Trim() ?? "") is { Success: true } time ? time.Value : null;

    /// <summary>A moment with its offset (RFC 3339): without one it could be two.</summary>
    public static Instant? Moment(string? text) =>
        OffsetDateTimePattern.Rfc3339.Parse(text?.Trim() ?? "") is { Success: true } moment ? moment.Value.ToInstant() : null;

    /// <summary>A word of an enumeration in any letters: no number, and no two words that the framework would add up.</summary>
    public static T? Word<T>(string? text)
        where T : struct, Enum =>
        Enum.GetValues<T>().Cast<T?>().FirstOrDefault(v => string.Equals(v.ToString(), text?.Trim(), StringComparison.OrdinalIgnoreCase));
}
