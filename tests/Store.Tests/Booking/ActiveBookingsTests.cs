using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Booking;

public sealed class ActiveBookingsTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private TestDatabase _db = null!;
    private GateQuestion _ask = null!;
    private Guid _booking;

    private ActiveBookings Standing => new(_db.App);

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        await Standing.Follow(Now, default);
        _ask = await Questions.FreeOnHeron(_db);
        _booking = ((BookingOutcome.Booked)await new BookingStore(_db.App).Book(Guid.NewGuid(), _ask, _ask.MemberId, Now, default))
            .Booking
            .Id;
        await Standing.Follow(Now, default);
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task<BookedTime> Booking() =>
        (await new BookingStore(_db.App).Between(_ask.Start, _ask.End, _ask.MemberId, default)).Single(b => b.Id == _booking);

    private Task<IReadOnlyList<Message>> Messages() => new MessageStore(_db.App).Of(_ask.MemberId, 20, default);

    [Fact]
    public async Task Follow_OwnBooking_DoesNotStandAgainstItself()
    {
        (await Booking()).AtRiskSince.ShouldBeNull();
        (await Messages()).ShouldBeEmpty();
    }

    [Fact]
    public async Task Follow_AfterAPause_TheBookingIsKeptAtRiskAndThePersonToldOnce_AndReleasedItIsOpenAgain()
    {
        var people = new PeopleStore(_db.App);
        var pause = (await people.Pause(_ask.MemberId, "m-2", "Left the beam on.", null, Now, default)).Value;
        (await Standing.Follow(Now + Duration.FromSeconds(5), default)).ShouldBe(1, "only this person's");
        var booking = await Booking();
        booking.AtRiskSince.ShouldNotBeNull();
        booking.AtRisk.Select(r => r.Code).ShouldBe(["person.paused"]);
        booking.CancelledAt.ShouldBeNull("the time is kept");
        await people.Pause(_ask.MemberId, "m-6", "Twice.", null, Now, default);
        await Standing.Follow(Now + Duration.FromSeconds(9), default);
        (await Messages()).Count(m => m.Title.Contains("at risk", StringComparison.Ordinal)).ShouldBe(1);
        var second = (await people.Find(_ask.MemberId, Now, default))!.Pause!.Id;
        await people.Release(pause, "m-2", "Talked.", Now + Duration.FromMinutes(1), default);
        await people.Release(
            second == pause ? (await people.Find(_ask.MemberId, Now + Duration.FromMinutes(1), default))!.Pause!.Id : second,
            "m-6",
            "Talked.",
            Now + Duration.FromMinutes(1),
            default
        );
        await Standing.Follow(Now + Duration.FromMinutes(2), default);
        (await Booking()).AtRiskSince.ShouldBeNull();
        (await Messages())[0].Title.ShouldContain("open again");
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    /// <summary>What is not known never stays clear, and one odd booking holds up no other.</summary>
    [Theory]
    [InlineData("update booking.booking set ask = '{}' where id = '{0}'")]
    [InlineData("update booking.booking set ask = jsonb_set(ask, '{items,0,materialId}', '\"gone\"') where id = '{0}'")]
    public async Task Follow_ABookingThatCannotBeDecided_IsAtRisk(string odd)
    {
        await _db.Tamper(odd.Replace("{0}", _booking.ToString(), StringComparison.Ordinal));
        await new HouseStore(_db.App).Stop("kestrel", "m-5", "Smoke.", Now, default);
        await new PeopleStore(_db.App).Pause(_ask.MemberId, "m-2", "Any change of this person.", null, Now, default);
        (await Standing.Follow(Now, default)).ShouldBeGreaterThan(0);
        await using var connection = await _db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (
            await connection.ExecuteScalarAsync<string>("select at_risk::text from booking.booking where id = @_booking", new { _booking })
        )!.ShouldContain("facts.unknown");
        (await Standing.Follow(Now, default)).ShouldBe(0, "the record was read to its end");
    }

    /// <summary>A line that nobody can read is put aside, and what it may have changed is decided again.</summary>
    [Fact]
    public async Task Follow_AfterAnOddLineInTheRecord_ParksItAndReadsOn()
    {
        await _db.Tamper(
            "update ledger.entry set kind = 'person.paused', body = '[1]' where seq = (select max(seq) from ledger.entry); update "
                + "ledger.worker_cursor set seq = (select max(seq) - 1 from ledger.entry) where name = 'standing'"
        );
        await Standing.Follow(Now, default);
        (await new ParkedWork(_db.App).All(default)).Single().Why.ShouldContain("cannot be read");
        (await new LedgerStore(_db.App).Lag("standing", default)).ShouldBe(0);
    }

    private async Task<IReadOnlyList<BookedTime>> AtRisk() =>
        [
            .. (await new BookingStore(_db.App).Between(Now, Now + Duration.FromDays(60), null, default)).Where(b =>
                b.AtRiskSince is not null
            ),
        ];

    [Fact]
    public async Task Follow_AStoppedMachine_TouchesAllItsBookingsAndNoOthers()
    {
        while (await new LedgerStore(_db.App).Lag("standing", default) > 0)
            await Standing.Follow(Now, default);
        var before = (await AtRisk()).Select(b => b.Id).ToHashSet();
        await new HouseStore(_db.App).Stop("heron", "m-5", "Smoke.", Now, default);
        var decided = await Standing.Follow(Now, default);
        var atRisk = (await AtRisk()).Where(b => !before.Contains(b.Id)).ToList();
        atRisk.Count.ShouldBeGreaterThan(3);
        atRisk.ShouldAllBe(b => b.MachineId == "heron");
        decided.ShouldBeGreaterThanOrEqualTo(atRisk.Count);
        atRisk.ShouldContain(b => b.Id == _booking);
    }

    [Fact]
    public async Task Follow_TwoInstancesAtOnce_DoTheWorkOnce()
    {
        await new HouseStore(_db.App).Stop("heron", "m-5", "Smoke.", Now, default);
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Standing.Follow(Now, default)));
        await Standing.Follow(Now, default);
        (await Messages()).Count.ShouldBe(1);
    }
}
