using System.Net;
using System.Text.Json;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Ledger;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>Tuesday 24 November, 10:15: the pins of Heron, handed out and back.</summary>
public sealed class FixturesTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private static async Task<JsonElement> Pins(Api api) =>
        (await api.Get("/api/fixtures")).Body.GetProperty("items").EnumerateArray().Single(f => f.GetProperty("id").GetString() == "pins");

    private static async Task<string> State(Api api) => (await Pins(api)).GetProperty("state").GetString()!;

    private static Dictionary<string, object?> WithPins(string start) => Questions.Open(start).With("fixture", "pins");

    private static async Task<IReadOnlyList<string>> Ask(Api api, string start) =>
        (await api.Post("/api/gate/ask?soonest=false", WithPins(start))).Codes;

    [Fact]
    public async Task HandedOut_BackDamaged_AndPutRight_IsWhatTheGateSays()
    {
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        using var steward = await _house.As("steward");
        var tomorrow = WebHouse.At(1, 14);
        (await State(member)).ShouldBe("here");
        (await member.Post("/api/fixtures/pins/out")).Code.ShouldBe("fixture.notBooked");
        (await steward.Post("/api/fixtures/pins/out", new { memberId = "m-3", due = WebHouse.At(1, 16) })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Ask(member, tomorrow)).ShouldContain("fixture.out");
        (await Ask(member, WebHouse.At(1, 16))).ShouldNotContain("fixture.out");
        (await Ask(trainer, tomorrow)).ShouldContain("fixture.out", "asked for the member, who does not have it");
        (await Pins(steward)).GetProperty("with").GetString().ShouldBe("Bartek Quill");
        (await Pins(member)).TryGetProperty("with", out _).ShouldBeFalse("who has it is nobody else’s business");
        (await steward.Post("/api/fixtures/pins/out", new { memberId = "m-4" })).Code.ShouldBe("fixture.out");
        (await member.Post("/api/fixtures/pins/back")).Code.ShouldBe("fixture.others");

        (await trainer.Post("/api/fixtures/pins/back", new { damaged = true })).Fields.ShouldBe(["note"]);
        (await trainer.Post("/api/fixtures/pins/back", new { damaged = true, note = "One pin is bent." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await trainer.Post("/api/fixtures/pins/back")).Code.ShouldBe("fixture.here");
        (await State(member)).ShouldBe("damaged");
        (await Ask(member, WebHouse.At(3, 14))).ShouldContain("fixture.out");
        (await steward.Post("/api/fixtures/pins/out", new { memberId = "m-4" })).Code.ShouldBe("fixture.damaged");
        (await steward.Get("/api/watch")).Body.ToString().ShouldContain("One pin is bent.");

        (await steward.Post("/api/fixtures/pins/right")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Post("/api/fixtures/pins/right")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Ask(member, tomorrow)).ShouldNotContain("fixture.out");
        (await steward.Post("/api/fixtures/grapple/out", new { memberId = "m-4" })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Post("/api/fixtures/pins/out", new { memberId = "m-4", due = WebHouse.At(-1, 9) })).Fields.ShouldBe(["due"]);
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task NotBack_IsANeed_OfStaffAndOfWhoHasIt()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        (await steward.Post("/api/fixtures/pins/out", new { memberId = "m-4", due = WebHouse.At(0, 12) })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        _house.Clock.Now += Duration.FromHours(3);
        (await State(member)).ShouldBe("overdue");
        (await Needs(steward)).ShouldContain("fixtureOverdue");
        (await Needs(member)).ShouldContain("fixtureOverdue");
        using var trainer = await _house.As("trainer");
        (await trainer.Post("/api/gate/ask?soonest=false", WithPins(WebHouse.At(1, 11)).With("memberId", "m-3"))).Codes.ShouldContain(
            "fixture.overdue"
        );
        (await member.Post("/api/fixtures/pins/back")).Status.ShouldBe(HttpStatusCode.NoContent, "whoever has it writes it down");

        static async Task<IReadOnlyList<string>> Needs(Api api) =>
            [.. (await api.Get("/api/watch")).Body.GetProperty("needs").EnumerateArray().Select(n => n.GetProperty("kind").GetString()!)];
    }

    /// <summary>Whoever has the booking has the fixture: for as long as it lasts, and whoever it is handed to.</summary>
    [Fact]
    public async Task WhatIsOutForABooking_IsDueWithIt_AndGoesWithIt()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        var booked = await member.Post("/api/bookings", WithPins(WebHouse.At(2, 14)));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        _house.Clock.Now = Instant.FromUtc(2026, 11, 26, 13, 45);
        (await member.Post("/api/fixtures/pins/out")).Status.ShouldBe(HttpStatusCode.NoContent, "theirs begins soon");
        (await Pins(member)).GetProperty("due").GetString().ShouldBe("2026-11-26T15:15:00Z");
        (await member.Post($"/api/bookings/{booked.Id}/extend", new { minutes = 15 })).Status.ShouldBe(HttpStatusCode.OK);
        (await Pins(member)).GetProperty("due").GetString().ShouldBe("2026-11-26T15:30:00Z");
        var handed = await steward.Post($"/api/bookings/{booked.Id}/hand-over", new { memberId = "m-3" });
        handed.Status.ShouldBe(HttpStatusCode.OK, handed.Body.ToString());
    }

    [Fact]
    public async Task TwoHandsAtOnce_HandItOutOnce()
    {
        using var steward = await _house.As("steward");
        var out_ = await Task.WhenAll(
            Enumerable.Range(2, 4).Select(n => steward.Post("/api/fixtures/pins/out", new { memberId = $"m-{n}" }))
        );
        out_.Count(o => o.Status == HttpStatusCode.NoContent).ShouldBe(1);
        out_.Where(o => o.Status != HttpStatusCode.NoContent).ShouldAllBe(o => o.Code == "fixture.out");
    }

    /// <summary>The only bench of the house, behind a run of Heron; taken once, moved with it, and given back with it.</summary>
    [Fact]
    public async Task ABench_IsHeldWithTheBooking_AllOrNothing_AndMovesWithIt()
    {
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        var start = await member.FreeStart(fromDay: 2);
        var booked = await member.Post("/api/bookings", Questions.Open(start).With("bench", new { minutes = 45 }));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        var (from, to) = await Bench(booked.Id);
        from.ShouldBe(Read(start) + Duration.FromMinutes(75));
        (to - from).ShouldBe(Duration.FromMinutes(45));

        var other = Questions.Open(start).With("memberId", "m-3").With("machineId", "wren").With("sheetTag", "S-0097");
        var asked = await trainer.Post("/api/bookings", other.With("bench", new { }));
        asked.Codes.ShouldContain("bench.taken");
        await using var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (await connection.QuerySingleAsync<int>("select count(*)::int from booking.bench")).ShouldBe(1);
        (await member.Post("/api/bookings", Questions.Open(start).With("bench", new { minutes = 0 }))).Fields.ShouldBe(["bench.minutes"]);
        (await member.Post("/api/bookings", Questions.Open(start).With("bench", new { start = "later" }))).Fields.ShouldBe(["bench.start"]);

        var later = await member.FreeStart(fromDay: 3);
        var moved = await member.Post($"/api/bookings/{booked.Id}/move", new { start = later });
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body.ToString());
        (await Bench(booked.Id)).From.ShouldBe(Read(later) + Duration.FromMinutes(75));
        (await member.Post($"/api/bookings/{booked.Id}/extend", new { minutes = 15 })).Status.ShouldBe(HttpStatusCode.OK);
        (await Bench(booked.Id)).From.ShouldBe(Read(later) + Duration.FromMinutes(90));

        (await member.Post($"/api/bookings/{booked.Id}/cancel")).Status.ShouldBe(HttpStatusCode.OK);
        (
            await connection.QuerySingleAsync<int>("select count(*)::int from booking.claim where live and starts_with(resource, 'bench:')")
        ).ShouldBe(0);
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    private static Instant Read(string at) =>
        Instant.FromDateTimeOffset(DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture));

    private async Task<(Instant From, Instant To)> Bench(string booking)
    {
        await using var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        return await connection.QuerySingleAsync<(Instant, Instant)>(
            """
            select lower(n.during), upper(n.during) from booking.bench n join booking.claim c on c.bench_id = n.id and c.live
            where n.booking_id = @id and n.ended_at is null
            """,
            new { id = Guid.Parse(booking) }
        );
    }
}
