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

    private static decimal Area(JsonElement piece) =>
        piece.GetProperty("widthMm").GetDecimal() * piece.GetProperty("heightMm").GetDecimal();
}
