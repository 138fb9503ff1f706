using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

/// <summary>Who is asking, with the roles held at this moment. Loaded once a request.</summary>
public sealed class CurrentUser(IHttpContextAccessor http, PeopleStore people, IClock clock)
{
    private PersonNow? _person;
    private Instant? _proved;

    /// <summary>The house asks a code from a phone of this person, and they have set none up yet.</summary>
    public bool FactorOwed { get; private set; }

    /// <summary>Null where nobody is signed in.</summary>
    public PersonId? IdOrNull =>
        http.HttpContext?.User.FindFirstValue(ClaimTypes.NameIdentifier) is { } id ? new PersonId(id) : default(PersonId?);

    /// <exception cref="InvalidOperationException">Nobody is signed in: the endpoint lacks its policy.</exception>
    public PersonId Id =>
        http.HttpContext?.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? throw new InvalidOperationException("Nobody is signed in.");

    /// <summary>Takes up a session at the start of a request.</summary>
    /// <returns>False when the session is over.</returns>
    public async Task<bool> TakeUp(SessionKey? key, CancellationToken cancel)
    {
        var found = key is null
            ? null
            : await people.OfSession(key, clock.GetCurrentInstant(), SystemClock.Instance.GetCurrentInstant(), cancel);
        (_person, _proved, FactorOwed) = (found?.Person, found?.Proved, found?.FactorOwed == true);
        return _person is not null;
    }

    /// <summary>The session of this request.</summary>
    public Guid Session => KeyOf(http.HttpContext!.User)!.Session;

    /// <summary>True when the password was given within the last quarter of an hour.</summary>
    public bool ProvedRecently => _proved > SystemClock.Instance.GetCurrentInstant() - Sessions.Recent;

    /// <returns>Null for a cookie of another make.</returns>
    internal static SessionKey? KeyOf(ClaimsPrincipal? principal) =>
        principal?.FindFirstValue(ClaimTypes.NameIdentifier) is { } id
        && principal.FindFirstValue(SignInEndpoints.StampClaim) is { } stamp
        && Guid.TryParse(principal.FindFirstValue(SignInEndpoints.SessionClaim), out var session)
            ? new SessionKey(id, session, stamp)
            : null;

    public async Task<PersonNow?> Person()
    {
        if (http.HttpContext?.User.FindFirstValue(ClaimTypes.NameIdentifier) is not { } id)
            return null;
        if (_person?.Id == id)
            return _person;
        return _person = await people.Find(id, clock.GetCurrentInstant(), http.HttpContext.RequestAborted);
    }

    public async Task<bool> Is(params Role[] roles) => await Person() is { } person && person.Roles.Any(r => roles.Contains(r.Role));

    /// <summary>Staff see whole names: stewards, trainers, keepers.</summary>
    public Task<bool> SeesNames() => Is(Role.Steward, Role.Trainer, Role.Keeper);
}

/// <summary>For what gives or takes power, or cannot be undone: the password was given a short while ago.</summary>
public static class Recently
{
    public static TBuilder RequireRecentSignIn<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder =>
        endpoint.AddEndpointFilter(
            async (context, next) =>
                context.HttpContext.RequestServices.GetRequiredService<CurrentUser>().ProvedRecently
                    ? await next(context)
                    : Problems.Of(RequestProblems.SignInAgain.Refuse())
        );
}

/// <summary>Any one of these roles, held now.</summary>
public sealed record RoleRequirement(params Role[] Roles) : IAuthorizationRequirement;

public sealed class RoleHandler(CurrentUser user) : AuthorizationHandler<RoleRequirement>
{
    protected override async Task HandleRequirementAsync(AuthorizationHandlerContext context, RoleRequirement requirement)
    {
        if (await user.Is(requirement.Roles))
            context.Succeed(requirement);
    }
}

/// <summary>Names of the policies. Every endpoint has one, or is open to all by name.</summary>
public static class Policy
{
    public const string SignedIn = nameof(SignedIn);
    public const string Steward = nameof(Steward);
    public const string Trainer = nameof(Trainer);
    public const string Records = nameof(Records);

    /// <summary>Who sees whole names: stewards, trainers, keepers.</summary>
    public const string Staff = nameof(Staff);

    /// <summary>Trainers, and stewards for any of them.</summary>
    public const string Teaches = nameof(Teaches);
    public const string Keeper = nameof(Keeper);

    /// <summary>Closures, classes and the rota are written down by keepers and stewards.</summary>
    public const string Calendar = nameof(Calendar);

    /// <summary>Who may give somebody a role; Core says which role.</summary>
    public const string Grants = nameof(Grants);

    /// <summary>Who agrees where a second keeper is asked.</summary>
    public const string Confirms = nameof(Confirms);

    /// <summary>Who may answer an ask; Core says which of them in a given house.</summary>
    public const string Answers = nameof(Answers);

    public static void Add(AuthorizationOptions options)
    {
        options.AddPolicy(SignedIn, p => p.RequireAuthenticatedUser());
        options.AddPolicy(Steward, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Steward)));
        options.AddPolicy(Trainer, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Trainer)));
        options.AddPolicy(Staff, p =>
            p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Steward, Role.Trainer, Role.Keeper))
        );
        options.AddPolicy(Teaches, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Trainer, Role.Steward)));
        options.AddPolicy(Keeper, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Keeper)));
        options.AddPolicy(Calendar, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Keeper, Role.Steward)));
        options.AddPolicy(Grants, p => p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Keeper, Role.Trainer)));
        options.AddPolicy(Answers, p =>
            p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Steward, Role.Countersigner))
        );
        options.AddPolicy(Confirms, p =>
            p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Keeper, Role.Countersigner))
        );
        options.AddPolicy(Records, p =>
            p.RequireAuthenticatedUser().AddRequirements(new RoleRequirement(Role.Steward, Role.Keeper, Role.Countersigner))
        );
    }
}
