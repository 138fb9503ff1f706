using System.Net;
using System.Text;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>The cleared sheet or offcut to take for a drawing, and what the gate says of one that is too small.</summary>
public class PiecesApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static byte[] Rect(int width, int height) =>
        Encoding.UTF8.GetBytes(
            $"<svg xmlns='http://www.w3.org/2000/svg' width='{width}mm' height='{height}mm' viewBox='0 0 {width} {height}'>"
                + $"<path d='M0 0H{width}V{height}H0z' stroke='#9c2f4f' fill='none'/></svg>"
        );

    [Fact]
    public async Task Pieces_AreTheClearedOnesThatTakeIt_AndTheGateAgrees()
    {
        using var member = await house.As("member");
        var small = (await member.PutIn(Rect(60, 40), "tag.svg")).Id;
        async Task<JsonElement> Pieces(string drawing, int copies) =>
            (
                await member.Get(
                    $"/api/drawings/{drawing}/pieces?machineId=heron&materialId=birch-ply-laser&thickness=3%20mm&copies={copies}"
                )
            ).Body;
        var one = (await Pieces(small, 1)).GetProperty("items").EnumerateArray().ToList();
        one.ShouldNotBeEmpty();
        var areas = one.Select(p => (Offcut: p.GetProperty("offcut").GetBoolean(), Area: Area(p))).ToList();
        areas.ShouldBe(areas.OrderByDescending(a => a.Offcut).ThenBy(a => a.Area).ToList(), "offcuts first, the smallest first");
        var many = (await Pieces(small, 30)).GetProperty("items").EnumerateArray().ToList();
        many[0].GetProperty("copies").GetInt32().ShouldBe(many.Max(p => p.GetProperty("copies").GetInt32()));
        many[0].GetProperty("at").GetArrayLength().ShouldBe(many[0].GetProperty("copies").GetInt32());
        var wrong = await member.Get($"/api/drawings/{small}/pieces?machineId=heron&materialId=birch-ply-laser&copies=0");
        wrong.Status.ShouldBe(HttpStatusCode.BadRequest);
        wrong.Fields.ShouldBe(["copies"]);

        var tag = one[0].GetProperty("tag").GetString()!;
        var large = (await member.PutIn(Rect((int)one[0].GetProperty("widthMm").GetDecimal() - 4, 40), "wide.svg")).Id;
        (await Pieces(large, 1)).GetProperty("items").EnumerateArray().ShouldNotContain(p => p.GetProperty("tag").GetString() == tag);
        var ask = await member.Post(
            "/api/gate/ask",
            new
            {
                machineId = "heron",
                materialId = "birch-ply-laser",
                thicknessMm = one[0].GetProperty("thicknessMm").GetDecimal(),
                operations = new[] { "cut" },
                sheetTag = tag,
                drawingId = large,
                start = "2026-11-25T18:00:00+00:00",
                minutes = 60,
            }
        );
        ask.Body.ToString().ShouldContain("size.offSheet");
    }

    /// <summary>Four stamps, mirrored and turned, make one drawing whose page is the sheet; the gate finds that it lies on it.</summary>
    [Fact]
    public async Task Place_MakesOneDrawingOfAllCopies()
    {
        using var member = await house.As("member");
        var stamp = (await member.PutIn(Rect(60, 40), "stamp.svg")).Id;
        Dictionary<string, object?> Wish(string? tag) =>
            new()
            {
                ["machineId"] = "heron",
                ["materialId"] = "birch-ply-laser",
                ["thickness"] = "3 mm",
                ["copies"] = 4,
                ["quarters"] = 1,
                ["mirror"] = true,
                ["anchor"] = "middle",
                ["tag"] = tag,
            };
        var made = await member.Post($"/api/drawings/{stamp}/place", Wish("S-0097"));
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        made.Body.GetProperty("leftOut").GetArrayLength().ShouldBe(0);
        var drawing = made.Body.GetProperty("drawing");
        drawing.GetProperty("name").GetString().ShouldBe("stamp, 4 on S-0097.svg");
        (drawing.GetProperty("widthMm").GetDecimal(), drawing.GetProperty("heightMm").GetDecimal()).ShouldBe((600, 400));
        var id = drawing.GetProperty("id").GetString();
        var report = (await member.Get($"/api/drawings/{id}/check?machineId=heron")).Body.GetProperty("report");
        report.GetProperty("strokes")[0].GetProperty("lengthMm").GetDouble().ShouldBe(4 * 200, 1e-3);
        report.GetProperty("findings").EnumerateArray().ShouldAllBe(f => f.GetProperty("severity").GetString() != "shut");
        var ask = await member.Post(
            "/api/gate/ask?soonest=false",
            Questions.Open(WebHouse.At(2, 14)).With("drawingId", id).With("runMinutes", null)
        );
        ask.Codes.ShouldNotContain(c => c.StartsWith("size.", StringComparison.Ordinal));

        (await member.Post($"/api/drawings/{stamp}/place", Wish("S-9999"))).Code.ShouldBe("place.noSheet");
        (await member.Post($"/api/drawings/{stamp}/place", Wish(null))).Code.ShouldBe("place.noSheet");
        (await member.Post($"/api/drawings/{stamp}/place", Wish("S-0097").With("quarters", 5).With("anchor", "top"))).Fields.ShouldBe([
            "quarters",
            "anchor",
        ]);
        using var other = await house.As("newcomer");
        (await other.Post($"/api/drawings/{stamp}/place", Wish("S-0097"))).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>Every move of the run comes as four columns of floats; nobody else sees them.</summary>
    [Fact]
    public async Task Timeline_IsFourColumns_AndEndsWithTheRun()
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Rect(60, 40), "watched.svg")).Id;
        var path = $"/api/drawings/{id}/timeline?machineId=heron&materialId=birch-ply-laser&thickness=3";
        var bytes = await member.Http.GetByteArrayAsync(path);
        var floats = bytes.Chunk(4).Select(b => BitConverter.ToSingle(b)).ToArray();
        var count = floats.Length / 4;
        (floats.Length % 4, count).ShouldBe((0, 5), "a start and four sides");
        var seconds = (await member.Get(path.Replace("timeline", "check"))).Body.GetProperty("report").GetProperty("time");
        ((double)floats[count - 1]).ShouldBe(seconds.GetProperty("runSeconds").GetDouble(), 0.1);
        floats[(3 * count)..].ShouldBe([0, 1, 1, 1, 1]);
        using var other = await house.As("newcomer");
        (await other.Get(path)).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>Half a metre of ply on a weak laser would be run hundreds of times: no memory is filled with it.</summary>
    [Fact]
    public async Task Timeline_OfFarTooManyMoves_IsRefused()
    {
        using var member = await house.As("member");
        var lines = string.Concat(Enumerable.Range(0, 12_000).Select(i => $"M{i % 100} {i / 100}h0.5"));
        var id = (
            await member.PutIn(
                Encoding.UTF8.GetBytes(
                    "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='130mm' viewBox='0 0 120 130'>"
                        + $"<path d='{lines}' stroke='#9c2f4f' fill='none'/></svg>"
                ),
                "many.svg"
            )
        ).Id;
        var run = await member.Get($"/api/drawings/{id}/timeline?machineId=swift&materialId=birch-ply-laser&thickness=490");
        (run.Status, run.Code).ShouldBe((HttpStatusCode.UnprocessableEntity, "file.unreadable"), run.Body.ToString());
    }

    /// <summary>A box becomes a drawing of one's own, in the house's cut colour, with the kerf of the machine.</summary>
    [Fact]
    public async Task Box_IsDrawn_AndWhatIsWrongIsNamed()
    {
        using var member = await house.As("member");
        var made = await member.Post(
            "/api/drawings/box",
            new
            {
                width = "4 in",
                depth = "60",
                height = "50 mm",
                inside = false,
                lid = false,
                thickness = "2.9 mm",
                machineId = "heron",
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        made.Body.GetProperty("name").GetString().ShouldBe("box 101.6 x 60 x 50 mm.svg");
        var report = (await member.Get($"/api/drawings/{made.Id}/check?machineId=heron&thickness=2.9")).Body.GetProperty("report");
        var stroke = report.GetProperty("strokes").EnumerateArray().ShouldHaveSingleItem();
        (stroke.GetProperty("colour").GetString(), stroke.GetProperty("paths").GetInt32()).ShouldBe(("#9c2f4f", 5));
        report.GetProperty("findings").EnumerateArray().ShouldBeEmpty();
        (
            await member.Post(
                "/api/drawings/box",
                new
                {
                    width = "wide",
                    depth = "60",
                    height = "50",
                    thickness = "3",
                }
            )
        ).Fields.ShouldBe(["width"]);
        (
            await member.Post(
                "/api/drawings/box",
                new
                {
                    width = "90",
                    depth = "60",
                    height = "50",
                    thickness = "3",
                    finger = "2",
                }
            )
        ).Fields.ShouldBe(["finger"]);
    }

    private static decimal Area(JsonElement piece) =>
        piece.GetProperty("widthMm").GetDecimal() * piece.GetProperty("heightMm").GetDecimal();
}
