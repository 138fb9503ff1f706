using System.Net;
using System.Text;
using System.Text.Json;
using Dapper;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

public class SheetDeskApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static readonly byte[] Pdf = Encoding.ASCII.GetBytes("%PDF-1.4\n%order page\n%%EOF");
    private static readonly string[] All = ["cut", "score", "engrave"];

    private static async Task<List<string>> Register(
        Api api,
        object? change = null,
        string material = "acrylic-clear",
        int count = 1,
        string batch = "",
        bool stock = false
    )
    {
        var made = await api.Post(
            "/api/sheets",
            change
                ?? new
                {
                    materialId = material,
                    thickness = "3 mm",
                    width = "60 cm",
                    height = "16 in",
                    supplier = "Harbour Sheet Supply",
                    batch,
                    count,
                    houseStock = stock,
                }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Detail);
        return [.. made.Body.GetProperty("tags").EnumerateArray().Select(t => t.GetString()!)];
    }

    private static async Task<Answer> Attach(Api api, string tag, byte[] bytes, string name = "order.pdf")
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", name } };
        return await Answer.Of(await api.Http.PostAsync($"/api/sheets/{tag}/evidence", form));
    }

    private static Task<Answer> Clear(Api api, string tag, bool wholeBatch = false, string[]? machines = null, string? until = null) =>
        api.Post(
            $"/api/sheets/{tag}/clear",
            new
            {
                operations = All,
                machineIds = machines ?? [],
                until,
                seen = "Order page names it.",
                wholeBatch,
            }
        );

    private static Dictionary<string, object?> Ask(string tag, string machine = "heron") =>
        Questions.Open(WebHouse.At(2, 12)).With("materialId", "acrylic-clear").With("sheetTag", tag).With("machineId", machine);

    private static IReadOnlyList<string> Tags(Answer answer, string name) =>
        [.. answer.Body.GetProperty(name).EnumerateArray().Select(t => t.GetString()!)];

    /// <summary>A code on a sheet is read by anybody; where a member buys is not.</summary>
    [Fact]
    public async Task Supplier_OfAMembersSheet_IsTheirsAndStaffs_OfHouseStockEverybodys()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        using var visitor = await house.As(null);
        using var newcomer = await house.As("newcomer");
        var (own, stock) = ((await Register(member, batch: "L-7"))[0], (await Register(steward, stock: true, batch: "H-7"))[0]);
        foreach (
            var (api, tag, told) in new[]
            {
                (visitor, own, false),
                (newcomer, own, false),
                (member, own, true),
                (steward, own, true),
                (visitor, stock, true),
            }
        )
        {
            var sheet = (await api.Get($"/api/sheets/{tag}")).Body;
            sheet.GetProperty("supplier").GetString().ShouldBe(told ? "Harbour Sheet Supply" : "");
            (sheet.GetProperty("batch").GetString()!.Length > 0).ShouldBe(told);
        }
    }

    [Fact]
    public async Task BroughtIn_IsTagged_Evidenced_ClearedByAnother_AndTheGateReadsIt()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var tag = (await Register(member)).Single();
        tag.ShouldMatch("^S-[0-9]{4}$");
        (await member.Post("/api/gate/ask?soonest=false", Ask(tag))).Codes.ShouldContain("sheet.notCleared");
        var file = await Attach(member, tag, Pdf);
        file.Status.ShouldBe(HttpStatusCode.Created);
        (await Attach(member, tag, Pdf)).Id.ShouldBe(file.Id, "the same file twice is one");
        (await member.Post($"/api/sheets/{tag}/clear", new { operations = All, seen = "Mine." })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/sheets/{tag}/clear", new { operations = All, seen = " " })).Fields.ShouldBe(["seen"]);
        (await Clear(steward, tag, until: "2028-01-01")).Fields.ShouldBe(["until"]);
        (await Clear(steward, tag, machines: ["wren"])).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Post("/api/gate/ask?soonest=false", Ask(tag))).Codes.ShouldContain(
            "sheet.notCleared",
            "it was cleared for Wren alone"
        );
        (await member.Post("/api/gate/ask?soonest=false", Ask(tag, "wren"))).Codes.ShouldNotContain("sheet.notCleared");
        (await member.Get("/api/messages"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldContain(m => m.GetProperty("title").GetString() == $"Sheet {tag} is cleared");
    }

    [Fact]
    public async Task OwnSheet_OfASteward_NeedsAnother()
    {
        using var steward = await house.As("steward");
        using var trainer = await house.As("trainer");
        var tag = (await Register(steward)).Single();
        var own = await Clear(steward, tag);
        (own.Status, own.Code).ShouldBe((HttpStatusCode.Forbidden, "sheet.self"));
        await house.MakeSteward("m-3");
        (await Clear(trainer, tag)).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task NeverAndBanned_AreNotCleared()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        (await Clear(steward, (await Register(member, material: "pvc-sheet")).Single())).Code.ShouldBe("sheet.never");
        (await Clear(steward, (await Register(member, material: "abs")).Single())).Code.ShouldBe("sheet.banned");
    }

    [Fact]
    public async Task Report_PutsAwayFamilyAndBatch_SendsTheSameEvidenceToRecheck_AndListsWhatItHits()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        using var newcomer = await house.As("newcomer");
        var batch = await Register(steward, count: 3, batch: "order 77", stock: true);
        (await Attach(steward, batch[0], [.. Pdf, 1])).Status.ShouldBe(HttpStatusCode.Created);
        var other = (await Register(member)).Single();
        (await Attach(member, other, [.. Pdf, 1])).Status.ShouldBe(HttpStatusCode.Created);
        Tags(await Clear(steward, batch[0], wholeBatch: true), "tags").ShouldBe(batch);
        (await Clear(steward, other)).Status.ShouldBe(HttpStatusCode.OK);
        var piece = Tags(await member.Post($"/api/sheets/{batch[1]}/offcut", new { width = "200", height = "100 mm" }), "tags").Single();
        piece.ShouldBe($"{batch[1]}-1");
        (await member.Get($"/api/sheets/{piece}"))
            .Body.GetProperty("cleared")
            .GetBoolean()
            .ShouldBeTrue("an offcut inherits its clearance");
        (await member.Post($"/api/sheets/{piece}/offcut", new { width = "300 mm", height = "90 mm" })).Code.ShouldBe("sheet.offcut");
        var start = await member.FreeStart(q => q.With("materialId", "acrylic-clear").With("sheetTag", piece));
        (
            await member.Post("/api/bookings", Questions.Open(start).With("materialId", "acrylic-clear").With("sheetTag", piece))
        ).Status.ShouldBe(HttpStatusCode.Created);

        (await newcomer.Post($"/api/sheets/{batch[2]}/report", new { reason = "" })).Fields.ShouldBe(["reason"]);
        var report = await newcomer.Post($"/api/sheets/{batch[2].ToLowerInvariant()}/report", new { reason = "It smelled of chlorine." });
        Tags(report, "quarantined").ShouldBe([.. batch.Append(piece).Order(StringComparer.Ordinal)]);
        Tags(report, "recheck").ShouldBe([other]);
        report.Body.GetProperty("bookings").GetArrayLength().ShouldBe(1);
        (await member.Post("/api/gate/ask?soonest=false", Ask(batch[0]))).Codes.ShouldContain("sheet.quarantined");
        (await member.Post("/api/gate/ask?soonest=false", Ask(other))).Codes.ShouldContain("sheet.notCleared");
        (await Clear(steward, batch[0])).Code.ShouldBe("sheet.quarantined");
        (await steward.Post($"/api/sheets/{batch[0]}/release", new { reason = "Looked at: it is acrylic." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await member.Post("/api/gate/ask?soonest=false", Ask(batch[0]))).Codes.ShouldContain(
            "sheet.notCleared",
            "it is cleared anew before use"
        );
        (await Clear(steward, batch[0])).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Visitors_SeeMaterialAndClearance_NotPeople()
    {
        using var visitor = await house.As(null);
        var seen = await visitor.Get("/api/sheets/S-0097");
        seen.Body.GetProperty("materialName").GetString().ShouldBe("Birch plywood, laser grade");
        seen.Body.GetProperty("cleared").GetBoolean().ShouldBeTrue();
        foreach (var hidden in new[] { "broughtBy", "note", "evidence" })
            (seen.Body.TryGetProperty(hidden, out var value) && value.ValueKind != JsonValueKind.Null).ShouldBeFalse(hidden);
        (await visitor.Get("/api/sheets/S-7777")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await visitor.Get("/api/sheets/s97")).Body.GetProperty("tag").GetString().ShouldBe("S-0097", "typed as people type it");
    }

    [Theory]
    [InlineData("MZ this is a program", "order.pdf", HttpStatusCode.UnsupportedMediaType)]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>", "label.png", HttpStatusCode.UnsupportedMediaType)]
    [InlineData("", "empty.pdf", HttpStatusCode.BadRequest)]
    public async Task Evidence_IsJudgedByItsBytes(string content, string name, HttpStatusCode status)
    {
        using var member = await house.As("member");
        var tag = (await Register(member)).Single();
        var answer = await Attach(member, tag, Encoding.UTF8.GetBytes(content), name);
        answer.Status.ShouldBe(status);
        answer.Fields.ShouldBe(["file"]);
    }

    [Fact]
    public async Task Evidence_IsForItsBringerAndStaff_AndRunsNothing()
    {
        using var member = await house.As("member");
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        var tag = (await Register(member)).Single();
        var id = (await Attach(member, tag, Pdf, "../../etc/order.pdf")).Id;
        (await newcomer.Get($"/api/sheets/{tag}/evidence/{id}")).Status.ShouldBe(HttpStatusCode.Forbidden);
        var file = (await steward.Get($"/api/sheets/{tag}/evidence/{id}")).Response;
        (await file.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).ShouldBe(Pdf);
        file.Content.Headers.ContentDisposition!.ToString().ShouldStartWith("attachment; filename=order.pdf");
        file.Headers.GetValues("Content-Security-Policy").Single().ShouldStartWith("sandbox");
        file.Headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);
    }

    [Fact]
    public async Task Register_NamesEachFieldAtFault()
    {
        using var member = await house.As("member");
        (
            await member.Post(
                "/api/sheets",
                new
                {
                    thickness = "thick",
                    width = "0",
                    height = "9 m",
                    count = 5,
                }
            )
        ).Fields.ShouldBe(["thickness", "width", "height", "materialId", "batch"], ignoreOrder: true);
        (
            await member.Post(
                "/api/sheets",
                new
                {
                    materialId = "mdf",
                    thickness = "3",
                    width = "1",
                    height = "1",
                    houseStock = true,
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        (
            await member.Post(
                "/api/sheets",
                new
                {
                    materialId = "unobtainium",
                    thickness = "3",
                    width = "1",
                    height = "1",
                }
            )
        ).Fields.ShouldBe(["materialId"]);
    }

    [Fact]
    public async Task OffcutsAtTheSameMoment_GetTwoNumbers()
    {
        using var steward = await house.As("steward");
        var tag = (await Register(steward, stock: true)).Single();
        var pieces = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(_ => steward.Post($"/api/sheets/{tag}/offcut", new { width = "50", height = "50" }))
        );
        pieces.SelectMany(p => Tags(p, "tags")).Distinct().Count().ShouldBe(8);
    }

    [Fact]
    public async Task ClearedSheets_StandTheirRecord()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var tag = (await Register(member)).Single();
        await Clear(steward, tag);
        (await member.Post($"/api/sheets/{tag}/retire")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await member.Post("/api/gate/ask?soonest=false", Ask(tag))).Codes.ShouldContain("sheet.notCleared");
        await using var connection = await house.Db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var kinds = (
            await connection.QueryAsync<string>(
                "select kind from ledger.entry where body like @like order by seq",
                new { like = $"%\"{tag}\"%" }
            )
        ).ToList();
        kinds.ShouldBe(["sheet.registered", "sheet.cleared", "sheet.retired"]);
        (await new Store.Ledger.LedgerVerifier(house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Identification_ExcludesAndNeverPermits()
    {
        using var steward = await house.As("steward");
        var piece = new
        {
            massG = 8.85,
            massOffG = 0.05,
            length = "5 cm",
            width = "50 mm",
            thickness = "3",
            sizeOff = "0.05",
            thicknessOff = "0.05",
            plain = true,
        };
        var outcome = await steward.Post("/api/identification", piece);
        Tags(outcome, "possible").ShouldContain("Soft PVC");
        Tags(outcome, "excluded").ShouldContain("PTFE");
        outcome.Body.GetProperty("says").GetString()!.ShouldContain("permits nothing");
        (
            await steward.Post(
                "/api/identification",
                new
                {
                    massG = 8.85,
                    massOffG = 0.05,
                    length = "5 cm",
                    width = "50 mm",
                    thickness = "3",
                    sizeOff = "0.05",
                    thicknessOff = "0.05",
                }
            )
        ).Fields.ShouldBe(["plain"]);
        (await steward.Post("/api/identification", new { length = "wide" })).Fields.ShouldBe(
            ["length", "width", "thickness", "sizeOff", "thicknessOff", "mass", "massOff"],
            ignoreOrder: true
        );
        var chloride = await steward.Get("/api/chloride?cut=10+cm&thickness=3&kerf=0.25&enclosure=0.3");
        chloride.Body.GetProperty("enclosurePpm").GetDouble().ShouldBe(133, 3);
        (await steward.Get("/api/chloride?cut=10+cm&thickness=3&kerf=0.25&enclosure=-1")).Fields.ShouldBe(["enclosure"]);
    }

    [Theory]
    [InlineData("s97")]
    [InlineData("http://127.0.0.1:5080/sheets/S-0097")]
    public async Task Gate_TakesATagAsTypedOrScanned(string tag)
    {
        using var member = await house.As("member");
        var codes = (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(3, 12)).With("sheetTag", tag))).Codes;
        codes.ShouldNotContain("sheet.unknown");
        codes.ShouldNotContain("sheet.untagged");
    }
}
