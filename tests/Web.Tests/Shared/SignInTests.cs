using System.Net;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

public class SignInTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task SignIn_WrongPasswordOrName_IsTheSame401()
    {
        using var visitor = await house.As(null);
        var wrong = await visitor.Post("/api/sign-in", new { name = "keeper", password = "guess" });
        var unknown = await visitor.Post("/api/sign-in", new { name = "nobody", password = "guess" });
        (wrong.Status, wrong.Code).ShouldBe((HttpStatusCode.Unauthorized, "signIn.wrong"));
        unknown.Detail.ShouldBe(wrong.Detail);
    }

    [Fact]
    public async Task SignIn_TenFailures_CloseTheDoorForAWhile_EvenToTheRightPassword()
    {
        using var visitor = await house.As(null);
        for (var i = 0; i < 10; i++)
            (await visitor.Post("/api/sign-in", new { name = "trainer", password = "guess" })).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await visitor.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" })).Status.ShouldBe(
            HttpStatusCode.TooManyRequests
        );
        // The limits run on the real clock: the pause is over.
        await house.Db.Tamper("update web.sign_in_guard set until = until - interval '1 minute'");
        (await visitor.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" })).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData(9, 0)]
    [InlineData(10, 30)]
    [InlineData(11, 60)]
    [InlineData(14, 480)]
    [InlineData(15, 900)]
    [InlineData(5000, 900)]
    public void PauseAfter_RisesAndStopsRising(int failures, int seconds) =>
        VelvetGate
            .Core.People.SignInLimits.PauseAfter(failures, VelvetGate.Core.People.SignInLimits.FreeForAccount)
            .ShouldBe(Duration.FromSeconds(seconds));

    [Fact]
    public async Task SignIn_EmptyFields_AreNamed()
    {
        using var visitor = await house.As(null);
        (await visitor.Post("/api/sign-in", new { })).Fields.ShouldBe(["name", "password"], ignoreOrder: true);
    }

    [Fact]
    public async Task Session_EndsWhenTheStampChanges()
    {
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
        await house.Db.Tamper("update people.person set security_stamp = 'new' where id = 'm-5'");
        (await newcomer.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task EveryAnswer_CarriesTheStrictPolicy()
    {
        using var visitor = await house.As(null);
        foreach (var path in new[] { "/", "/api/house", "/api/me", "/healthz", "/api/nothing", "/api/materials?unit=parsec" })
        {
            using var answer = await visitor.Http.GetAsync(path, TestContext.Current.CancellationToken);
            answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("script-src 'self'");
            answer.Headers.GetValues("Content-Security-Policy").Single().ShouldNotContain("unsafe");
            answer.Headers.GetValues("X-Content-Type-Options").Single().ShouldBe("nosniff");
            answer.Headers.GetValues("Permissions-Policy").Single().ShouldContain("geolocation=()");
            answer.Headers.GetValues("Cross-Origin-Opener-Policy").Single().ShouldBe("same-origin");
            answer.Headers.GetValues("Cross-Origin-Resource-Policy").Single().ShouldBe("same-origin");
        }
    }

    [Fact]
    public async Task Cookie_IsHttpOnlyAndStrict()
    {
        using var visitor = await house.As(null);
        var answer = await visitor.Post("/api/sign-in", new { name = "member", password = "ropewalk" });
        var cookie = answer.Response.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("velvetgate=", StringComparison.Ordinal));
        cookie.ShouldContain("httponly", Case.Insensitive);
        cookie.ShouldContain("samesite=strict", Case.Insensitive);
    }
}
