using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>What holds machines and one person over the time ahead, as one statement; and the free times among them, every start tried. Frozen; shares no code with the application.</summary>
public static class SoonestBaseline
{
    public sealed record Held(string Resource, DateTime Start, DateTime End);

    public static async Task<List<Held>> Rows(NpgsqlDataSource db, string person, DateTime now, DateTime until)
    {
        await using var command = db.CreateCommand(
            """
            select resource, lower(during), upper(during) from booking.claim
            where live and upper(during) > $2 and lower(during) < $3 and (starts_with(resource, 'machine:') or resource = 'attend:' || $1) order by 2
            """);
        command.Parameters.AddWithValue(person);
        command.Parameters.AddWithValue(now);
        command.Parameters.AddWithValue(until);
        var rows = new List<Held>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) rows.Add(new Held(reader.GetString(0), reader.GetDateTime(1), reader.GetDateTime(2)));
        return rows;
    }

    /// <summary>The first times of so many minutes on one machine, quarter by quarter from ten to nine in London's winter; the last run ends well before closing.</summary>
    public static List<DateTime> Free(IReadOnlyList<Held> rows, string machine, string person, int minutes, int lastRunBefore, DateTime now, int days, int most)
    {
        var held = rows.Where(r => r.Resource == $"machine:{machine}" || r.Resource == $"attend:{person}").ToList();
        var found = new List<DateTime>();
        for (var day = now.Date; day <= now.Date.AddDays(days); day = day.AddDays(1))
        {
            var close = day.AddHours(21);
            for (var start = day.AddHours(10); start.AddMinutes(minutes) <= close; start = start.AddMinutes(15))
            {
                var end = start.AddMinutes(minutes);
                if (start < now || end.AddMinutes(-10) > close.AddMinutes(-lastRunBefore)) continue;
                if (found.Count > 0 && start < found[^1].AddMinutes(minutes)) continue;
                if (held.Any(h => h.Start < end && start < h.End)) continue;
                found.Add(start);
                if (found.Count == most) return found;
            }
        }
        return found;
    }
}
