using System.Diagnostics;
using System.Net;
using Dapper;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

public class BookingRaceTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>Sixty callers, stewards and trainers among them, want one slot for people who may all have it.</summary>
    [Fact]
    public async Task Book_SixtyAtOnceForOneSlot_ExactlyOneIsBookedAndAllAreAnsweredInTime()
    {
        using var steward = await house.As("steward");
        var start = await steward.FreeStart(fromDay: 2);
        await using var connection = await house.Db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var people = new List<string>();
        foreach (
            var person in await connection.QueryAsync<string>(
                "select distinct person_id from training.certificate where authority = 'heron'"
            )
        )
        {
            if ((await steward.Post("/api/gate/ask?soonest=false", Questions.Open(start).With("memberId", person))).Verdict == "conditions")
                people.Add(person);
        }
        people.Count.ShouldBeGreaterThan(5);
        var callers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => house.As("steward")));
        var watch = Stopwatch.StartNew();
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 60)
                .Select(i => callers[i % 6].Post("/api/bookings", Questions.Open(start).With("memberId", people[i % people.Count])))
        );
        // Claims that wait for each other unsorted take a minute; how fast it is, the bench says.
        watch.Elapsed.TotalSeconds.ShouldBeLessThan(25);
        answers.Count(a => a.Status == HttpStatusCode.Created).ShouldBe(1);
        // Each person asks several times: the one who got it is refused the next for their own limits as well.
        answers.ShouldAllBe(a =>
            a.Status == HttpStatusCode.Created || a.Status == HttpStatusCode.Conflict || a.Status == HttpStatusCode.UnprocessableEntity
        );
        answers.Count(a => a.Status == HttpStatusCode.Conflict).ShouldBeGreaterThan(40);
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from booking.claim where resource = 'machine:heron' and live and during @> @start::timestamptz",
                new { start }
            )
        ).ShouldBe(1);
        foreach (var caller in callers)
            caller.Dispose();
    }

    [Fact]
    public async Task Cancel_OfSomebodyElses_IsNotFound_AndAStewardMay()
    {
        using var member = await house.As("member");
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        var id = (await member.Post("/api/bookings", Questions.Open(await member.FreeStart(fromDay: 3)))).Id;
        (await newcomer.Post($"/api/bookings/{id}/cancel")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Post($"/api/bookings/{id}/cancel", new { reason = "The room is being painted." })).Status.ShouldBe(
            HttpStatusCode.OK
        );
    }

    [Theory]
    [InlineData("from=yesterday", "from")]
    [InlineData("from=2026-11-25T00:00:00Z&to=2026-11-24T00:00:00Z", "to")]
    [InlineData("from=2026-01-01T00:00:00Z&to=2026-11-24T00:00:00Z", "to")]
    public async Task List_BadWindow_NamesTheField(string query, string field)
    {
        using var member = await house.As("member");
        (await member.Get("/api/bookings?" + query)).Fields.ShouldBe([field]);
    }
}
