using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

/// <param name="Here">The one this request came with.</param>
public sealed record SessionResponse(Guid Id, Instant Began, Instant Seen, Instant Until, bool Shared, string Device, bool Here);

public sealed record SessionList(IReadOnlyList<SessionResponse> Items);

public sealed record PasswordAgain(string? Password = null);

/// <summary>One's own sign-ins: where one is signed in, and how each is ended.</summary>
public static class SessionEndpoints
{
    public static void MapSessions(this IEndpointRouteBuilder app)
    {
        var mine = app.MapGroup("/api/me").WithTags("My account").RequireAuthorization(Policy.SignedIn);
        mine.MapGet("/sessions", List).WithName("MySessions");
        mine.MapDelete("/sessions/{id:guid}", End).WithName("EndMySession").ProducesProblem(404);
        mine.MapPost("/sessions/end-others", EndOthers).WithName("EndMyOtherSessions");
        mine.MapPost("/password/again", Again).WithName("SignInAgain").ProducesProblem(400).ProducesProblem(429);
    }

    private static Instant Real => SystemClock.Instance.GetCurrentInstant();

    private static async Task<Ok<SessionList>> List(CurrentUser user, SessionStore sessions, CancellationToken cancel) =>
        TypedResults.Ok(
            new SessionList([
                .. (await sessions.Of(user.Id, Real, cancel)).Select(s => new SessionResponse(
                    Id: s.Id,
                    Began: s.Began,
                    Seen: s.Seen,
                    Until: s.Until,
                    Shared: s.Shared,
                    Device: s.Device,
                    Here: s.Id == user.Session
                )),
            ])
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        CurrentUser user,
        SessionStore sessions,
        SecurityLog log,
        CancellationToken cancel
    )
    {
        if (await sessions.End(user.Id, id, null, Real, cancel) == 0)
            return Problems.NotFound("session of yours");
        log.SessionsEnded(user.Id, 1);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> EndOthers(CurrentUser user, SessionStore sessions, SecurityLog log, CancellationToken cancel)
    {
        log.SessionsEnded(user.Id, await sessions.End(user.Id, null, user.Session, Real, cancel));
        return TypedResults.NoContent();
    }

    /// <summary>The password once more, for what gives or takes power.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Again(
        PasswordAgain request,
        CurrentUser user,
        AccountStore accounts,
        PeopleStore people,
        SessionStore sessions,
        SignInGuard guard,
        SecurityLog log,
        HttpContext http,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (string.IsNullOrEmpty(request.Password) || request.Password.Length > SignInLimits.LongestPassword)
            return Problems.Of(PeopleProblems.PasswordWrong.Refuse("password"));
        if (await accounts.Find(user.Id, now, cancel) is not { SignInName: { } name })
            return Problems.Of(PeopleProblems.PasswordOfNoAccount.Refuse("password"));
        if (await guard.ClosedUntil(http, name, cancel) is { } until)
            return SignInEndpoints.TooMany(http, until);
        var found = await people.FindSignIn(name, now, cancel);
        if (await guard.Verify(found?.PasswordHash, request.Password, cancel) is not { } right)
            return SignInEndpoints.TooMany(http, Real + Duration.FromSeconds(10));
        if (right == PasswordVerificationResult.Failed)
        {
            await guard.Failed(http, name, cancel);
            log.SignInFailed(name, http);
            return Problems.Of(PeopleProblems.PasswordWrong.Refuse("password"));
        }
        await guard.Succeeded(http, name, cancel);
        await sessions.Prove(user.Session, Real, cancel);
        return TypedResults.NoContent();
    }
}
