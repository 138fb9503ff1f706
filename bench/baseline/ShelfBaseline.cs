using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>The answer to “what may I cut on this machine so thick” as one statement, ids alone. Frozen; shares no code with the application.</summary>
public static class ShelfBaseline
{
    public static async Task<List<string>> MayCut(NpgsqlDataSource db, string machine, decimal thicknessMm, DateTime now)
    {
        await using var command = db.CreateCommand(
            """
            select distinct r.material_id from materials.ruling r join house.machine m on m.id = $1 and m.spec ->> 'kind' = r.kind
            where r.operation = 'cut' and r.held @> $3::timestamptz and upper_inf(r.recorded) and r.min_mm <= $2 and (r.max_mm is null or r.max_mm >= $2)
                and r.standing in ('permitted', 'byArrangement') and (m.spec ->> 'maxCutMm')::numeric >= $2 order by 1
            """);
        command.Parameters.AddWithValue(machine);
        command.Parameters.AddWithValue(thicknessMm);
        command.Parameters.AddWithValue(now);
        var ids = new List<string>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) ids.Add(reader.GetString(0));
        return ids;
    }
}
