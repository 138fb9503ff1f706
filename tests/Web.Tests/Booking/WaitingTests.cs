using System.Net;
using Dapper;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Ledger;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>
/// Thursday 26 November on Heron: 12:45 to 14:15 is a steward’s, who does not come; two people wait for the rest of the noon.
/// </summary>
public sealed class WaitingTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private static Instant At(int hour, int minute) => Instant.FromUtc(2026, 11, 26, hour, minute);

    private static Dictionary<string, object?> Job(string member, decimal run) =>
        Questions
            .Open(WebHouse.At(2, 12, 45))
            .With("memberId", member)
            .With("runMinutes", run)
            .With("minutes", null)
            .With("machineId", null)
            .With("machineIds", new[] { "heron" })
            .With("from", WebHouse.At(2, 12, 45))
            .With("to", WebHouse.At(2, 15));

    /// <summary>The week is given back by a steward, each booking as anybody would.</summary>
    private async Task<Api> Clear()
    {
        var steward = await _house.As("steward");
        var week = await steward.Get("/api/bookings?from=2026-11-24T11:00:00Z&to=2026-12-01T00:00:00Z");
        foreach (var booking in week.Body.GetProperty("items").EnumerateArray())
            await steward.Post($"/api/bookings/{booking.GetProperty("id").GetString()}/cancel");
        return steward;
    }

    private Task<int> Round(Instant now)
    {
        _house.Clock.Now = now;
        return _house.Services.GetRequiredService<OfferRound>().Once(now, default);
    }

    private static async Task<(string Id, string Start, string End, string Until)?> Offer(Api api)
    {
        var items = (await api.Get("/api/waiting")).Body.GetProperty("items").EnumerateArray().ToList();
        var offer = items.Count > 0 && items[0].TryGetProperty("offer", out var there) ? there : default;
        return offer.ValueKind != System.Text.Json.JsonValueKind.Object ? null : (Of("id"), Of("start"), Of("end"), Of("until"));

        string Of(string name) => offer.GetProperty(name).GetString()!;
    }

    /// <summary>What is offered now, or in a moment: the server makes offers by itself too, one of both at a time.</summary>
    private static async Task<(string Id, string Start, string End, string Until)> Offered(Api api)
    {
        for (var i = 0; i < 100; i++)
        {
            if (await Offer(api) is { } offer)
                return offer;
            await Task.Delay(100);
        }
        throw new InvalidOperationException("Nothing is offered.");
    }

    private static string Z(int hour, int minute) => $"2026-11-26T{hour:00}:{minute:00}:00Z";

    [Fact]
    public async Task NoShow_GoesToWhoWaitedLongest_ThenSilentToTheNext()
    {
        using var steward = await Clear();
        using var b = await _house.As("trainer");
        using var a = await _house.As("member");
        var missed = await steward.Post(
            "/api/bookings",
            Questions.Open(WebHouse.At(2, 12, 45)).With("memberId", "m-2").With("minutes", 90)
        );
        missed.Status.ShouldBe(HttpStatusCode.Created, missed.Body.ToString());
        var first = await b.Post("/api/waiting", Job("m-3", 25));
        first.Status.ShouldBe(HttpStatusCode.Created, first.Body.ToString());
        _house.Clock.Now += Duration.FromMinutes(30);
        (await a.Post("/api/waiting", Job("m-4", 10))).Status.ShouldBe(HttpStatusCode.Created);
        (await Round(At(12, 50))).ShouldBe(0, "it is not free yet");

        _house.Clock.Now = At(13, 0);
        (await steward.Post($"/api/bookings/{missed.Id}/release")).Status.ShouldBe(HttpStatusCode.OK);
        await Round(At(13, 0));
        var toB = await Offered(b);
        (toB.Start, toB.End, toB.Until).ShouldBe((Z(13, 15), Z(14, 45), Z(13, 15)));
        (await Offer(a)).ShouldBeNull();
        (await b.Get("/api/messages")).Body.ToString().ShouldContain("A time is free for you: Heron");
        // What is kept for one is nobody else’s.
        (await steward.Post("/api/bookings", Questions.Open(WebHouse.At(2, 13, 15)).With("memberId", "m-2"))).Code.ShouldBe("time.taken");

        await Round(At(13, 15));
        (await b.Post($"/api/offers/{toB.Id}/take")).Code.ShouldBe("offer.over");
        var toA = await Offered(a);
        (toA.Start, toA.End, toA.Until).ShouldBe((Z(13, 30), Z(14, 30), Z(13, 30)));
        (await b.Post($"/api/offers/{toA.Id}/take")).Status.ShouldBe(HttpStatusCode.NotFound, "an offer is one person’s");

        _house.Clock.Now = At(13, 20);
        var both = await Task.WhenAll(a.Post($"/api/offers/{toA.Id}/take"), a.Post($"/api/offers/{toA.Id}/take"));
        both.ShouldAllBe(t => t.Status == HttpStatusCode.OK);
        both[0].Id.ShouldBe(both[1].Id, "pressed twice, booked once");
        (await a.Get("/api/waiting")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
        (await Offer(b)).ShouldBeNull("and the trainer waits on");
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task FewestHours_AreAskedFirst_WhereTheHouseSaysSo()
    {
        using var steward = await Clear();
        await using (var connection = await _house.Db.Owner.OpenConnectionAsync())
            await connection.ExecuteAsync("update house.rules set body = jsonb_set(body, '{waitingOrder}', '\"fewestHours\"')");
        using var b = await _house.As("trainer");
        using var a = await _house.As("member");
        (await b.Post("/api/bookings", Questions.Open(WebHouse.At(3, 12)).With("memberId", "m-3"))).Status.ShouldBe(HttpStatusCode.Created);
        var held = await steward.Post("/api/bookings", Questions.Open(WebHouse.At(2, 12, 45)).With("memberId", "m-2").With("minutes", 90));
        await b.Post("/api/waiting", Job("m-3", 10));
        await a.Post("/api/waiting", Job("m-4", 10));
        (await steward.Post($"/api/bookings/{held.Id}/cancel")).Status.ShouldBe(HttpStatusCode.OK);
        await Round(_house.Clock.Now);
        await Offered(a);
    }

    /// <summary>Whoever was offered a time and may not run any more reads why, and the time goes on to the next.</summary>
    [Fact]
    public async Task Take_AfterTheCertificateLapsed_IsRefused_AndDeclinedGoesOn()
    {
        using var steward = await Clear();
        using var b = await _house.As("trainer");
        using var a = await _house.As("member");
        var held = await steward.Post("/api/bookings", Questions.Open(WebHouse.At(2, 12, 45)).With("memberId", "m-2").With("minutes", 90));
        await a.Post("/api/waiting", Job("m-4", 10));
        await b.Post("/api/waiting", Job("m-3", 25));
        await steward.Post($"/api/bookings/{held.Id}/cancel");
        await Round(_house.Clock.Now);
        var offer = await Offered(a);
        offer.Start.ShouldBe(Z(12, 45));
        (await Offer(b)).ShouldBeNull();
        (await steward.Post("/api/people/m-4/pauses", new { reason = "Left a running laser." })).Status.ShouldBe(HttpStatusCode.Created);
        var refused = await a.Post($"/api/offers/{offer.Id}/take");
        refused.Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused.Codes.ShouldContain("person.paused");
        (await a.Post($"/api/offers/{offer.Id}/decline")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await a.Post($"/api/offers/{offer.Id}/decline")).Status.ShouldBe(HttpStatusCode.NotFound);
        await Round(_house.Clock.Now);
        (await Offered(b)).Start.ShouldBe(Z(12, 45));
    }

    [Fact]
    public async Task Add_WhatWaitingCannotHelp_SaysSo()
    {
        (await Clear()).Dispose();
        using var member = await _house.As("member");
        var free = await member.Post("/api/waiting", Job("m-4", 10));
        (free.Code, free.Detail.Contains("Heron, Thu 26 Nov 12:45", StringComparison.Ordinal)).ShouldBe(
            ("waiting.open", true),
            free.Detail
        );
        (await member.Post("/api/waiting", Job("m-4", 10).With("materialId", "pvc-sheet").With("sheetTag", null))).Code.ShouldBe(
            "waiting.shut"
        );
        (await member.Post("/api/waiting", Job("m-4", 10).With("to", WebHouse.At(2, 12)))).Fields.ShouldBe(["to"]);
        (await member.Post("/api/waiting", Job("m-4", 10).With("to", null))).Fields.ShouldBe(["to"]);
        (await member.Post("/api/waiting", Job("m-4", 10).With("machineIds", new[] { "owl" }))).Fields.ShouldBe(["machineIds"]);
        (await member.Post("/api/waiting", Job("m-3", 10))).Status.ShouldBe(HttpStatusCode.Forbidden);
    }
}
