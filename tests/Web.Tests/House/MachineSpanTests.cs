using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>A machine comes into the house, and leaves it again.</summary>
public class MachineSpanTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static string[] Ids(JsonElement list, Func<JsonElement, string?> id) => [.. list.EnumerateArray().Select(m => id(m)!)];

    [Fact]
    public async Task Machine_ThatIsSold_IsAskedForNoMore_AndItsBookingsAreAtRisk()
    {
        using var keeper = await house.As("keeper");
        using var member = await house.As("member");
        var question = Questions.Open(WebHouse.At(3, 14)).With("memberId", null);
        var booked = await member.Post("/api/bookings", question);
        ((int)booked.Status).ShouldBe(201, booked.Body.ToString());

        await MachineSheets.Write(house, "heron", "hereUntil", "2026-11-23");
        var answer = await member.Post("/api/gate/ask", question);
        answer.Codes.ShouldContain("machine.notHere");
        answer.Verdict.ShouldBe("shut");
        Ids((await member.Get("/api/machines")).Body.GetProperty("items"), m => m.GetProperty("id").GetString()).ShouldNotContain("heron");
        Ids((await keeper.Get("/api/watch")).Body.GetProperty("machines"), m => m.GetProperty("id").GetString()).ShouldNotContain("heron");
        Ids((await keeper.Get("/api/house/sheets")).Body.GetProperty("machines"), m => m.GetProperty("spec").GetProperty("id").GetString())
            .ShouldContain("heron", "its form stays");
        (await Risk(member, booked.Id)).ShouldContain("machine.notHere");

        await MachineSheets.Write(house, "heron", "hereUntil", "2026-12-31");
        (await member.Post("/api/gate/ask", question.With("start", WebHouse.At(4, 14)))).Codes.ShouldNotContain("machine.notHere");
    }

    [Fact]
    public async Task Days_OutOfOrder_AreRefused()
    {
        await MachineSheets.Write(house, "wren", "hereFrom", "2026-01-05");
        var before = await MachineSheets.Put(house, "wren", "hereUntil", "2025-12-31");
        (before.Fields[0], before.Detail).ShouldBe(("hereUntil", "The last day lies before the first."));
        var unread = await MachineSheets.Put(house, "wren", "hereUntil", "31.12.2027");
        (unread.Fields[0], unread.Detail).ShouldBe(("hereUntil", "Last day in this house: Write the day like 2027-05-31."));
    }

    private static async Task<string> Risk(Api member, string booking)
    {
        var (from, to) = (Uri.EscapeDataString(WebHouse.At(0, 0)), Uri.EscapeDataString(WebHouse.At(6, 0)));
        for (var i = 0; i < 100; i++)
        {
            var mine = (await member.Get($"/api/bookings?from={from}&to={to}&mine=true")).Body.GetProperty("items").EnumerateArray();
            if (mine.Single(b => b.GetProperty("id").GetString() == booking).TryGetProperty("atRisk", out var risk))
                return risk.ToString();
            await Task.Delay(100, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException("The booking was not decided again.");
    }
}
