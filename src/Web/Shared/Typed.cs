using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Web.Shared;

/// <summary>Days that people type, as the instants they mean.</summary>
internal static class Days
{
    /// <summary>The end of a last day on the house's calendar.</summary>
    public static Instant? LastDay(string? text, string field, HouseRules rules, FieldErrors errors) =>
        Day(text, field, errors) is { } day ? new LastDay(day).End(rules.Clock) : null;

    public static LocalDate? Day(string? text, string field, FieldErrors errors)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var parsed = NodaTime.Text.LocalDatePattern.Iso.Parse(text.Trim());
        if (parsed is { Success: true, Value.Year: > 1900 and < 2200 })
            return parsed.Value;
        errors.Add(field, $"“{text}” is not a date. Write it like 2027-05-31.");
        return null;
    }
}

/// <summary>What people type.</summary>
internal static class Texts
{
    internal static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
