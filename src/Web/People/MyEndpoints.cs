using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="Agreement">The words of the house agreement as they hold now.</param>
/// <param name="SignedSince">Null while it is not signed.</param>
public sealed record MyResponse(Account Account, string Agreement, Instant? SignedSince);

/// <summary>One's own account: agreement, password, and everything the house holds about one.</summary>
public static class MyEndpoints
{
    public static void MapMine(this IEndpointRouteBuilder app)
    {
        var mine = app.MapGroup("/api/me").WithTags("My account").RequireAuthorization(Policy.SignedIn);
        mine.MapGet("/account", Look).WithName("MyAccount");
        mine.MapPost("/agreement", Sign).WithName("SignAgreement");
        mine.MapPut("/password", ChangePassword).WithName("ChangeMyPassword").ProducesProblem(400).ProducesProblem(429);
        mine.MapGet("/data", Data).WithName("MyData").Produces<object>(200, "application/json");
    }

    private static async Task<Results<Ok<MyResponse>, ProblemHttpResult>> Look(
        CurrentUser user,
        AccountStore accounts,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        return await accounts.Find(user.Id, now, cancel) is { } account
            ? TypedResults.Ok(new MyResponse(account, rules.Agreement, account.AgreementSince))
            : Problems.NotFound("account");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Sign(
        CurrentUser user,
        AccountStore accounts,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        await accounts.Sign(user.Id, Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(rules.Agreement))), now, cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Every session of before ends, this one too.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> ChangePassword(
        PasswordRequest request,
        CurrentUser user,
        AccountStore accounts,
        PeopleStore people,
        SignInGuard guard,
        SecurityLog log,
        HttpContext http,
        IClock clock,
        CancellationToken cancel
    )
    {
        var person = await user.Person();
        if (Passwords.Check(request.Password, person?.GivenName, person?.FamilyName) is { } weak)
            return Problems.Of(PeopleProblems.PasswordWeak.Refuse("password", weak));
        if (request.Current is { Length: > SignInLimits.LongestPassword })
            return Problems.Of(PeopleProblems.PasswordWrong.Refuse("current"));
        var now = clock.GetCurrentInstant();
        if (await accounts.Find(user.Id, now, cancel) is not { SignInName: { } name })
            return Problems.Of(PeopleProblems.PasswordOfNoAccount.Refuse("current"));
        if (await guard.ClosedUntil(http, name, cancel) is { } until)
            return SignInEndpoints.TooMany(http, until);
        var found = await people.FindSignIn(name, now, cancel);
        if (await guard.Verify(found?.PasswordHash, request.Current ?? "", cancel) is null or PasswordVerificationResult.Failed)
        {
            await guard.Failed(http, name, cancel);
            log.SignInFailed(name, http);
            return Problems.Of(PeopleProblems.PasswordWrong.Refuse("current"));
        }
        log.PasswordChanged(user.Id);
        await accounts.SetPassword(user.Id, Passwords.Hash(request.Password!), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> Data(
        CurrentUser user,
        PersonalDataStore data,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await data.Download(user.Id, cancel) is not { } json)
            return Problems.NotFound("account");
        http.Response.Headers.ContentDisposition = "attachment; filename=\"my-velvet-gate-data.json\"";
        return TypedResults.Content(json, "application/json", Encoding.UTF8);
    }
}
