using System.Diagnostics;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Store.House;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>Deciding 500 standing bookings again after a change of the house rules, while people go on asking.</summary>
internal static class StandingBench
{
    private const int Wanted = 500;
    private const int Rounds = 5;

    public static async Task Run(Server server, NpgsqlDataSource owner, NpgsqlDataSource app, Instant now)
    {
        await using var connection = await owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            update booking.booking set cancelled_at = @now where id in (
                select id from booking.booking where cancelled_at is null and upper(during) > @now and ask <> '{}'
                    order by made_at desc offset @Wanted);
            update booking.booking set cancelled_at = @now where cancelled_at is null and upper(during) > @now and ask = '{}';
            """,
            new { now, Wanted }
        );
        var standing = await connection.ExecuteScalarAsync<int>(
            "select count(*)::int from booking.booking where cancelled_at is null and lower(during) > @now",
            new { now }
        );
        var keeper = await connection.QuerySingleAsync<string>(
            "select id from people.person where sign_in_name = @SignIn",
            new { Prepared.SignIn }
        );
        var sheets = new SheetStore(app);
        var (took, calm, busy) = (new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < Rounds; round++)
        {
            calm.Add(
                (await server.Load("/api/gate/ask?soonest=false", r => GateBench.Question(r, now), 8, TimeSpan.FromSeconds(3))).PerSecond
            );
            var at = SystemClock.Instance.GetCurrentInstant();
            var rules = (await new HouseStore(app).Rules(at, default))!;
            // Everybody becomes too young, or old enough again: each booking changes its standing.
            var changed = rules with
            {
                AttendFromAge = rules.AttendFromAge == 14 ? 15 : 14,
                OpenBookingsPerPerson = rules.OpenBookingsPerPerson + 1,
            };
            var clock = Stopwatch.StartNew();
            await sheets.ChangeRules(changed, "Bench.", at, keeper, at, default);
            var load = server.Load("/api/gate/ask?soonest=false", r => GateBench.Question(r, now), 8, TimeSpan.FromSeconds(3));
            while (
                await connection.ExecuteScalarAsync<bool>(
                    "select (select seq from ledger.worker_cursor where name = 'standing') < (select max(seq) from ledger.entry "
                        + "where kind = 'house.rulesChanged')"
                )
            )
                await Task.Delay(20);
            took.Add(clock.Elapsed.TotalSeconds);
            busy.Add((await load).PerSecond);
        }
        Say($"standing: {standing} bookings decided again in {Spread(took, "s")}; wanted at most 5");
        Say(
            $"standing: {Spread(calm, "/s")} decisions asked before, {Spread(busy, "/s")} meanwhile, ratio "
                + $"{Median(busy) / Median(calm):0.00}; wanted at least 0.5"
        );
    }
}
