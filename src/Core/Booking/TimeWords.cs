using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;
using NodaTime.Text;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Booking;

/// <summary>When somebody can come, as they say it: “after 17:00, not Saturdays, before 3 December”.</summary>
public static partial class TimeWords
{
    /// <summary>Longer than anybody says when they can come.</summary>
    public const int Longest = 200;

    private static readonly LocalTime Noon = new(12, 0);
    private static readonly LocalTime Evening = new(18, 0);

    private static readonly IReadOnlyList<LocalDatePattern> Dates =
    [
        .. new[] { "uuuu-MM-dd", "d MMMM uuuu", "d MMM uuuu", "MMMM d uuuu", "MMM d uuuu" }.Select(p =>
            LocalDatePattern.CreateWithInvariantCulture(p)
        ),
    ];

    /// <summary>Reads each phrase; phrases are parted by commas, <c>and</c> or <c>but</c>.</summary>
    /// <returns>The wish, or which phrase was not understood.</returns>
    public static Result<TimeWish> Read(string? words, Instant now, HouseClock clock)
    {
        var wish = TimeWish.Any;
        // “not Saturdays and Sundays” leaves both out.
        var text = DayAndDay().Replace(Between().Replace((words ?? "").ToLowerInvariant(), "$1 to $2"), "$1 or ");
        foreach (var phrase in Parting().Split(text).Select(p => p.Trim().TrimEnd('.')).Where(p => p.Length > 0))
        {
            if (Phrase(phrase, clock.DateOf(now), clock) is not { } read)
                return BookingProblems.WishWords.Refuse("words", phrase);
            wish = wish.And(read);
        }
        return wish.Check() is { } refusal ? refusal : wish;
    }

    /// <summary>The wish in the house’s own words, so that nobody is misunderstood unseen.</summary>
    public static string Says(TimeWish wish, Instant now, Instant until, HouseRules rules)
    {
        var from = wish.After is { } after && after > now ? after : now;
        var to = wish.Before is { } before && before < until ? before : until;
        var parts = new List<string> { $"from {HouseDates.Moment(from, rules)} to {HouseDates.Moment(to, rules)}" };
        if (wish.From is { } opens)
            parts.Add($"no start before {opens:HH:mm}");
        if (wish.To is { } closes)
            parts.Add(closes == LocalTime.Midnight ? "to the end of the day" : $"done by {closes:HH:mm}");
        if (wish.NotOn is { Count: > 0 } days)
            parts.Add($"{string.Join(", ", days)} left out");
        return string.Join(", ", parts);
    }

    private static TimeWish? Phrase(string phrase, LocalDate today, HouseClock clock) =>
        phrase switch
        {
            "today" => On(today, clock),
            "tomorrow" => On(today.PlusDays(1), clock),
            "this week" => Week(today, clock),
            "next week" => Week(today.PlusDays(7), clock),
            "morning" or "mornings" or "in the morning" => new TimeWish(To: Noon),
            "afternoon" or "afternoons" or "in the afternoon" => new TimeWish(From: Noon, To: Evening),
            "evening" or "evenings" or "in the evening" => new TimeWish(From: Evening),
            _ => Hours(phrase) ?? Days(phrase) ?? Dated(phrase, today, clock),
        };

    private static TimeWish? Hours(string phrase)
    {
        if (FromTo().Match(phrase) is { Success: true } both)
            return Time(both.Groups[1].Value) is { } from && Time(both.Groups[2].Value) is { } to ? new TimeWish(From: from, To: to) : null;
        if (OneHour().Match(phrase) is not { Success: true } one || Time(one.Groups[2].Value) is not { } time)
            return null;
        return one.Groups[1].Value is "after" or "from" ? new TimeWish(From: time) : new TimeWish(To: time);
    }

    /// <summary>“not Saturdays or Sundays”, “only weekdays”, “Fridays”.</summary>
    private static TimeWish? Days(string phrase)
    {
        var not = Not().Match(phrase);
        var bare = not.Success ? phrase[not.Length..] : Only().Replace(phrase, "");
        var days = new List<IsoDayOfWeek>();
        foreach (var word in Or().Split(bare))
        {
            if (Named(word.Trim()) is not { } named)
                return null;
            days.AddRange(named);
        }
        // One day by its name alone is the next such day: said of dates, not of every week.
        if (!not.Success && !Only().IsMatch(phrase) && !bare.EndsWith('s'))
            return null;
        var all = Enum.GetValues<IsoDayOfWeek>().Where(d => d != IsoDayOfWeek.None);
        return new TimeWish(NotOn: [.. (not.Success ? days : all.Except(days)).Distinct().Order()]);
    }

