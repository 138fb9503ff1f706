using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>What scripts rely on: shapes, orders and statuses of the HTTP contract.</summary>
public class ContractTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task Ask_AnswersSevenPostsInOrderWithReasonsSourcesAndRemedies()
    {
        using var api = await house.As("member");
        var answer = await api.Post("/api/gate/ask", Questions.Open(await api.FreeStart()).With("sheetTag", null));
        answer.Status.ShouldBe(HttpStatusCode.OK);
        answer.Verdict.ShouldBe("ask");
        var posts = answer.Body.GetProperty("posts").EnumerateArray().ToList();
        posts
            .Select(p => p.GetProperty("post").GetString())
            .ShouldBe(["person", "training", "sheet", "drawing", "machine", "time", "room"]);
        var reason = posts[2].GetProperty("reasons")[0];
        reason.GetProperty("code").GetString().ShouldBe("sheet.untagged");
        reason.GetProperty("standing").GetString().ShouldBe("ask");
        reason.GetProperty("item").GetInt32().ShouldBe(0);
        reason.GetProperty("source").GetString()!.ShouldContain("common practice");
        reason.GetProperty("text").GetString()!.ShouldContain("needs the tag of a cleared sheet");
        reason.GetProperty("remedy").GetProperty("action").GetString().ShouldBe("sheet.clear");
        answer.Body.GetProperty("soonest").GetProperty("steps").EnumerateArray().Last().GetProperty("action").GetString().ShouldBe("run");
    }

    [Fact]
    public async Task Ask_FieldsGivenFlatOrAsOneItem_AreTheSameQuestion()
    {
        using var api = await house.As("member");
        var flat = Questions.Open(await api.FreeStart());
        var items = new Dictionary<string, object?>
        {
            ["memberId"] = "m-4",
            ["machineId"] = "heron",
            ["start"] = flat["start"],
            ["minutes"] = 75,
            ["items"] = new[]
            {
                new
                {
                    materialId = "birch-ply-laser",
                    thicknessMm = 3,
                    operations = new[] { "cut" },
                    sheetTag = "S-0097",
                    runMinutes = 18,
                },
            },
        };
        (await api.Post("/api/gate/ask", items)).Body.ToString().ShouldBe((await api.Post("/api/gate/ask", flat)).Body.ToString());
    }

    [Fact]
    public async Task Ask_TooShort_SaysThePartsThatAreNeeded()
    {
        using var api = await house.As("member");
        var answer = await api.Post("/api/gate/ask", Questions.Open(await api.FreeStart()).With("minutes", 20));
        answer.Codes.ShouldContain("time.tooShort");
        answer.Body.GetProperty("length").GetProperty("slotMinutes").GetInt32().ShouldBe(75);
        answer.Body.GetProperty("soonest").GetProperty("minutes").GetInt32().ShouldBe(75);
    }

    [Fact]
    public async Task Ask_InInches_WritesReasonsInInchesAndReadsBareNumbersSo()
    {
        using var api = await house.As("member");
        var question = Questions
            .Open(await api.FreeStart())
            .With("thicknessMm", null)
            .With("thickness", "3/8")
            .With("unit", "in")
            .With("sheetTag", null);
        var text = (await api.Post("/api/gate/ask", question)).Body.GetProperty("posts")[2].ToString();
        text.ShouldContain("cuts to 0.314 in; this is 0.375 in");
    }

    /// <summary>Each wrong field is named, with what to do; nothing of it is a 500.</summary>
    [Theory]
    [InlineData("start", "\"2026-11-26T14:00:00\"", "start")]
    [InlineData("start", "\"tomorrow\"", "start")]
    [InlineData("start", "\"2099-01-01T00:00:00Z\"", "start")]
    [InlineData("minutes", "0", "minutes")]
    [InlineData("minutes", "-30", "minutes")]
    [InlineData("minutes", "12.5", "minutes")]
    [InlineData("minutes", "100000", "minutes")]
    [InlineData("machineId", "\"osprey\"", "machineId")]
    [InlineData("machineId", "\"\"", "machineId")]
    [InlineData("materialId", "\"unobtainium\"", "items[0].materialId")]
    [InlineData("thicknessMm", "0", "thicknessMm")]
    [InlineData("thicknessMm", "-3", "thicknessMm")]
    [InlineData("operations", "[]", "operations")]
    [InlineData("operations", "[\"melt\"]", "operations")]
    [InlineData("operations", "[\"0\"]", "operations")]
    [InlineData("drawingId", "\"seven\"", "drawingId")]
    [InlineData("unit", "\"furlong\"", "unit")]
    [InlineData("runMinutes", "-1", "runMinutes")]
    public async Task Ask_WithABadField_NamesIt(string field, string json, string named)
    {
        using var api = await house.As("member");
        var question = Questions.Open(WebHouse.At(1, 14)).With(field, JsonDocument.Parse(json).RootElement);
        var answer = await api.Post("/api/gate/ask", question);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        answer.Fields.ShouldBe([named]);
        answer.Detail.ShouldEndWith(".");
    }

    [Theory]
    [InlineData("{\"thickness\":\"3 parsecs\"}", "thickness")]
    [InlineData("{\"thickness\":\"1/0 in\"}", "thickness")]
    public async Task Ask_BadUnitTyped_SaysWhatToType(string json, string named)
    {
        using var api = await house.As("member");
        var typed = JsonDocument.Parse(json).RootElement.GetProperty("thickness").GetString();
        var answer = await api.Post("/api/gate/ask", Questions.Open(WebHouse.At(1, 14)).With("thicknessMm", null).With("thickness", typed));
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Fields.ShouldBe([named]);
    }

    [Theory]
    [InlineData("")]
    [InlineData("{")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("{\"machineId\":7}")]
    [InlineData("{\"thicknessMm\":\"3\"}")]
    [InlineData("{\"items\":[null]}")]
    [InlineData("{\"items\":[]}")]
    [InlineData("{\"minutes\":1e400}")]
    public async Task Ask_MalformedBody_IsA400WithASentence(string json)
    {
        using var api = await house.As("member");
        var answer = await api.PostText("/api/gate/ask", json);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Detail.ShouldEndWith(".");
    }

    [Fact]
    public async Task Book_AnOpenGate_AnswersPartsThatAddUp_AndTheSameIdAgainTheSameBooking()
    {
        using var api = await house.As("member");
        var id = Guid.NewGuid();
        var question = Questions.Open(await api.FreeStart()).With("id", id);
        var made = await api.Post("/api/bookings", question);
        made.Status.ShouldBe(HttpStatusCode.Created);
        made.Id.ShouldBe(id.ToString());
        made.Body.GetProperty("minutes").GetInt32().ShouldBe(75);
        made.Body.GetProperty("parts").EnumerateArray().Sum(p => p.GetProperty("minutes").GetDecimal()).ShouldBe(75m);
        var again = await api.Post("/api/bookings", question);
        again.Status.ShouldBe(HttpStatusCode.OK);
        again.Id.ShouldBe(id.ToString());
        (await api.Post("/api/bookings", question.With("minutes", 90))).Code.ShouldBe("booking.idUsed");
        (await api.Post($"/api/bookings/{id}/cancel")).Body.GetProperty("cancelled").GetBoolean().ShouldBeTrue();
        (await api.Post("/api/bookings", question.With("id", null))).Status.ShouldBe(HttpStatusCode.Created, "the time is free again");
    }

    [Fact]
    public async Task Book_AShutGate_Is422WithThePosts_AndTakenTimeIs409()
    {
        using var newcomer = await house.As("newcomer");
        using var member = await house.As("member");
        var start = await member.FreeStart(fromDay: 3);
        var refused = await newcomer.Post("/api/bookings", Questions.Open(start).With("memberId", "m-5"));
        refused.Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused.Code.ShouldBe("gate.refused");
        refused.Codes.ShouldContain("training.none");
        var made = await member.Post("/api/bookings", Questions.Open(start));
        made.Status.ShouldBe(HttpStatusCode.Created);
        using var trainer = await house.As("trainer");
        var taken = await trainer.Post("/api/bookings", Questions.Open(start).With("memberId", "m-3"));
        taken.Status.ShouldBe(HttpStatusCode.Conflict);
        taken.Code.ShouldBe("time.taken");
        (await member.Post($"/api/bookings/{made.Id}/cancel")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("/api/machines")]
    [InlineData("/api/materials")]
    [InlineData("/api/people")]
    [InlineData("/api/bookings")]
    [InlineData("/api/sheets")]
    [InlineData("/api/asks")]
    [InlineData("/api/drawings")]
    [InlineData("/api/ledger")]
    public async Task Lists_AnswerItems(string path)
    {
        using var api = await house.As("steward");
        (await api.Get(path)).Body.GetProperty("items").ValueKind.ShouldBe(JsonValueKind.Array);
    }

    [Fact]
    public async Task Ledger_PagesWithoutGapOrRepeat()
    {
        using var api = await house.As("keeper");
        var seen = new List<long>();
        for (long? after = 0; after is not null; )
        {
            var page = (await api.Get($"/api/ledger?after={after}")).Body;
            seen.AddRange(page.GetProperty("items").EnumerateArray().Select(e => e.GetProperty("seq").GetInt64()));
            after = page.TryGetProperty("next", out var next) && next.ValueKind == JsonValueKind.Number ? next.GetInt64() : null;
        }
        seen.ShouldBe(Enumerable.Range(1, seen.Count).Select(i => (long)i));
        seen.Count.ShouldBeGreaterThan(500);
    }
}
