using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

public class RulingApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Body(
        string standing,
        int version,
        string? max = null,
        string operation = "cut",
        string? from = null,
        string reason = "The new batch smells."
    ) =>
        new
        {
            cells = new[] { new { kind = "co2", operation } },
            ranges = new[]
            {
                new
                {
                    standing,
                    evidence = "declared",
                    min = "",
                    max,
                },
            },
            hazard = "Smoke.",
            handling = "",
            practice = "Some houses cut it thicker.",
            reasons = new[] { "fire-melt" },
            from,
            reason,
            version,
            unit = "mm",
        };

    private static async Task<JsonElement> Material(Api api, string id, string query = "") =>
        (await api.Get($"/api/materials{query}"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(m => m.GetProperty("id").GetString() == id);

    private static async Task<int> Version(Api api, string id) => (await Material(api, id)).GetProperty("version").GetInt32();

    [Fact]
    public async Task Tightening_HoldsAtOnce_AndTheGateShuts_AndYesterdayReadsAsItWas()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var ask = Questions.Open(WebHouse.At(3, 12)).With("materialId", "cork").With("sheetTag", null);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldNotContain("material.banned");
        var version = await Version(steward, "cork");
        var preview = await steward.Post("/api/materials/cork/rulings/preview", Body("banned", version));
        preview.Body.GetProperty("direction").GetString().ShouldBe("tightens");
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldNotContain("material.banned", "looking changes nothing");

        (await steward.Post("/api/materials/cork/rulings", Body("banned", version))).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldContain("material.banned");
        (await steward.Post("/api/materials/cork/rulings", Body("banned", version))).Status.ShouldBe(
            HttpStatusCode.Conflict,
            "the second tab read an old version"
        );

        var history = (await member.Get("/api/materials/cork/rulings"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Where(v => v.GetProperty("kind").GetString() == "co2" && v.GetProperty("operation").GetString() == "cut")
            .ToList();
        history.Count.ShouldBe(2);
        history[1].GetProperty("why").GetString().ShouldBe("The new batch smells.");
        (await Material(member, "cork"))
            .GetProperty("rulings")
            .EnumerateArray()
            .Count(r => r.GetProperty("standing").GetString() == "banned")
            .ShouldBe(1);
        (await Material(member, "cork", "?on=2026-11-23"))
            .GetProperty("rulings")
            .EnumerateArray()
            .ShouldAllBe(r => r.GetProperty("standing").GetString() != "banned");
    }

    [Fact]
    public async Task Loosening_WaitsForAnotherSteward()
    {
        using var steward = await house.As("steward");
        using var trainer = await house.As("trainer");
        var made = await steward.Post("/api/materials/abs/rulings", Body("byArrangement", await Version(steward, "abs"), "2 mm"));
        made.Body.GetProperty("direction").GetString().ShouldBe("loosens");
        var id = made.Body.GetProperty("proposal").GetString();
        (await Material(steward, "abs"))
            .GetProperty("rulings")
            .EnumerateArray()
            .First()
            .GetProperty("standing")
            .GetString()
            .ShouldBe("banned");
        (await steward.Get("/api/watch"))
            .Body.GetProperty("needs")
            .EnumerateArray()
            .ShouldContain(n => n.GetProperty("kind").GetString() == "rulingProposed");
        var own = await steward.Post($"/api/ruling-proposals/{id}/agree", new { reason = "I say so." });
        (own.Status, own.Code).ShouldBe((HttpStatusCode.Forbidden, "ruling.self"));
        (await trainer.Post($"/api/ruling-proposals/{id}/agree", new { reason = "No role." })).Status.ShouldBe(HttpStatusCode.Forbidden);

        await house.MakeSteward("m-3");
        (await trainer.Post($"/api/ruling-proposals/{id}/agree", new { reason = "" })).Fields.ShouldContain("reason");
        (await trainer.Post($"/api/ruling-proposals/{id}/agree", new { reason = "Data sheet seen." })).Status.ShouldBe(HttpStatusCode.OK);
        (await trainer.Post($"/api/ruling-proposals/{id}/agree", new { reason = "Again." })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Material(steward, "abs"))
            .GetProperty("rulings")
            .EnumerateArray()
            .First(r => r.GetProperty("kind").GetString() == "co2")
            .GetProperty("standing")
            .GetString()
            .ShouldBe("byArrangement");
        (await steward.Get("/api/messages"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldContain(m => m.GetProperty("title").GetString()!.Contains("agreed", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Never_StaysNever()
    {
        using var steward = await house.As("steward");
        var answer = await steward.Post("/api/materials/pvc-sheet/rulings", Body("byArrangement", await Version(steward, "pvc-sheet")));
        (answer.Status, answer.Code).ShouldBe((HttpStatusCode.BadRequest, "ruling.never"));
    }

    [Fact]
    public async Task Wrong_IsNamedByField()
    {
        using var steward = await house.As("steward");
        var version = await Version(steward, "card");
        (await steward.Post("/api/materials/card/rulings", Body("banned", version, from: "2026-11-01"))).Fields.ShouldBe(["from"]);
        (await steward.Post("/api/materials/card/rulings", Body("banned", version, "thick"))).Fields.ShouldBe(["ranges[0].max"]);
        (await steward.Post("/api/materials/card/rulings", Body("banned", version, reason: " "))).Fields.ShouldBe(["reason"]);
        (await steward.Post("/api/materials/nothing/rulings", Body("banned", version))).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Planned_HoldsFromItsDay_AndABookingUnderItIsListed()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var start = await member.FreeStart(fromDay: 4);
        (await member.Post("/api/bookings", Questions.Open(start))).Status.ShouldBe(HttpStatusCode.Created);
        var version = await Version(steward, "birch-ply-laser");
        var planned = await steward.Post("/api/materials/birch-ply-laser/rulings", Body("byArrangement", version, from: "2026-11-26"));
        planned.Body.GetProperty("bookings").GetArrayLength().ShouldBeGreaterThan(0);
        planned.Body.GetProperty("sheets").EnumerateArray().Select(s => s.GetString()).ShouldContain("S-0097");
        planned.Body.GetProperty("settings").EnumerateArray().Select(s => s.GetString()).ShouldContain("heron");
        (await Material(member, "birch-ply-laser"))
            .GetProperty("rulings")
            .EnumerateArray()
            .First()
            .GetProperty("standing")
            .GetString()
            .ShouldBe("permitted");
        (await Material(member, "birch-ply-laser", "?on=2026-11-27"))
            .GetProperty("rulings")
            .EnumerateArray()
            .First()
            .GetProperty("standing")
            .GetString()
            .ShouldBe("byArrangement");
    }

    [Fact]
    public async Task Shelf_AnswersWhatMayIDo()
    {
        using var member = await house.As("member");
        var wren = await member.Get("/api/materials?machine=wren&thickness=7+mm");
        var heron = await member.Get("/api/materials?machine=heron&thickness=7+mm");
        Ids(heron).ShouldContain("wood-solid");
        Ids(wren).ShouldNotContain("wood-solid");
        Ids(heron).ShouldNotContain("pvc-sheet");
        Ids(await member.Get("/api/materials?machine=heron&thickness=3&operation=engrave")).ShouldContain("slate");
        Ids(await member.Get("/api/materials?machine=heron&thickness=3")).ShouldNotContain("slate");
        Ids(await member.Get("/api/materials?find=leatherette")).ShouldBe(["leather-pu", "leather-pvc"], ignoreOrder: true);
        (await member.Get("/api/materials?thickness=fat")).Fields.ShouldBe(["thickness"]);

        static List<string> Ids(Answer answer) =>
            [.. answer.Body.GetProperty("items").EnumerateArray().Select(m => m.GetProperty("id").GetString()!)];
    }
}
