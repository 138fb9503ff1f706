using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>A line of the house calendar on the wall clock: once, or again by an RFC 5545 rule.</summary>
/// <param name="Starts">Wall-clock start; <paramref name="Ends"/> of midnight, or before the start, is on the next day.</param>
/// <param name="Rule">Such as <c>FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270131</c>; null for once.</param>
/// <param name="Except">Days left out.</param>
public sealed record Recurrence(
    LocalDate FirstDay,
    LocalTime Starts,
    LocalTime Ends,
    string? Rule = null,
    IReadOnlyList<LocalDate>? Except = null
)
{
    /// <summary>How far ahead a calendar is written: a rota beyond it is not known.</summary>
    public const int HorizonDays = 400;

    public const int MostOccurrences = 1000;

    /// <summary>Steps of a rule without a day: the 30th of February is not looked for longer.</summary>
    internal const int MostEmptySteps = 1000;

    private static readonly HashSet<string> Frequencies = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"];

    /// <summary>
    /// Every occurrence as instants, in order. Wall-clock times stay the same across a clock change, so lengths in hours may differ by one.
    /// </summary>
    /// <returns>Or why the rule cannot be taken.</returns>
    public Result<IReadOnlyList<Interval>> Occurrences(HouseClock clock)
    {
        var until = FirstDay.PlusDays(HorizonDays);
        var days = Days(until);
        if (days.Refusal is { } refusal)
            return refusal;
        if (days.Value.Count == 0)
            return Bad("No day is left by this rule and its exceptions.");
        var last = UntilInstant();
        var times = days.Value.Select(day => Between(clock, day)).Where(i => i.Start < i.End && (last is null || i.Start <= last)).ToList();
        return times.Count == 0 ? Bad("No time is left by this rule.") : times;
    }

    /// <summary>An UNTIL that carries a time of day in UTC ends the line at that instant, not at its day.</summary>
    private Instant? UntilInstant()
    {
        var until = Rule
            ?.ToUpperInvariant()
            .Split(';')
            .Select(p => p.Trim())
            .FirstOrDefault(p => p.StartsWith("UNTIL=", StringComparison.Ordinal))
            ?[6..];
        return
            until is { Length: 16 }
            && NodaTime.Text.InstantPattern.CreateWithInvariantCulture("uuuuMMdd'T'HHmmss'Z'").Parse(until) is { Success: true } at
            ? at.Value
            : null;
    }

    private Interval Between(HouseClock clock, LocalDate day) =>
        Ends > Starts || Ends == LocalTime.Midnight
            ? clock.Between(day, Starts, Ends)
            : new Interval(
                clock.Between(day, Starts, LocalTime.Midnight).Start,
                clock.Between(day.PlusDays(1), LocalTime.Midnight, Ends).End
            );

    private Result<List<LocalDate>> Days(LocalDate until)
    {
        var except = (Except ?? []).ToHashSet();
        if (string.IsNullOrWhiteSpace(Rule))
            return new[] { FirstDay }.Where(d => !except.Contains(d)).ToList();
        RecurrenceRule rule;
        try
        {
            rule = new RecurrenceRule(Rule.Trim());
        }
        catch (Exception e) when (e is ArgumentException or FormatException or InvalidOperationException or OverflowException)
        {
            return Bad("Write the rule like FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270131 (RFC 5545).");
        }
        var frequency = Rule.ToUpperInvariant()
            .Split(';')
            .Select(p => p.Trim())
            .FirstOrDefault(p => p.StartsWith("FREQ=", StringComparison.Ordinal))
            ?[5..];
        if (frequency is null || !Frequencies.Contains(frequency))
            return Bad("It comes again daily, weekly, monthly or yearly.");
        if (rule.Count is null && rule.Until is null)
            return Bad($"Give a last day: a calendar is written at most {HorizonDays} days ahead.");
        // Only the days are taken from the rule; the house clock makes instants of them.
        var entry = new CalendarEvent { Start = Day(FirstDay), RecurrenceRule = rule };
        List<LocalDate> days;
        try
        {
            days =
            [
                .. entry
                    .GetOccurrences(Day(FirstDay), new EvaluationOptions { MaxUnmatchedIncrementsLimit = MostEmptySteps })
                    .Select(o => LocalDate.FromDateOnly(o.Period.StartTime.Date))
                    .TakeWhile(d => d <= until)
                    .Take(MostOccurrences + 1)
                    .Where(d => !except.Contains(d)),
            ];
        }
        catch (EvaluationLimitExceededException)
        {
            return Bad("This rule comes on no day.");
        }
        return days.Count > MostOccurrences ? Bad($"That is more than {MostOccurrences} times.") : days;
    }

    private static readonly Dictionary<string, string> DayNames = new()
    {
        ["MO"] = "Monday",
        ["TU"] = "Tuesday",
        ["WE"] = "Wednesday",
        ["TH"] = "Thursday",
        ["FR"] = "Friday",
        ["SA"] = "Saturday",
        ["SU"] = "Sunday",
    };

    /// <summary>
    /// The line in words, such as “every Saturday, 10:00 to 12:30, until 6 Feb 2027”; parts it has no words for are quoted.
    /// </summary>
    public string Words()
    {
        var time = $"{Starts:HH:mm} to {Ends:HH:mm}";
        if (Starts == Ends)
            time = "all day";
        if (string.IsNullOrWhiteSpace(Rule))
            return $"{Date(FirstDay)}, {time}";
        var parts = Rule.ToUpperInvariant()
            .Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(p => p.Split('=', 2))
            .Where(p => p.Length == 2)
            .ToDictionary(p => p[0], p => p[1]);
        var unit = parts.GetValueOrDefault("FREQ") switch
        {
            "DAILY" => "day",
            "WEEKLY" => "week",
            "MONTHLY" => "month",
            _ => "year",
        };
        var every = parts.GetValueOrDefault("INTERVAL") is { } n && n != "1" ? $"every {n} {unit}s" : $"every {unit}";
        if (parts.TryGetValue("BYDAY", out var days) && days.Split(',') is { } names && names.All(DayNames.ContainsKey))
            every =
                every == "every week"
                    ? $"every {string.Join(" and ", names.Select(d => DayNames[d]))}"
                    : $"{every} on {string.Join(" and ", names.Select(d => DayNames[d]))}";
        else if (days is not null)
            every += $" on {days}";
        var last =
            parts.GetValueOrDefault("UNTIL") is { Length: >= 8 } until
            && NodaTime.Text.LocalDatePattern.CreateWithInvariantCulture("uuuuMMdd").Parse(until[..8]) is { Success: true } day
                ? $", until {Date(day.Value)}"
                : "";
        var times = parts.TryGetValue("COUNT", out var count) ? $", {count} times" : "";
        return $"{every}, {time}{last}{times}";
    }

    private static string Date(LocalDate day) => day.ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture);

    private static CalDateTime Day(LocalDate day) => new(day.Year, day.Month, day.Day);

    /// <returns>Those of the times that are not over; refused when all are.</returns>
    public static Result<IReadOnlyList<Interval>> Coming(IEnumerable<Interval> times, Instant now)
    {
        var coming = times.Where(t => t.End > now).ToList();
        return coming.Count == 0 ? HouseProblems.CalendarPast.Refuse("firstDay") : coming;
    }

    private static Refusal Bad(string text) => new(HouseProblems.CalendarRule, text, "rule");
}
