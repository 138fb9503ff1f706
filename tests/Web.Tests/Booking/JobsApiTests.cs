using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>Jobs are kept from a question, say what became of them, and belong to one person.</summary>
public class JobsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Square =
        "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='120mm' viewBox='0 0 120 120'>"
        + "<rect x='10' y='10' width='100' height='100' fill='none' stroke='#9c2f4f'/></svg>";

    private static Dictionary<string, object?> Question(string drawing) =>
        Questions.Open(WebHouse.At(2, 14)).With("drawingId", drawing).With("runMinutes", null);

    private static async Task<List<JsonElement>> Jobs(Api api) =>
        [.. (await api.Get("/api/jobs")).Body.GetProperty("items").EnumerateArray()];

    [Fact]
    public async Task Keep_IsListedWithoutATime_OnceForOneId_AndOnlyForItsOwner()
    {
        using var member = await house.As("member");
        var drawing = (await member.PutIn(Square, "lantern side.svg")).Id;
        var id = Guid.NewGuid().ToString();
        var body = new
        {
            id,
            name = " Lantern ",
            question = Question(drawing),
        };
        (await member.Post("/api/jobs", body)).Status.ShouldBe(HttpStatusCode.Created);
        (await member.Post("/api/jobs", body)).Id.ShouldBe(id, "the same again changes nothing");
        var job = (await Jobs(member)).ShouldHaveSingleItem();
        job.GetProperty("name").GetString().ShouldBe("Lantern");
        job.GetProperty("machineName").GetString().ShouldBe("Heron");
        job.TryGetProperty("lastRun", out _).ShouldBeFalse("never run");
        var item = job.GetProperty("job").GetProperty("items")[0];
        (item.GetProperty("drawingId").GetString(), item.GetProperty("sheetTag").GetString()).ShouldBe((drawing, "S-0097"));
        job.GetProperty("job").TryGetProperty("start", out _).ShouldBeFalse();
        var words = job.GetProperty("items")[0];
        (words.GetProperty("drawing").GetString(), words.GetProperty("sheetGone").GetBoolean()).ShouldBe(("lantern side.svg", false));

        using var other = await house.As("newcomer");
        (await Jobs(other)).ShouldBeEmpty();
        (await other.Delete($"/api/jobs/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);

        // A run of its drawing, logged on a booking.
        var start = await member.FreeStart(q => q.With("drawingId", drawing).With("runMinutes", null), fromDay: 3);
        var booking = (await member.Post("/api/bookings", Questions.Open(start).With("drawingId", drawing).With("runMinutes", null))).Id;
        await house.Db.Tamper(
            "insert into run.log (id, booking_id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, "
                + $"logged_by, at) values (gen_random_uuid(), '{booking}', 'm-4', 'heron', 'birch-ply-laser', 3, array['cut'], "
                + "'[2026-11-23T09:00Z,2026-11-23T09:10Z)', 'charred', 'm-4', '2026-11-23T09:20Z')"
        );
        var run = (await Jobs(member))[0].GetProperty("lastRun");
        (run.GetProperty("at").GetString(), run.GetProperty("outcome").GetString()).ShouldBe(("2026-11-23T09:10:00Z", "charred"));

        // What becomes of its sheet and its drawing is said.
        await house.Db.Tamper("update materials.clearance set held = tstzrange(lower(held), '2026-11-24T10:00Z') where tag = 'S-0097'");
        (await Jobs(member))[0].GetProperty("items")[0].GetProperty("sheetGone").GetBoolean().ShouldBeTrue();
        (await member.Delete($"/api/jobs/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Jobs(member)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Keep_WithoutANameOrAMachine_NamesTheField()
    {
        using var trainer = await house.As("trainer");
        var question = Questions.Open(WebHouse.At(2, 14));
        (await trainer.Post("/api/jobs", new { name = " ", question })).Code.ShouldBe("job.name");
        (await trainer.Post("/api/jobs", new { name = new string('a', 81), question })).Code.ShouldBe("job.name");
        (await trainer.Post("/api/jobs", new { name = "Tokens", question = question.With("machineId", null) })).Fields.ShouldBe([
            "machineId",
        ]);
        (await trainer.Post("/api/jobs", new { name = "Tokens" })).Status.ShouldBe(HttpStatusCode.BadRequest);
    }

    /// <summary>Two tabs at once, and a hundred is enough.</summary>
    [Fact]
    public async Task Keep_AHundredAndNoMore_EvenAtOnce()
    {
        using var steward = await house.As("steward");
        var question = Questions.Open(WebHouse.At(2, 14));
        await house.Db.Tamper(
            "insert into bench.job (id, person_id, name, machine_id, body, at) select gen_random_uuid(), 'm-2', 'j' || n, 'heron', "
                + """'{"machineId":"heron","items":[]}', '2026-11-01' from generate_series(1, 98) n"""
        );
        var kept = await Task.WhenAll(Enumerable.Range(0, 6).Select(n => steward.Post("/api/jobs", new { name = $"Job {n}", question })));
        kept.Count(k => k.Status == HttpStatusCode.Created).ShouldBe(2);
        kept.Where(k => k.Status != HttpStatusCode.Created).ShouldAllBe(k => k.Code == "job.tooMany");
    }

    [Fact]
    public async Task ADrawingThatWasDeleted_IsSaid()
    {
        using var member = await house.As("trainer");
        var drawing = (await member.PutIn(Square, "gone.svg")).Id;
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-3").With("drawingId", drawing);
        (await member.Post("/api/jobs", new { name = "Gone", question })).Status.ShouldBe(HttpStatusCode.Created);
        (await member.Delete($"/api/drawings/{drawing}")).Status.ShouldBe(HttpStatusCode.NoContent);
        var job = (await Jobs(member)).Single(j => j.GetProperty("name").GetString() == "Gone");
        job.GetProperty("items")[0].GetProperty("drawingGone").GetBoolean().ShouldBeTrue();
    }
}
