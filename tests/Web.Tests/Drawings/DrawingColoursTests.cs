using System.Diagnostics;
using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>A colour the house gives no operation gets one in one press, for one drawing; the gate and the command line read it.</summary>
public class DrawingColoursTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Foreign =
        "<svg xmlns='http://www.w3.org/2000/svg' width='40mm' height='40mm' viewBox='0 0 40 40'><path d='M5 5h20v20h-20z' "
        + "fill='none' stroke='#12ab34'/></svg>";

    private static List<string?> Findings(Answer check) =>
        [.. check.Body.GetProperty("report").GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString())];

    [Fact]
    public async Task UnknownColour_GetsItsOperation_AndTheGateReadsIt()
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Foreign, "bracket.svg")).Id;
        var question = Questions.Open(await member.FreeStart()).With("memberId", null).With("drawingId", id);
        Findings(await member.Get($"/api/drawings/{id}/check?machineId=heron")).ShouldContain("colour.unknown");
        (await member.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("drawing.stop");

        var put = await member.Put($"/api/drawings/{id}/colours", new { colour = "#12AB34", operation = "cut" });
        put.Body.GetProperty("own")
            .EnumerateArray()
            .Select(c => (c.GetProperty("colour").GetString(), c.GetProperty("operation").GetString()))
            .ShouldBe([("#12ab34", "cut")]);
        Findings(await member.Get($"/api/drawings/{id}/check?machineId=heron")).ShouldBeEmpty();
        (await member.Get($"/api/drawings/{id}/lines")).Body.GetProperty("lines")[0].GetProperty("operation").GetString().ShouldBe("cut");
        (await member.Get("/api/drawings"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(d => d.GetProperty("id").GetString() == id)
            .GetProperty("operations")[0]
            .GetString()
            .ShouldBe("cut");
        var open = await member.Post("/api/gate/ask?soonest=false", question);
        open.Codes.ShouldNotContain("drawing.stop");

        // Another operation than was asked for is another question.
        await member.Put($"/api/drawings/{id}/colours", new { colour = "#12ab34", operation = "engrave" });
        (await member.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("drawing.operations");
        await member.Put($"/api/drawings/{id}/colours", new { colour = "#12ab34", operation = (string?)null });
        (await member.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("drawing.stop");
    }

    [Fact]
    public async Task ColoursFile_IsWhatTheCommandLineReads()
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Foreign, "bracket.svg")).Id;
        await member.Put($"/api/drawings/{id}/colours", new { colour = "#12ab34", operation = "score" });
        var file = (await member.Get($"/api/drawings/{id}/colours/file")).Response;
        file.Content.Headers.ContentDisposition!.FileNameStar.ShouldBe("bracket.colours.txt");
        var text = await file.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        text.Split('\n', StringSplitOptions.RemoveEmptyEntries).ShouldContain("#12ab34=score");

        var folder = Directory.CreateTempSubdirectory("vg-colours-").FullName;
        try
        {
            var (svg, colours) = (Path.Combine(folder, "bracket.svg"), Path.Combine(folder, "bracket.colours.txt"));
            await File.WriteAllTextAsync(svg, Foreign, TestContext.Current.CancellationToken);
            await File.WriteAllTextAsync(colours, text, TestContext.Current.CancellationToken);
            var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")!;
            using var process = Process.Start(
                new ProcessStartInfo("dotnet", [Path.Combine(app, "cli", "vg.dll"), "check", svg, "--json", "--colours", colours])
                {
                    RedirectStandardOutput = true,
                }
            )!;
            using var report = JsonDocument.Parse(await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken));
            report.RootElement.GetProperty("strokes")[0].GetProperty("operation").GetString().ShouldBe("score");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Theory]
    [InlineData("#9c2f4f", "score", HttpStatusCode.Conflict, "colour.ofHouse")]
    [InlineData("#444444", "score", HttpStatusCode.BadRequest, "colour.notDrawn")]
    [InlineData("green", "score", HttpStatusCode.BadRequest, "colour.notDrawn")]
    [InlineData("#12ab34", "burn", HttpStatusCode.BadRequest, "colours.bad")]
    [InlineData("#12ab34", "unknown", HttpStatusCode.BadRequest, "colours.bad")]
    public async Task Colour_ThatIsNotTheDrawings_OrNoOperation_IsRefused(
        string colour,
        string operation,
        HttpStatusCode status,
        string code
    )
    {
        using var member = await house.As("member");
        var id = (await member.PutIn(Foreign.Replace("</svg>", "<path d='M1 1h5' stroke='#9c2f4f'/></svg>", StringComparison.Ordinal))).Id;
        var answer = await member.Put($"/api/drawings/{id}/colours", new { colour, operation });
        (answer.Status, answer.Code).ShouldBe((status, code));
    }

    /// <summary>
    /// Stewards and trainers see a drawing that a booking or a waiting question stands on, and no other; nobody writes on another's.
    /// </summary>
    [Fact]
    public async Task Drawing_IsSeenByAStewardOnlyWithABooking_AndDeletedByItsOwnerAlone()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var id = (await member.PutIn(Foreign.Replace("#12ab34", "#9c2f4f", StringComparison.Ordinal))).Id;
        (await steward.Get($"/api/drawings/{id}/check")).Status.ShouldBe(HttpStatusCode.NotFound);
        var start = await member.FreeStart(q => q.With("memberId", null));
        var booking = await member.Post("/api/bookings", Questions.Open(start).With("memberId", null).With("drawingId", id));
        booking.Status.ShouldBe(HttpStatusCode.Created, booking.Body.ToString());
        var seen = await steward.Get($"/api/drawings/{id}/check");
        (seen.Status, seen.Body.GetProperty("mine").GetBoolean()).ShouldBe((HttpStatusCode.OK, false));
        (await steward.Get($"/api/drawings/{id}/lines")).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Put($"/api/drawings/{id}/clamps", new { })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Put($"/api/drawings/{id}/colours", new { colour = "#9c2f4f" })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Delete($"/api/drawings/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);

        var inUse = await member.Delete($"/api/drawings/{id}");
        (inUse.Status, inUse.Code).ShouldBe((HttpStatusCode.Conflict, "drawing.inUse"));
        (await member.Post($"/api/bookings/{booking.Id}/cancel", new { reason = "The drawing changes." })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        (await member.Delete($"/api/drawings/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await member.Get($"/api/drawings/{id}/check")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Delete($"/api/drawings/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
