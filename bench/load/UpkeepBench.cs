using System.Net.Http.Json;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.Upkeep;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// The board of upkeep for twenty machines with five years of hourly readings, against the plainest statement for each task; and the
/// trends of one machine over all of them.
/// </summary>
internal static class UpkeepBench
{
    private const int Machines = 20;
    private const int Hours = 5 * 365 * 24;
    private const int Rounds = 5;
    private const int Each = 10;

    public static async Task Run(Server server, NpgsqlDataSource owner, NpgsqlDataSource app, Instant now)
    {
        await Fill(owner, now);
        var (theirs, ours) = (await UpkeepBaseline.Board(app), await server.Http.GetFromJsonAsync<JsonElement>("/api/upkeep"));
        var differ = ours.GetProperty("items")
            .EnumerateArray()
            .Count(t =>
                theirs.TryGetValue(t.GetProperty("id").GetString()!, out var used)
                && Math.Abs(used - t.GetProperty("used").GetDouble()) > 0.051
            );
        if (differ > 0 || ours.GetProperty("items").GetArrayLength() < Machines * 4)
            throw new InvalidOperationException($"{differ} tasks differ from the plain counts.");
        var (plain, board, trend) = (new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < Rounds; round++)
        {
            for (var i = 0; i < Each; i++)
                plain.Add(await Timed(() => UpkeepBaseline.Board(app)));
            for (var i = 0; i < Each; i++)
                board.Add(await Timed(() => server.Http.GetStringAsync("/api/upkeep")));
            for (var i = 0; i < Each; i++)
                trend.Add(await Timed(() => server.Http.GetStringAsync($"/api/machines/laser-{i}/trends?days=1830")));
        }
        foreach (var times in new[] { plain, board, trend })
            times.Sort();
        Say(
            $"upkeep: board of {ours.GetProperty("items").GetArrayLength()} tasks on {Machines} machines, {Machines * Hours} readings, "
                + $"over HTTP p50 {Percentile(board, 0.5):0} ms, p99 {Percentile(board, 0.99):0} ms ({board[0]:0} to {board[^1]:0}), "
                + $"wanted 300; one plain statement a task p50 {Percentile(plain, 0.5):0} ms ({plain[0]:0} to {plain[^1]:0}); "
                + "the same counts"
        );
        Say($"trends: five years of one machine p50 {Percentile(trend, 0.5):0} ms, p99 {Percentile(trend, 0.99):0} ms");
    }

    private static async Task Fill(NpgsqlDataSource owner, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        var plans = new[]
        {
            UpkeepMethods.Lens,
            UpkeepMethods.Mirrors,
            UpkeepMethods.Airflow,
            UpkeepMethods.Coolant,
            UpkeepMethods.Interlocks,
        };
        foreach (var plan in plans)
            await connection.ExecuteAsync(
                """
                insert into upkeep.task (id, machine_id, name, plan, since, held, recorded)
                    select m.id || '-' || @part, m.id, @Name, @plan::jsonb, @since, tstzrange(@since, null), tstzrange(@since, null)
                    from house.machine m where m.id ~ '^laser-[0-9]+$'
                """,
                new
                {
                    plan.Name,
                    part = plan.Part.ToString(),
                    plan = GateJson.Write(plan),
                    since = now - Duration.FromDays(200),
                }
            );
        await connection.ExecuteAsync(
            """
            insert into upkeep.reading (id, machine_id, at, by, airflow, coolant_c)
                select gen_random_uuid(), m.id, @now - n * interval '1 hour', 'p1', 640 - 40 * random(), 19 + 3 * random()
                from house.machine m cross join generate_series(1, @Hours) n where m.id ~ '^laser-[0-9]+$';
            insert into station.reading_hour (machine_id, hour, readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum,
                    coolant_high)
                select m.id, date_bin('1 hour', @now - n * interval '1 hour', 'epoch'::timestamptz), 3600, 3600, 3600 * 620, 600, 3600,
                    3600 * 20, 22
                from house.machine m cross join generate_series(2200, @Hours) n where m.id ~ '^laser-[0-9]+$' on conflict do nothing;
            analyze upkeep.reading; analyze station.reading_hour; analyze upkeep.task;
            """,
            new { now, Hours },
            commandTimeout: 900
        );
    }
}
