using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Core;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="AgeBand">Instead of a birth date: under11, 11to13, 14to15, 16to17 or adult.</param>
/// <param name="Password">With a sign-in name: their first one, to be changed.</param>
public sealed record PersonRequest(
    string? GivenName = null, string? FamilyName = null, string? BirthDate = null, string? AgeBand = null, string? Email = null, string? SignInName = null, string? Password = null, string? AccountEnds = null);

/// <param name="LastDay">Empty takes the end away.</param>
public sealed record AccountEndRequest(string? LastDay = null);

public sealed record RoleRequest(string? Role = null, string? MachineId = null, string? LastDay = null);

/// <param name="Text">Who gave it, and how.</param>
public sealed record ConsentRequest(IReadOnlyList<string>? MachineIds = null, string? Text = null, string? LastDay = null);

public sealed record LegalHoldRequest(bool? Hold = null, string? Reason = null);

public sealed record PasswordRequest(string? Password = null, string? Current = null);

/// <summary>A row of a CSV file and what would come of it.</summary>
/// <param name="State">new, known or wrong.</param>
public sealed record ImportRow(int Line, string Name, string State, IReadOnlyList<string> Problems);

/// <param name="Stored">False for a dry run, and where a row is wrong: then nothing was stored.</param>
public sealed record ImportAnswer(bool Stored, int Added, IReadOnlyList<ImportRow> Rows);

public sealed record CsvRequest(string? Csv = null, bool? DryRun = null);

/// <summary>Accounts: a keeper's work.</summary>
public static class AccountEndpoints
{
    public static void MapAccounts(this IEndpointRouteBuilder app)
    {
        var people = app.MapGroup("/api").WithTags("Accounts");
        people.MapPost("/people", Add).WithName("AddPerson").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        people.MapPost("/people/import", Import).WithMetadata(LargeJson.File).WithName("ImportPeople").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        people.MapGet("/people/{id}/account", Look).WithName("Account").RequireAuthorization(Policy.Calendar).ProducesProblem(404);
        people.MapPut("/people/{id}/end", End).WithName("SetAccountEnd").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
        people.MapPut("/people/{id}/password", SetPassword).WithName("SetPassword").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(404);
        people.MapPost("/people/{id}/unlock", Unlock).WithName("UnlockSignIn").RequireAuthorization(Policy.Keeper).ProducesProblem(404);
        people.MapPost("/people/{id}/roles", Grant).WithName("GiveRole").RequireAuthorization(Policy.Grants).ProducesProblem(400).ProducesProblem(403);
        people.MapPost("/roles/{id:long}/end", EndRole).WithName("EndRole").RequireAuthorization(Policy.Keeper).ProducesProblem(404).ProducesProblem(409);
        people.MapPost("/people/{id}/consents", Consent).WithName("AddConsent").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(404);
        people.MapPost("/consents/{id:guid}/end", EndConsent).WithName("EndConsent").RequireAuthorization(Policy.Keeper).ProducesProblem(404);
        people.MapPost("/people/{id}/legal-hold", LegalHold).WithName("SetLegalHold").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(404);
        people.MapPost("/people/{id}/erase", Erase).WithName("ErasePerson").RequireAuthorization(Policy.Keeper).ProducesProblem(404).ProducesProblem(409);
    }

    private static async Task<Results<Created<MadeAnswer>, ProblemHttpResult>> Add(PersonRequest request, CurrentUser user, AccountStore accounts, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var errors = new FieldErrors();
        var (person, wrong) = PeopleCsv.Check(
            SetUpEndpoints.Blank(request.GivenName), SetUpEndpoints.Blank(request.FamilyName), SetUpEndpoints.Blank(request.BirthDate), SetUpEndpoints.Blank(request.AgeBand), SetUpEndpoints.Blank(request.Email),
            SetUpEndpoints.Blank(request.SignInName), SetUpEndpoints.Blank(request.AccountEnds), rules.Clock.DateOf(now));
        errors.Add(wrong);
        if (!string.IsNullOrWhiteSpace(request.SignInName) && Passwords.Check(request.Password) is { } weak) errors.Add("password", weak);
        if (errors.Any) return errors.Answer();
        var hash = person!.SignInName is null ? null : Hash(request.Password!);
        var added = await accounts.Add([person], _ => hash, rules, user.Id, now, cancel);
        return added.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Created($"/api/people/{added.Value[0]}", new MadeAnswer(added.Value[0]));
    }

    /// <summary>All rows or none. People from a file have no password until a keeper gives them one.</summary>
    private static async Task<Results<Ok<ImportAnswer>, ProblemHttpResult>> Import(CsvRequest request, CurrentUser user, AccountStore accounts, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var read = PeopleCsv.Read(request.Csv ?? "", rules.Clock.DateOf(now));
        if (read.Refusal is { } refusal) return Problems.Of(refusal);
        var people = read.Value.Where(r => r is { Person: not null, Errors.Count: 0 }).Select(r => r.Person!).ToList();
        var known = await accounts.Known(people, cancel);
        var rows = read.Value.Select(r => Row(r, known)).ToList();
        var fresh = people.Where(p => !known.Contains((p.GivenName, p.FamilyName))).ToList();
        if (request.DryRun != false || rows.Any(r => r.State == "wrong")) return TypedResults.Ok(new ImportAnswer(false, fresh.Count, rows));
        if (fresh.Count == 0) return TypedResults.Ok(new ImportAnswer(true, 0, rows));
        var added = await accounts.Add(fresh, _ => null, rules, user.Id, now, cancel);
        return added.Refusal is { } against ? Problems.Of(against) : TypedResults.Ok(new ImportAnswer(true, fresh.Count, rows));
    }

