using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Which machine, soonest? over twenty machines, ninety days and twenty thousand bookings, against one statement that gives what holds
/// them; and a thousand answers against every start tried by itself.
/// </summary>
internal static class SoonestBench
{
    private const int Days = 90;
    private const int Rounds = 5;
    private const int Each = 40;
    private const int Compared = 1000;

    public static async Task Run(Server server, NpgsqlDataSource owner, NpgsqlDataSource app, Instant now)
    {
        await Fill(owner, now);
        var until = now.ToDateTimeUtc().AddDays(Days + 1);
        var random = new Random(20_090);
        var (statement, table) = (new List<double>(), new List<double>());
        await Ask(server, random.Next(Prepared.People));
        for (var round = 0; round < Rounds; round++)
        {
            for (var i = 0; i < Each; i++)
            {
                var clock = Stopwatch.StartNew();
                var rows = await SoonestBaseline.Rows(app, $"p{random.Next(Prepared.People)}", now.ToDateTimeUtc(), until);
                statement.Add(clock.Elapsed.TotalMilliseconds);
                if (round == 0 && i == 0)
                    Say($"soonest: {rows.Count} rows hold the machines");
            }
            for (var i = 0; i < Each; i++)
            {
                var clock = Stopwatch.StartNew();
                await Ask(server, random.Next(Prepared.People));
                table.Add(clock.Elapsed.TotalMilliseconds);
            }
        }
        statement.Sort();
        table.Sort();
        Say(
            $"soonest: one statement p50 {Percentile(statement, 0.5):0.0} ms, p99 {Percentile(statement, 0.99):0.0} ms; the table over "
                + $"HTTP p50 {Percentile(table, 0.5):0.0} ms, p99 {Percentile(table, 0.99):0.0} ms; "
                + $"{Percentile(table, 0.99) / Percentile(statement, 0.99):0.00} times, wanted at most 3"
        );
        await Compare(server, app, until);
    }

    private static async Task<JsonElement> Ask(Server server, int person)
    {
        var answer = await server.Http.PostAsJsonAsync(
            "/api/machines/soonest",
            new
            {
                memberId = $"p{person}",
                materialId = "mat-board",
                thicknessMm = 1.4m,
                operations = new[] { "cut" },
                runMinutes = 10,
            }
        );
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    /// <summary>Eleven bookings a day on each machine, of 45 or 60 minutes: most of the day is held.</summary>
    private static async Task Fill(NpgsqlDataSource owner, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            update house.rules set body = jsonb_set(body, '{bookAheadDays}', to_jsonb(@Days));
            create temporary table ahead as select gen_random_uuid() as id, 'p' || (((d * 11 + k) * 20 + m) % @People) as person,
                'laser-' || m as machine,
                date_trunc('day', @now) + d * interval '1 day' + interval '10 hours' + k * interval '1 hour' as start,
                case when (d * 7 + k * 3 + m) % 4 = 0 then 45 else 60 end as minutes
                from generate_series(1, @Days) d, generate_series(0, 10) k, generate_series(0, @Machines - 1) m
                where (d * 5 + k + m * 3) % 9 > 0;
            delete from ahead a using booking.claim c where c.live and c.resource = 'machine:' || a.machine
                and c.during && tstzrange(a.start, a.start + a.minutes * interval '1 minute');
            delete from ahead a using booking.claim c where c.live and c.resource = 'attend:' || a.person
                and c.during && tstzrange(a.start, a.start + a.minutes * interval '1 minute');
            insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at)
                select id, person, machine, tstzrange(start, start + minutes * interval '1 minute'), minutes, '[]', '{}',
                    '00000000-0000-4000-8000-000000000001', person, @now from ahead;
            insert into booking.resource (id) select 'machine:' || machine from ahead union select 'attend:' || person from ahead
                on conflict do nothing;
            insert into booking.claim (booking_id, resource, during, recorded)
                select id, 'machine:' || machine, tstzrange(start, start + minutes * interval '1 minute'), tstzrange(@now, null) from ahead
                union all select id, 'attend:' || person, tstzrange(start, start + minutes * interval '1 minute'), tstzrange(@now, null)
                    from ahead;
            analyze booking.claim;
            """,
            new
            {
                Days,
                now,
                Prepared.People,
                Prepared.Machines,
            },
            commandTimeout: 1800
        );
    }

    private static async Task Compare(Server server, NpgsqlDataSource app, DateTime until)
    {
        var random = new Random(77);
        var (same, offered) = (0, 0);
        for (var i = 0; i < Compared; i++)
        {
            var person = random.Next(Prepared.People);
            var rows = await SoonestBaseline.Rows(app, $"p{person}", DateTime.UtcNow, until);
            var before = DateTime.UtcNow;
            var answer = await Ask(server, person);
            foreach (var machine in answer.GetProperty("machines").EnumerateArray())
            {
                var choices = machine
                    .GetProperty("choices")
                    .EnumerateArray()
                    .Select(c => c.GetProperty("start").GetDateTime().ToUniversalTime())
                    .ToList();
                if (choices.Count == 0)
                    continue;
                var id = machine.GetProperty("machineId").GetString()!;
                var free = SoonestBaseline.Free(rows, id, $"p{person}", machine.GetProperty("minutes").GetInt32(), 60, before, Days, 3);
                if (!free.SequenceEqual(choices))
                    throw new InvalidOperationException(
                        $"{id} for p{person}: {string.Join(", ", choices)}, and by trying {string.Join(", ", free)}"
                    );
                offered += choices.Count;
            }
            same++;
        }
        Say($"soonest: {same} answers with {offered} times are those found by trying every start");
    }
}
