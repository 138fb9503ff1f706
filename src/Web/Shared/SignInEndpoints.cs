using System.Security.Claims;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

/// <param name="Code">Of the phone, or a spare one; asked for by 401 <c>signIn.secondFactor</c> where the account has it set up.</param>
/// <param name="Shared">Others use this device too: the session ends after half an hour without use.</param>
public sealed record SignInRequest(string? Name = null, string? Password = null, bool? Shared = null, string? Code = null);

/// <param name="AntiforgeryHeader">Header that every state-changing request carries, with the token.</param>
public sealed record SignInResponse(string AntiforgeryHeader, string AntiforgeryToken);

/// <param name="FactorOwed">The house asks a code from a phone of this person: nothing else is open until it is set up.</param>
/// <param name="Roles">Such as <c>steward</c>, or <c>trainer:heron</c>.</param>
public sealed record MeResponse(
    PersonId MemberId,
    string Name,
    IReadOnlyList<string> Roles,
    PauseResponse? Pause,
    string AntiforgeryHeader,
    string AntiforgeryToken,
    bool FactorOwed
);

public sealed record PauseResponse(Guid Id, Instant Since, Instant? Until, string? Reason);

public static class SignInEndpoints
{
    public const string StampClaim = "stamp";
    public const string SessionClaim = "session";

    public static void MapSignIn(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Sign-in");
        group
            .MapPost("/sign-in", SignIn)
            .WithName("SignIn")
            .AllowAnonymous()
            .ProducesProblem(400)
            .ProducesProblem(401)
            .ProducesProblem(429);
        group.MapPost("/sign-out", SignOut).WithName("SignOut").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/me", Me).WithName("Me").RequireAuthorization(Policy.SignedIn).ProducesProblem(401);
    }

    private static async Task<Results<Ok<SignInResponse>, ProblemHttpResult>> SignIn(
        SignInRequest request,
        HttpContext http,
        PeopleStore people,
        AccountStore accounts,
        SessionStore sessions,
        SecondFactors factors,
        SignInGuard guard,
        SecurityLog log,
        Mode mode,
        IAntiforgery antiforgery,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("name", request.Name, "Type your sign-in name.");
        if (string.IsNullOrEmpty(request.Password))
            errors.Add("password", "Type your password.");
        if (errors.Any)
            return errors.Answer();
        var name = request.Name!.Trim();
        if (name.Length > SignInLimits.LongestName)
            errors.Add("name", $"A sign-in name has up to {SignInLimits.LongestName} characters.");
        if (request.Password!.Length > SignInLimits.LongestPassword)
            errors.Add("password", $"A password has up to {SignInLimits.LongestPassword} characters.");
        if (errors.Any)
            return errors.Answer();
        if (await guard.ClosedUntil(http, name, cancel) is { } until)
        {
            log.TooMany(name, http);
            return TooMany(http, until);
        }
        var found = await people.FindSignIn(name, clock.GetCurrentInstant(), cancel);
        if (await guard.Verify(found?.PasswordHash, request.Password, cancel) is not { } right)
            return TooMany(http, NodaTime.SystemClock.Instance.GetCurrentInstant() + Duration.FromSeconds(10));
        if (right == PasswordVerificationResult.Failed || found is null)
        {
            await guard.Failed(http, name, cancel);
            log.SignInFailed(name, http);
            return Problems.Of(RequestProblems.SignInWrong.Refuse());
        }
        var factor = await factors.Check(found.PersonId, request.Code, cancel);
        if (factor is FactorCheck.Missing)
            return Problems.Of(RequestProblems.SignInSecondFactor.Refuse());
        if (factor is FactorCheck.Wrong)
        {
            await guard.Failed(http, name, cancel);
            log.SignInFailed(name, http);
            return Problems.Of(RequestProblems.SignInSecondFactorWrong.Refuse());
        }
        await guard.Succeeded(http, name, cancel);
        // Kept with fewer rounds than now: kept anew. The demo's password is public, and gains nothing by it.
        if (right == PasswordVerificationResult.SuccessRehashNeeded && !mode.Demo)
            await accounts.Rehash(found.PersonId, found.PasswordHash, Passwords.Hash(request.Password), cancel);
        var session = await sessions.Begin(
            found.PersonId,
            request.Shared == true,
            await factors.Owes(found.PersonId, factor is FactorCheck.Right, cancel),
            Sessions.Device(http.Request.Headers.UserAgent.ToString()),
            NodaTime.SystemClock.Instance.GetCurrentInstant(),
            cancel
        );
        log.SignedIn(found.PersonId, http);
        var identity = new ClaimsIdentity(
            [
                new Claim(ClaimTypes.NameIdentifier, found.PersonId.Value),
                new Claim(StampClaim, found.SecurityStamp),
                new Claim(SessionClaim, session.ToString()),
            ],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        var principal = new ClaimsPrincipal(identity);
        await http.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, principal);
        // The token is bound to the person: it has to be made for the one who signed in just now.
        http.User = principal;
        var tokens = antiforgery.GetAndStoreTokens(http);
        return TypedResults.Ok(new SignInResponse(tokens.HeaderName!, tokens.RequestToken!));
    }

    internal static ProblemHttpResult TooMany(HttpContext http, Instant until)
    {
        var seconds = Math.Max(1, (int)Math.Ceiling((until - NodaTime.SystemClock.Instance.GetCurrentInstant()).TotalSeconds));
        http.Response.Headers.RetryAfter = seconds.ToString(System.Globalization.CultureInfo.InvariantCulture);
        return Problems.Of(
            RequestProblems.SignInTooMany.Refuse(null, (seconds < 90 ? $"{seconds} seconds" : $"{(seconds + 59) / 60} minutes"))
        );
    }

    private static async Task<NoContent> SignOut(
        HttpContext http,
        CurrentUser user,
        SessionStore sessions,
        SecurityLog log,
        CancellationToken cancel
    )
    {
        log.SessionsEnded(
            user.Id,
            await sessions.End(user.Id, user.Session, null, NodaTime.SystemClock.Instance.GetCurrentInstant(), cancel)
        );
        await http.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<MeResponse>, ProblemHttpResult>> Me(CurrentUser user, HttpContext http, IAntiforgery antiforgery)
    {
        if (await user.Person() is not { } person)
            return Problems.Of(RequestProblems.SignInGone.Refuse());
        var tokens = antiforgery.GetAndStoreTokens(http);
        var roles = person
            .Roles.Select(r => r.Role.ToString().ToLowerInvariant() + (r.MachineId is { } m ? $":{m}" : ""))
            .Order(StringComparer.Ordinal)
            .ToList();
        var pause = person.Pause is { } p ? new PauseResponse(p.Id, p.Since, p.Until, p.Reason) : null;
        return TypedResults.Ok(
            new MeResponse(
                MemberId: person.Id,
                Name: $"{person.GivenName} {person.FamilyName}",
                Roles: roles,
                Pause: pause,
                AntiforgeryHeader: tokens.HeaderName!,
                AntiforgeryToken: tokens.RequestToken!,
                FactorOwed: user.FactorOwed
            )
        );
    }
}
