using System.Net;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Run;

public class RunsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Dictionary<string, object?> Run(string id) =>
        new()
        {
            ["id"] = id,
            ["machineId"] = "heron",
            ["materialId"] = "mat-board",
            ["thickness"] = "2 mm",
            ["operations"] = new[] { "cut" },
            ["start"] = "2026-11-24T09:00:00Z",
            ["end"] = "2026-11-24T09:20:00Z",
            ["outcome"] = "clean",
            ["settings"] = "60 %, 30 mm/s, one pass",
        };

    [Fact]
    public async Task Log_ACleanBookedRun_IsARecordATestResultAndTheSameTwiceOnce()
    {
        using var member = await house.As("member");
        Dictionary<string, object?> Board(Dictionary<string, object?> q) =>
            q.With("materialId", "mat-board").With("thicknessMm", 4).With("sheetTag", null).With("minutes", 90);
        var start = await member.FreeStart(Board, fromDay: 3);
        var booking = (await member.Post("/api/bookings", Board(Questions.Open(start)))).Id;
        var at = NodaTime.Text.OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant();
        house.Clock.Now = at + Duration.FromMinutes(80);
        var later = Board(Questions.Open(WebHouse.At(6, 14)));
        (await member.Post("/api/gate/ask?soonest=false", later)).Body.GetProperty("length").ToString().ShouldContain("testPiece");
        var id = Guid.NewGuid().ToString();
        var run = Run(id)
            .With("thickness", "4 mm")
            .With("bookingId", booking)
            .With("start", (at + Duration.FromMinutes(10)).ToString())
            .With("end", (at + Duration.FromMinutes(40)).ToString());
        var made = await member.Post("/api/runs", run);
        (made.Id, made.Body.GetProperty("counts").GetBoolean(), made.Body.GetProperty("waitsForALook").GetBoolean()).ShouldBe(
            (id, true, false),
            made.Body.ToString()
        );
        (await member.Post("/api/runs", run)).Status.ShouldBe(HttpStatusCode.Created);
        var mine = (await member.Get("/api/runs"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Where(r => r.GetProperty("id").GetString() == id)
            .ToList();
        mine.ShouldHaveSingleItem().GetProperty("settings").GetString().ShouldBe("60 %, 30 mm/s, one pass");
        (await member.Post("/api/gate/ask?soonest=false", later)).Body.GetProperty("length").ToString().ShouldNotContain("testPiece");
        (await member.Post("/api/gate/ask?soonest=false", later.With("operations", new[] { "engrave" })))
            .Body.GetProperty("length")
            .ToString()
            .ShouldContain("testPiece", Case.Sensitive, "a cut proves no engraving");
        await StopAndReturn(opticsTouched: false);
        (await member.Post("/api/gate/ask?soonest=false", later)).Body.GetProperty("length").ToString().ShouldNotContain("testPiece");
        await StopAndReturn(opticsTouched: true);
        (await member.Post("/api/gate/ask?soonest=false", later))
            .Body.GetProperty("length")
            .ToString()
            .ShouldContain("testPiece", Case.Sensitive, "the optics were touched");
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get("/api/runs")).Body.ToString().ShouldNotContain(id);
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;

        async Task StopAndReturn(bool opticsTouched)
        {
            using var steward = await house.As("steward");
            var stop = (await steward.Post("/api/machines/heron/stops", new { reason = "A look at the mirrors." })).Id;
            house.Clock.Now += Duration.FromMinutes(1);
            if (opticsTouched)
            {
                using var repairer = await house.As("trainer");
                var tested = new
                {
                    interlock = true,
                    airflowM3PerHour = 640,
                    coolantC = 21,
                    testFire = true,
                    framed = true,
                };
                (
                    await repairer.Post(
                        $"/api/stops/{stop}/return",
                        new
                        {
                            reason = "New lens.",
                            opticsTouched,
                            tested,
                        }
                    )
                ).Status.ShouldBe(HttpStatusCode.Accepted, "a steward stopped it, and says so too");
            }
            (await steward.Post($"/api/stops/{stop}/return", new { reason = "Looked at.", opticsTouched = false })).Status.ShouldBe(
                HttpStatusCode.NoContent
            );
        }
    }

    /// <summary>
    /// Nobody renews themselves by writing a run down: without a booking or a steward behind it, it is told to a steward and nothing else.
    /// </summary>
    [Fact]
    public async Task Log_ARunNobodyStandsBehind_IsToldToAStewardAndIsNoPracticeUntilOneDoes()
    {
        using var trainer = await house.As("trainer");
        using var steward = await house.As("steward");
        await house.Db.Tamper(
            "update training.certificate set held = tstzrange('2026-10-20', '2027-12-01') where person_id = 'm-3' and authority = "
                + "'wren'; delete from run.log where person_id = 'm-3' and machine_id = 'wren'; update house.rules set body = "
                + "jsonb_set(body, '{idleLapseDays}', '35')"
        );
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-3").With("machineId", "wren");
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.idle");
        var id = Guid.NewGuid().ToString();
        // On a day at which the certificate was not idle yet.
        var run = Run(id).With("machineId", "wren").With("start", "2026-11-23T14:00:00Z").With("end", "2026-11-23T14:20:00Z");
        var made = await trainer.Post("/api/runs", run);
        (made.Body.GetProperty("counts").GetBoolean(), made.Body.GetProperty("waitsForALook").GetBoolean()).ShouldBe(
            (false, true),
            made.Body.ToString()
        );
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.idle");
        Need(await steward.Get("/api/watch"), "runToLook").ShouldContain("no steward has vouched for it");
        (await trainer.Post($"/api/runs/{id}/look", new { reason = "All fine.", counts = true })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/runs/{id}/look", new { reason = " ", counts = true })).Fields.ShouldBe(["reason"]);
        (await steward.Post($"/api/runs/{id}/look", new { reason = "I stood beside it.", counts = true })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await steward.Post($"/api/runs/{id}/look", new { reason = "Again.", counts = true })).Code.ShouldBe("run.lookedAt");
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldNotContain("training.idle");
        (await steward.Get("/api/watch")).Body.ToString().ShouldNotContain(id);
    }

    /// <summary>
    /// No certificate, a material that is never allowed, a machine that is stopped: kept as told, never as practice or test.
    /// </summary>
    [Fact]
    public async Task Log_ARunThatNoRuleAllows_IsKeptAndToldAndNeverCounts()
    {
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        var id = Guid.NewGuid().ToString();
        var made = await newcomer.Post(
            "/api/runs",
            Run(id).With("materialId", "pvc-sheet").With("machineId", "kestrel").With("thickness", "3 mm")
        );
        made.Status.ShouldBe(HttpStatusCode.Created);
        made.Body.GetProperty("counts").GetBoolean().ShouldBeFalse();
        var kept = (await steward.Get("/api/runs"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(r => r.GetProperty("id").GetString() == id);
        foreach (var code in new[] { "training.none", "material.never" })
            kept.GetProperty("against").ToString().ShouldContain(code);
        var why = kept.GetProperty("why").GetString().ShouldNotBeNull();
        why.ShouldStartWith("no rule allowed it: ");
        why.ShouldNotContain("training.none");
        Need(await steward.Get("/api/watch"), "runToLook").ShouldContain($": {why}. It does not count as practice.");
        (await steward.Post($"/api/runs/{id}/look", new { reason = "We talked.", counts = true })).Fields.ShouldBe(["counts"]);
        (await steward.Post($"/api/runs/{id}/look", new { reason = "We talked. The lens was cleaned." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await newcomer.Get("/api/runs"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(r => r.GetProperty("id").GetString() == id)
            .GetProperty("counts")
            .GetBoolean()
            .ShouldBeFalse();
        await using var command = house.Db.App.CreateCommand("select count(*) from bench.test_result where material_id = 'pvc-sheet'");
        (await command.ExecuteScalarAsync(TestContext.Current.CancellationToken)).ShouldBe(0L);
    }

    /// <summary>A flame that stayed stops the machine, calls whoever is on duty and shows the card.</summary>
    [Fact]
    public async Task Log_AFlame_StopsTheMachineAndCallsTheSteward()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var made = await member.Post("/api/runs", Run(Guid.NewGuid().ToString()).With("machineId", "swift").With("outcome", "flame"));
        (made.Body.GetProperty("card").GetString(), made.Body.GetProperty("lidShutSeconds").GetInt32()).ShouldBe(("/emergency/swift", 300));
        made.Body.GetProperty("says").GetString()!.ShouldContain("out of service until somebody has looked");
        (
            await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 14)).With("machineId", "swift"))
        ).Codes.ShouldContain("hold.incident");
        Need(await steward.Get("/api/watch"), "runToLook").ShouldContain("out of service until somebody has looked");
        await using var command = house.Db.App.CreateCommand(
            $"select string_agg(person_id, ',') from people.message where key like 'incident:{made.Body.GetProperty("incidentId")}:%'"
        );
        var told = (string)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!;
        await using var onDuty = house.Db.App.CreateCommand(
            "select string_agg(person_id, ',') from house.duty where during @> "
                + $"'{VelvetGate.Tests.Support.TestDatabase.Now}'::timestamptz and upper_inf(recorded)"
        );
        told.ShouldBe((string)(await onDuty.ExecuteScalarAsync(TestContext.Current.CancellationToken))!);
    }

    private static string Need(Answer watch, string kind) =>
        string.Join(
            '\n',
            watch
                .Body.GetProperty("needs")
                .EnumerateArray()
                .Where(n => n.GetProperty("kind").GetString() == kind)
                .Select(n => n.GetProperty("text").GetString())
        );

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

    /// <summary>
    /// A booking that nobody kept is no practice, and neither is a run that was given up: idleness counts from the last run that counts.
    /// </summary>
    [Fact]
    public async Task Idleness_CountsFromTheLastRunThatCounts()
    {
        using var steward = await house.As("steward");
        using var trainer = await house.As("trainer");
        await house.Db.Tamper(
            "update training.certificate set held = tstzrange('2026-10-20', '2027-12-01') where person_id = 'm-3' and authority = "
                + "'heron'; delete from run.log where person_id = 'm-3' and machine_id = 'heron'; update house.rules set body = "
                + "jsonb_set(body, '{idleLapseDays}', '35')"
        );
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-3");
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.idle");
        var run = Run(Guid.NewGuid().ToString())
            .With("memberId", "m-3")
            .With("start", "2026-11-16T14:00:00Z")
            .With("end", "2026-11-16T14:20:00Z");
        (await steward.Post("/api/runs", run.With("outcome", "abandoned"))).Body.GetProperty("counts").GetBoolean().ShouldBeFalse();
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.idle");
        (await steward.Post("/api/runs", run.With("id", Guid.NewGuid().ToString()))).Body.GetProperty("counts").GetBoolean().ShouldBeTrue();
        (await trainer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldNotContain("training.idle");
    }
}
