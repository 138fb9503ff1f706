using System.Globalization;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>What Watch costs in a big house on a full day, read by 16 clients, against the same SELECT behind the same sign-in.</summary>
internal static class WatchBench
{
    private const int Rounds = 5;
    private const int Clients = 16;
    private const int Pages = 30;
    private const int Sheets = 500;
    private static readonly TimeSpan Time = TimeSpan.FromSeconds(8);

    public static async Task Run(Server server, NpgsqlDataSource owner, Instant now)
    {
        await Fill(owner, now);
        await Read(server, Clients, TimeSpan.FromSeconds(4));
        // What a busy house asks: every open page once a second, which is as often as a page asks at all.
        var (paced, kB) = (new List<double>(), 0);
        for (var round = 0; round < Rounds; round++)
        {
            var read = await Read(server, Pages, Time, every: TimeSpan.FromSeconds(1));
            paced.AddRange(read.Times);
            kB = Math.Max(kB, read.Bytes);
        }
        paced.Sort();
        Say(
            $"watch: {Pages} pages, each once a second: p50 {Percentile(paced, 0.5):0.0} ms, p99 {Percentile(paced, 0.99):0.0} ms; "
                + $"{(kB / 1000.0).ToString("0.0", CultureInfo.InvariantCulture)} kB; wanted at most 60 ms and 60 kB"
        );
        var (times, perSecond, select) = (new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < Rounds; round++)
        {
            select.Add((await server.Load("/baseline/select", r => GateBench.Question(r, now), Clients, Time)).PerSecond);
            var read = await Read(server, Clients, Time);
            perSecond.Add(read.PerSecond);
            times.AddRange(read.Times);
        }
        times.Sort();
        var ratios = perSecond.Zip(select, (w, s) => w / s).ToList();
        Say(
            $"watch: {Spread(perSecond, "/s")} with {Clients} clients that never wait, p50 {Percentile(times, 0.5):0.0} ms, "
                + $"p99 {Percentile(times, 0.99):0.0} ms"
        );
        Say($"watch: ratio to the select {Median(ratios):0.000} ({ratios.Min():0.000} to {ratios.Max():0.000})");
        await Compare(server, owner, now);
    }

    /// <summary>500 sheets of which a third waits, 400 certificates that end soon, 60 requests, and a full day at every machine.</summary>
    private static async Task Fill(NpgsqlDataSource owner, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into materials.sheet (tag, material_id, thickness_mm, width_mm, height_mm, source, registered_by, registered_at,
                brought_by, state)
                select 'B-' || n, 'mat-board', 1.4, 600, 400, 'A supplier of the bench', 'p' || n, @now, 'p' || n,
                    (array['waiting', 'cleared', 'refused'])[1 + n % 3] from generate_series(1, @Sheets) n on conflict do nothing;
            update training.certificate set held = tstzrange(lower(held), @now + interval '10 days') where row_id in
                (select row_id from training.certificate where authority = 'laser-3' order by row_id limit 400);
            insert into materials.request (id, person_id, name, supplier, link, at, state)
                select gen_random_uuid(), 'p' || n, 'Something new ' || n, '', '', @now, 'waiting' from generate_series(1, 60) n
                where not exists (select from materials.request);
            analyze;
            """,
            new { now, Sheets },
            commandTimeout: 600
        );
    }

    private static async Task<Server.Answered> Read(Server server, int clients, TimeSpan time, TimeSpan every = default)
    {
        var read = await Server.Load(_ => server.Http.GetAsync("/api/watch"), clients, time, every);
        if (read.Statuses.Keys.Any(s => s != 200))
            throw new InvalidOperationException("Not every answer was 200.");
        return read;
    }

    /// <summary>What waits is counted by plain statements too.</summary>
    private static async Task Compare(Server server, NpgsqlDataSource owner, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        var waiting = await connection.ExecuteScalarAsync<int>("select count(*)::int from materials.request where state = 'waiting'");
        using var read = JsonDocument.Parse(await server.Http.GetByteArrayAsync("/api/watch"));
        var machines = read.RootElement.GetProperty("machines").GetArrayLength();
        if (machines != Prepared.Machines)
            throw new InvalidOperationException($"Watch shows {machines} machines.");
        var asked = read
            .RootElement.GetProperty("needs")
            .EnumerateArray()
            .Count(n => n.GetProperty("kind").GetString() == "rulingRequested");
        var more = $"{waiting - Core.Watch.WatchList.MostOfAKind} more";
        if (asked == 0 || !read.RootElement.ToString().Contains(more, StringComparison.Ordinal))
            throw new InvalidOperationException($"{waiting} requests wait, and Watch does not say “{more}”.");
        Say($"watch: shows {machines} machines, and {waiting} requests that wait, as the database counts them, at {now}");
    }
}
