using System.Net;
using Shouldly;
using VelvetGate.Core.People;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>
/// What is too long is refused before anything is kept of it; guessing is slowed down and locks nobody out of their own device.
/// </summary>
public class LimitsTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task SignIn_WithANameOfTenMegabytes_IsRefusedAndKeptNowhere()
    {
        using var visitor = await house.As(null);
        var (huge, kept) = (new string('x', 10 * 1024 * 1024), await Kept());
        for (var i = 0; i < 5; i++)
        {
            var answer = await visitor.Post("/api/sign-in", new { name = huge + i, password = "guess" });
            (answer.Status, answer.Code).ShouldBe((HttpStatusCode.RequestEntityTooLarge, "request.tooLarge"));
        }
        var longName = await visitor.Post(
            "/api/sign-in",
            new { name = new string('x', SignInLimits.LongestName + 1), password = new string('y', SignInLimits.LongestPassword + 1) }
        );
        longName.Status.ShouldBe(HttpStatusCode.BadRequest);
        longName.Fields.Order().ShouldBe(["name", "password"]);
        (await Kept()).ShouldBe(kept);
    }

    /// <summary>A body that says nothing of its length is counted as it comes.</summary>
    [Fact]
    public async Task Body_WithoutALength_IsCountedAsItComes()
    {
        using var member = await house.As("member");
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/machines/swift/stops") { Content = new PushContent(200 * 1024) };
        using var answer = await member.Http.SendAsync(request, TestContext.Current.CancellationToken);
        answer.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
    }

    [Fact]
    public async Task Guessing_AtAnAccount_LocksStrangersOutAndNotTheDeviceThatSignedInBefore()
    {
        using var known = await house.As("trainer");
        using var stranger = await house.As(null);
        for (var i = 0; i <= SignInLimits.FreeForAccount; i++)
            (await stranger.Post("/api/sign-in", new { name = "trainer", password = "guess" })).Status.ShouldBe(
                HttpStatusCode.Unauthorized
            );
        var closed = await stranger.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" });
        (closed.Status, closed.Code).ShouldBe((HttpStatusCode.TooManyRequests, "signIn.tooMany"));
        closed.Response.Headers.RetryAfter!.Delta!.Value.TotalSeconds.ShouldBeInRange(1, 30);
        known.Http.DefaultRequestHeaders.Remove("X-Velvet-Gate");
        (await known.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" })).Status.ShouldBe(
            HttpStatusCode.OK,
            "this device signed in before"
        );
        (await stranger.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" })).Status.ShouldBe(
            HttpStatusCode.OK,
            "a success forgets the failures"
        );
    }

    [Fact]
    public async Task Guessing_OnesOwnPassword_IsLimitedTooAndAKeeperUnlocks()
    {
        using var newcomer = await house.As("newcomer");
        using var stranger = await house.As(null);
        using var keeper = await house.As("keeper");
        for (var i = 0; i <= SignInLimits.FreeForAccount; i++)
            (await newcomer.Put("/api/me/password", new { current = "guess", password = "a long quiet river" })).Fields.ShouldBe([
                "current",
            ]);
        (await newcomer.Put("/api/me/password", new { current = "ropewalk", password = "a long quiet river" })).Status.ShouldBe(
            HttpStatusCode.TooManyRequests
        );
        for (var i = 0; i <= SignInLimits.FreeForAccount; i++)
            await stranger.Post("/api/sign-in", new { name = "newcomer", password = "guess" });
        (await stranger.Post("/api/sign-in", new { name = "newcomer", password = "ropewalk" })).Status.ShouldBe(
            HttpStatusCode.TooManyRequests
        );
        (await keeper.Post("/api/people/m-5/unlock")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await stranger.Post("/api/sign-in", new { name = "newcomer", password = "ropewalk" })).Status.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>The download of one's own data keeps the questions of an open attempt to itself.</summary>
    [Fact]
    public async Task MyData_DuringAnOpenAttempt_TellsNoAnswers()
    {
        using var newcomer = await house.As("member");
        (await newcomer.Post("/api/training/quizzes/laser-safety/attempts")).Status.ShouldBeOneOf(
            [HttpStatusCode.Created, HttpStatusCode.OK],
            "an attempt begins"
        );
        var data = (await newcomer.Get("/api/me/data")).Body;
        var open = data.GetProperty("quizAttempts")
            .EnumerateArray()
            .Single(a => a.GetProperty("ended").ValueKind == System.Text.Json.JsonValueKind.Null);
        foreach (var hidden in new[] { "questions", "drawn", "seed" })
            open.GetProperty(hidden).ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
    }

    private Task<long> Kept() => Scalar("select count(*) from web.sign_in_guard");

    private async Task<long> Scalar(string sql)
    {
        await using var command = house.Db.Owner.CreateCommand(sql);
        return (long)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!;
    }

    /// <summary>JSON of unknown length.</summary>
    private sealed class PushContent : HttpContent
    {
        private readonly int _bytes;

        public PushContent(int bytes)
        {
            _bytes = bytes;
            Headers.ContentType = new("application/json");
        }

        protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
        {
            await stream.WriteAsync("{\"reason\":\""u8.ToArray());
            await stream.WriteAsync(System.Text.Encoding.ASCII.GetBytes(new string('x', _bytes)));
            await stream.WriteAsync("\"}"u8.ToArray());
        }

        protected override bool TryComputeLength(out long length)
        {
            length = 0;
            return false;
        }
    }
}
