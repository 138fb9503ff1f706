using System.Globalization;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
using NodaTime;
using NodaTime.TimeZones;

namespace VelvetGate.Core.House.Calendars;

/// <summary>A closure of a file, as it would stand in the calendar of the house.</summary>
/// <param name="Uid">Its id in the file.</param>
/// <param name="Times">Those to come, in order, none over another.</param>
/// <param name="When">The first of them on the wall clock.</param>
/// <param name="Endless">It goes on in the file; written as far ahead as the calendar goes.</param>
public sealed record ClosureLine(string Uid, string Title, IReadOnlyList<Interval> Times, Recurrence When, string Says, bool Endless);

/// <summary>A line of the file that is not taken, and why.</summary>
public sealed record ClosureLeft(string Title, string Why);

public sealed record ClosuresRead(IReadOnlyList<ClosureLine> Lines, IReadOnlyList<ClosureLeft> Left);

/// <summary>
/// Closures from a calendar file (RFC 5545). Whatever somebody sends: what cannot be read is named and left out, nothing is guessed, and
/// no rule is followed further than the calendar goes.
/// </summary>
public static class ClosureFile
{
    /// <summary>A calendar of closures is small; ten times this is a mistake.</summary>
    public const int LongestFile = 1_000_000;

    public const int MostLines = 1000;

    /// <summary>An hour that comes twice ends a closure the second time: rather closed too long.</summary>
    private static readonly ZoneLocalMappingResolver LateEnd = Resolvers.CreateMappingResolver(
        Resolvers.ReturnLater,
        Resolvers.ReturnForwardShifted
    );

    /// <returns>What would be taken and what not; refused when it is no calendar at all.</returns>
    public static Result<ClosuresRead> Read(string text, HouseClock clock, Instant now)
    {
        if (text.Length > LongestFile)
            return HouseProblems.FileTooLong.Refuse("text", LongestFile / 1000);
        if (Load(text) is not { } events || events.Count == 0)
            return HouseProblems.FileNoCalendar.Refuse("text");
        if (events.Count > MostLines)
            return HouseProblems.FileManyLines.Refuse("text", MostLines);
        var lines = new List<ClosureLine>();
        var left = new List<ClosureLeft>();
        // A changed time of a line that repeats is an event of its own with the same id.
        foreach (
            var group in events.GroupBy(e => string.IsNullOrWhiteSpace(e.Uid) ? Guid.NewGuid().ToString() : e.Uid, StringComparer.Ordinal)
        )
        {
            var line = Line(group.Key, [.. group], clock, now);
            if (line.Refusal is { } refusal)
                left.Add(new ClosureLeft(Title(group.First()), refusal.Text));
            else
                lines.Add(line.Value);
        }
        return new ClosuresRead([.. lines.OrderBy(l => l.Times[0].Start)], left);
    }

    private static List<CalendarEvent>? Load(string text)
    {
        try
        {
            return [.. CalendarCollection.Load(text).SelectMany(c => c.Events)];
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The reader throws whatever it stumbles over; all of it means the same here.
            return null;
        }
    }

    private static Result<ClosureLine> Line(string uid, IReadOnlyList<CalendarEvent> events, HouseClock clock, Instant now)
    {
        var first = events[0];
        foreach (var e in events)
        {
            if (Against(e) is { } why)
                return HouseProblems.FileLine.Refuse(null, why);
        }
        if (string.Equals(first.Status, "CANCELLED", StringComparison.OrdinalIgnoreCase))
            return HouseProblems.FileLine.Refuse(null, "It is cancelled in the file.");
        var until = clock.Day(clock.DateOf(now).PlusDays(Recurrence.HorizonDays)).End;
        List<Interval> times;
        bool more;
        try
        {
            (times, more) = Times(events, clock, until);
        }
        catch (EvaluationLimitExceededException)
        {
            return HouseProblems.FileLine.Refuse(null, "Its rule comes on no day.");
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            return HouseProblems.FileLine.Refuse(null, "Its rule cannot be followed.");
        }
        if (times.Count > Recurrence.MostOccurrences)
            return HouseProblems.FileLine.Refuse(null, $"That is more than {Recurrence.MostOccurrences} times.");
        var coming = Joined(times.Where(t => t.End > now));
        if (coming.Count == 0)
            return HouseProblems.FileLine.Refuse(null, "All of it is past.");
        var endless = more && first.RecurrenceRule is { Count: null, Until: null };
        return new ClosureLine(uid, Title(first), coming, When(coming[0], clock), Says(coming, endless, clock), endless);
    }

