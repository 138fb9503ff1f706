using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Gate;

public sealed class StewardRequestStoreTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private TestDatabase _db = null!;

    private StewardRequestStore Store => new(_db.App);

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    /// <summary>An ask that only a steward can open: the member's plywood without its tag.</summary>
    private async Task<(Guid Id, GateQuestion Ask)> Put()
    {
        var ask = await Questions.FreeOnHeron(_db);
        ask = ask with { Items = [ask.Items[0] with { SheetTag = null }] };
        (await Questions.Verdict(_db, ask)).ShouldBe(Verdict.Ask);
        var facts = await new FactLoader(_db.App).Load(ask, Now, null, null, default);
        return (await Store.Add(ask, facts.Value, "Same sheet as last week.", Now, default), ask);
    }

    private async Task<Result<string>> Answer(
        Guid id,
        StewardReply kind,
        string by = "m-2",
        Instant? at = null,
        bool steward = true,
        bool countersigner = false
    ) => await Store.Answer(id, kind, by, steward, countersigner, "Seen the sheet and its invoice.", at ?? Now, default);

    private async Task<BookingOutcome> Book(GateQuestion ask) =>
        await new BookingStore(_db.App).Book(Guid.NewGuid(), ask, ask.MemberId, Now, default);

    [Fact]
    public async Task Lift_OpensTheGateForOneBooking_AndTellsThePerson()
    {
        var (id, ask) = await Put();
        (await Book(ask)).ShouldBeOfType<BookingOutcome.Refused>();
        (await Answer(id, StewardReply.Lift)).Value.ShouldBe("lifted");
        (await Questions.Decide(_db, ask)).Lifted.ShouldBe([id]);
        var first = ((BookingOutcome.Booked)await Book(ask with { Minutes = 75 })).Booking;
        (await Questions.Decide(_db, ask)).Lifted.ShouldBeEmpty("it is used");
        (await new MessageStore(_db.App).Of(ask.MemberId, 10, default))
            .ShouldHaveSingleItem()
            .Title.ShouldContain("let your request through");
        await new BookingStore(_db.App).Cancel(first.Id, ask.MemberId, false, null, Now, default);
        (await Questions.Decide(_db, ask)).Lifted.ShouldBe([id], "a cancelled booking did not use it");
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task TakeBack_ShutsItAgain_AndAsOfThenItStillHolds()
    {
        var (id, ask) = await Put();
        await Answer(id, StewardReply.Lift);
        (await Answer(id, StewardReply.TakeBack, at: Now + Duration.FromMinutes(10))).Value.ShouldBe("takenBack");
        (await Questions.Verdict(_db, ask)).ShouldBe(Verdict.Ask);
        (await Questions.Decide(_db, ask, knownAt: Now + Duration.FromMinutes(5))).Verdict.ShouldBe(Verdict.Conditions);
        (await Answer(id, StewardReply.TakeBack)).Refusal!.Code.ShouldBe("ask.answered");
    }

    [Fact]
    public async Task Refuse_IsFinal()
    {
        var (id, _) = await Put();
        (await Answer(id, StewardReply.Refuse)).Value.ShouldBe("refused");
        (await Answer(id, StewardReply.Lift)).Refusal!.Code.ShouldBe("ask.answered");
        (await Store.Waiting(Now, default)).ShouldNotContain(a => a.Id == id);
    }

    [Fact]
    public async Task Lift_ByOneself_OrOfAGateThatIsShut_IsRefused()
    {
        var (id, ask) = await Put();
        (await Answer(id, StewardReply.Lift, by: ask.MemberId.Value)).Refusal!.Code.ShouldBe("ask.self");
        (await Answer(id, StewardReply.Lift, by: "m-8", steward: false, countersigner: true)).Refusal!.Code.ShouldBe("ask.notYours");
        await new PeopleStore(_db.App).Pause(ask.MemberId, "m-2", "A word.", null, Now, default);
        (await Answer(id, StewardReply.Lift)).Refusal!.Code.ShouldBe("ask.shut");
    }

    [Fact]
    public async Task Answer_TwoStewardsAtOnce_OneCounts()
    {
        var (id, _) = await Put();
        var answers = await Task.WhenAll(Answer(id, StewardReply.Lift, "m-2"), Answer(id, StewardReply.Refuse, "m-6"));
        answers.Count(a => a.IsOk).ShouldBe(1);
        answers.Single(a => !a.IsOk).Refusal!.Code.ShouldBe("ask.answered");
    }

    [Fact]
    public async Task Expire_ThirtyMinutesBefore_RefusesOnceThoughSeveralTry()
    {
        var (id, ask) = await Put();
        var late = ask.Start - Duration.FromMinutes(30);
        await Store.Expire(late - Duration.FromSeconds(1), default);
        (await Store.Find(id, default))!.State.ShouldBe("waiting");
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Store.Expire(late, default)));
        (await Store.Find(id, default))!.State.ShouldBe("expired");
        (await new MessageStore(_db.App).Of(ask.MemberId, 10, default))
            .Count(m => m.Title.Contains("not answered", StringComparison.Ordinal))
            .ShouldBe(1);
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from ledger.entry where kind = 'gate.expired' and body like @like",
                new { like = $"%{id}%" }
            )
        ).ShouldBe(1);
    }
}
