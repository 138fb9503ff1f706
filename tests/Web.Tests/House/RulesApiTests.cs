using System.Net;
using System.Text.Json.Nodes;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

public class RulesApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<JsonObject> Now(Api api) =>
        (JsonObject)
            JsonNode.Parse(
                (await api.Get("/api/house/rules"))
                    .Body.GetProperty("versions")
                    .EnumerateArray()
                    .Single(v => v.GetProperty("state").GetString() == "holds")
                    .GetProperty("rules")
                    .GetRawText()
            )!;

    /// <summary>
    /// The gate reads the version that holds at the start of the time asked about, and standing bookings are decided again.
    /// </summary>
    [Fact]
    public async Task Rules_Scheduled_HoldFromTheirDayOn()
    {
        using var keeper = await house.As("keeper");
        using var member = await house.As("member");
        var (before, after) = (Questions.Open(await member.FreeStart(fromDay: 2)), Questions.Open(WebHouse.At(6, 15)));
        var sheet = await Now(keeper);
        sheet["aloneFromAge"] = 60;
        var made = await keeper.Post(
            "/api/house/rules",
            new
            {
                fields = sheet,
                reason = "Insurer's wish.",
                from = "2026-11-29T00:00:00Z",
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        made.Body.GetProperty("changes").EnumerateArray().ShouldHaveSingleItem().GetProperty("after").GetString().ShouldBe("60");
        (await member.Post("/api/gate/ask?soonest=false", before)).Codes.ShouldNotContain("person.underAge");
        (await member.Post("/api/gate/ask?soonest=false", after)).Codes.ShouldContain("person.underAge");

        var versions = (await member.Get("/api/house/rules")).Body.GetProperty("versions").EnumerateArray().ToList();
        versions.Select(v => v.GetProperty("state").GetString()).ShouldBe(["holds", "scheduled"]);
        var compared = await member.Get(
            $"/api/house/rules/compare?before={versions[1].GetProperty("id")}&after={versions[0].GetProperty("id")}"
        );
        compared.Body.GetProperty("items")[0].GetProperty("after").GetString().ShouldBe("16");
        (await member.Get($"/api/house/rules/compare?before={Guid.Empty}&after={Guid.Empty}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Rules_WithoutReasonOrChangeOrInThePast_AreRefused()
    {
        using var keeper = await house.As("keeper");
        var sheet = await Now(keeper);
        (await keeper.Post("/api/house/rules", new { fields = sheet, reason = "Same again." })).Code.ShouldBe("rules.same");
        sheet["idleLapseDays"] = 30;
        (await keeper.Post("/api/house/rules", new { fields = sheet })).Fields.ShouldBe(["reason"]);
        (
            await keeper.Post(
                "/api/house/rules",
                new
                {
                    fields = sheet,
                    reason = "x",
                    from = "2026-01-01T00:00:00Z",
                }
            )
        ).Fields.ShouldBe(["from"]);
        (
            await keeper.Post(
                "/api/house/rules",
                new
                {
                    fields = sheet,
                    reason = "x",
                    from = "next week",
                }
            )
        ).Fields.ShouldBe(["from"]);
        sheet["zoneId"] = "Nowhere";
        (await keeper.Post("/api/house/rules", new { fields = sheet, reason = "x" })).Fields.ShouldBe(["zoneId"]);
        (await keeper.Get("/api/house/packs/school")).Body.GetProperty("idleLapseDays").GetInt32().ShouldBe(60);
        (await keeper.Get("/api/house/packs/club")).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}

public class CalendarApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Plan(
        string kind,
        string title,
        int day,
        string starts,
        string ends,
        string? person = null,
        string[]? machines = null,
        string[]? roster = null,
        int? atOnce = null,
        string? rule = null
    ) =>
        new
        {
            kind,
            title,
            firstDay = $"2026-{(day > 6 ? $"12-{day - 6:00}" : $"11-{24 + day:00}")}",
            starts,
            ends,
            personId = person,
            machineIds = machines,
            roster,
            atOnce,
            rule,
        };

    [Fact]
    public async Task Closure_ListsTheBookingsItHits_AndTheyComeToRisk_UntilItIsEnded()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var start = await member.FreeStart(fromDay: 3);
        var booked = await member.Post("/api/bookings", Questions.Open(start));
        booked.Status.ShouldBe(HttpStatusCode.Created);
        var day = DateTimeOffset.Parse(start, System.Globalization.CultureInfo.InvariantCulture).Day - 24;
        var plan = Plan("closure", "Water main", day, "09:00", "22:00");
        (await steward.Post("/api/calendar/preview", plan))
            .Body.GetProperty("hit")
            .EnumerateArray()
            .Select(b => b.GetProperty("id").GetString())
            .ShouldContain(booked.Id);
        var made = await steward.Post("/api/calendar", plan);
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(start))).Codes.ShouldContain("time.closure");
        (await Risk(true)).ShouldContain("Water main");
        (await steward.Post($"/api/calendar/{made.Id}/end")).Status.ShouldBe(HttpStatusCode.NoContent);
        await Risk(false);
        (await steward.Post($"/api/calendar/{made.Id}/end")).Status.ShouldBe(HttpStatusCode.NotFound);

        async Task<string> Risk(bool wanted)
        {
            for (var i = 0; i < 100; i++)
            {
                var mine = (
                    await member.Get(
                        $"/api/bookings?from={Uri.EscapeDataString(WebHouse.At(0, 0))}&to={Uri.EscapeDataString(WebHouse.At(6, 0))}&mine=true"
                    )
                )
                    .Body.GetProperty("items")
                    .EnumerateArray()
                    .Single(b => b.GetProperty("id").GetString() == booked.Id);
                var risk = mine.TryGetProperty("atRisk", out var at) ? at.ToString() : "";
                if (risk.Length > 0 == wanted)
                    return risk;
                await Task.Delay(100, TestContext.Current.CancellationToken);
            }
            throw new TimeoutException("The booking was not decided again.");
        }
    }

    /// <summary>
    /// The youth company's Saturday on Wren: outsiders are kept out, its people run beside their adult, as many at once as class and house
    /// rule let, and she is held.
    /// </summary>
    [Fact]
    public async Task Class_KeepsItsMachines_ForItsRoster_BesideItsAdult_SoManyAtOnce()
    {
        using var steward = await house.As("steward");
        Dictionary<string, object?> Ask(string who, string machine = "wren", string at = "10:15") =>
            Questions
                .Open($"2026-11-28T{at}:00+00:00")
                .With("memberId", who)
                .With("machineId", machine)
                .With("materialId", "mat-board")
                .With("thicknessMm", 1.4)
                .With("sheetTag", null)
                .With("runMinutes", 4)
                .With("minutes", 60)
                .With("supervisorId", "m-9");
        (await steward.Post("/api/gate/ask?soonest=false", Ask("m-4").With("supervisorId", null))).Codes.ShouldContain("time.class");
        var first = await steward.Post("/api/bookings", Ask("m-55"));
        first.Status.ShouldBe(HttpStatusCode.Created, first.Body.ToString());
        // One adult supervises one machine here, whatever a class plans.
        await house.Db.Tamper("update house.plan set at_once = 2 where title = 'Youth company'");
        (await steward.Post("/api/gate/ask?soonest=false", Ask("m-57", "swift")))
            .Body.ToString()
            .ShouldContain("house rule: one adult supervises 1");
        await house.Db.Tamper("update house.rules set body = jsonb_set(body, '{machinesPerAdult}', '2')");
        var second = await steward.Post("/api/bookings", Ask("m-57", "swift"));
        second.Status.ShouldBe(HttpStatusCode.Created, second.Body.ToString());
        (await steward.Post("/api/gate/ask?soonest=false", Ask("m-59", "swift", "10:45"))).Codes.ShouldContain("time.classFull");
        // The adult teaches: she attends nothing else, and supervises nobody outside her class.
        (await steward.Post("/api/gate/ask?soonest=false", Ask("m-9", "heron").With("supervisorId", null))).Codes.ShouldContain(
            "person.elsewhere"
        );
        (await steward.Post("/api/gate/ask?soonest=false", Ask("m-5", "heron"))).Codes.ShouldContain("training.none");
    }

    [Fact]
    public async Task Class_OfTheSameAdultAtTheSameTime_IsRefused()
    {
        using var keeper = await house.As("keeper");
        var made = await keeper.Post("/api/calendar", Plan("class", "Second company", 4, "12:00", "13:00", "m-9", ["kestrel"], ["m-4"], 1));
        (made.Status, made.Code, made.Fields.Single()).ShouldBe((HttpStatusCode.Conflict, "calendar.overlap", "machineIds"));
    }

    /// <summary>A class plans no more at once than the house lets one adult teach and supervise.</summary>
    [Fact]
    public async Task Class_OfMoreAtOnceThanTheHouseLets_IsRefused()
    {
        using var keeper = await house.As("keeper");
        var made = await keeper.Post(
            "/api/calendar",
            Plan("class", "Twenty at once", 5, "12:00", "13:00", "m-10", ["kestrel"], ["m-4"], 20)
        );
        (made.Status, made.Fields.Single()).ShouldBe((HttpStatusCode.BadRequest, "atOnce"));
        made.Detail.ShouldContain("A keeper may change the rule");
    }

    [Fact]
    public async Task Lines_WithFieldsAtFault_NameThem()
    {
        using var keeper = await house.As("keeper");
        (await keeper.Post("/api/calendar", new { kind = "party" }))
            .Fields.Order()
            .ShouldBe(["ends", "firstDay", "kind", "starts", "title"]);
        (await keeper.Post("/api/calendar", Plan("class", "x", 8, "10:00", "12:00")))
            .Fields.Order()
            .ShouldBe(["atOnce", "machineIds", "personId"]);
        (await keeper.Post("/api/calendar", Plan("duty", "", 8, "10:00", "12:00", "m-4"))).Fields.ShouldBe(["personId"]);
        (await keeper.Post("/api/calendar", Plan("closure", "x", 8, "10:00", "12:00", rule: "whenever"))).Fields.ShouldBe(["rule"]);
        (await keeper.Post("/api/calendar", Plan("duty", "", 1, "10:00", "12:00", "m-2", rule: "FREQ=DAILY;COUNT=4"))).Code.ShouldBe(
            "calendar.overlap"
        );
        using var member = await house.As("member");
        var list = (await member.Get("/api/calendar")).Body.GetProperty("items").EnumerateArray().ToList();
        list.Where(p => p.GetProperty("kind").GetString() == "class")
            .ShouldAllBe(p => !p.ToString().Contains("\"roster\""), "others do not see who is on a roster");
        list.Count(p => p.GetProperty("kind").GetString() == "duty").ShouldBe(8);
    }
}
