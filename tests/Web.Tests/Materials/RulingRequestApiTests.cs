using System.Net;
using System.Text;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

public class RulingRequestApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<string> Ask(Api api, string name) =>
        (
            await api.Post(
                "/api/ruling-requests",
                new
                {
                    name,
                    supplier = "Harbour Sheet Supply",
                    link = "https://sheets.example/9",
                    note = "For lampshades.",
                }
            )
        ).Id;

    private static async Task<JsonElement> Find(Api api, string id) =>
        (await api.Get("/api/ruling-requests"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .FirstOrDefault(r => r.GetProperty("id").GetString() == id);

    private static async Task<List<string>> Named(Api api, string name) =>
        [
            .. (await api.Get($"/api/materials?find={Uri.EscapeDataString(name)}"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Select(m => m.GetProperty("id").GetString()!),
        ];

    [Fact]
    public async Task Known_MakesTheNameASynonym_AndTellsThePerson()
    {
        using var member = await house.As("member");
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        (await Named(member, "quuxboard")).ShouldBeEmpty();
        var id = await Ask(member, "Quuxboard");
        (await Find(newcomer, id)).ValueKind.ShouldBe(JsonValueKind.Undefined, "members see their own");
        (await Find(steward, id)).GetProperty("by").GetString().ShouldBe("Ines Calloway");
        (await steward.Get("/api/watch"))
            .Body.GetProperty("needs")
            .EnumerateArray()
            .ShouldContain(n => n.GetProperty("kind").GetString() == "rulingRequested");
        (
            await member.Post(
                $"/api/ruling-requests/{id}/answer",
                new
                {
                    answer = "known",
                    materialId = "mdf",
                    reason = "I think so.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/ruling-requests/{id}/answer", new { answer = "known", reason = "It is." })).Fields.ShouldBe([
            "materialId",
        ]);
        (
            await steward.Post(
                $"/api/ruling-requests/{id}/answer",
                new
                {
                    answer = "known",
                    materialId = "mdf",
                    reason = "It is MDF by another name.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await Named(member, "quuxboard")).ShouldBe(["mdf"]);
        (await member.Get("/api/messages"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldContain(m => m.GetProperty("title").GetString()!.Contains("on the list already", StringComparison.Ordinal));
        (await steward.Post($"/api/ruling-requests/{id}/answer", new { answer = "refused", reason = "Again." })).Status.ShouldBe(
            HttpStatusCode.NotFound
        );
    }

    [Fact]
    public async Task Added_ShutHoldsAtOnce_AndMilderWaitsForAnother()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var never = await Ask(member, "Chlorinated quuxfilm");
        var bad = await steward.Post(
            $"/api/ruling-requests/{never}/answer",
            new
            {
                answer = "added",
                standing = "permitted",
                reason = "Fine.",
            }
        );
        bad.Fields.ShouldBe(["standing", "hazard"], ignoreOrder: true);
        (
            await steward.Post(
                $"/api/ruling-requests/{never}/answer",
                new
                {
                    answer = "added",
                    standing = "never",
                    hazard = "Gives hydrogen chloride.",
                    reasons = new[] { "chlorine" },
                    reason = "Vinyl by its data sheet.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        var ask = Questions.Open(WebHouse.At(3, 12)).With("materialId", "chlorinated-quuxfilm").With("sheetTag", null);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldContain("material.never");

        var mild = await Ask(member, "Quuxfelt");
        (
            await steward.Post(
                $"/api/ruling-requests/{mild}/answer",
                new
                {
                    answer = "added",
                    standing = "byArrangement",
                    hazard = "Smoke.",
                    reason = "Wool, it says.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Post("/api/gate/ask?soonest=false", ask.With("materialId", "quuxfelt"))).Codes.ShouldContain(
            "material.noRuling",
            "nothing is milder until another steward agrees"
        );
        (await steward.Get("/api/ruling-proposals"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldContain(p => p.GetProperty("materialId").GetString() == "quuxfelt");
    }

    [Fact]
    public async Task Cleared_IsOneSheetOfThePerson_OnTheirDataSheet_AndBannedStuffIsNot()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var id = await Ask(member, "Quuxveneer");
        using var form = new MultipartFormDataContent { { new ByteArrayContent("%PDF-1.4 veneer"u8.ToArray()), "file", "veneer.pdf" } };
        (
            await Answer.Of(await member.Http.PostAsync($"/api/ruling-requests/{id}/file", form, TestContext.Current.CancellationToken))
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Post($"/api/ruling-requests/{id}/answer", new { answer = "cleared", reason = "Seen." })).Fields.ShouldBe(
            ["thickness", "width", "height", "operations", "materialId"],
            ignoreOrder: true
        );
        object Cleared(string materialId) =>
            new
            {
                answer = "cleared",
                materialId,
                thickness = "0.6 mm",
                width = "24 in",
                height = "30 cm",
                operations = new[] { "cut", "engrave" },
                reason = "Beech by its data sheet.",
            };
        (await steward.Post($"/api/ruling-requests/{id}/answer", Cleared("pvc-sheet"))).Code.ShouldBe("sheet.never");
        (await Find(steward, id)).GetProperty("state").GetString().ShouldBe("waiting", "what is refused leaves nothing half done");
        (await steward.Get("/api/sheets"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldNotContain(s =>
                s.GetProperty("materialId").GetString() == "pvc-sheet" && s.GetProperty("thicknessMm").GetDecimal() == 0.6m
            );

        (await steward.Post($"/api/ruling-requests/{id}/answer", Cleared("wood-solid"))).Status.ShouldBe(HttpStatusCode.OK);
        var answered = await Find(member, id);
        answered.GetProperty("state").GetString().ShouldBe("cleared");
        var sheet = (await member.Get($"/api/sheets/{answered.GetProperty("sheetTag").GetString()}")).Body;
        sheet.GetProperty("mine").GetBoolean().ShouldBeTrue();
        sheet.GetProperty("cleared").GetBoolean().ShouldBeTrue();
        sheet.GetProperty("widthMm").GetDecimal().ShouldBe(609.6m);
        sheet.GetProperty("operations").EnumerateArray().Select(o => o.GetString()).ShouldBe(["cut", "engrave"]);
        sheet.GetProperty("evidence").EnumerateArray().Select(e => e.GetProperty("name").GetString()).ShouldBe(["veneer.pdf"]);
        (await Named(member, "quuxveneer")).ShouldBeEmpty("the list stays as it is");
    }

    [Fact]
    public async Task OwnRequest_IsAnsweredByAnother_AndMayBeWithdrawn()
    {
        using var steward = await house.As("steward");
        var id = await Ask(steward, "Quuxglass");
        (await steward.Post($"/api/ruling-requests/{id}/answer", new { answer = "refused", reason = "No." })).Code.ShouldBe("request.self");
        (await steward.Post($"/api/ruling-requests/{id}/withdraw")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Post($"/api/ruling-requests/{id}/withdraw")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task DataSheet_IsKept_ForThePersonAndStewards()
    {
        using var member = await house.As("member");
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        var id = await Ask(member, "Quuxfoam");
        (await Attach("not a pdf")).Fields.ShouldBe(["file"]);
        (await Attach("%PDF-1.4 data sheet")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await newcomer.Get($"/api/ruling-requests/{id}/file")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (
            await (await steward.Get($"/api/ruling-requests/{id}/file")).Response.Content.ReadAsStringAsync(
                TestContext.Current.CancellationToken
            )
        ).ShouldStartWith("%PDF");

        async Task<Answer> Attach(string text)
        {
            using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.ASCII.GetBytes(text)), "file", "sheet.pdf" } };
            return await Answer.Of(await member.Http.PostAsync($"/api/ruling-requests/{id}/file", form));
        }
    }

    [Fact]
    public async Task TooMany_AtOnce_AreRefused_EvenAtTheSameMoment()
    {
        using var trainer = await house.As("trainer");
        (await trainer.Post("/api/ruling-requests", new { name = " " })).Fields.ShouldBe(["name"]);
        var all = await Task.WhenAll(
            Enumerable.Range(0, 14).Select(i => trainer.Post("/api/ruling-requests", new { name = $"Stuff {i}" }))
        );
        all.Count(a => a.Status == HttpStatusCode.Created).ShouldBe(10);
        all.Where(a => a.Status != HttpStatusCode.Created).ShouldAllBe(a => a.Code == "request.many");
    }
}
