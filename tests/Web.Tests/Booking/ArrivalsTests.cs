using System.Net;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.StandIns;
using VelvetGate.Store.People;
using VelvetGate.Web.People;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

public class ArrivalsTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Instant Parse(string start) => OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant();

    [Fact]
    public async Task NoShow_IsReleasedByAStewardAfterTheGrace_AndThePersonToldOnce()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var start = await member.FreeStart(fromDay: 2);
        var booked = await member.Post("/api/bookings", Questions.Open(start).With("companions", 3));
        booked.Body.GetProperty("companions").GetInt32().ShouldBe(3);
        (await member.Post($"/api/bookings/{booked.Id}/release")).Status.ShouldBe(HttpStatusCode.Forbidden);
        house.Clock.Now = Parse(start) + Duration.FromMinutes(14);
        (await steward.Post($"/api/bookings/{booked.Id}/release")).Code.ShouldBe("noShow.grace");
        house.Clock.Now = Parse(start) + Duration.FromMinutes(16);
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("No-show to release");
        (await steward.Post($"/api/bookings/{booked.Id}/release")).Body.GetProperty("noShow").GetBoolean().ShouldBeTrue();
        (await steward.Post($"/api/bookings/{booked.Id}/release")).Code.ShouldBe("noShow.cancelled");
        (await member.Get("/api/messages")).Body.ToString().ShouldContain("was released");
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(21)]
    public async Task Companions_OutOfReach_AreRefused(int companions)
    {
        using var member = await house.As("member");
        (await member.Post("/api/bookings", Questions.Open(WebHouse.At(3, 15)).With("companions", companions))).Fields.ShouldBe([
            "companions",
        ]);
    }

    /// <summary>A learner's run counts, and renews what lapsed by idleness, only once both have said so.</summary>
    [Fact]
    public async Task SupervisedRun_CountsOnlyOnceBothSaySo()
    {
        using var learner = await house.As("newcomer");
        using var trainer = await house.As("trainer");
        var start = await learner.FreeStart(q => q.With("memberId", "m-5").With("supervisorId", "m-3"), fromDay: 1);
        var booked = await learner.Post("/api/bookings", Questions.Open(start).With("memberId", "m-5").With("supervisorId", "m-3"));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        house.Clock.Now = Parse(start) + Duration.FromMinutes(80);
        var run = await learner.Post(
            "/api/runs",
            new
            {
                bookingId = booked.Id,
                machineId = "heron",
                materialId = "birch-ply-laser",
                thickness = "3 mm",
                operations = new[] { "cut" },
                outcome = "clean",
                start,
                end = OffsetDateTimePattern.Rfc3339.Format((Parse(start) + Duration.FromMinutes(60)).WithOffset(Offset.Zero)),
            }
        );
        run.Status.ShouldBe(HttpStatusCode.Created, run.Body.ToString());
        (await learner.Post($"/api/runs/{run.Id}/confirm")).Code.ShouldBe("run.notYours");
        (await Listed(learner)).ShouldBe((true, false, false));
        (await Listed(trainer)).ShouldBe((true, false, true));
        (await trainer.Post($"/api/runs/{run.Id}/confirm")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await trainer.Post($"/api/runs/{run.Id}/confirm")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Listed(learner)).ShouldBe((true, true, false));
        (await trainer.Post($"/api/runs/{Guid.Empty}/confirm")).Status.ShouldBe(HttpStatusCode.NotFound);
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;

        async Task<(bool Supervised, bool Counts, bool MayConfirm)> Listed(Api api)
        {
            var item = (await api.Get("/api/runs?mine=true"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Single(r => r.GetProperty("id").GetString() == run.Id);
            return (
                item.GetProperty("supervised").GetBoolean(),
                item.GetProperty("counts").GetBoolean(),
                item.GetProperty("mayConfirm").GetBoolean()
            );
        }
    }

    /// <summary>
    /// Every message reaches its person's mail box once, though two senders work at once and the mail server was away at first.
    /// </summary>
    [Fact]
    public async Task Mail_OfEachMessage_IsSentOnce()
    {
        using var steward = await house.As("steward");
        (await steward.Post("/api/people/m-40/pauses", new { reason = "Let us talk first." })).Status.ShouldBe(HttpStatusCode.Created);
        await house.Db.Tamper(
            """
            update ledger.worker_cursor set seq = extract(epoch from '2026-11-20 00:00Z'::timestamptz)::bigint where name = 'mail';
            insert into people.message (id, person_id, key, title, body, link, at) select gen_random_uuid(), p, 'test:' || p || n,
                'Title ' || n, 'Body, with ü and “quotes”', '/bookings', '2026-11-24 10:14Z' from unnest(array['m-4','m-5','m-40']) p,
                generate_series(1, 5) n;
            insert into people.message (id, person_id, key, title, body, link, at)
                values (gen_random_uuid(), 'm-4', 'old', 'Too old', 'x', '/', '2026-11-01 00:00Z');
            """
        );
        int port;
        using (var listener = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0))
        {
            listener.Start();
            port = ((IPEndPoint)listener.LocalEndpoint).Port;
        }
        MailWorker Worker() =>
            new(
                new OutgoingMail(house.Db.App),
                new MailSettings("127.0.0.1", port, "gate@house.example", "http://127.0.0.1:5080"),
                null,
                house.Clock,
                new VelvetGate.Web.Shared.WorkHealth(),
                Microsoft.Extensions.Logging.Abstractions.NullLogger<MailWorker>.Instance
            );
        await Should.ThrowAsync<System.Net.Sockets.SocketException>(() => Worker().Once(TestContext.Current.CancellationToken));
        await using var box = new MailBox(port, null);
        await Task.WhenAll(Worker().Once(TestContext.Current.CancellationToken), Worker().Once(TestContext.Current.CancellationToken));
        var sent = box.Mails.Where(m => m.Contains("Subject: Title", StringComparison.Ordinal)).ToList();
        sent.Count.ShouldBe(10, "five each for the two with an address");
        sent.Select(m => m.Split("Message-Id: ")[1].Split('\r')[0]).Distinct().Count().ShouldBe(10);
        box.Mails.ShouldNotContain(m => m.Contains("Too old", StringComparison.Ordinal));
        sent.ShouldAllBe(m => m.Contains("http://127.0.0.1:5080/bookings", StringComparison.Ordinal));
    }
}