    private static ImportRow Row(CsvRow row, IReadOnlySet<(string, string)> known) => new(
        row.Line, row.Person is { } p ? $"{p.GivenName} {p.FamilyName}" : "",
        row.Errors.Count > 0 ? "wrong" : row.Person is { } q && known.Contains((q.GivenName, q.FamilyName)) ? "known" : "new",
        [.. row.Errors.Select(e => e.Text)]);

    private static async Task<Results<Ok<Account>, ProblemHttpResult>> Look(string id, AccountStore accounts, IClock clock, CancellationToken cancel) =>
        await accounts.Find(id, clock.GetCurrentInstant(), cancel) is { } account ? TypedResults.Ok(account) : Problems.NotFound("account");

    private static async Task<Results<NoContent, ProblemHttpResult>> End(string id, AccountEndRequest request, CurrentUser user, AccountStore accounts, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var errors = new FieldErrors();
        var end = Days.LastDay(request.LastDay, "lastDay", rules, errors);
        if (errors.Any) return errors.Answer();
        if (end is not null && id == user.Id) return Problems.Of(new Refusal("account.self", "Nobody ends their own account. Ask another keeper.", "lastDay"));
        // A last day of yesterday or before closes it now: nothing is backdated.
        if (await accounts.SetEnd(id, end is { } e ? Instant.Max(e, now) : null, user.Id, now, cancel) is not { } ended) return Problems.NotFound("account");
        return ended.Refusal is { } refusal ? Problems.Of(refusal, 409) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetPassword(string id, PasswordRequest request, AccountStore accounts, CancellationToken cancel)
    {
        if (Passwords.Check(request.Password) is { } weak) return Problems.Of(new Refusal("password.weak", weak, "password"));
        return await accounts.SetPassword(id, Hash(request.Password!), cancel) ? TypedResults.NoContent() : Problems.NotFound("account with a sign-in name");
    }

    /// <summary>Who mistyped too often may try again at once.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Unlock(string id, AccountStore accounts, SignInGuard guard, IClock clock, CancellationToken cancel)
    {
        if (await accounts.Find(id, clock.GetCurrentInstant(), cancel) is not { SignInName: { } name }) return Problems.NotFound("account with a sign-in name");
        await guard.Unlock(name, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Grant(string id, RoleRequest request, CurrentUser user, AccountStore accounts, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var errors = new FieldErrors();
        if (!Enum.TryParse<Role>(request.Role, ignoreCase: true, out var role) || int.TryParse(request.Role, out _)) errors.Add("role", "Choose member, trainer, steward, keeper, countersigner or repair.");
        var until = Days.LastDay(request.LastDay, "lastDay", rules, errors);
        if (errors.Any) return errors.Answer();
        var given = await accounts.Grant(id, role, SetUpEndpoints.Blank(request.MachineId), until, user.Id, now, cancel);
        return given.Refusal is { } refusal ? Problems.Of(refusal, refusal.Code is "role.self" or "role.keeper" or "role.trainer" ? 403 : 400) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndRole(long id, CurrentUser user, AccountStore accounts, IClock clock, CancellationToken cancel)
    {
        if (await accounts.EndRole(id, user.Id, clock.GetCurrentInstant(), cancel) is not { } ended) return Problems.NotFound("role that holds");
        return ended.Refusal is { } refusal ? Problems.Of(refusal, 409) : TypedResults.NoContent();
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Consent(string id, ConsentRequest request, CurrentUser user, AccountStore accounts, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var errors = new FieldErrors();
        if (PeopleEndpoints.Reasons.Wrong(request.Text) is not null) errors.Add("text", "Write who gave the consent and how, such as “mother, signed form of 3 May”.");
        var until = Days.LastDay(request.LastDay, "lastDay", rules, errors);
        if (until <= now) errors.Add("lastDay", "The last day is over already.");
        if (errors.Any) return errors.Answer();
        var made = await accounts.Consent(id, [.. (request.MachineIds ?? []).Distinct()], request.Text!.Trim(), until, user.Id, now, cancel);
        return made.Refusal is { } refusal ? Problems.Of(refusal, refusal.Code == "person.unknownId" ? 404 : 400) : TypedResults.Created($"/api/consents/{made.Value}", new PauseMade(made.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndConsent(Guid id, CurrentUser user, AccountStore accounts, IClock clock, CancellationToken cancel) =>
        await accounts.EndConsent(id, user.Id, clock.GetCurrentInstant(), cancel) ? TypedResults.NoContent() : Problems.NotFound("consent that holds");

    private static async Task<Results<NoContent, ProblemHttpResult>> LegalHold(string id, LegalHoldRequest request, CurrentUser user, AccountStore accounts, IClock clock, CancellationToken cancel)
    {
        if (PeopleEndpoints.Reasons.Check(request.Reason) is { } bad) return bad;
        return await accounts.LegalHold(id, request.Hold != false, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel) ? TypedResults.NoContent() : Problems.NotFound("account");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Erase(string id, CurrentUser user, PersonalDataStore data, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        if (await data.Erase(id, user.Id, rules, now, cancel) is not { } erased) return Problems.NotFound("account");
        return erased.Refusal is { } refusal ? Problems.Of(refusal, 409) : TypedResults.NoContent();
    }

    internal static string Hash(string password) => new PasswordHasher<string>().HashPassword("", password);
}
