using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>Which machine, soonest? over HTTP, and each time that it offers can be booked.</summary>
public sealed class SoonestApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string LongWords =
        "after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, "
        + "after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00, after 17:00";

    private static Dictionary<string, object?> Job(decimal run = 18) =>
        Questions.Open(WebHouse.At(1, 12)).With("machineId", null).With("start", null).With("minutes", null).With("runMinutes", run);

    private static async Task<(JsonElement Whole, List<JsonElement> Machines)> Ask(Api api, Dictionary<string, object?> question)
    {
        var answer = await api.Post("/api/machines/soonest", question);
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body.ToString());
        return (answer.Body, [.. answer.Body.GetProperty("machines").EnumerateArray()]);
    }

    private static List<JsonElement> Choices(JsonElement machine) => [.. machine.GetProperty("choices").EnumerateArray()];

    [Fact]
    public async Task Soonest_ListsEveryMachineOnce_SortedByFinish_AndWhatItOffersCanBeBooked()
    {
        using var member = await house.As("member");
        var (_, machines) = await Ask(member, Job());
        machines.Count.ShouldBe((await member.Get("/api/machines")).Body.GetProperty("items").GetArrayLength());
        var open = machines.Where(m => Choices(m).Count > 0).ToList();
        open.Count.ShouldBeGreaterThan(0);
        open.ShouldBe(machines.Take(open.Count), "what cannot be booked stands last");
        open.Select(m => Choices(m)[0].GetProperty("end").GetDateTimeOffset()).ShouldBeInOrder();
        foreach (var machine in machines.Where(m => Choices(m).Count == 0))
            machine.GetProperty("reasons").GetArrayLength().ShouldBeGreaterThan(0, "why not is said");
        var first = open[0];
        var start = Choices(first)[0].GetProperty("start").GetString();
        var booked = await member.Post(
            "/api/bookings",
            Job()
                .With("machineId", first.GetProperty("machineId").GetString())
                .With("start", start)
                .With("minutes", first.GetProperty("minutes").GetInt32())
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        var (_, after) = await Ask(member, Job());
        after.SelectMany(Choices).Select(c => c.GetProperty("start").GetString()).ShouldNotContain(start, "one cannot be in two places");
        (await member.Post($"/api/bookings/{booked.Id}/cancel")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Soonest_WordsAndFields_AreOneWish()
    {
        using var member = await house.As("member");
        var (whole, words) = await Ask(member, Job().With("words", "after 14:00, not Saturdays, before 2 December"));
        whole.GetProperty("understood").GetString()!.ShouldContain("no start before 14:00, Saturday left out");
        var (_, fields) = await Ask(
            member,
            Job().With("from", "14:00").With("notOn", new[] { "sat" }).With("before", "2026-12-02T00:00:00Z")
        );
        words.Select(m => m.GetProperty("choices").ToString()).ShouldBe(fields.Select(m => m.GetProperty("choices").ToString()));
        words.SelectMany(Choices).ShouldAllBe(c => c.GetProperty("start").GetDateTimeOffset().Hour >= 14);
    }

    [Theory]
    [InlineData("words", "some time soon")]
    [InlineData("words", LongWords)]
    [InlineData("from", "late")]
    [InlineData("after", "tomorrow")]
    [InlineData("thicknessMm", null)]
    public async Task Soonest_WhatIsWrong_NamesItsField(string field, string? value)
    {
        using var member = await house.As("member");
        (await member.Post("/api/machines/soonest", Job().With(field, value))).Fields.ShouldBe([field]);
    }

    [Fact]
    public async Task Soonest_WeekdaysAreChecked_AndOthersAreNotAskedFor()
    {
        using var member = await house.As("member");
        (await member.Post("/api/machines/soonest", Job().With("notOn", new[] { "someday" }))).Fields.ShouldBe(["notOn"]);
        (await member.Post("/api/machines/soonest", Job().With("memberId", "m-5"))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await member.Post("/api/machines/soonest", Job().With("materialId", "moon-cheese"))).Fields.ShouldBe(["items[0].materialId"]);
    }

    /// <summary>Who has never been shown the machine reads what opens it.</summary>
    [Fact]
    public async Task Soonest_ForANewcomer_SaysWhatIsStillToBeLearnt()
    {
        using var newcomer = await house.As("newcomer");
        var (_, machines) = await Ask(newcomer, Job().With("memberId", null));
        machines.ShouldAllBe(m => Choices(m).Count == 0);
        machines
            .Single(m => m.GetProperty("machineId").GetString() == "heron")
            .GetProperty("opens")
            .GetArrayLength()
            .ShouldBeGreaterThan(0);
    }
}
