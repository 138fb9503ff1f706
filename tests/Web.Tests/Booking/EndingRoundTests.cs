using System.Net;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Booking;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>Thursday 26 November on Heron: the member from 12:45 to 14:00, the trainer right after.</summary>
public sealed class EndingRoundTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private Task Round(int hour, int minute)
    {
        _house.Clock.Now = Instant.FromUtc(2026, 11, 26, hour, minute);
        return _house.Services.GetRequiredService<EndingRound>().Once(_house.Clock.Now, default);
    }

    private static async Task<int> Told(Api api, string title) =>
        (await api.Get("/api/messages")).Body.GetProperty("items").EnumerateArray().Count(m => m.GetProperty("title").GetString() == title);

    [Fact]
    public async Task TenMinutesBeforeTheEnd_BothHear_Once_AndOnlyWhileSomebodyIsThere()
    {
        const string ends = "Your time on Heron ends at 14:00";
        const string inUse = "Heron is still in use";
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        var mine = await member.Post("/api/bookings", Questions.Open(WebHouse.At(2, 12, 45)));
        mine.Status.ShouldBe(HttpStatusCode.Created, mine.Body.ToString());
        var next = await trainer.Post("/api/bookings", Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-3"));
        next.Status.ShouldBe(HttpStatusCode.Created, next.Body.ToString());
        var listed = (await member.Get("/api/bookings?from=2026-11-26T12:00:00Z&to=2026-11-26T15:00:00Z&mine=true")).Body.GetProperty(
            "items"
        )[0];
        listed.GetProperty("next").GetProperty("says").GetString()!.ShouldStartWith("The next comes at 14:00.");
        listed.GetProperty("runs")[0].GetProperty("tag").GetString().ShouldBe("S-0097");

        await Round(13, 55);
        (await Told(member, ends)).ShouldBe(0, "nobody has come");
        // The server looks by itself too: whoever comes, comes in time.
        _house.Clock.Now = Instant.FromUtc(2026, 11, 26, 13, 0);
        (await member.Post($"/api/bookings/{mine.Id}/arrive")).Status.ShouldBe(HttpStatusCode.OK);
        await Round(13, 49);
        (await Told(member, ends)).ShouldBe(0, "eleven minutes are left");
        await Round(13, 50);
        await Round(13, 51);
        (await Told(member, ends), await Told(trainer, inUse)).ShouldBe((1, 1));
        (await Told(member, inUse)).ShouldBe(0);
    }
}