    /// <returns>Why an event is not taken; null when it may be.</returns>
    private static string? Against(CalendarEvent e)
    {
        if (e.Start is not { } start)
            return "Its start is missing.";
        foreach (var at in new[] { start, e.End }.OfType<CalDateTime>())
        {
            if (at is { HasTime: true, IsUtc: false, TzId: { } zone } && DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) is null)
                return $"Its time zone “{Short(zone)}” is not known here. Write it as Europe/London is written.";
        }
        if (e.End is { } end && (end.HasTime != start.HasTime || (end.TzId == start.TzId && Local(end) < Local(start))))
            return "It ends before it starts.";
        if (start.HasTime && e.End is null && e.Duration is null)
            return "Its end is missing.";
        return e.RecurrenceRule?.Frequency < FrequencyType.Daily ? "It comes again more often than daily." : null;
    }

    private static (List<Interval> Times, bool More) Times(IReadOnlyList<CalendarEvent> events, HouseClock clock, Instant until)
    {
        var calendar = new Ical.Net.Calendar();
        foreach (var e in events)
            calendar.Events.Add(e);
        var from = events.Min(e => Local(e.Start!).Date).PlusDays(-2);
        var times = new List<Interval>();
        var more = false;
        foreach (
            var found in calendar.GetOccurrences<CalendarEvent>(
                new CalDateTime(from.Year, from.Month, from.Day),
                new EvaluationOptions { MaxUnmatchedIncrementsLimit = Recurrence.MostEmptySteps }
            )
        )
        {
            var start = At(found.Period.StartTime, clock, Resolvers.LenientResolver);
            more = start >= until;
            if (more || times.Count > Recurrence.MostOccurrences)
                break;
            var end = found.Period.EffectiveEndTime is { } e ? At(e, clock, LateEnd) : clock.Day(clock.DateOf(start)).End;
            if (
                found.Source is CalendarEvent { Status: { } status }
                && string.Equals(status, "CANCELLED", StringComparison.OrdinalIgnoreCase)
            )
                continue;
            if (end > start)
                times.Add(new Interval(start, end));
        }
        return (times, more);
    }

    /// <summary>A day without a time, and a time without a zone, are the house’s own.</summary>
    private static Instant At(CalDateTime at, HouseClock clock, ZoneLocalMappingResolver twice)
    {
        var local = Local(at);
        if (!at.HasTime)
            return clock.Day(local.Date).Start;
        if (at.IsUtc)
            return local.InUtc().ToInstant();
        return local.InZone(at.TzId is { } zone ? DateTimeZoneProviders.Tzdb[zone] : clock.Zone, twice).ToInstant();
    }

    private static LocalDateTime Local(CalDateTime at) =>
        LocalDate.FromDateOnly(at.Date).At(at.Time is { } time ? LocalTime.FromTimeOnly(time) : LocalTime.Midnight);

    private static List<Interval> Joined(IEnumerable<Interval> times)
    {
        var joined = new List<Interval>();
        foreach (var time in times.OrderBy(t => t.Start))
        {
            if (joined.Count > 0 && time.Start <= joined[^1].End)
                joined[^1] = new Interval(joined[^1].Start, Instant.Max(joined[^1].End, time.End));
            else
                joined.Add(time);
        }
        return joined;
    }

    private static Recurrence When(Interval first, HouseClock clock)
    {
        var (start, end) = (clock.At(first.Start).LocalDateTime, clock.At(first.End).LocalDateTime);
        return new Recurrence(start.Date, start.TimeOfDay, end.TimeOfDay);
    }

    private static string Says(IReadOnlyList<Interval> times, bool endless, HouseClock clock)
    {
        var first = Says(times[0], clock);
        if (times.Count == 1)
            return first;
        var last = clock.At(times[^1].Start).ToString("d MMM uuuu", CultureInfo.InvariantCulture);
        return $"{times.Count} times from {first}, the last on {last}{(endless ? "; it goes on in the file" : "")}";
    }

    private static string Says(Interval time, HouseClock clock)
    {
        var (start, end) = (clock.At(time.Start), clock.At(time.End));
        var whole = start.TimeOfDay == LocalTime.Midnight && end.TimeOfDay == LocalTime.Midnight;
        var last = whole ? end.Date.PlusDays(-1) : end.Date;
        var (a, b) = (Day(start.Date), Day(last));
        if (whole)
            return start.Date == last ? $"{a}, all day" : $"{a} to {b}, all day";
        return start.Date == last
            ? $"{a}, {start.TimeOfDay:HH:mm} to {end.TimeOfDay:HH:mm}"
            : $"{a} {start.TimeOfDay:HH:mm} to {b} {end.TimeOfDay:HH:mm}";

        static string Day(LocalDate day) => day.ToString("d MMM uuuu", CultureInfo.InvariantCulture);
    }

    private static string Title(CalendarEvent e) => Short(string.IsNullOrWhiteSpace(e.Summary) ? "Closed" : e.Summary.Trim());

    private static string Short(string text) => text.Length <= 120 ? text : text[..119] + "…";
}
