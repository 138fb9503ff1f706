using System.Diagnostics;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Settings;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>The suggestion among 50,000 entries against the query for them alone.</summary>
internal static class SettingsBench
{
    private const int Entries = 50_000;
    private const int Rounds = 5;
    private const int Asked = 20;

    public static async Task Run(NpgsqlDataSource owner, NpgsqlDataSource app, Instant now)
    {
        List<string> materials;
        await using (var connection = await owner.OpenConnectionAsync())
        {
            materials = [.. await connection.QueryAsync<string>("select id from materials.material order by id")];
            await connection.ExecuteAsync(
                """
                insert into bench.setting (id, machine_id, material_id, operation, thickness_mm, body, by, at)
                select gen_random_uuid(), machine, material, 'cut', mm, jsonb_build_object('machineId', machine, 'materialId', material,
                    'thicknessMm', mm, 'operation', 'cut', 'powerPercent', 60, 'watts', 48, 'speedMmS', 10 + n % 30, 'passes', 1,
                    'offsets', '[]'::jsonb, 'focusOffsetMm', 0, 'airAssist', true, 'fixture', '', 'mask', 'none', 'maskOf', '',
                    'origin', 'member', 'note', ''), 'p' || n % @People, @now - n * interval '1 minute'
                from generate_series(0, @Entries - 1) n, lateral (select 'laser-' || n % @Machines as machine,
                    (@materials)[1 + n / @Machines % cardinality(@materials)] as material, 2 + n % 7 * 0.5 as mm) x;
                analyze bench.setting;
                """,
                new
                {
                    Entries,
                    Prepared.People,
                    Prepared.Machines,
                    now,
                    materials = materials.ToArray(),
                },
                commandTimeout: 600
            );
        }
        var store = new SettingStore(app);
        var clock = new HouseClock(DateTimeZoneProviders.Tzdb["Europe/London"]);
        var (plain, ours, found) = (new List<double>(), new List<double>(), 0);
        for (var round = 0; round < Rounds + 1; round++)
        {
            var (theirs, own) = (0.0, 0.0);
            for (var i = 0; i < Asked; i++)
            {
                var material = materials[i % materials.Count];
                var watch = Stopwatch.StartNew();
                var rows = await SettingsBaseline.Of(app, material);
                theirs += watch.Elapsed.TotalMilliseconds;
                watch.Restart();
                var entries = await store.Of(Ids.From<MaterialId>(material)!.Value, now, default);
                var wish = new SettingWish("laser-3", Ids.From<MaterialId>(material)!.Value, 3, Operation.Cut);
                var (lines, suggested) = Suggestion.Of(entries, wish, null, null, now, clock);
                own += watch.Elapsed.TotalMilliseconds;
                if (!entries.Select(e => e.Id).SequenceEqual(rows.Select(r => r.Id)))
                    throw new InvalidOperationException($"{material}: {entries.Count} entries here, {rows.Count} by the statement.");
                found += suggested is null ? 0 : 1;
            }
            // The first round compiles.
            if (round == 0)
                continue;
            plain.Add(theirs / Asked);
            ours.Add(own / Asked);
        }
        Say(
            $"settings: {Entries} entries, of one material {Entries / materials.Count}: the statement alone {Spread(plain, "ms")}, "
                + $"entries and suggestion {Spread(ours, "ms")}, ratio {Median(ours.Zip(plain, (o, p) => o / p)):0.00}; wanted at most 3; "
                + $"{found} suggested"
        );
    }
}
