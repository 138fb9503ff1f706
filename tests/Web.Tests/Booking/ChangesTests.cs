using System.Net;
using Shouldly;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>Bookings that are moved, made longer, swapped and handed over; what is refused leaves them as they were.</summary>
public sealed class ChangesTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private static string At(int hour, int minute = 0) => WebHouse.At(3, hour, minute);

    /// <summary>Weeks in which nobody has anything.</summary>
    private async Task<Api> Clear()
    {
        var steward = await _house.As("steward");
        var day = await steward.Get("/api/bookings?from=2026-11-24T11:00:00Z&to=2026-12-16T00:00:00Z");
        foreach (var booking in day.Body.GetProperty("items").EnumerateArray())
            await steward.Post($"/api/bookings/{booking.GetProperty("id").GetString()}/cancel");
        return steward;
    }

    private static async Task<Answer> Book(Api api, string member, string start)
    {
        var booked = await api.Post("/api/bookings", Questions.Open(start).With("memberId", member));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        return booked;
    }

    private static async Task<string> StartOf(Api api, string id) =>
        (await api.Get("/api/bookings?from=2026-11-27T00:00:00Z&to=2026-11-28T00:00:00Z"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(b => b.GetProperty("id").GetString() == id)
            .GetProperty("start")
            .GetString()!;

    [Fact]
    public async Task Move_ToAFreeTime_HoldsIt_AndLetsTheOldOneGo()
    {
        using var steward = await Clear();
        using var member = await _house.As("member");
        var mine = await Book(member, "m-4", At(12));
        // A quarter of an hour on: it overlaps only itself.
        var moved = await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(12, 15) });
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body.ToString());
        moved.Body.GetProperty("start").GetString().ShouldBe("2026-11-27T12:15:00Z");
        moved.Body.GetProperty("end").GetString().ShouldBe("2026-11-27T13:30:00Z");
        (await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(16), machineId = "swift" })).Status.ShouldBe(
            HttpStatusCode.UnprocessableEntity,
            "not certified there"
        );
        await Book(steward, "m-2", At(11));
        (await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(10, 30) })).Code.ShouldBe("move.taken");
        (await StartOf(member, mine.Id)).ShouldBe("2026-11-27T12:15:00Z", "the old time stands");
        var shut = await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(23) });
        (shut.Code, shut.Codes.Contains("time.closed")).ShouldBe(("move.shut", true));
        (await member.Post($"/api/bookings/{mine.Id}/move", new { start = "tomorrow" })).Fields.ShouldBe(["start"]);
        (await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(16), machineId = "owl" })).Fields.ShouldBe(["machineId"]);
        using var other = await _house.As("newcomer");
        (await other.Post($"/api/bookings/{mine.Id}/move", new { start = At(16) })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    /// <summary>Two windows move one booking: the second is told that it looked at what is no more.</summary>
    [Fact]
    public async Task Move_FromTwoWindows_TheSecondIsToldOfTheFirst()
    {
        (await Clear()).Dispose();
        using var member = await _house.As("member");
        var mine = await Book(member, "m-4", At(12));
        var version = mine.Body.GetProperty("version").GetInt32();
        var both = await Task.WhenAll(
            member.Post($"/api/bookings/{mine.Id}/move", new { start = At(14), version }),
            member.Post($"/api/bookings/{mine.Id}/move", new { start = At(16), version })
        );
        both.Count(b => b.Status == HttpStatusCode.OK).ShouldBe(1);
        both.Single(b => b.Status != HttpStatusCode.OK).Code.ShouldBe("booking.changed");
    }

    /// <summary>Many want to move to one time at once: one gets it, the others keep what they have.</summary>
    [Fact]
    public async Task Move_ManyToOneTime_OneGetsIt()
    {
        using var steward = await Clear();
        var held = new List<(string Id, string Was)>();
        foreach (var (member, hour) in new[] { ("m-4", 10), ("m-2", 12), ("m-3", 14) })
        {
            var booked = await Book(steward, member, At(hour));
            held.Add((booked.Id, booked.Body.GetProperty("start").GetString()!));
        }
        var moved = await Task.WhenAll(held.Select(h => steward.Post($"/api/bookings/{h.Id}/move", new { start = At(17) })));
        moved.Count(m => m.Status == HttpStatusCode.OK).ShouldBe(1, string.Join(' ', moved.Select(m => m.Body)));
        foreach (var (h, m) in held.Zip(moved).Where(p => p.Second.Status != HttpStatusCode.OK))
        {
            m.Code.ShouldBe("move.taken");
            (await StartOf(steward, h.Id)).ShouldBe(h.Was);
        }
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Extend_AsFarAsItIsFree_AlsoWhileItRuns()
    {
        using var steward = await Clear();
        using var member = await _house.As("member");
        var mine = await Book(member, "m-4", At(12));
        await Book(steward, "m-2", At(13, 45));
        (await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 30 })).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 15 })).Code.ShouldBe("move.taken");
        (await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 0 })).Fields.ShouldBe(["minutes"]);
        (await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 7.5 })).Fields.ShouldBe(["minutes"]);
        (await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 120 })).Codes.ShouldContain("time.limit");

        var late = await Book(steward, "m-4", At(16));
        _house.Clock.Now = NodaTime.Instant.FromUtc(2026, 11, 27, 17, 0);
        var longer = await member.Post($"/api/bookings/{late.Id}/extend", new { minutes = 15 });
        longer.Status.ShouldBe(HttpStatusCode.UnprocessableEntity, "three hours a day: 105 and 90 minutes are more");
        longer.Detail.ShouldContain("3 hours a day");
        (await member.Post($"/api/bookings/{late.Id}/move", new { start = At(18) })).Code.ShouldBe("move.begun");
        (await steward.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 15 })).Code.ShouldBe("booking.over");
        _house.Clock.Now = TestDatabase.Now;
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Extend_WhileItRuns_ReachesFurther()
    {
        (await Clear()).Dispose();
        using var member = await _house.As("member");
        var mine = await Book(member, "m-4", At(12));
        _house.Clock.Now = NodaTime.Instant.FromUtc(2026, 11, 27, 13, 0);
        var longer = await member.Post($"/api/bookings/{mine.Id}/extend", new { minutes = 30 });
        longer.Status.ShouldBe(HttpStatusCode.OK, longer.Body.ToString());
        longer.Body.GetProperty("end").GetString().ShouldBe("2026-11-27T13:45:00Z");
        longer.Body.GetProperty("parts").EnumerateArray().Sum(p => p.GetProperty("minutes").GetDecimal()).ShouldBe(105);
        _house.Clock.Now = TestDatabase.Now;
    }

    [Fact]
    public async Task HandOver_ToWhoMay_AndNotAWordAboutWhoMayNot()
    {
        using var steward = await Clear();
        using var member = await _house.As("member");
        var mine = await Book(member, "m-4", At(12));
        var shut = await member.Post($"/api/bookings/{mine.Id}/hand-over", new { memberId = "m-5" });
        (shut.Code, shut.Body.TryGetProperty("posts", out _)).ShouldBe(("handOver.shut", false), "why is theirs to read");
        (await steward.Post($"/api/bookings/{mine.Id}/hand-over", new { memberId = "m-5" })).Codes.ShouldContain("training.none");
        (await member.Post($"/api/bookings/{mine.Id}/hand-over", new { memberId = "m-4" })).Fields.ShouldBe(["memberId"]);
        (await member.Post($"/api/bookings/{mine.Id}/hand-over", new { })).Fields.ShouldBe(["memberId"]);
        (await member.Post($"/api/bookings/{mine.Id}/hand-over", new { memberId = "m-3" })).Status.ShouldBe(HttpStatusCode.OK);
        using var trainer = await _house.As("trainer");
        (await trainer.Get("/api/messages")).Body.ToString().ShouldContain("was handed to you");
        (await member.Post($"/api/bookings/{mine.Id}/move", new { start = At(14) })).Status.ShouldBe(HttpStatusCode.NotFound);
        await Book(member, "m-4", At(14));
    }

    [Fact]
    public async Task Swap_OnlyWithTheOthersWord_AndBothHoldTheirNewTimes()
    {
        (await Clear()).Dispose();
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        var mine = await Book(member, "m-4", At(12));
        var theirs = await Book(trainer, "m-3", At(16));
        (await trainer.Post($"/api/bookings/{theirs.Id}/swap/agree")).Code.ShouldBe("swap.none");
        (await member.Post($"/api/bookings/{mine.Id}/swap", new { withBookingId = mine.Id })).Fields.ShouldBe(["withBookingId"]);
        (await member.Post($"/api/bookings/{mine.Id}/swap", new { withBookingId = theirs.Id })).Status.ShouldBe(HttpStatusCode.Created);
        (await StartOf(member, mine.Id)).ShouldBe("2026-11-27T12:00:00Z", "nothing changes before they agree");
        (await member.Post($"/api/bookings/{theirs.Id}/swap/agree")).Status.ShouldBe(HttpStatusCode.NotFound, "nobody agrees for others");
        var waits = (await trainer.Get("/api/swaps")).Body.GetProperty("items")[0];
        (waits.GetProperty("bookingId").GetString(), waits.GetProperty("start").GetString()).ShouldBe((theirs.Id, "2026-11-27T12:00:00Z"));
        (await trainer.Post($"/api/bookings/{theirs.Id}/swap/agree")).Status.ShouldBe(HttpStatusCode.OK);
        (await StartOf(member, mine.Id)).ShouldBe("2026-11-27T16:00:00Z");
        (await StartOf(member, theirs.Id)).ShouldBe("2026-11-27T12:00:00Z");
        (await trainer.Post($"/api/bookings/{theirs.Id}/swap/agree")).Code.ShouldBe("swap.none");
        (await trainer.Get("/api/swaps")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }
}
