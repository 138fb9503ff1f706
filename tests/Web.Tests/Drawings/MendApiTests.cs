using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

public class MendApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Tiles =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='60mm' viewBox='0 0 100 60'><g fill='none' "
        + "stroke='#9c2f4f'><path d='M5 5h30v30h-30zM35 5h30v30h-30z'/><path d='M5 50h60M5 50.1h40' stroke='#0a0'/></g></svg>";

    private static List<string?> Codes(JsonElement report) =>
        [.. report.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString())];

    [Fact]
    public async Task Mend_IsShown_Taken_AndKept_AndTheDrawingStaysAsItWas()
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Tiles, "tiles.svg")).Id;
        var before = (await member.Get($"/api/drawings/{id}/check?machineId=heron")).Body.ToString();
        var ask = new
        {
            machineId = "heron",
            doubled = true,
            near = true,
            close = "0.1 mm",
            recolour = new[] { new { from = "#00aa00", to = "#9c2f4f" } },
        };
        var shown = (await member.Post($"/api/drawings/{id}/mend", ask)).Body;
        shown
            .GetProperty("steps")
            .EnumerateArray()
            .Select(s => (s.GetProperty("kind").GetString(), Math.Round(s.GetProperty("lengthMm").GetDouble())))
            .ShouldBe([("recolour", 0), ("doubled", 30), ("close", 0), ("near", 40)]);
        Codes(shown.GetProperty("report")).ShouldBe(["path.open"]);
        shown.GetProperty("lines").GetProperty("lines").GetArrayLength().ShouldBe(1);

        foreach (var (format, start) in new[] { ("svg", "<?xml"), ("dxf", "  0\nSECTION") })
        {
            var taken = (await member.Post($"/api/drawings/{id}/mend/file?format={format}", ask)).Response;
            taken.StatusCode.ShouldBe(HttpStatusCode.OK);
            (await taken.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldStartWith(start);
            taken.Content.Headers.ContentDisposition!.FileNameStar.ShouldBe($"tiles, mended.{format}");
        }

        var kept = await member.Post($"/api/drawings/{id}/mend/keep", ask);
        kept.Status.ShouldBe(HttpStatusCode.Created);
        kept.Body.GetProperty("name").GetString().ShouldBe("tiles, mended.svg");
        Codes((await member.Get($"/api/drawings/{kept.Id}/check?machineId=heron")).Body.GetProperty("report")).ShouldBe(["path.open"]);
        (await member.Get($"/api/drawings/{id}/check?machineId=heron")).Body.ToString().ShouldBe(before);
    }

    [Theory]
    [InlineData("""{"close":"a little"}""", "close")]
    [InlineData("""{"close":"3 in"}""", "close")]
    [InlineData("""{"scale":"0"}""", "scale")]
    [InlineData("""{"scale":"twice"}""", "scale")]
    [InlineData("""{"outline":"red"}""", "outline")]
    [InlineData("""{"recolour":[{"from":"#ff0000","to":"blue"}]}""", "recolour")]
    [InlineData("""{"recolour":[{"to":"#ff0000"}]}""", "recolour")]
    [InlineData("""{"doubled":true,"machineId":"osprey"}""", "machineId")]
    [InlineData("""{"doubled":true,"thickness":"thin"}""", "thickness")]
    [InlineData("{}", "doubled")]
    public async Task Mend_BadAsk_NamesTheField(string body, string field)
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Tiles, "tiles.svg")).Id;
        foreach (var path in new[] { "", "/keep", "/file?format=svg" })
        {
            var answer = await member.PostText($"/api/drawings/{id}/mend{path}", body);
            answer.Status.ShouldBe(HttpStatusCode.BadRequest);
            answer.Fields.ShouldBe([field]);
        }
    }

    [Fact]
    public async Task Mend_SomebodyElsesDrawing_OrAnotherFormat_IsRefused()
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Tiles, "tiles.svg")).Id;
        (await member.Post($"/api/drawings/{id}/mend/file?format=pdf", new { doubled = true })).Fields.ShouldBe(["format"]);
        using var newcomer = await house.As("newcomer");
        (await newcomer.Post($"/api/drawings/{id}/mend", new { doubled = true })).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
