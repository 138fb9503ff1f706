using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>What was run since each task was last done, task by task, and the last airflow read: the plainest statements. Frozen; shares no code with the application.</summary>
public static class UpkeepBaseline
{
    public static async Task<Dictionary<string, double>> Board(NpgsqlDataSource db)
    {
        await using var connection = await db.OpenConnectionAsync();
        var tasks = new List<(string Id, string Machine, string Counter, DateTime Since)>();
        await using (var command = new NpgsqlCommand("select id, machine_id, plan ->> 'counter', since from upkeep.task where machine_id is not null and upper_inf(held) and upper_inf(recorded)", connection))
        await using (var reader = await command.ExecuteReaderAsync())
        {
            while (await reader.ReadAsync())
                tasks.Add((reader.GetString(0), reader.GetString(1), reader.GetString(2), reader.GetDateTime(3)));
        }
        var used = new Dictionary<string, double>();
        foreach (var task in tasks)
        {
            var sql = task.Counter switch
            {
                "runs" => "select count(*)::float8 from run.log where machine_id = $1 and upper(during) > $2",
                "laserHours" => "select coalesce(sum(extract(epoch from upper(during) - lower(during))), 0)::float8 / 3600 from run.log where machine_id = $1 and upper(during) > $2",
                _ => null,
            };
            if (sql is null)
                continue;
            await using var command = new NpgsqlCommand(sql, connection);
            command.Parameters.AddWithValue(task.Machine);
            command.Parameters.AddWithValue(task.Since);
            used[task.Id] = (double)(await command.ExecuteScalarAsync())!;
        }
        return used;
    }
}
