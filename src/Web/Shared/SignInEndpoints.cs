using System.Collections.Concurrent;
using System.Security.Claims;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

public sealed record SignInRequest(string? Name = null, string? Password = null);

/// <param name="AntiforgeryHeader">Header that every state-changing request carries, with the token.</param>
public sealed record SignInAnswer(string AntiforgeryHeader, string AntiforgeryToken);

/// <param name="Roles">Such as <c>steward</c>, or <c>trainer:heron</c>.</param>
public sealed record MeAnswer(string MemberId, string Name, IReadOnlyList<string> Roles, PauseAnswer? Pause, string AntiforgeryHeader, string AntiforgeryToken);

public sealed record PauseAnswer(Guid Id, Instant Since, Instant? Until, string? Reason);

public static class SignInEndpoints
{
    public const string StampClaim = "stamp";

    // A password nobody has, so that an unknown name takes as long to refuse as a wrong password.
    private static readonly string NoPassword = new PasswordHasher<string>().HashPassword("", Guid.NewGuid().ToString());

    public static void MapSignIn(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Sign-in");
        group.MapPost("/sign-in", SignIn).WithName("SignIn").AllowAnonymous().ProducesProblem(400).ProducesProblem(401).ProducesProblem(429);
        group.MapPost("/sign-out", (Delegate)SignOut).WithName("SignOut").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/me", Me).WithName("Me").RequireAuthorization(Policy.SignedIn).ProducesProblem(401);
    }

    private static async Task<Results<Ok<SignInAnswer>, ProblemHttpResult>> SignIn(
        SignInRequest request, HttpContext http, PeopleStore people, SignInGuard guard, IAntiforgery antiforgery, IClock clock, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        if (string.IsNullOrWhiteSpace(request.Name)) errors.Add("name", "Type your sign-in name.");
        if (string.IsNullOrEmpty(request.Password)) errors.Add("password", "Type your password.");
        if (errors.Any) return errors.Answer();
        var key = $"{request.Name!.Trim()}|{http.Connection.RemoteIpAddress}";
        if (guard.IsBlocked(key, clock.GetCurrentInstant()))
            return Problems.Of(429, "signIn.tooMany", $"Too many failed tries. Wait {SignInGuard.Window.TotalMinutes:0} minutes, or ask a keeper.");
        var found = await people.FindSignIn(request.Name.Trim(), cancel);
        var verified = new PasswordHasher<string>().VerifyHashedPassword("", found?.PasswordHash ?? NoPassword, request.Password!);
        if (found is null || verified == PasswordVerificationResult.Failed)
        {
            guard.Failed(key, clock.GetCurrentInstant());
            return Problems.Of(401, "signIn.wrong", "Name or password is not right. Try again.");
        }
        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, found.PersonId), new Claim(StampClaim, found.SecurityStamp)], CookieAuthenticationDefaults.AuthenticationScheme);
        var principal = new ClaimsPrincipal(identity);
        await http.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, principal);
        // The token is bound to the person: it has to be made for the one who signed in just now.
        http.User = principal;
        var tokens = antiforgery.GetAndStoreTokens(http);
        return TypedResults.Ok(new SignInAnswer(tokens.HeaderName!, tokens.RequestToken!));
    }

    private static async Task<NoContent> SignOut(HttpContext http)
    {
        await http.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<MeAnswer>, ProblemHttpResult>> Me(CurrentUser user, HttpContext http, IAntiforgery antiforgery)
    {
        if (await user.Person() is not { } person) return Problems.Of(401, "signIn.gone", "This account is closed. Ask a keeper.");
        var tokens = antiforgery.GetAndStoreTokens(http);
        var roles = person.Roles.Select(r => r.Role.ToString().ToLowerInvariant() + (r.MachineId is { } m ? $":{m}" : "")).Order(StringComparer.Ordinal).ToList();
        var pause = person.Pause is { } p ? new PauseAnswer(p.Id, p.Since, p.Until, p.Reason) : null;
        return TypedResults.Ok(new MeAnswer(person.Id, $"{person.GivenName} {person.FamilyName}", roles, pause, tokens.HeaderName!, tokens.RequestToken!));
    }
}

/// <summary>Slows down guessing: ten failures from one place for one name close that pair for a while.</summary>
public sealed class SignInGuard
{
    public const int Allowed = 10;
    private const int Remembered = 10_000;
    private readonly ConcurrentDictionary<string, (int Count, Instant First)> _failures = new();

    public static Duration Window { get; } = Duration.FromMinutes(5);

    public bool IsBlocked(string key, Instant now) => _failures.TryGetValue(key, out var f) && f.Count >= Allowed && now - f.First < Window;

    public void Failed(string key, Instant now)
    {
        if (_failures.Count > Remembered)
        {
            foreach (var old in _failures.Where(f => now - f.Value.First >= Window)) _failures.TryRemove(old.Key, out _);
        }
        _failures.AddOrUpdate(key, (1, now), (_, f) => now - f.First < Window ? (f.Count + 1, f.First) : (1, now));
    }
}
