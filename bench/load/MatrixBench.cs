using System.Diagnostics;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Who may run what: 5,000 people by 25 authorities, each holding eight of them, whole and filtered; answers held against one SQL
/// statement.
/// </summary>
internal static class MatrixBench
{
    private const int Authorities = 25;
    private const int HeldEach = 8;
    private const int Rounds = 5;
    private const int Asked = 10;

    public static async Task Run(Server server, NpgsqlDataSource owner, Instant now)
    {
        await using (var connection = await owner.OpenConnectionAsync())
        {
            await connection.ExecuteAsync(
                """
                insert into training.path (authority, body, set_by, text_id, held, recorded)
                    select 'laser-' || i || '/thick', jsonb_build_object('authority', 'laser-' || i || '/thick', 'name', 'Thick stock',
                        'steps', '[{"kind":"signOff","id":"","count":0}]'::jsonb, 'refresher',
                        '[{"kind":"signOff","id":"","count":0}]'::jsonb),
                        (select person_id from people.role where role = 'keeper' limit 1), gen_random_uuid(), tstzrange(@from, null),
                            tstzrange(@from, null)
                    from generate_series(0, @Authorities - @Machines - 1) i;
                delete from training.certificate;
                insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded)
                    select gen_random_uuid(), 'p' || n, case when a < @Machines then 'laser-' || a
                        else 'laser-' || (a - @Machines) || '/thick' end, (select person_id from people.role where role = 'keeper' limit 1),
                        gen_random_uuid(), tstzrange(@from, @now + (n % 300 + 5) * interval '1 day'), tstzrange(@from, null)
                    from generate_series(0, @People - 1) n, generate_series(0, @HeldEach - 1) k,
                        lateral (select (n + k * 3) % @Authorities as a) x;
                analyze training.certificate;
                """,
                new
                {
                    Authorities,
                    HeldEach,
                    Prepared.Machines,
                    Prepared.People,
                    now,
                    from = now - Duration.FromDays(20),
                },
                commandTimeout: 600
            );
        }
        var (plain, whole, narrow, all) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        var compared = 0;
        for (var round = 0; round < Rounds + 1; round++)
        {
            var clock = Stopwatch.StartNew();
            List<(string Person, string Authority, DateOnly LastDay)> wanted = [];
            for (var i = 0; i < Asked; i++)
                wanted = await MatrixBaseline.Held(owner, now.ToDateTimeUtc());
            var baseline = clock.Elapsed.TotalMilliseconds / Asked;
            var times = new List<double>();
            byte[] bytes = [];
            for (var i = 0; i < Asked; i++)
            {
                clock.Restart();
                bytes = await server.Http.GetByteArrayAsync("/api/training/matrix");
                times.Add(clock.Elapsed.TotalMilliseconds);
            }
            clock.Restart();
            for (var i = 0; i < Asked; i++)
                await server.Http.GetByteArrayAsync($"/api/training/matrix?show=soon&authority=laser-{i}&find=given{i}");
            var filtered = clock.Elapsed.TotalMilliseconds / Asked;
            compared += Compare(bytes, wanted);
            // The first round compiles.
            if (round == 0)
                continue;
            plain.Add(baseline);
            whole.Add(times.Average());
            narrow.Add(filtered);
            all.AddRange(times);
        }
        all.Sort();
        Say(
            $"matrix: {Prepared.People} people x {Authorities} authorities, {Prepared.People * HeldEach} certificates: one "
                + $"statement {Spread(plain, "ms")}; the whole matrix over HTTP {Spread(whole, "ms")}, p99 {Percentile(all, 0.99):0} ms; "
                + $"filtered {Spread(narrow, "ms")}; wanted under 300 ms"
        );
        Say($"matrix: {compared} cells are those of the statement");
    }

    private static int Compare(byte[] bytes, List<(string Person, string Authority, DateOnly LastDay)> wanted)
    {
        using var body = JsonDocument.Parse(bytes);
        var columns = body
            .RootElement.GetProperty("columns")
            .EnumerateArray()
            .Select(c => c.GetProperty("authority").GetString()!)
            .ToList();
        if (columns.Count < Authorities)
            throw new InvalidOperationException($"{columns.Count} columns.");
        var mine = body
            .RootElement.GetProperty("rows")
            .EnumerateArray()
            .SelectMany(r =>
                r.GetProperty("cells")
                    .EnumerateArray()
                    .Select(c =>
                        (
                            r.GetProperty("id").GetString()!,
                            columns[c.GetProperty("a").GetInt32()],
                            DateOnly.Parse(c.GetProperty("until").GetString()!, System.Globalization.CultureInfo.InvariantCulture)
                        )
                    )
            )
            .ToHashSet();
        if (!mine.SetEquals(wanted))
            throw new InvalidOperationException("The matrix and the statement disagree.");
        return mine.Count;
    }
}
