using System.Net;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Run;

public class RunsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Dictionary<string, object?> Run(string id) => new()
    {
        ["id"] = id, ["machineId"] = "heron", ["materialId"] = "mat-board", ["thickness"] = "2 mm", ["operations"] = new[] { "cut" },
        ["start"] = "2026-11-24T09:00:00Z", ["end"] = "2026-11-24T09:20:00Z", ["outcome"] = "clean", ["settings"] = "60 %, 30 mm/s, one pass",
    };

    [Fact]
    public async Task Log_ACleanRun_IsARecordATestResultAndTheSameTwiceOnce()
    {
        using var member = await house.As("member");
        var untested = Questions.Open(WebHouse.At(2, 14)).With("materialId", "mat-board").With("thicknessMm", 4).With("sheetTag", null);
        (await member.Post("/api/gate/ask", untested)).Body.GetProperty("length").ToString().ShouldContain("testPiece");
        var id = Guid.NewGuid().ToString();
        var run = Run(id).With("thickness", "4 mm");
        (await member.Post("/api/runs", run)).Id.ShouldBe(id);
        (await member.Post("/api/runs", run)).Status.ShouldBe(HttpStatusCode.Created);
        var mine = (await member.Get("/api/runs")).Body.GetProperty("items").EnumerateArray().Where(r => r.GetProperty("id").GetString() == id).ToList();
        mine.ShouldHaveSingleItem().GetProperty("settings").GetString().ShouldBe("60 %, 30 mm/s, one pass");
        (await member.Post("/api/gate/ask", untested)).Body.GetProperty("length").ToString().ShouldNotContain("testPiece");
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get("/api/runs")).Body.ToString().ShouldNotContain(id);
    }

    [Theory]
    [InlineData("outcome", "splendid", "outcome")]
    [InlineData("thickness", "thin", "thickness")]
    [InlineData("end", "2026-11-24T08:00:00Z", "end")]
    [InlineData("end", "2026-11-25T08:00:00Z", "end")]
    [InlineData("start", "2026-11-24T09:00:00", "start")]
    [InlineData("materialId", "unobtainium", "materialId")]
    [InlineData("machineId", "osprey", "machineId")]
    [InlineData("bookingId", "00000000-0000-4000-8000-000000000000", "bookingId")]
    [InlineData("id", "seven", "id")]
    public async Task Log_BadField_NamesIt(string field, string value, string named)
    {
        using var member = await house.As("member");
        var answer = await member.Post("/api/runs", Run(Guid.NewGuid().ToString()).With(field, value));
        (answer.Status, answer.Fields.Single()).ShouldBe((HttpStatusCode.BadRequest, named));
    }

    [Fact]
    public async Task Log_ForSomebodyElse_IsTheDesks()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        (await member.Post("/api/runs", Run(Guid.NewGuid().ToString()).With("memberId", "m-5"))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post("/api/runs", Run(Guid.NewGuid().ToString()).With("memberId", "m-4"))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task Arrive_WithinItsTime_IsMarkedOnce()
    {
        using var member = await house.As("member");
        using var newcomer = await house.As("newcomer");
        var start = await member.FreeStart();
        var id = (await member.Post("/api/bookings", Questions.Open(start))).Id;
        (await member.Post($"/api/bookings/{id}/arrive")).Code.ShouldBe("arrive.early");
        house.Clock.Now = NodaTime.Text.OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant() - Duration.FromMinutes(5);
        (await newcomer.Post($"/api/bookings/{id}/arrive")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Post($"/api/bookings/{id}/arrive")).Body.GetProperty("arrivedAt").GetString().ShouldNotBeNull();
        (await member.Post($"/api/bookings/{id}/arrive")).Status.ShouldBe(HttpStatusCode.OK);
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;
    }

    /// <summary>A booking that nobody kept is no practice: idleness counts from the last logged run.</summary>
    [Fact]
    public async Task Idleness_CountsFromTheLastLoggedRun()
    {
        using var trainer = await house.As("trainer");
        await house.Db.Tamper("update training.certificate set held = tstzrange('2026-01-01', '2027-12-01') where person_id = 'm-3' and authority = 'wren'; delete from run.log where person_id = 'm-3' and machine_id = 'wren'");
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-3").With("machineId", "wren");
        (await trainer.Post("/api/gate/ask", question)).Codes.ShouldContain("training.idle");
        (await trainer.Post("/api/runs", Run(Guid.NewGuid().ToString()).With("machineId", "wren"))).Status.ShouldBe(HttpStatusCode.Created);
        (await trainer.Post("/api/gate/ask", question)).Codes.ShouldNotContain("training.idle");
    }
}
