using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Demo;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Run;
using VelvetGate.Store.Station;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Demo;

/// <summary>The demo is alive whenever it is started: it is afternoon, a steward is on duty, somebody is at a machine.</summary>
public class DemoDayTests
{
    private static async Task<(int Seated, int Taken, int Duty, int Member)> Look(TestDatabase db, Instant at)
    {
        await using var connection = await db.App.OpenConnectionAsync();
        async Task<int> Count(string sql) =>
            await connection.ExecuteScalarAsync<int>("select count(*)::int from " + sql, new { at, until = at + Duration.FromMinutes(90) });
        return (
            await Count(
                "booking.booking where machine_id = 'swift' and during @> @at and arrived_at <= @at and cancelled_at is null and "
                    + "person_id <> 'm-4'"
            ),
            await Count(
                "booking.booking where machine_id in ('heron', 'wren') and during && tstzrange(@at, @until) and cancelled_at is null"
            ),
            await Count("house.duty where during @> @at and upper_inf(recorded)"),
            await Count("booking.booking where person_id = 'm-4' and upper(during) > @at and cancelled_at is null")
        );
    }

    /// <summary>Started at any hour, again after a minute, on the next morning, and after the seeded weeks are over.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(14)]
    [InlineData(33)]
    public async Task Wake_FindsAHouseAtWork_AndNeverGoesBack(int hours)
    {
        await using var db = await TestDatabase.Demo();
        var day = new DemoDay(db.Owner);
        var before = TestDatabase.Now;
        foreach (
            var real in new[]
            {
                TestDatabase.Now + Duration.FromHours(hours),
                TestDatabase.Now + Duration.FromHours(hours) + Duration.FromMinutes(1),
                TestDatabase.Now + Duration.FromDays(2),
                TestDatabase.Now + Duration.FromDays(30),
            }
        )
        {
            var at = await day.Wake(real, default);
            at.ShouldBeGreaterThan(before);
            DemoHouse.Rules.Clock.At(at).TimeOfDay.ShouldBeInRange(new LocalTime(14, 10), new LocalTime(19, 0));
            (await Look(db, at)).ShouldBe((1, 0, 1, 0), $"at {at}");
            before = at;
        }
        (await new LedgerVerifier(db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Wake_LeavesAloneWhatSomebodyWhoSignsInHasBooked()
    {
        await using var db = await TestDatabase.Demo();
        var ask = await Questions.FreeOnHeron(db);
        (
            await new BookingStore(db.App).Book(Guid.NewGuid(), ask, "m-4", TestDatabase.Now, default)
        ).ShouldBeOfType<BookingOutcome.Booked>();
        var at = await new DemoDay(db.Owner).Wake(TestDatabase.Now, default);
        (await Look(db, at)).Member.ShouldBe(1);
    }

    [Fact]
    public async Task Clock_IsOneForAll_AndKnowsWhetherAServerRuns()
    {
        await using var db = await TestDatabase.Empty();
        var (owner, app) = (new DemoClockStore(db.Owner), new DemoClockStore(db.App));
        var real = TestDatabase.Now;
        (await app.Read(real, default)).ShouldBe(Duration.Zero);
        await owner.Set(Duration.FromMinutes(-95), default);
        (await owner.Running(real, default)).ShouldBeNull("nobody has read it yet");
        (await app.Read(real, default)).ShouldBe(Duration.FromMinutes(-95));
        (await owner.Running(real + Duration.FromSeconds(9), default)).ShouldBe(Duration.FromMinutes(-95));
        (await owner.Running(real + Duration.FromSeconds(11), default)).ShouldBeNull();
    }

    /// <summary>Somebody’s run is on at each start, with a controller, and the one of the day before was ended.</summary>
    [Fact]
    public async Task Session_RunsAtSwift_AtEachStart()
    {
        await using var db = await TestDatabase.Demo();
        var keys = new StationKeys(Convert.ToBase64String(new byte[32]));
        foreach (var real in new[] { TestDatabase.Now, TestDatabase.Now + Duration.FromDays(2) })
        {
            var at = await new DemoDay(db.Owner).Wake(real, default);
            await new DemoControllers(db.Owner, at).Bind(keys, null, default);
            (await new DemoSession(db.Owner, at).Run(default)).ShouldBeTrue($"at {at}");
            (await new DemoSession(db.Owner, at).Run(default)).ShouldBeTrue("started again, the same run begins again");
            var session = (await new StationStore(db.App, new RunStore(db.App)).Open("swift", default)).ShouldNotBeNull();
            (session.Beam, session.Controlled, session.Run!.Start).ShouldBe((true, true, at));
        }
        await using var connection = await db.App.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from station.session where ended_at is null")).ShouldBe(1);
    }
}
