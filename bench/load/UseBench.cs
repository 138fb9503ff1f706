using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Bench.Baseline;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// A calendar of five thousand entries against the plainest file of the same rows; two thousand asked times played under other rules, held
/// against each of them tried alone.
/// </summary>
internal static partial class UseBench
{
    private const int Entries = 5000;
    private const int Asked = 2000;
    private const int Rounds = 5;
    private const int Each = 5;

    public static async Task Run(Server server, NpgsqlDataSource owner, NpgsqlDataSource app, Instant now)
    {
        await Fill(owner, now);
        await Feeds(server, app, now);
        await WhatIf(server);
    }

    private static async Task Feeds(Server server, NpgsqlDataSource app, Instant now)
    {
        var made = await server.Http.PostAsJsonAsync("/api/feeds", new { kind = "machine", machineId = "laser-feed" });
        var url = (await made.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<JsonElement>()).GetProperty("url").GetString()!;
        var path = new Uri(url).AbsolutePath;
        var (from, to) = (now.ToDateTimeUtc().AddDays(-60), now.ToDateTimeUtc().AddDays(400));
        var (plain, feed) = (new List<double>(), new List<double>());
        var (theirs, ours) = (await UseBaseline.Feed(app, "laser-feed", from, to), await server.Http.GetStringAsync(path));
        for (var round = 0; round < Rounds; round++)
        {
            for (var i = 0; i < Each; i++)
                plain.Add(await Timed(() => UseBaseline.Feed(app, "laser-feed", from, to)));
            for (var i = 0; i < Each; i++)
                feed.Add(await Timed(() => server.Http.GetStringAsync(path)));
        }
        plain.Sort();
        feed.Sort();
        var (a, b) = (Ids(theirs), Ids(ours));
        if (!a.SetEquals(b) || a.Count < Entries)
            throw new InvalidOperationException($"The feed has {b.Count} bookings, the rows {a.Count}.");
        Say(
            $"feeds: {b.Count} entries, {ours.Length / 1024} kB over HTTP p50 {Percentile(feed, 0.5):0} ms ({feed[0]:0} to {feed[^1]:0}), "
                + $"wanted 300; the plainest file p50 {Percentile(plain, 0.5):0} ms; the same entries"
        );
    }

    private static async Task WhatIf(Server server)
    {
        object question = new
        {
            rules = new { hoursPerPersonDay = 2, hoursPerPersonWeek = 3 },
            from = "2020-11-02",
            to = "2020-12-27",
        };
        var times = new List<double>();
        var served = 0;
        for (var round = 0; round < Rounds; round++)
            times.Add(
                await Timed(async () =>
                {
                    var answer = await server.Http.PostAsJsonAsync("/api/use/what-if", question);
                    var body = await answer.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<JsonElement>();
                    served = body.GetProperty("result").GetProperty("changed").GetProperty("served").GetInt32();
                })
            );
        times.Sort();
        var expected = UseBaseline.Served(Times(), 2, 3);
        if (served != expected)
            throw new InvalidOperationException($"Played {served} served, one by one {expected}.");
        Say(
            $"what-if: {Asked} asked times under both rules p50 {Percentile(times, 0.5) / 1000:0.00} s ({times[0] / 1000:0.00} to "
                + $"{times[^1] / 1000:0.00}), wanted 20 s; {served} served, as by trying each"
        );
    }

    /// <summary>Asked times of eight weeks in 2020, the same each time: 24 people, 6 machines, some at the same time.</summary>
    private static IEnumerable<UseBaseline.Asked> Times()
    {
        var random = new Random(2020);
        var first = new DateTime(2020, 11, 2, 0, 0, 0, DateTimeKind.Utc);
        for (var n = 0; n < Asked; n++)
        {
            var start = first.AddDays(random.Next(2, 60)).AddHours(10).AddMinutes(15 * random.Next(32));
            var at = start.AddMinutes(-random.Next(60, 20 * 1440));
            at =
                at < first ? first.AddSeconds(n)
                : at >= first.AddDays(55) ? first.AddDays(55).AddSeconds(n)
                : at;
            yield return new UseBaseline.Asked($"p{random.Next(24)}", $"laser-{random.Next(6)}", at, start, 30 + 15 * random.Next(7));
        }
    }

    private static async Task Fill(NpgsqlDataSource owner, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into house.machine (id, name, position, spec) select 'laser-feed', 'Laser feed', 99,
                spec || '{"id": "laser-feed", "name": "Laser feed"}'
                from house.machine where id = 'laser-0' on conflict do nothing;
            insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at)
                select gen_random_uuid(), 'p' || (n % 500), 'laser-feed', tstzrange(@now + n * interval '1 hour' - interval '50 days',
                    @now + n * interval '1 hour' - interval '50 days' + interval '45 minutes'), 45, '[]', '{}',
                    '00000000-0000-4000-8000-000000000001', 'p1', @now - interval '900 days' from generate_series(1, @Entries) n;
            """,
            new { now, Entries },
            commandTimeout: 600
        );
        var asked = Times().ToList();
        await connection.ExecuteAsync(
            """
            insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at)
                select gen_random_uuid(), p, m, tstzrange(s, s + n * interval '1 minute'), n, '[]', '{}',
                    '00000000-0000-4000-8000-000000000001', p, a from unnest(@people, @machines, @starts, @minutes, @ats) t(p, m, s, n, a);
            """,
            new
            {
                people = asked.Select(a => a.Person).ToArray(),
                machines = asked.Select(a => a.Machine).ToArray(),
                starts = asked.Select(a => a.Start).ToArray(),
                minutes = asked.Select(a => a.Minutes).ToArray(),
                ats = asked.Select(a => a.At).ToArray(),
            }
        );
    }

    private static HashSet<string> Ids(string calendar) => [.. BookingId().Matches(calendar).Select(m => m.Value)];

    [GeneratedRegex("UID:booking-[0-9a-f-]{36}")]
    private static partial Regex BookingId();
}
