using System.Net;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Demo;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Booking;

/// <summary>
/// Restarts, and more instances than one, are normal conditions: the published server as processes of its own over one database.
/// </summary>
public sealed class SurvivalTests : IAsyncLifetime
{
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private static async Task<Api> As(string name, ServerProcess server)
    {
        var api = new Api(
            new HttpClient(new HttpClientHandler { CookieContainer = new CookieContainer() }) { BaseAddress = new Uri(server.Address) }
        );
        await api.SignIn(name, "ropewalk");
        return api;
    }

    /// <summary>Quarter-hour starts over two weeks, as many as are asked for.</summary>
    private static IEnumerable<string> Starts(int round) =>
        Enumerable.Range(0, 50).Select(i => $"2026-12-{2 + (i + round * 7) % 10:00}T{10 + i % 9:00}:{i * 15 % 60:00}:00+00:00");

    /// <summary>Three rounds here; twenty with VELVETGATE_ROUNDS=20.</summary>
    [Fact]
    public async Task Killed_DuringFiftyBookings_LosesNoneThatWasAcknowledged()
    {
        var rounds = int.TryParse(Environment.GetEnvironmentVariable("VELVETGATE_ROUNDS"), out var wanted) ? wanted : 3;
        var acknowledged = new List<string>();
        for (var round = 0; round < rounds; round++)
        {
            using var server = await ServerProcess.Start(_db);
            using var steward = await As("steward", server);
            var tries = Starts(round)
                .Select(
                    (start, i) =>
                        Try(steward, Questions.Open(start).With("memberId", $"m-{10 + i}").With("machineId", i % 2 == 0 ? "heron" : "wren"))
                )
                .ToList();
            while (tries.Count(t => t.IsCompleted) < 15 + round * 5 % 30)
                await Task.Delay(5, TestContext.Current.CancellationToken);
            server.Kill();
            acknowledged.AddRange((await Task.WhenAll(tries)).OfType<string>());
        }
        await using var connection = await _db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var kept = (await connection.QueryAsync<Guid>("select id from booking.booking")).Select(id => id.ToString()).ToHashSet();
        acknowledged.ShouldNotBeEmpty("else nothing was put at stake");
        acknowledged.ShouldAllBe(id => kept.Contains(id));
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
        using var again = await ServerProcess.Start(_db);
        using var member = await As("member", again);
        (await member.Get("/api/watch")).Status.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>
    /// The demo's clock stands in its database: all instances go by it, and no start goes back behind what was written down.
    /// </summary>
    [Fact]
    public async Task DemoClock_IsTheSameForAll_AndGoesOnAfterAKill()
    {
        var (day, clock) = (new DemoDay(_db.Owner), new DemoClockStore(_db.Owner));
        async Task Wake()
        {
            var at = await day.Wake(SystemClock.Instance.GetCurrentInstant(), default);
            await clock.Set(at - SystemClock.Instance.GetCurrentInstant(), default);
        }
        await Wake();
        Instant before;
        string booking;
        using (var one = await ServerProcess.Start(_db, ownClock: true))
        using (var two = await ServerProcess.Start(_db, ownClock: true))
        {
            using var member = await As("member", one);
            using var other = await As("member", two);
            var times = await Task.WhenAll(Now(member), Now(other));
            (times[1] - times[0]).TotalSeconds.ShouldBeInRange(-1, 1);
            before = times.Max();
            DemoHouse.Rules.Clock.At(before).Hour.ShouldBeInRange(14, 19);
            (await member.Get("/api/watch")).Body.GetProperty("onDuty").GetString().ShouldNotBeNullOrEmpty();
            var start = DemoHouse
                .Rules.Clock.At(before)
                .Date.PlusDays(2)
                .At(new LocalTime(12, 0))
                .InZoneLeniently(DemoHouse.Rules.Clock.Zone)
                .ToInstant();
            Answer made;
            do
            {
                made = await member.Post("/api/bookings", Questions.Open(start.ToString()));
                start += Duration.FromMinutes(15);
            } while (made.Status != HttpStatusCode.Created);
            booking = made.Id;
            one.Kill();
            two.Kill();
        }
        // As if ten seconds had passed, after which no server is taken to run.
        (await clock.Running(SystemClock.Instance.GetCurrentInstant() + Duration.FromSeconds(20), default)).ShouldBeNull();
        await Wake();
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
        using var again = await ServerProcess.Start(_db, ownClock: true);
        using var back = await As("member", again);
        (await Now(back)).ShouldBeGreaterThan(before);
        (await back.Get("/api/bookings?mine=true")).Body.ToString().ShouldContain(booking);

        static async Task<Instant> Now(Api api) =>
            NodaTime.Text.InstantPattern.ExtendedIso.Parse((await api.Get("/api/house")).Body.GetProperty("now").GetString()!).Value;
    }

    [Fact]
    public async Task TwoInstances_OnOneDatabase_BookOnce_AndWorkInTheBackgroundOnce()
    {
        using var one = await ServerProcess.Start(_db);
        using var two = await ServerProcess.Start(_db);
        using var stewardOne = await As("steward", one);
        using var stewardTwo = await As("steward", two);
        using var member = await As("member", two);
        var start = await member.FreeStart(fromDay: 2);
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 40).Select(i => (i % 2 == 0 ? stewardOne : stewardTwo).Post("/api/bookings", Questions.Open(start)))
        );
        answers.Count(a => a.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.ShouldAllBe(a => (int)a.Status < 500);

        await stewardOne.Post("/api/machines/heron/stops", new { reason = "Smoke." });
        for (var i = 0; i < 100 && (await Messages()) == 0; i++)
            await Task.Delay(100, TestContext.Current.CancellationToken);
        await Task.Delay(1500, TestContext.Current.CancellationToken);
        (await Messages()).ShouldBe(1);

        async Task<int> Messages() =>
            (await member.Get("/api/messages"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Count(m => m.GetProperty("title").GetString()!.Contains("at risk", StringComparison.Ordinal));
    }

    /// <returns>The id of an acknowledged booking; null when it was refused, or the connection broke.</returns>
    private static async Task<string?> Try(Api api, Dictionary<string, object?> question)
    {
        try
        {
            var answer = await api.Post("/api/bookings", question);
            return answer.Status == HttpStatusCode.Created ? answer.Id : null;
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException)
        {
            return null;
        }
    }
}
