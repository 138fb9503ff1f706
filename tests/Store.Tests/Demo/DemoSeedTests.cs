using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Demo;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Demo;

public class DemoSeedTests
{
    private const string Digest =
        "select md5(string_agg(concat_ws('|', person_id, machine_id, during, minutes), ',' order by during, machine_id)) from "
        + "booking.booking";

    [Fact]
    public async Task Run_SameClock_GivesTheSameHouse_AndNeverTouchesOneThatIsNotEmpty()
    {
        await using var one = await TestDatabase.Demo();
        await using var two = await TestDatabase.Empty();
        (await new DemoSeed(two.Owner, TestDatabase.Now).Run(default)).ShouldBeTrue();
        await using var first = await one.App.OpenConnectionAsync();
        await using var second = await two.App.OpenConnectionAsync();
        (await second.ExecuteScalarAsync<string>(Digest)).ShouldBe(await first.ExecuteScalarAsync<string>(Digest));
        (await new DemoSeed(two.Owner, TestDatabase.Now + Duration.FromDays(1)).Run(default)).ShouldBeFalse();
    }

    [Fact]
    public async Task Run_GivesThePromisedHouse()
    {
        await using var db = await TestDatabase.Demo();
        await using var connection = await db.App.OpenConnectionAsync();
        async Task<int> Count(string sql) =>
            await connection.ExecuteScalarAsync<int>("select count(*)::int from " + sql, new { now = TestDatabase.Now });
        (await Count("people.person")).ShouldBe(61);
        (await Count("people.role where role = 'steward'")).ShouldBe(4);
        (await Count("(select distinct person_id from people.role where role = 'trainer') t")).ShouldBe(6);
        (await Count("booking.booking where person_id = 'm-4' and upper(during) > @now and cancelled_at is null")).ShouldBe(0);
        (await Count("booking.booking where upper(during) < @now - interval '50 days'")).ShouldBeGreaterThan(5);
        (await Count("booking.booking where lower(during) > @now + interval '18 days'")).ShouldBeGreaterThan(0);
        (await Count("training.certificate where person_id = 'm-4' and authority in ('heron', 'wren') and held @> @now")).ShouldBe(2);
        (await Count("training.certificate where person_id = 'm-5'")).ShouldBe(0);
        (await Count("people.role where person_id = 'm-3' and role = 'trainer' and machine_id in ('heron', 'wren')")).ShouldBe(2);
        (await Count("upkeep.task where overdue_from < @now")).ShouldBeGreaterThan(0);
    }
}
