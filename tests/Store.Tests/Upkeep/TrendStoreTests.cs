using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Upkeep;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Upkeep;

public sealed class TrendStoreTests : IAsyncLifetime
{
    private TestDatabase _db = null!;

    private TrendStore Trends => new(_db.App);

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public async ValueTask DisposeAsync() => await _db.DisposeAsync();

    /// <summary>Servers thin at once, and again: hours keep every sum and every extreme, minutes of ninety days stay.</summary>
    [Fact]
    public async Task Thin_TwiceAtOnce_KeepsSumsAndExtremesByTheHour()
    {
        var now = TestDatabase.Now;
        await using var owner = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await owner.ExecuteAsync(
            """
            insert into station.reading
                (machine_id, minute, readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum, coolant_high)
            select 'heron', date_trunc('minute', @now::timestamptz) - i * interval '7 minutes', 60, 60, 60 * (600 - i % 50), 590 - i % 50,
                60, 60 * 20, 20 + i % 9
            from generate_series(1, 24000) i
            """,
            new { now }
        );
        var before = await Sums();
        var gone = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => Trends.Thin(now, CancellationToken.None)));
        gone.Sum().ShouldBeInRange(24000 - 90 * 24 * 60 / 7 - 10, 24000 - 90 * 24 * 60 / 7 + 10);
        (await Trends.Thin(now, CancellationToken.None)).ShouldBe(0);
        (await Sums()).ShouldBe(before);
        (
            await owner.ExecuteScalarAsync<int>("select count(*)::int from station.reading_hour where extract(minute from hour) <> 0")
        ).ShouldBe(0);

        var read = await Trends.Of(MachineId.From("heron"), now - Duration.FromDays(100), now, CancellationToken.None);
        read.Coolant.Count.ShouldBeInRange(2398, 2401, "hours of kept minutes and of thinned ones alike");
        read.Coolant.ShouldAllBe(h => h.High >= 20 && h.High <= 28);

        Task<string?> Sums() =>
            owner.ExecuteScalarAsync<string>(
                """
                select concat_ws(' ', sum(readings), sum(airflow_n), sum(airflow_sum), min(airflow_low), sum(coolant_sum),
                    max(coolant_high))
                from (select readings, airflow_n, airflow_sum, airflow_low, coolant_sum, coolant_high from station.reading
                    union all
                    select readings, airflow_n, airflow_sum, airflow_low, coolant_sum, coolant_high from station.reading_hour) x
                """
            );
    }

    /// <summary>What was read before a cleaning or a service is no part of a trend; what was read on another machine neither.</summary>
    [Fact]
    public async Task Lately_BeginsAnewWithEachCleaningAndService()
    {
        var now = TestDatabase.Now;
        (await Lately("wren")).ShouldBe(6, "six weeks of the demo’s weekly rounds");
        await Insert("wren", now - Duration.FromDays(10), baseline: true);
        (await Lately("wren")).ShouldBe(3, "the one after the service, and two rounds since");
        (await Lately("heron")).ShouldBe(6);

        async Task<int> Lately(string machine) => (await Trends.Lately(null, now, CancellationToken.None))[MachineId.From(machine)].Count();

        async Task Insert(string machine, Instant at, bool baseline)
        {
            await using var owner = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
            await owner.ExecuteAsync(
                """
                insert into upkeep.reading (id, machine_id, at, by, airflow, baseline)
                    select gen_random_uuid(), @machine, @at, r.by, 170, @baseline from upkeep.reading r where r.by is not null limit 1
                """,
                new
                {
                    machine,
                    at,
                    baseline,
                }
            );
        }
    }
}
