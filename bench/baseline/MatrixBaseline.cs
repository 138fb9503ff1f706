using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>Who holds what, until when, as one statement. Frozen; shares no code with the application.</summary>
public static class MatrixBaseline
{
    /// <returns>Person, authority and the last day in London.</returns>
    public static async Task<List<(string Person, string Authority, DateOnly LastDay)>> Held(NpgsqlDataSource db, DateTime now)
    {
        await using var command = db.CreateCommand(
            """
            select person_id, authority, ((max(upper(held)) - interval '1 microsecond') at time zone 'Europe/London')::date
            from training.certificate where upper_inf(recorded) and held @> $1::timestamptz group by person_id, authority order by 1, 2
            """);
        command.Parameters.AddWithValue(now);
        var held = new List<(string, string, DateOnly)>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) held.Add((reader.GetString(0), reader.GetString(1), reader.GetFieldValue<DateOnly>(2)));
        return held;
    }
}