    private static IReadOnlyList<IsoDayOfWeek>? Named(string word) =>
        word switch
        {
            "weekend" or "weekends" => [IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday],
            "weekday" or "weekdays" =>
            [
                IsoDayOfWeek.Monday,
                IsoDayOfWeek.Tuesday,
                IsoDayOfWeek.Wednesday,
                IsoDayOfWeek.Thursday,
                IsoDayOfWeek.Friday,
            ],
            _ => Weekday(word.TrimEnd('s')) is { } day ? [day] : null,
        };

    /// <summary>A weekday by its first three letters or more; null for any other word.</summary>
    public static IsoDayOfWeek? Weekday(string word) =>
        word.Length >= 3
            ? Enum.GetValues<IsoDayOfWeek>()
                .Where(d => d != IsoDayOfWeek.None && $"{d}".StartsWith(word, StringComparison.OrdinalIgnoreCase))
                .Select(d => (IsoDayOfWeek?)d)
                .FirstOrDefault()
            : null;

    private static TimeWish? Dated(string phrase, LocalDate today, HouseClock clock)
    {
        var match = Prefix().Match(phrase);
        if (Date(phrase[match.Length..].Trim(), today) is not { } day)
            return null;
        var whole = clock.Day(day);
        return match.Groups[1].Value switch
        {
            "before" => new TimeWish(Before: whole.Start),
            "after" => new TimeWish(After: whole.End),
            "from" or "since" => new TimeWish(After: whole.Start),
            "until" or "till" or "by" or "to" => new TimeWish(Before: whole.End),
            _ => On(day, clock),
        };
    }

    /// <summary>A date without its year is the next such day.</summary>
    private static LocalDate? Date(string text, LocalDate today)
    {
        if (text is "today" or "tomorrow")
            return text == "today" ? today : today.PlusDays(1);
        if (Weekday(text) is { } weekday)
            return today.DayOfWeek == weekday ? today : today.Next(weekday);
        var proper = CultureInfo.InvariantCulture.TextInfo.ToTitleCase(Ordinal().Replace(text, "$1"));
        foreach (var pattern in Dates)
        {
            if (pattern.Parse(proper) is { Success: true, Value: var whole })
                return whole;
            if (pattern.Parse($"{proper} {today.Year}") is { Success: true, Value: var near })
                return near < today && pattern.Parse($"{proper} {today.Year + 1}") is { Success: true, Value: var next } ? next : near;
        }
        return null;
    }

    private static LocalTime? Time(string text)
    {
        var parts = text.Split(':', '.');
        var hour = int.Parse(parts[0], CultureInfo.InvariantCulture);
        var minute = parts.Length > 1 ? int.Parse(parts[1], CultureInfo.InvariantCulture) : 0;
        return hour == 24 && minute == 0 ? LocalTime.Midnight
            : hour < 24 && minute < 60 ? new LocalTime(hour, minute)
            : null;
    }

    private static TimeWish On(LocalDate day, HouseClock clock) => new(After: clock.Day(day).Start, Before: clock.Day(day).End);

    private static TimeWish Week(LocalDate of, HouseClock clock)
    {
        var monday = of.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
        return new TimeWish(After: clock.Day(monday).Start, Before: clock.Day(monday.PlusDays(6)).End);
    }

    [GeneratedRegex(@"between (\S+) and (\S+)")]
    private static partial Regex Between();

    [GeneratedRegex(
        @"\b((?:mon|tue|wed|thu|fri|sat|sun)\w*|weekends?|weekdays?)(?:,| and)\s+(?=mon|tue|wed|thu|fri|sat|sun|weekend|weekday)"
    )]
    private static partial Regex DayAndDay();

    [GeneratedRegex(@"[,;]|\band\b|\bbut\b")]
    private static partial Regex Parting();

    [GeneratedRegex(@"^(?:from )?(\d{1,2}(?:[:.]\d{2})?) ?(?:to|until|-|–) ?(\d{1,2}[:.]\d{2})$")]
    private static partial Regex FromTo();

    [GeneratedRegex(@"^(after|from|before|until|till|by) (\d{1,2}(?:[:.]\d{2})?)$")]
    private static partial Regex OneHour();

    [GeneratedRegex(@"^not (?:on |at )?")]
    private static partial Regex Not();

    [GeneratedRegex(@"^only (?:on |at )?|^on (?=\w+s$)| only$")]
    private static partial Regex Only();

    [GeneratedRegex(@"\bor\b|/")]
    private static partial Regex Or();

    [GeneratedRegex(@"^(before|after|from|since|until|till|by|to|on)? ?")]
    private static partial Regex Prefix();

    [GeneratedRegex(@"(\d)(?:st|nd|rd|th)\b")]
    private static partial Regex Ordinal();
}
