using Dapper;
using Npgsql;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Booking;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Booking;

public sealed class ClaimTests : IAsyncLifetime
{
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task<BookingOutcome> Book(GateQuestion ask, Guid? id = null) =>
        await new BookingStore(_db.App).Book(id ?? Guid.NewGuid(), ask, ask.MemberId, TestDatabase.Now, default);

    [Fact]
    public async Task Book_OpenGate_StoresBookingClaimsAndEntryTogether()
    {
        var booked = (await Book(await Questions.FreeOnHeron(_db))).ShouldBeOfType<BookingOutcome.Booked>().Booking;
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await connection.QueryAsync<string>("select resource from booking.claim where booking_id = @Id order by 1", new { booked.Id })
        ).ShouldBe([$"attend:{Questions.Member}", "machine:heron"]);
        (await connection.ExecuteScalarAsync<string>("select kind from ledger.entry order by seq desc limit 1")).ShouldBe("booking.made");
        booked.Parts.Sum(p => p.Minutes).ShouldBe(booked.Minutes);
    }

    /// <summary>Neither the time nor the machine of a booking is parted from what it holds, whatever the application does.</summary>
    [Theory]
    [InlineData("during = tstzrange(lower(during) + interval '1 hour', upper(during) + interval '1 hour')")]
    [InlineData("machine_id = 'wren'")]
    public async Task Booking_PartedFromItsClaims_IsRefusedByTheDatabase(string change)
    {
        var booked = (await Book(await Questions.FreeOnHeron(_db))).ShouldBeOfType<BookingOutcome.Booked>().Booking;
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await Should.ThrowAsync<PostgresException>(() =>
                connection.ExecuteAsync($"update booking.booking set {change} where id = @Id", new { booked.Id })
            )
        ).SqlState.ShouldBe(PostgresErrorCodes.CheckViolation);
    }

    [Fact]
    public async Task Book_SameIdAgain_IsTheSameBooking()
    {
        var ask = await Questions.FreeOnHeron(_db);
        var id = Guid.NewGuid();
        (await Book(ask, id)).ShouldBeOfType<BookingOutcome.Booked>().Again.ShouldBeFalse();
        (await Book(ask, id)).ShouldBeOfType<BookingOutcome.Booked>().Again.ShouldBeTrue();
        (await Book(ask with { Minutes = ask.Minutes + 15 }, id)).ShouldBeOfType<BookingOutcome.IdUsed>();
    }

    [Fact]
    public async Task Book_SimultaneousForOneSlot_ExactlyOneIsStored()
    {
        var ask = await Questions.FreeOnHeron(_db);
        string[] people = [Questions.Member, .. (await Questions.CertifiedOn(_db, "heron", ask)).Take(30)];
        var outcomes = await Task.WhenAll(people.Select(p => Book(ask with { MemberId = p })));
        outcomes.OfType<BookingOutcome.Booked>().Count().ShouldBe(1);
        outcomes.Count(o => o is BookingOutcome.Booked or BookingOutcome.Taken).ShouldBe(outcomes.Length);
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from booking.claim where resource = 'machine:heron' and live and during && tstzrange(@Start, @End)",
                new { ask.Start, ask.End }
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task Book_OnePersonOnTwoMachinesAtOnce_OneIsRefused()
    {
        var heron = await Questions.FreeOnHeron(_db, alsoFree: "wren");
        var wren = heron with { MachineId = "wren" };
        var outcomes = await Task.WhenAll(Book(heron), Book(wren));
        outcomes.OfType<BookingOutcome.Booked>().Count().ShouldBe(1);
        outcomes.OfType<BookingOutcome.Taken>().Count().ShouldBe(1);
    }

    [Fact]
    public async Task Cancel_GivesTheTimeBack_AndKeepsTheBooking()
    {
        var store = new BookingStore(_db.App);
        var ask = await Questions.FreeOnHeron(_db);
        var id = ((BookingOutcome.Booked)await Book(ask)).Booking.Id;
        (await store.Cancel(id, "m-5", false, null, TestDatabase.Now, default)).Refusal!.Code.ShouldBe("notFound");
        (await store.Cancel(id, Questions.Member, false, "Rain", TestDatabase.Now, default)).IsOk.ShouldBeTrue();
        (await Book(ask)).ShouldBeOfType<BookingOutcome.Booked>().Again.ShouldBeFalse();
        (await store.Between(ask.Start, ask.End, null, default)).Count(b => b.MachineId == "heron").ShouldBe(1);
    }

    /// <summary>Even code that asks nothing first cannot store the double: the constraint stands in the database.</summary>
    [Theory]
    [InlineData(
        "select booking_id, resource, during, recorded from booking.claim where live limit 1",
        PostgresErrorCodes.ExclusionViolation
    )]
    [InlineData(
        "select booking_id, resource, tstzrange(lower(during), lower(during)), recorded from booking.claim limit 1",
        PostgresErrorCodes.CheckViolation
    )]
    [InlineData(
        "select booking_id, resource, tstzrange(lower(during), null), recorded from booking.claim limit 1",
        PostgresErrorCodes.CheckViolation
    )]
    [InlineData(
        "select booking_id, resource, tstzrange(lower(during), upper(during), '[]'), recorded from booking.claim limit 1",
        PostgresErrorCodes.CheckViolation
    )]
    [InlineData(
        "select booking_id, 'fixture:rotary', tstzrange(lower(during), upper(during) + interval '1 hour'), recorded from "
            + "booking.claim limit 1",
        PostgresErrorCodes.CheckViolation
    )]
    public async Task Claim_RawInsertOfADoubleOrAnEmptyRange_IsRefused(string select, string state)
    {
        await using var connection = await _db.App.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into booking.resource values ('fixture:rotary') on conflict do nothing");
        (
            await Should.ThrowAsync<PostgresException>(() =>
                connection.ExecuteAsync($"insert into booking.claim (booking_id, resource, during, recorded) {select}")
            )
        ).SqlState.ShouldBe(state);
    }
}
