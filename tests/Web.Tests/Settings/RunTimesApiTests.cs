using System.Globalization;
using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary>Runs logged on bookings with a drawing correct the estimates of their machine, once a steward says so.</summary>
public class RunTimesApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Square =
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"120mm\" height=\"120mm\" viewBox=\"0 0 120 120\">"
        + "<rect x=\"10\" y=\"10\" width=\"100\" height=\"100\" fill=\"none\" stroke=\"#9c2f4f\"/></svg>";

    [Fact]
    public async Task FiveRuns_OneFactor_AcceptedByASteward_ChangesWhatTheDrawingTakes()
    {
        // The house’s own runs of boxes would be measured too.
        await house.Db.Tamper("update run.log set outcome = 'abandoned' where machine_id = 'heron'");
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var drawing = (await member.PutIn(Square)).Id;
        Dictionary<string, object?> Drawn(Dictionary<string, object?> q) => q.With("drawingId", drawing).With("runMinutes", null);
        var start = await member.FreeStart(Drawn);
        var booking = (await member.Post("/api/bookings", Drawn(Questions.Open(start)))).Id;
        var before = await Seconds(member, drawing);
        before.ShouldBeGreaterThan(5);

        (await Cut(member)).GetProperty("runs").GetInt32().ShouldBe(0);
        foreach (var (ratio, i) in new[] { 1.2, 1.4, 1.5, 1.6, 1.9 }.Select((r, i) => (r, i)))
            await house.Db.Tamper(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"insert into run.log (id, booking_id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, "
                        + $"logged_by, at) select gen_random_uuid(), '{booking}', 'm-4', 'heron', 'birch-ply-laser', 3, array['cut'], "
                        + $"tstzrange(t, t + interval '{before * ratio} s'), 'clean', 'm-4', t + interval '1 h' "
                        + $"from (select timestamptz '2026-11-2{i}T09:00Z' as t) s"
                )
            );
        var told = await Cut(member);
        told.GetProperty("proposed").GetProperty("factor").GetDecimal().ShouldBe(1.5m);
        told.GetProperty("errorThen").GetDouble().ShouldBeLessThan(told.GetProperty("errorNow").GetDouble());

        (await member.Post(Times, new { operation = "cut", factor = 1.5 })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post(Times, new { operation = "cut", factor = 1.6 })).Code.ShouldBe("times.moved");
        (await steward.Post(Times, new { operation = "melt", factor = 1.5 })).Fields.ShouldBe(["operation"]);
        (await steward.Post(Times, new { operation = "cut", factor = 1.5 })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Seconds(member, drawing)).ShouldBe(1.5 * before, 0.1);
        var report = (await member.Get($"/api/drawings/{drawing}/check?machineId=heron&materialId=birch-ply-laser&thickness=3")).Body;
        report.GetProperty("report").GetProperty("time").GetProperty("high").GetDouble().ShouldBeGreaterThan(1.5 * before);

        // The form of the machine keeps it; a steward takes it away.
        using var keeper = await house.As("keeper");
        var sheet = (await keeper.Get("/api/house/sheets")).Body.GetProperty("machines")[0];
        var fields = sheet.GetProperty("spec");
        var saved = await keeper.Put("/api/machines/heron", new { fields, version = sheet.GetProperty("version").GetInt32() });
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body.ToString());
        (await Cut(member)).GetProperty("now").GetProperty("factor").GetDecimal().ShouldBe(1.5m);
        (await steward.Post(Times, new { operation = "cut" })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Seconds(member, drawing)).ShouldBe(before, 0.1);
        (await steward.Post("/api/machines/osprey/run-times", new { operation = "cut" })).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    private const string Times = "/api/machines/heron/run-times";

    private static async Task<System.Text.Json.JsonElement> Cut(Api api) =>
        (await api.Get(Times)).Body.GetProperty("operations").EnumerateArray().Single(o => o.GetProperty("operation").GetString() == "cut");

    private static async Task<double> Seconds(Api api, string drawing) =>
        (await api.Get($"/api/drawings/{drawing}/check?machineId=heron&materialId=birch-ply-laser&thickness=3"))
            .Body.GetProperty("report")
            .GetProperty("time")
            .GetProperty("runSeconds")
            .GetDouble();
}
