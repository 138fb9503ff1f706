using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// The shelf of 500 materials by 20 machines, asked what may be cut on one of them so thick; answers held against one SQL statement.
/// </summary>
internal static class ShelfBench
{
    private const int Materials = 500;
    private const int Rounds = 5;
    private const int Asked = 40;

    public static async Task Run(Server server, NpgsqlDataSource owner, Instant now)
    {
        await using (var connection = await owner.OpenConnectionAsync())
        {
            await connection.ExecuteAsync(
                """
                insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
                    select 'stuff-' || i, 'Stuff ' || i, 'found and other', array['thing ' || i], 1, false, 1000 + i
                    from generate_series(1, @Materials - (select count(*)::int from materials.material)) i;
                insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                    filtered_needs_arrangement, held, recorded)
                    select m.id, k, o, 0, 1 + m.position % 9, (array['permitted', 'byArrangement', 'banned'])[1 + m.position % 3],
                        'declared', '{odour}', 'Smoke.', '', false,
                        tstzrange(@from, null), tstzrange(@from, null)
                    from materials.material m, unnest(array['co2', 'diode', 'fibre']) k, unnest(array['cut', 'score', 'engrave']) o
                        where m.id like 'stuff-%';
                analyze materials.ruling;
                """,
                new { Materials, from = now - Duration.FromDays(1) }
            );
        }
        var (plain, mine, all) = (new List<double>(), new List<double>(), new List<double>());
        var compared = 0;
        for (var round = 0; round < Rounds + 1; round++)
        {
            var random = new Random(round);
            var asked = Enumerable
                .Range(0, Asked)
                .Select(_ => ($"laser-{random.Next(Prepared.Machines)}", Math.Round((decimal)random.NextDouble() * 9, 1)))
                .ToList();
            var clock = Stopwatch.StartNew();
            var wanted = new List<List<string>>();
            foreach (var (machine, mm) in asked)
                wanted.Add(await ShelfBaseline.MayCut(owner, machine, mm, now.ToDateTimeUtc()));
            var baseline = clock.Elapsed.TotalMilliseconds / Asked;
            var times = new List<double>();
            for (var i = 0; i < Asked; i++)
            {
                clock.Restart();
                using var answer = await server.Http.GetAsync(
                    $"/api/materials?machine={asked[i].Item1}&thickness={asked[i].Item2.ToString(CultureInfo.InvariantCulture)}+mm"
                );
                var bytes = await answer.Content.ReadAsByteArrayAsync();
                times.Add(clock.Elapsed.TotalMilliseconds);
                using var body = JsonDocument.Parse(bytes);
                var ids = body
                    .RootElement.GetProperty("items")
                    .EnumerateArray()
                    .Select(m => m.GetProperty("id").GetString()!)
                    .Order(StringComparer.Ordinal)
                    .ToList();
                if (!ids.SequenceEqual(wanted[i].Order(StringComparer.Ordinal)))
                    throw new InvalidOperationException($"{asked[i]}: the shelf and the statement disagree.");
                compared++;
            }
            // The first round compiles.
            if (round == 0)
                continue;
            plain.Add(baseline);
            mine.Add(times.Average());
            all.AddRange(times);
        }
        all.Sort();
        Say(
            $"shelf: {Materials} materials x {Prepared.Machines} machines: one statement, ids alone {Spread(plain, "ms")}; the "
                + $"whole filtered shelf over HTTP {Spread(mine, "ms")}, p50 {Percentile(all, 0.5):0} ms, p99 {Percentile(all, 0.99):0} "
                + "ms; wanted under 100 ms"
        );
        Say($"shelf: {compared} answers are those of the statement");
    }
}
