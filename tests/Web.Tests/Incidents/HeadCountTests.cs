using System.Net;
using Dapper;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Incidents;

/// <summary>The list for the meeting point, from what the house has been told.</summary>
public class HeadCountTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task WhoIsBookedTeachesOrRan_IsAskedFor_AndTheTitleSaysThatOthersMayBeInside()
    {
        using var steward = await house.As("steward");
        using var learner = await house.As("newcomer");
        using var member = await house.As("member");
        var start = await learner.FreeStart(q => q.With("memberId", "m-5").With("supervisorId", "m-3"), fromDay: 1);
        var at = OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant();
        var booked = await learner.Post(
            "/api/bookings",
            Questions.Open(start).With("memberId", "m-5").With("supervisorId", "m-3").With("companions", 2)
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        house.Clock.Now = at - Duration.FromMinutes(1);
        var before = (await steward.Get("/api/head-count")).Body;
        before.ToString().ShouldNotContain("arrival not told, with 2 companions");
        house.Clock.Now = at + Duration.FromMinutes(1);
        var during = (await steward.Get("/api/head-count")).Body;
        during.GetProperty("title").GetString().ShouldBe("Tapped in, booked or at work now. Others may be inside");
        during.ToString().ShouldContain("arrival not told, with 2 companions");
        during.ToString().ShouldContain("supervises a booking until");
        during.GetProperty("count").GetInt32().ShouldBeGreaterThanOrEqualTo(4, "learner, supervisor and two who came along");
        (await learner.Post($"/api/bookings/{booked.Id}/arrive")).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Get("/api/head-count")).Body.ToString().ShouldContain("has arrived, with 2 companions");

        var printed = await Outside.TextOf(await steward.Http.GetByteArrayAsync("/api/head-count.pdf"));
        var paper = string.Join(' ', printed.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        paper.ShouldContain("Others may be inside");
        paper.ShouldContain("2 companions");
        paper.ShouldContain("____");

        (await member.Get("/api/head-count")).Status.ShouldBe(HttpStatusCode.Forbidden, "names of others are for staff");
        house.Clock.Now = TestDatabase.Now;
    }

    /// <summary>A class of the calendar: its adult and everybody on its roll.</summary>
    [Fact]
    public async Task ARollOfAClass_IsAskedForWhileItRuns()
    {
        await using var connection = await house.Db.Owner.OpenConnectionAsync();
        var (begins, onRoll) = await connection.QuerySingleAsync<(Instant, int)>(
            """
            select lower(o.during), (select count(*)::int from house.roster r where r.plan_id = p.id and upper_inf(r.recorded))
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'class' and upper_inf(o.recorded) and lower(o.during) > @Now order by 1 limit 1
            """,
            new { TestDatabase.Now }
        );
        onRoll.ShouldBeGreaterThan(0);
        using var steward = await house.As("steward");
        house.Clock.Now = begins + Duration.FromMinutes(1);
        var says = (await steward.Get("/api/head-count")).Body.ToString();
        says.Split("on the roll of a class").Length.ShouldBe(onRoll + 1);
        says.ShouldContain("leads a class until");
        house.Clock.Now = TestDatabase.Now;
    }

    /// <summary>Each injury has its page, and nobody else's is on it.</summary>
    [Fact]
    public async Task AnAccidentPage_HoldsOneInjury_AndIsForStewardsAndKeepers()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var id = (
            await member.Post(
                "/api/incidents",
                new
                {
                    machineId = "swift",
                    at = "2026-11-24T09:40:00Z",
                    what = "headHit",
                    severity = 3,
                    seen = "The clamp flew off the bed.",
                }
            )
        ).Id;
        var hers = (
            await steward.Post($"/api/incidents/{id}/injuries", new { personId = "m-4", words = "Cut on the left thumb, washed." })
        ).Id;
        (await steward.Post($"/api/incidents/{id}/injuries", new { words = "A visitor felt faint." })).Status.ShouldBe(
            HttpStatusCode.Created
        );
        var page = await Outside.TextOf(await steward.Http.GetByteArrayAsync($"/api/incidents/{id}/injuries/{hers}.pdf"));
        page.ShouldContain("Cut on the left thumb, washed.");
        page.ShouldContain("The clamp flew off the bed.");
        page.ShouldContain("Kept until");
        page.ShouldNotContain("faint");
        (await member.Get($"/api/incidents/{id}/injuries/{hers}.pdf")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Get($"/api/incidents/{id}/injuries/{Guid.NewGuid()}.pdf")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Post($"/api/incidents/{id}/injuries", new { personId = "m-nobody", words = "Cut." })).Fields.ShouldBe(["personId"]);
    }
}
