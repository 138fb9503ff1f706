using System.Net;
using Dapper;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

public sealed class FeedsTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<(HttpStatusCode Status, string Text, string? Tag)> Read(Api api, string path, string? known = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        if (known is not null)
            request.Headers.TryAddWithoutValidation("If-None-Match", known);
        var response = await api.Http.SendAsync(request);
        // A long line is folded (RFC 5545, 3.1).
        var text = (await response.Content.ReadAsStringAsync()).Replace("\r\n ", "", StringComparison.Ordinal);
        return (response.StatusCode, text, response.Headers.ETag?.ToString());
    }

    private static async Task<string> Make(Api api, string kind, string? machine = null)
    {
        var made = await api.Post("/api/feeds", new { kind, machineId = machine });
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        return new Uri(made.Body.GetProperty("url").GetString()!).AbsolutePath;
    }

    /// <summary>The lines of one event.</summary>
    private static string Event(string calendar, string uid) =>
        calendar.Split("BEGIN:VEVENT").Single(e => e.Contains($"UID:{uid}@", StringComparison.Ordinal));

    [Fact]
    public async Task Mine_SaysWhatIsRun_AndWhatWasCancelledAsCancelled()
    {
        using var member = await house.As("member");
        using var anybody = await house.As(null);
        var booked = await member.Post("/api/bookings", Questions.Open(await member.FreeStart(fromDay: 6)));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        var path = await Make(member, "mine");
        var (status, text, tag) = await Read(anybody, path);
        status.ShouldBe(HttpStatusCode.OK);
        var mine = Event(text, $"booking-{booked.Id}");
        mine.ShouldContain("SUMMARY:Heron: 3 mm ");
        mine.ShouldContain("DTSTART;TZID=Europe/London:2026");
        mine.ShouldContain("STATUS:CONFIRMED");
        mine.ShouldContain("a booking gives time\\, not permission", Case.Insensitive);
        (await Read(anybody, path, tag)).Status.ShouldBe(HttpStatusCode.NotModified, "nothing changed");

        (await member.Post($"/api/bookings/{booked.Id}/cancel")).Status.ShouldBe(HttpStatusCode.OK);
        var after = await Read(anybody, path, tag);
        after.Status.ShouldBe(HttpStatusCode.OK);
        Event(after.Text, $"booking-{booked.Id}").ShouldContain("STATUS:CANCELLED");
        var list = (await member.Get("/api/feeds")).Body.GetProperty("items").EnumerateArray();
        list.Single(f => f.GetProperty("kind").GetString() == "mine").GetProperty("readAt").GetString().ShouldNotBeNull();
    }

    [Fact]
    public async Task Machine_NamesNobody_AndNothingThatIsRun()
    {
        using var member = await house.As("member");
        using var anybody = await house.As(null);
        var (_, text, _) = await Read(anybody, await Make(member, "machine", "heron"));
        text.ShouldContain("SUMMARY:Heron: booked");
        await using var connection = await house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        foreach (
            var name in await connection.QueryAsync<string>(
                "select family_name from people.person union select given_name from people.person"
            )
        )
            text.ShouldNotContain(name);
        text.ShouldNotContain("mm ");
        (await member.Post("/api/feeds", new { kind = "machine" })).Code.ShouldBe("feed.machine");
        (await member.Post("/api/feeds", new { kind = "machine", machineId = "nope" })).Code.ShouldBe("feed.machine");
        (await member.Post("/api/feeds", new { kind = "mine", machineId = "heron" })).Code.ShouldBe("feed.machine");
        (await member.Post("/api/feeds", new { kind = "everybody" })).Code.ShouldBe("feed.kind");
        (await member.Post("/api/feeds", new { kind = "1" })).Code.ShouldBe("feed.kind");
    }

    [Fact]
    public async Task Rota_ShowsStewardsToStaffByTheirWholeName()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        using var anybody = await house.As(null);
        (await Read(anybody, await Make(member, "rota"))).Text.ShouldContain("SUMMARY:On duty: Tamsin O");
        (await Read(anybody, await Make(member, "rota"))).Text.ShouldNotContain("Okoro");
        (await Read(anybody, await Make(steward, "rota"))).Text.ShouldContain("SUMMARY:On duty: Tamsin Okoro");
    }

    [Fact]
    public async Task ARenewedAddress_ReadsNoMore_NorDoesOneOfAClosedAccount()
    {
        using var trainer = await house.As("trainer");
        using var anybody = await house.As(null);
        var first = await Make(trainer, "mine");
        var second = await Make(trainer, "mine");
        second.ShouldNotBe(first);
        var gone = await anybody.Get(first);
        (gone.Status, gone.Code).ShouldBe((HttpStatusCode.Gone, "feed.revoked"));
        (await anybody.Get(second)).Status.ShouldBe(HttpStatusCode.OK);
        (await anybody.Get("/feeds/nobody-knows.ics")).Status.ShouldBe(HttpStatusCode.NotFound);

        using var newcomer = await house.As("newcomer");
        var theirs = await Make(newcomer, "mine");
        var id = (await newcomer.Get("/api/feeds")).Body.GetProperty("items")[0].GetProperty("id").GetString();
        (await trainer.Delete($"/api/feeds/{id}")).Status.ShouldBe(HttpStatusCode.NotFound, "an address is one person’s");
        await using var connection = await house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await connection.ExecuteAsync(
            "update people.account set held = tstzrange(lower(held), @at) where person_id = 'm-5'",
            new { at = house.Clock.Now }
        );
        house.Clock.Now += Duration.FromMinutes(1);
        (await anybody.Get(theirs)).Code.ShouldBe("feed.revoked");
    }

    [Fact]
    public async Task TheWall_ShowsTheRoomToday_AndNamesNobodyUnderAge()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        using var anybody = await house.As(null);
        (await member.Post("/api/feeds", new { kind = "wall" })).Code.ShouldBe("feed.wall");
        var path = await Make(steward, "wall");
        var (status, page, _) = await Read(anybody, path);
        status.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain("Heron");
        page.ShouldContain("http-equiv=\"refresh\"");
        page.ShouldContain("Open 10:00 to 21:00");
        await using var connection = await house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var (id, given) = await connection.QueryFirstAsync<(string, string)>(
            """
            select p.id, p.given_name from booking.booking b join people.person p on p.id = b.person_id
            where b.cancelled_at is null and b.during && tstzrange('2026-11-24 00:00+00', '2026-11-25 00:00+00')
                and p.birth_date is not null
            """
        );
        page.ShouldContain(given);
        await connection.ExecuteAsync("update people.person set birth_date = '2012-05-01' where id = @id", new { id });
        var (_, after, _) = await Read(anybody, path);
        after.ShouldNotContain(given);
        after.ShouldContain("booked");
        // A wall is a page, and a calendar is a calendar.
        (await Read(anybody, path.Replace("/wall/", "/feeds/", StringComparison.Ordinal) + ".ics")).Status.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await Read(anybody, "/wall/nobody-knows")).Text.ShouldContain("This screen shows nothing now");
    }

    /// <summary>Two windows at once: one address reads.</summary>
    [Fact]
    public async Task RenewedManyTimesAtOnce_OneReads()
    {
        using var steward = await house.As("steward");
        using var anybody = await house.As(null);
        var made = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(_ => steward.Post("/api/feeds", new { kind = "machine", machineId = "wren" }))
        );
        var paths = made.Where(m => m.Status == HttpStatusCode.Created)
            .Select(m => new Uri(m.Body.GetProperty("url").GetString()!).AbsolutePath);
        var reads = await Task.WhenAll(paths.Select(p => anybody.Get(p)));
        reads.Count(r => r.Status == HttpStatusCode.OK).ShouldBe(1);
        made.ShouldAllBe(m => m.Status == HttpStatusCode.Created || m.Status == HttpStatusCode.Conflict);
    }
}
