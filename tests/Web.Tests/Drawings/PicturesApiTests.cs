using System.Net;
using QRCoder;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>Pictures as drawings of their own, and clamps on the sheet.</summary>
public class PicturesApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static byte[] Code(string text = "velvet")
    {
        using var data = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        return new PngByteQRCode(data).GetGraphic(20);
    }

    [Fact]
    public async Task Picture_IsChecked_Shown_PlacedByItsWidth_AndKept()
    {
        using var member = await house.As("member");
        var bytes = Code();
        var made = await member.PutIn(bytes, "code.png");
        made.Status.ShouldBe(HttpStatusCode.Created);
        var id = made.Id;
        made.Body.GetProperty("operations").EnumerateArray().Select(o => o.GetString()).ShouldBe(["engrave"]);
        var report = (await member.Get($"/api/drawings/{id}/check?machineId=heron")).Body.GetProperty("report");
        report
            .GetProperty("findings")
            .EnumerateArray()
            .Select(f => f.GetProperty("code").GetString())
            .ShouldBe(["image.lowResolution", "image.noSize", "image.placed"], ignoreOrder: true);
        report.GetProperty("pictures")[0].GetProperty("greys").GetDouble().ShouldBe(0);

        var lines = (await member.Get($"/api/drawings/{id}/lines")).Body;
        lines.GetProperty("pictures")[0].GetProperty("number").GetInt32().ShouldBe(0);
        var seen = (await member.Get($"/api/drawings/{id}/pictures/0")).Response;
        seen.Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        seen.Headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);
        (await seen.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).ShouldBe(bytes);
        (await member.Get($"/api/drawings/{id}/pictures/1")).Status.ShouldBe(HttpStatusCode.NotFound);

        var kept = await member.Post($"/api/drawings/{id}/mend/keep", new { machineId = "heron", width = "30 mm" });
        kept.Status.ShouldBe(HttpStatusCode.Created);
        var placed = (await member.Get($"/api/drawings/{kept.Id}/check?machineId=heron")).Body.GetProperty("report");
        placed.GetProperty("pictures")[0].GetProperty("widthMm").GetDouble().ShouldBe(30, 0.01);
        placed.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString()).ShouldBe(["image.placed"]);
        (
            await (await member.Get($"/api/drawings/{kept.Id}/pictures/0")).Response.Content.ReadAsByteArrayAsync(
                TestContext.Current.CancellationToken
            )
        ).ShouldBe(bytes);
    }

    /// <summary>What is linked has no file, and a copy none of its own: the numbers count files.</summary>
    [Fact]
    public async Task PictureOfADrawing_IsShownByItsNumber()
    {
        using var member = await house.As("member");
        var (one, two) = (Code("one"), Code("two"));
        string Image(byte[] png) => $"<image width='9' height='9' href='data:image/png;base64,{Convert.ToBase64String(png)}'/>";
        var svg =
            $"<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='90mm'><g id='g'>{Image(one)}</g><image width='9' "
            + $"height='9' href='linked.png'/><use href='#g' x='20'/>{Image(two)}</svg>";
        var id = (await member.PutIn(svg, "codes.svg")).Id;
        (await member.Get($"/api/drawings/{id}/lines"))
            .Body.GetProperty("pictures")
            .EnumerateArray()
            .Select(p => p.GetProperty("number").GetInt32())
            .ShouldBe([0, 0, 1], "a copy shares its file");
        (
            await (await member.Get($"/api/drawings/{id}/pictures/1")).Response.Content.ReadAsByteArrayAsync(
                TestContext.Current.CancellationToken
            )
        ).ShouldBe(two);
        using var other = await house.As("newcomer");
        (await other.Get($"/api/drawings/{id}/pictures/0")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Clamps_AreKept_Judged_AndNotLostToAnotherWindow()
    {
        using var member = await house.As("member");
        var id = (
            await member.PutIn(
                "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='200mm' viewBox='0 0 200 200'><path d='M50 "
                    + "50h50v50h-50z' stroke='#9c2f4f' fill='none'/></svg>",
                "part.svg"
            )
        ).Id;
        object[] none = [],
            one =

            [
                new
                {
                    x = 60.5,
                    y = 60,
                    across = 20,
                },
            ],
            two =

            [
                new
                {
                    x = 60.5,
                    y = 60,
                    across = 20,
                },
                new
                {
                    x = 5,
                    y = 5,
                    across = 20,
                },
            ];
        (await member.Put($"/api/drawings/{id}/clamps", new { before = none, clamps = one })).Status.ShouldBe(HttpStatusCode.OK);
        var stale = await member.Put($"/api/drawings/{id}/clamps", new { before = none, clamps = none });
        (stale.Status, stale.Body.GetProperty("code").GetString()).ShouldBe((HttpStatusCode.Conflict, "clamps.stale"));
        (await member.Put($"/api/drawings/{id}/clamps", new { before = one, clamps = two })).Status.ShouldBe(HttpStatusCode.OK);
        var typed = await member.Put(
            $"/api/drawings/{id}/clamps",
            new
            {
                before = two,
                clamps = two,
                add = new
                {
                    x = "-1 in",
                    y = "0",
                    across = "1",
                },
                unit = "in",
            }
        );
        typed.Body.GetProperty("clamps")[2].ToString().ShouldBe("""{"x":-25.4,"y":0,"across":25.4}""");
        (
            await member.Put(
                $"/api/drawings/{id}/clamps",
                new
                {
                    before = two,
                    clamps = two,
                    add = new
                    {
                        x = "left",
                        y = "",
                        across = "wide",
                    },
                }
            )
        ).Fields.ShouldBe(["across", "x", "y"], ignoreOrder: true);
        (await member.Put($"/api/drawings/{id}/clamps", new { before = typed.Body.GetProperty("clamps"), clamps = two })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        var check = (await member.Get($"/api/drawings/{id}/check?machineId=heron")).Body;
        check.GetProperty("clamps").GetArrayLength().ShouldBe(2);
        var finding = check
            .GetProperty("report")
            .GetProperty("findings")
            .EnumerateArray()
            .Single(f => f.GetProperty("code").GetString() == "frame.obstructed");
        (finding.GetProperty("count").GetInt32(), finding.GetProperty("severity").GetString()).ShouldBe((1, "note"));
        var bad = await member.Put(
            $"/api/drawings/{id}/clamps",
            new
            {
                before = two,
                clamps = new[]
                {
                    new
                    {
                        x = 1,
                        y = 1,
                        across = 0,
                    },
                },
            }
        );
        (bad.Status, bad.Body.GetProperty("errors").TryGetProperty("across", out _)).ShouldBe((HttpStatusCode.BadRequest, true));
        (await member.Put($"/api/drawings/{id}/clamps", new { before = two, clamps = new object?[] { null } })).Fields.ShouldBe(["clamps"]);
        using var other = await house.As("newcomer");
        (await other.Put($"/api/drawings/{id}/clamps", new { before = two, clamps = none })).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>Eight windows that each add a clamp to what they saw: one is kept, and seven are told.</summary>
    [Fact]
    public async Task Clamps_MarkedByEightAtOnce_AreOnesAndNotLost()
    {
        using var member = await house.As("member");
        var id = (
            await member.PutIn(
                "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'><path d='M0 0h5' stroke='#9c2f4f'/></svg>",
                "part.svg"
            )
        ).Id;
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(i =>
                    member.Put(
                        $"/api/drawings/{id}/clamps",
                        new
                        {
                            before = Array.Empty<object>(),
                            clamps = new[]
                            {
                                new
                                {
                                    x = i,
                                    y = 0,
                                    across = 20,
                                },
                            },
                        }
                    )
                )
        );
        answers.Count(a => a.Status == HttpStatusCode.OK).ShouldBe(1);
        answers.Count(a => a.Status == HttpStatusCode.Conflict).ShouldBe(7);
    }
}
