using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using NodaTime;

namespace VelvetGate.Core.House.Calendars;

/// <summary>One time as a calendar elsewhere shows it.</summary>
/// <param name="Uid">The same for the same thing, whatever becomes of it.</param>
/// <param name="Sequence">Grows with each change.</param>
/// <param name="ChangedAt">Last change of the thing, not of the file.</param>
/// <param name="Day">Of what takes a whole day; its times are not told then.</param>
public sealed record FeedEntry(
    string Uid,
    Instant Start,
    Instant End,
    string Title,
    string Description,
    string Location,
    bool Cancelled,
    int Sequence,
    Instant ChangedAt,
    LocalDate? Day = null
);

/// <summary>Times as an iCalendar file (RFC 5545): with the zone of the house, what was cancelled as cancelled.</summary>
public static class FeedCalendar
{
    /// <summary>Other calendars are asked to look again so often (RFC 7986, 5.7).</summary>
    private const string LookAgain = "PT30M";
    private const string Utc = "UTC";

    private const string End = "END:VCALENDAR";

    /// <param name="name">What a calendar elsewhere calls the feed.</param>
    /// <param name="written">What was written before; null writes each anew.</param>
    public static string Write(string name, string zoneId, IReadOnlyList<FeedEntry> entries, WrittenEntries? written = null)
    {
        var calendar = new Calendar { ProductId = "-//Velvet Gate//Machine time//EN", Scale = "GREGORIAN" };
        calendar.AddProperty("NAME", name);
        calendar.AddProperty("REFRESH-INTERVAL;VALUE=DURATION", LookAgain);
        if (zoneId != Utc)
            calendar.AddTimeZone(VTimeZone.FromDateTimeZone(zoneId));
        var zone = DateTimeZoneProviders.Tzdb[zoneId];
        var head = new CalendarSerializer().SerializeToString(calendar)!;
        var end = head.LastIndexOf(End, StringComparison.Ordinal);
        var text = new StringBuilder(head, 0, end, head.Length + 300 * entries.Count);
        foreach (var entry in entries)
            text.Append(written is null ? Text(entry, zone) : written.Of(zoneId, entry, e => Text(e, zone)));
        return text.Append(head, end, head.Length - end).ToString();
    }

    private static string Text(FeedEntry entry, DateTimeZone zone) =>
        new ComponentSerializer().SerializeToString(Event(entry, zone))!.TrimEnd() + "\r\n";

    private static CalendarEvent Event(FeedEntry entry, DateTimeZone zone) =>
        new()
        {
            Uid = entry.Uid,
            DtStamp = Of(entry.ChangedAt.InUtc().LocalDateTime, Utc),
            Start = entry.Day is { } first ? new CalDateTime(first.ToDateOnly()) : Local(entry.Start, zone),
            End = entry.Day is { } last ? new CalDateTime(last.PlusDays(1).ToDateOnly()) : Local(entry.End, zone),
            Summary = entry.Title,
            Description = entry.Description.Length > 0 ? entry.Description : null,
            Location = entry.Location.Length > 0 ? entry.Location : null,
            Sequence = entry.Sequence,
            Status = entry.Cancelled ? "CANCELLED" : "CONFIRMED",
            Transparency = entry.Cancelled || entry.Day is not null ? TransparencyType.Transparent : TransparencyType.Opaque,
        };

    /// <summary>On the wall clock of the house; the hour that comes twice in UTC, for no file tells which of both it is.</summary>
    private static CalDateTime Local(Instant at, DateTimeZone zone)
    {
        var local = at.InZone(zone).LocalDateTime;
        return zone.MapLocal(local).Count == 1 ? Of(local, zone.Id) : Of(at.InUtc().LocalDateTime, Utc);
    }

    private static CalDateTime Of(LocalDateTime at, string zone) => new(at.Date.ToDateOnly(), at.TimeOfDay.ToTimeOnly(), zone);
}
