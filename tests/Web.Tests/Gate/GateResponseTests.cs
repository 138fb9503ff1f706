using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>An ask has a handle: it waits, is answered once with a reason, and serves one booking.</summary>
public class GateResponseTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<(string Id, Dictionary<string, object?> Question)> Put(Api api, string member, int fromDay)
    {
        var question = Questions
            .Open(await api.FreeStart(q => q.With("memberId", member), fromDay))
            .With("memberId", member)
            .With("sheetTag", null)
            .With("note", "House stock, tag fell off.");
        var made = await api.Post("/api/asks", question);
        made.Status.ShouldBe(HttpStatusCode.Created);
        return (made.Id, question);
    }

    [Fact]
    public async Task Lift_ByASteward_OpensTheGate_TellsThePerson_AndServesOneBooking()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var (id, question) = await Put(member, "m-4", 2);
        (await member.Post($"/api/asks/{id}/lift", new { reason = "Mine." })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/asks/{id}/lift", new { reason = "" })).Fields.ShouldBe(["reason"]);
        (await steward.Post($"/api/asks/{id}/lift", new { reason = "I know that batch." }))
            .Body.GetProperty("state")
            .GetString()
            .ShouldBe("lifted");
        (await member.Get("/api/messages")).Body.GetProperty("items")[0].GetProperty("body").GetString().ShouldBe("I know that batch.");
        (await member.Get($"/api/asks/{id}")).Body.GetProperty("answer").GetString().ShouldBe("I know that batch.");
        var opened = await member.Post("/api/gate/ask", question);
        opened.Verdict.ShouldBe("conditions");
        opened.Codes.ShouldContain("sheet.untagged");
        (await member.Post("/api/bookings", question)).Status.ShouldBe(HttpStatusCode.Created);
        (await steward.Post($"/api/asks/{id}/lift", new { reason = "Again." })).Code.ShouldBe("ask.answered");
        (await steward.Post($"/api/asks/{id}/take-back", new { reason = "The batch was recalled." }))
            .Body.GetProperty("state")
            .GetString()
            .ShouldBe("takenBack");
    }

    [Fact]
    public async Task Lift_OfOnesOwnAsk_IsRefused_AndAnotherPersonsAskIsNotSeen()
    {
        using var steward = await house.As("steward");
        using var newcomer = await house.As("newcomer");
        var (id, _) = await Put(steward, "m-4", 3);
        (await newcomer.Get($"/api/asks/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await newcomer.Get("/api/asks")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
        await house.Db.Tamper($"update gate.ask set person_id = 'm-2' where id = '{id}'");
        (await steward.Post($"/api/asks/{id}/lift", new { reason = "For me." })).Code.ShouldBe("ask.self");
    }

    [Fact]
    public async Task Message_PutAway_IsReadAndNobodyElses()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var (id, _) = await Put(member, "m-4", 4);
        await steward.Post($"/api/asks/{id}/refuse", new { reason = "Bring the sheet first." });
        var message = (await member.Get("/api/messages")).Body.GetProperty("items")[0].GetProperty("id").GetString();
        (await steward.Post($"/api/messages/{message}/read")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Post($"/api/messages/{message}/read")).Status.ShouldBe(HttpStatusCode.NoContent);
        // Another message may have come meanwhile: what is told of other bookings comes when it comes.
        (await member.Get("/api/messages"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(m => m.GetProperty("id").GetString() == message)
            .GetProperty("read")
            .GetBoolean()
            .ShouldBeTrue();
    }

    /// <summary>The background work follows the record: a booking is at risk within seconds, and its person is told.</summary>
    [Fact]
    public async Task Stop_PutsStandingBookingsAtRisk_WithinAMinute()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var start = await member.FreeStart(q => q.With("machineId", "wren"), 5);
        var booking = await member.Post("/api/bookings", Questions.Open(start).With("machineId", "wren"));
        var stop = (await steward.Post("/api/machines/wren/stops", new { reason = "Lid switch." })).Id;
        for (var i = 0; i < 100 && (await Mine()).ValueKind != System.Text.Json.JsonValueKind.Object; i++)
            await Task.Delay(100, TestContext.Current.CancellationToken);
        (await Mine()).GetProperty("reasons")[0].GetProperty("code").GetString().ShouldBe("machine.stopped");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("Booking at risk");
        await steward.Post($"/api/stops/{stop}/return", new { reason = "It was the cable.", touched = Array.Empty<string>() });
        for (var i = 0; i < 100 && (await Mine()).ValueKind == System.Text.Json.JsonValueKind.Object; i++)
            await Task.Delay(100, TestContext.Current.CancellationToken);
        (await Mine()).ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);

        async Task<System.Text.Json.JsonElement> Mine()
        {
            var found = (await member.Get("/api/bookings?mine=true&to=2026-12-10T00:00:00Z&from=2026-11-24T00:00:00Z"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Single(b => b.GetProperty("id").GetString() == booking.Id);
            return found.TryGetProperty("atRisk", out var risk) ? risk : System.Text.Json.JsonDocument.Parse("null").RootElement;
        }
    }
}
