using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

public sealed class ClosureFileApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static string File(string title, string day, string more = "") =>
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//town//EN\r\nBEGIN:VEVENT\r\nUID:town-1\r\nDTSTAMP:20261101T000000Z\r\n"
        + $"SUMMARY:{title}\r\nDTSTART;VALUE=DATE:{day}\r\n{more}END:VEVENT\r\nEND:VCALENDAR\r\n";

    private static JsonElement Line(Answer answer) => answer.Body.GetProperty("lines")[0];

    private static string State(Answer answer) => Line(answer).GetProperty("state").GetString()!;

    [Fact]
    public async Task AFile_IsTriedFirst_AndChangesNothingTheSecondTime()
    {
        using var keeper = await house.As("keeper");
        using var member = await house.As("member");
        var start = await member.FreeStart(fromDay: 2);
        var booked = await member.Post("/api/bookings", Questions.Open(start));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        var day = start[..10].Replace("-", "", StringComparison.Ordinal);

        var dry = await keeper.Post("/api/calendar/file", new { text = File("Founders’ Day", day) });
        dry.Status.ShouldBe(HttpStatusCode.OK, dry.Body.ToString());
        State(dry).ShouldBe("new");
        Line(dry).GetProperty("hit").GetInt32().ShouldBeGreaterThanOrEqualTo(1);
        dry.Body.GetProperty("stored").GetBoolean().ShouldBeFalse();
        (await keeper.Get("/api/calendar")).Body.ToString().ShouldNotContain("Founders");

        (await keeper.Post("/api/calendar/file", new { text = File("Founders’ Day", day), dryRun = false })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        (await keeper.Get("/api/calendar")).Body.ToString().ShouldContain("Founders’ Day");
        (await member.Post("/api/gate/ask", Questions.Open(start))).Codes.ShouldContain("time.closure");
        State(await keeper.Post("/api/calendar/file", new { text = File("Founders’ Day", day), dryRun = false })).ShouldBe("same");

        // The town moves it: the old one goes, and the day is open again.
        var later = File("Founders’ Day", day, "DTEND;VALUE=DATE:20270101\r\n").Replace(day, "20261230", StringComparison.Ordinal);
        State(await keeper.Post("/api/calendar/file", new { text = later, dryRun = false })).ShouldBe("changed");
        (await member.Post("/api/gate/ask", Questions.Open(start))).Codes.ShouldNotContain("time.closure");
        var lines = (await keeper.Get("/api/calendar")).Body.GetProperty("items").EnumerateArray();
        lines
            .Single(l => l.GetProperty("title").GetString() == "Founders’ Day")
            .GetProperty("when")
            .GetString()
            .ShouldBe("30 Dec 2026 to 31 Dec 2026, all day");
    }

    [Fact]
    public async Task OneMachine_MayBeClosed_AndNoOther()
    {
        using var keeper = await house.As("keeper");
        var file = File("Maker’s visit", "20261201").Replace("town-1", "maker-1", StringComparison.Ordinal);
        (await keeper.Post("/api/calendar/file", new { text = file, machineIds = new[] { "nope" } })).Fields.ShouldContain("machineIds");
        var made = await keeper.Post(
            "/api/calendar/file",
            new
            {
                text = file,
                machineIds = new[] { "swift" },
                dryRun = false,
            }
        );
        made.Status.ShouldBe(HttpStatusCode.OK, made.Body.ToString());
        using var member = await house.As("member");
        (await member.Post("/api/gate/ask", Questions.Open("2026-12-01T12:00:00Z"))).Codes.ShouldNotContain("time.closure");
        (await member.Post("/api/gate/ask", Questions.Open("2026-12-01T12:00:00Z").With("machineId", "swift"))).Codes.ShouldContain(
            "time.closure"
        );
    }

    [Fact]
    public async Task WhatIsNoCalendar_OrTooLarge_IsRefused_WithTheFieldNamed()
    {
        using var keeper = await house.As("keeper");
        var none = await keeper.Post("/api/calendar/file", new { text = "name,date" });
        (none.Status, none.Code).ShouldBe((HttpStatusCode.BadRequest, "calendar.noCalendar"));
        none.Fields.ShouldContain("text");
        var large = await keeper.Post("/api/calendar/file", new { text = new string('x', 1_200_000) });
        (large.Status, large.Code).ShouldBe((HttpStatusCode.RequestEntityTooLarge, "calendar.tooLong"));
        var vast = await keeper.Post("/api/calendar/file", new { text = new string('x', 10_000_000) });
        vast.Status.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        house.Unexpected.ShouldBeEmpty();
    }
}
