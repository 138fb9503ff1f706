using System.Net;
using Dapper;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>A learner runs beside a person with trainer authority for the machine, booked for the whole time.</summary>
public class SupervisedTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Dictionary<string, object?> Learner(string start, string? supervisor) =>
        Questions.Open(start).With("memberId", "m-5").With("supervisorId", supervisor);

    [Fact]
    public async Task Learner_BesideATrainer_IsACondition_HoldsTheTrainer_AndLosesItWithTheAuthority()
    {
        using var newcomer = await house.As("newcomer");
        using var trainer = await house.As("trainer");
        (await newcomer.Get("/api/machines/heron/trainers")).Body.ToString().ShouldContain("Bartek Q.");
        var start = await newcomer.FreeStart(q => Learner((string)q["start"]!, "m-3"), 2);
        (await newcomer.Post("/api/gate/ask", Learner(start, null))).Codes.ShouldContain("training.none");
        (await newcomer.Post("/api/gate/ask", Learner(start, "m-4"))).Codes.ShouldContain("training.none", "a member does not supervise");
        var beside = await newcomer.Post("/api/gate/ask", Learner(start, "m-3"));
        (beside.Verdict, beside.Codes.Contains("training.supervised")).ShouldBe(("conditions", true));
        var booking = await newcomer.Post("/api/bookings", Learner(start, "m-3"));
        booking.Status.ShouldBe(HttpStatusCode.Created);
        (await trainer.Get("/api/messages"))
            .Body.GetProperty("items")[0]
            .GetProperty("title")
            .GetString()
            .ShouldBe("You are booked to supervise on Heron");
        await using var connection = await house.Db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (
            await connection.QueryAsync<string>(
                "select resource from booking.claim where booking_id = @id::uuid order by 1",
                new { id = booking.Id }
            )
        ).ShouldBe(["attend:m-5", "machine:heron", "supervise:m-3/1"]);

        using var other = await house.As("steward");
        (
            await other.Post("/api/gate/ask", Learner(start, "m-3").With("machineId", "wren").With("memberId", "m-35"))
        ).Codes.ShouldNotContain("training.supervised", "one learner at a time");

        using var steward = await house.As("steward");
        var pause = (await steward.Post("/api/people/m-3/pauses", new { reason = "Away." })).Id;
        await house.Db.Tamper(
            "update people.role set recorded = tstzrange(lower(recorded), '2026-11-24 10:00Z') where person_id = 'm-3' and "
                + "machine_id = 'heron'"
        );
        await steward.Post($"/api/pauses/{pause}/release", new { reason = "Back." });
        for (var i = 0; i < 100 && !(await Watch()).Contains("Booking at risk", StringComparison.Ordinal); i++)
            await Task.Delay(100, TestContext.Current.CancellationToken);
        (await Watch()).ShouldContain("holds no certificate for Heron");

        async Task<string> Watch() => (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString();
    }
}
