using System.Text;
using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>A machine's times as the plainest calendar file, and asked times played by trying each against all before it. Frozen; shares no code with the application.</summary>
public static class UseBaseline
{
    public static async Task<string> Feed(NpgsqlDataSource db, string machine, DateTime from, DateTime to)
    {
        await using var command = db.CreateCommand("select id, lower(during), upper(during) from booking.booking where machine_id = $1 and during && tstzrange($2, $3) order by 2");
        command.Parameters.AddWithValue(machine);
        command.Parameters.AddWithValue(from);
        command.Parameters.AddWithValue(to);
        var text = new StringBuilder("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//baseline//EN\r\n");
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
            text.Append("BEGIN:VEVENT\r\nUID:booking-").Append(reader.GetGuid(0)).Append("@velvet-gate\r\nDTSTART:").Append(reader.GetDateTime(1).ToString("yyyyMMdd'T'HHmmss'Z'"))
                .Append("\r\nDTEND:").Append(reader.GetDateTime(2).ToString("yyyyMMdd'T'HHmmss'Z'")).Append("\r\nSUMMARY:booked\r\nEND:VEVENT\r\n");
        return text.Append("END:VCALENDAR\r\n").ToString();
    }

    public sealed record Asked(string Person, string Machine, DateTime At, DateTime Start, int Minutes);

    /// <summary>How many are served in the order of asking, with so many hours a person a day and week; London's winter is UTC.</summary>
    public static int Served(IEnumerable<Asked> asked, double hoursDay, double hoursWeek)
    {
        var served = new List<Asked>();
        foreach (var a in asked.OrderBy(a => a.At).ThenBy(a => a.Start))
        {
            var end = a.Start.AddMinutes(a.Minutes);
            if (served.Any(s => (s.Machine == a.Machine || s.Person == a.Person) && s.Start < end && a.Start < s.Start.AddMinutes(s.Minutes))) continue;
            if (Hours(served, a.Person, s => s.Date == a.Start.Date) + a.Minutes / 60.0 > hoursDay) continue;
            if (Hours(served, a.Person, s => Monday(s) == Monday(a.Start)) + a.Minutes / 60.0 > hoursWeek) continue;
            served.Add(a);
        }
        return served.Count;
    }

    private static double Hours(List<Asked> served, string person, Func<DateTime, bool> within) =>
        served.Where(s => s.Person == person && within(s.Start)).Sum(s => s.Minutes) / 60.0;

    private static DateTime Monday(DateTime at) => at.Date.AddDays(-(((int)at.DayOfWeek + 6) % 7));
}
