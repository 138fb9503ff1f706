using System.Net;
using System.Text.Json;
using NodaTime;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Incidents;

/// <summary>From the flame to the closed incident, as the people of it would.</summary>
public class IncidentsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Dictionary<string, object?> Told(string what = "other", int severity = 2, string machine = "swift") =>
        new()
        {
            ["machineId"] = machine,
            ["at"] = "2026-11-24T09:50:00Z",
            ["what"] = what,
            ["severity"] = severity,
            ["seen"] = "It rattled and stopped.",
        };

    private static readonly string[] List = ["bed", "lens", "belt", "hoses", "wiring", "filter", "duct"];

    private static async Task<JsonElement> Show(Api api, string id) => (await api.Get($"/api/incidents/{id}")).Body;

    private static string[] Holds(JsonElement incident, string state) =>
        [
            .. incident
                .GetProperty("holds")
                .EnumerateArray()
                .Where(h => h.GetProperty("state").GetString() == state)
                .Select(h => $"{h.GetProperty("kind")} {h.GetProperty("target")}"),
        ];

    private static string HoldId(JsonElement incident, string kind) =>
        incident.GetProperty("holds").EnumerateArray().First(h => h.GetProperty("kind").GetString() == kind).GetProperty("id").GetString()!;

    /// <summary>
    /// A run on Heron with 200 mm of line drawn twice and settings for 6.35 on a sheet of 3, outcome flame: two causes, Heron out of
    /// service by its incident, a watch of an hour, a booking at risk told once; and all of it to the end.
    /// </summary>
    [Fact]
    public async Task AFlame_IsWatchedUnderstoodAndClosed()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        using var keeper = await house.As("keeper");
        // A drawing with 200 mm of cut drawn twice stands behind the booking; the gate shut it then, and somebody ran it all the same.
        var drawing = (await member.PutIn(Svg("M5 5h200v100h-200zM5 5h200"))).Id;
        var start = await member.FreeStart();
        var booking = (await member.Post("/api/bookings", Questions.Open(start))).Id;
        var later = await member.FreeStart(fromDay: 4);
        (await member.Post("/api/bookings", Questions.Open(later))).Status.ShouldBe(HttpStatusCode.Created);
        await using (var command = house.Db.Owner.CreateCommand())
        {
            command.CommandText =
                $"update booking.booking set ask = jsonb_set(ask, '{{items,0,drawingId}}', '\"{drawing}\"') where id = '{booking}'";
            await command.ExecuteNonQueryAsync();
        }
        var at = NodaTime.Text.OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant();
        house.Clock.Now = at + Duration.FromMinutes(50);
        var logged = await member.Post(
            "/api/runs",
            new
            {
                id = Guid.NewGuid(),
                bookingId = booking,
                machineId = "heron",
                materialId = "birch-ply-laser",
                thickness = "3 mm",
                operations = new[] { "cut" },
                start = (at + Duration.FromMinutes(12)).ToString(),
                end = (at + Duration.FromMinutes(40)).ToString(),
                outcome = "flame",
            }
        );
        logged.Body.GetProperty("lidShutSeconds").GetInt32().ShouldBe(300);
        var id = logged.Body.GetProperty("incidentId").GetString()!;

        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(later))).Codes.ShouldContain("hold.incident");
        var told = await member.Post(
            "/api/incidents",
            Told("flame", machine: "heron")
                .With("at", (at + Duration.FromMinutes(38)).ToString())
                .With("runId", logged.Id)
                .With("facts", new { settingsFor = "6.35 mm", measured = "3.175 mm" })
        );
        told.Status.ShouldBe(HttpStatusCode.Created, told.Body.ToString());
        told.Id.ShouldBe(id, "the incident of a logged flame takes up what is told");
        told.Body.GetProperty("causes").EnumerateArray().Select(c => c.GetProperty("code").GetString()).ShouldBe(["lines", "settings"]);
        told.Body.GetProperty("causes")[0].GetProperty("evidence").GetString()!.ShouldContain("line.duplicate: 200 mm");
        told.Body.GetProperty("causes")[1].GetProperty("evidence").GetString()!.ShouldContain("Ratio 2.0");
        var seen = await Show(member, id);
        Holds(seen, "set").ShouldBe(["machine heron"]);
        seen.GetProperty("watch").GetProperty("minutes").GetInt32().ShouldBe(60);
        seen.GetProperty("filledIn").ToString().ShouldContain("S-0097");

        var needs = (await steward.Get("/api/watch")).Body.GetProperty("needs").EnumerateArray().ToList();
        needs.ShouldContain(n => n.GetProperty("kind").GetString() == "incidentOpen" && n.GetProperty("urgency").GetInt32() == 4);

        // Nobody ends the hold before the watch, nobody who ran it, nobody without the list.
        var hold = HoldId(seen, "machine");
        (await steward.Post($"/api/machines/heron/return", new { reason = "Fine.", opticsTouched = false })).Code.ShouldBe("hold.incident");
        (await End(steward, id, hold, List)).Code.ShouldBe("watch.running");
        (await member.Post($"/api/incidents/{id}/watch")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Post($"/api/incidents/{id}/watch")).Code.ShouldBe("watch.begun");
        (await Look(steward, id, 10)).Code.ShouldBe("look.early");
        var began = house.Clock.Now;
        foreach (var minute in new[] { 0, 10, 20, 30, 45, 60 })
        {
            house.Clock.Now = began + Duration.FromMinutes(minute);
            (await Look(member, id, minute)).Status.ShouldBe(HttpStatusCode.NoContent);
        }
        (await Look(member, id, 60)).Code.ShouldBe("look.done");
        (await End(member, id, hold, List)).Code.ShouldBe("hold.notYours");
        (await End(steward, id, hold, List[1..])).Code.ShouldBe("hold.list");
        (await End(steward, id, hold, List)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await End(steward, id, hold, List)).Code.ShouldBe("hold.over");
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(later))).Codes.ShouldNotContain("hold.incident");

        // Who was there adds words and nothing else; who was not investigates and closes.
        (await member.Post($"/api/incidents/{id}/words", new { words = "It smelled of glue." })).Status.ShouldBe(HttpStatusCode.NoContent);
        await house.MakeSteward("m-4");
        (await member.Post($"/api/incidents/{id}/causes", new { codes = new[] { "lines" } })).Code.ShouldBe("incident.self");
        (await steward.Post($"/api/incidents/{id}/close", new { note = "Learnt." })).Code.ShouldBe("incident.open");
        (await steward.Post($"/api/incidents/{id}/causes", new { codes = Array.Empty<string>() })).Code.ShouldBe("cause.open");
        (await steward.Post($"/api/incidents/{id}/causes", new { codes = new[] { "lines", "settings" } })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        var action = await steward.Post(
            $"/api/incidents/{id}/actions",
            new
            {
                text = "Merge the doubled lines",
                ownerId = "m-4",
                due = "2026-12-20",
                showsBy = "0 mm doubled at the next check",
            }
        );
        action.Status.ShouldBe(HttpStatusCode.Created, action.Body.ToString());
        (await steward.Post($"/api/incidents/{id}/close", new { note = "Learnt." })).Detail.ShouldContain("actions: 1 to be done");
        (await member.Post($"/api/incidents/{id}/actions/{action.Id}/end", new { words = "Merged.", done = true })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await member.Post($"/api/incidents/{id}/close", new { note = "Learnt." })).Code.ShouldBe("incident.self");

        // Two stewards press at once: one closes it, the other is told.
        await house.MakeSteward("m-1");
        var closed = await Task.WhenAll(
            steward.Post($"/api/incidents/{id}/close", new { note = "Measure the sheet." }),
            keeper.Post($"/api/incidents/{id}/close", new { note = "Measure the sheet." })
        );
        closed.Select(c => c.Code ?? "closed").Order().ShouldBe(["closed", "incident.closed"]);
        (await member.Post($"/api/incidents/{id}/words", new { words = "More." })).Code.ShouldBe("incident.closed");
        (await steward.Post($"/api/incidents/{id}/reopen", new { reason = "A second run showed the same." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );

        var messages = (await member.Get("/api/messages")).Body.ToString();
        messages.Split("Your booking").Length.ShouldBeLessThan(4, "each booking at risk is told once");
        house.Clock.Now = TestDatabase.Now;

        static string Svg(string path) =>
            "<svg xmlns='http://www.w3.org/2000/svg' width='300mm' height='200mm' viewBox='0 0 300 200'>"
            + $"<path fill='none' stroke='#9c2f4f' d='{path}'/></svg>";
    }

    private static Task<Answer> End(Api api, string id, string hold, string[] checks) =>
        api.Post(
            $"/api/incidents/{id}/holds/{hold}/end",
            new
            {
                reason = "All looked at.",
                checks,
                opticsTouched = false,
            }
        );

    private static Task<Answer> Look(Api api, string id, int minute) =>
        api.Post($"/api/incidents/{id}/looks", new { minute, found = "nothing" });

    /// <summary>A choking smell shuts the room at once, for everybody and every machine, until a steward says it is aired.</summary>
    [Fact]
    public async Task AChokingSmell_ShutsRoomSheetAndBatch()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var booked = (await member.Post("/api/bookings", Questions.Open(await member.FreeStart()))).Id;
        var told = await member.Post("/api/incidents", Told("fume").With("tag", "S-0101"));
        told.Status.ShouldBe(HttpStatusCode.Created, told.Body.ToString());
        var incident = await Show(steward, told.Id);
        Holds(incident, "set").ShouldBe(["room room", "sheets S-0101"], ignoreOrder: true);
        incident.GetProperty("causes")[0].GetProperty("code").GetString().ShouldBe("material");
        var asked = await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 14)));
        asked.Codes.ShouldContain("room.incident");
        (await Risk(member, booked)).ShouldContain("room.incident", Case.Sensitive, "bookings that stand are decided again");
        var acrylic = Questions.Open(WebHouse.At(2, 14)).With("materialId", "acrylic-clear").With("sheetTag", "S-0101");
        (await member.Post("/api/gate/ask?soonest=false", acrylic)).Codes.ShouldContain("sheet.incident");
        (await steward.Post("/api/sheets/S-0101/release", new { reason = "Smells fine." })).Code.ShouldBe("sheet.incident");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("roomShut");
        foreach (var kind in new[] { "room", "sheets" })
            (await End(steward, told.Id, HoldId(incident, kind), [])).Status.ShouldBe(HttpStatusCode.NoContent);
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 14)))).Codes.ShouldNotContain("room.incident");
        (await member.Post("/api/gate/ask?soonest=false", acrylic)).Codes.ShouldNotContain("sheet.incident");
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

    /// <summary>Proposed holds are set with one press, or said to be not needed; what nothing speaks for is not set.</summary>
    [Fact]
    public async Task Holds_AreSetWithOnePress_OrNotNeededWithAReason()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var told = await member.Post("/api/incidents", Told("headHit", 4).With("tag", "S-0098"));
        var proposed = told.Body.GetProperty("holds").EnumerateArray().Select(h => h.GetProperty("kind").GetString());
        proposed.ShouldBe(["machine", "ruling"]);
        var material = (await Show(steward, told.Id)).GetProperty("materialId").GetString();
        (await member.Post($"/api/incidents/{told.Id}/holds", Press("ruling", material!))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/incidents/{told.Id}/holds", Press("room", "room"))).Code.ShouldBe("hold.notProposed");
        (await steward.Post($"/api/incidents/{told.Id}/holds", Press("ruling", material!))).Status.ShouldBe(HttpStatusCode.NoContent);
        var ask = Questions.Open(WebHouse.At(2, 14)).With("materialId", material);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldContain("material.incident");
        (await steward.Post($"/api/incidents/{told.Id}/holds/refuse", new { kind = "machine", target = "swift" })).Code.ShouldBe(
            "reason.missing"
        );
        (
            await steward.Post(
                $"/api/incidents/{told.Id}/holds/refuse",
                new
                {
                    kind = "machine",
                    target = "swift",
                    reason = "The nozzle was changed the same evening.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        var incident = await Show(steward, told.Id);
        Holds(incident, "refused").ShouldBe(["machine swift"]);
        (await End(steward, told.Id, HoldId(incident, "ruling"), [])).Status.ShouldBe(HttpStatusCode.NoContent);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldNotContain("material.incident");

        static object Press(string kind, string target) =>
            new
            {
                holds = new[]
                {
                    new
                    {
                        kind,
                        target,
                        reason = "As proposed.",
                    },
                },
            };
    }

    [Theory]
    [InlineData("at", "2026-11-24T23:00:00Z", "incident.future")]
    [InlineData("at", "1990-01-01T00:00:00Z", "incident.old")]
    [InlineData("at", "2026-03-29T01:30", "request.invalid")] // the clocks went forward
    [InlineData("at", "2026-10-25T01:30", "request.invalid")] // and back: twice
    [InlineData("at", "yesterday", "request.invalid")]
    [InlineData("machineId", "robin", "incident.unknownId")]
    [InlineData("runId", "11111111-1111-4111-8111-111111111111", "incident.unknownId")]
    [InlineData("tag", "S-9999", "incident.unknownId")]
    [InlineData("what", "7", "request.invalid")]
    [InlineData("severity", 6, "request.invalid")]
    [InlineData("seen", " ", "request.invalid")]
    [InlineData("cost", -1, "request.invalid")]
    [InlineData("hurt", true, "incident.severity")]
    public async Task Nonsense_NamesItsField(string field, object value, string code)
    {
        using var member = await house.As("member");
        var answer = await member.Post("/api/incidents", Told().With(field, value));
        answer.Code.ShouldBe(code, answer.Body.ToString());
        answer.Fields.ShouldBe([field == "hurt" ? "severity" : field]);
    }

    /// <summary>An incident before the machine existed is refused.</summary>
    [Fact]
    public async Task BeforeTheMachineExisted_IsRefused()
    {
        await using (var command = house.Db.Owner.CreateCommand())
        {
            command.CommandText = "update house.machine set spec = jsonb_set(spec, '{hereFrom}', '\"2026-01-01\"') where id = 'kestrel'";
            await command.ExecuteNonQueryAsync();
        }
        using var member = await house.As("member");
        var answer = await member.Post("/api/incidents", Told(machine: "kestrel").With("at", "2025-12-31T12:00:00Z"));
        (answer.Code, answer.Fields[0]).ShouldBe(("incident.notHere", "at"));
    }

    /// <summary>Injuries are for stewards and keepers; others who were there read the rest; strangers nothing.</summary>
    [Fact]
    public async Task WhatIsSaidOfInjuries_IsForFew()
    {
        using var member = await house.As("member");
        using var keeper = await house.As("keeper");
        using var newcomer = await house.As("newcomer");
        using var trainer = await house.As("trainer");
        var told = await member.Post(
            "/api/incidents",
            Told("other", 3).With("hurt", true).With("injury", "Burn on the left thumb, cooled for twenty minutes.")
        );
        (await Show(keeper, told.Id)).GetProperty("injuries").ToString().ShouldContain("left thumb");
        var own = await Show(member, told.Id);
        own.ToString().ShouldNotContain("left thumb");
        own.GetProperty("may").GetProperty("investigate").GetBoolean().ShouldBeFalse();
        (await newcomer.Get($"/api/incidents/{told.Id}")).Code.ShouldBe("incident.notYours");
        (await trainer.Get($"/api/incidents/{told.Id}")).Code.ShouldBe("incident.notYours");
        (await newcomer.Get("/api/incidents")).Body.GetProperty("items").ToString().ShouldNotContain(told.Id);
        // Kept for as long as the house has it, and then gone by itself, the incident staying.
        await using var until = house.Db.Owner.CreateCommand();
        until.CommandText =
            "update incidents.injury set kept_until = now() - interval '1 day' returning (select count(*) from incidents.incident)";
        await until.ExecuteScalarAsync(TestContext.Current.CancellationToken);
        var papers = house.Services.GetService(typeof(Store.Incidents.IncidentPapers)) as Store.Incidents.IncidentPapers;
        await papers!.Forget(SystemClock.Instance.GetCurrentInstant(), TestContext.Current.CancellationToken);
        (await Show(keeper, told.Id)).GetProperty("injuries")[0].TryGetProperty("words", out _).ShouldBeFalse();
    }

    /// <summary>Somebody else changed it meanwhile: nothing is written over.</summary>
    [Fact]
    public async Task TwoWindows_DoNotWriteOverEachOther()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var told = await member.Post("/api/incidents", Told());
        var version = (await Show(steward, told.Id)).GetProperty("version").GetInt32();
        (await steward.Post($"/api/incidents/{told.Id}/change", new { version, makerSays = "Replace the belt." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await steward.Post($"/api/incidents/{told.Id}/change", new { version, severity = 5 })).Code.ShouldBe("stale");
        (await Show(steward, told.Id)).GetProperty("makerSays").GetString().ShouldBe("Replace the belt.");
    }

    /// <summary>A teaching case is read by everybody, and says nothing of who.</summary>
    [Fact]
    public async Task ATeachingCase_IsReadByEverybody()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        using var newcomer = await house.As("newcomer");
        var told = await member.Post("/api/incidents", Told());
        (await steward.Post($"/api/incidents/{told.Id}/lesson", new { words = "A loose magnet meets the head." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        var list = (await newcomer.Get("/api/incidents")).Body;
        list.GetProperty("lessons").ToString().ShouldContain("A loose magnet meets the head.");
        list.ToString().ShouldNotContain("Calloway");
    }
}
