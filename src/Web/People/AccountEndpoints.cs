using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="AgeBand">Instead of a birth date: under11, 11to13, 14to15, 16to17 or adult.</param>
/// <param name="Password">Refused: nobody sets somebody else's password. The answer has an invite.</param>
public sealed record PersonRequest(
    string? GivenName = null,
    string? FamilyName = null,
    string? BirthDate = null,
    string? AgeBand = null,
    string? Email = null,
    string? SignInName = null,
    string? Password = null,
    string? AccountEnds = null
);

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
public sealed record ImportResponse(bool Stored, int Added, IReadOnlyList<ImportRow> Rows);

public sealed record CsvRequest(string? Csv = null, bool? DryRun = null);

/// <param name="Invite">With a sign-in name: the link by which they set their password.</param>
public sealed record PersonMade(PersonId Id, InviteResponse? Invite);

/// <summary>A link to set a password, once. It is shown this one time.</summary>
/// <param name="Link">Whole address, for a mail.</param>
/// <param name="Code">The same by hand, for paper.</param>
/// <param name="Waits">A second keeper or the countersigner agrees before it serves.</param>
public sealed record InviteResponse(Guid Id, string Link, string Code, Instant Expires, bool Waits);

/// <param name="MayAgree">The one who asks may agree, as far as it is not their own.</param>
public sealed record WaitingInvite(Guid Id, PersonId PersonId, string Name, string MadeBy, Instant At, bool MayAgree);

public sealed record WaitingInvites(IReadOnlyList<WaitingInvite> Items);

/// <summary>What erasing a person leaves for somebody to read.</summary>
public sealed record MentionList(IReadOnlyList<Mention> Items);

/// <summary>Accounts: a keeper's work.</summary>
public static class AccountEndpoints
{
    public static void MapAccounts(this IEndpointRouteBuilder app)
    {
        var people = app.MapGroup("/api").WithTags("Accounts");
        people.MapPost("/people", Add).WithName("AddPerson").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        people
            .MapPost("/people/import", Import)
            .WithMetadata(LargeJson.File)
            .WithName("ImportPeople")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400);
        people.MapGet("/people/{id}/account", Look).WithName("Account").RequireAuthorization(Policy.Calendar).ProducesProblem(404);
        people
            .MapPut("/people/{id}/end", End)
            .WithName("SetAccountEnd")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        people
            .MapPost("/people/{id}/invite", Invite)
            .WithName("InvitePerson")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404);
        people.MapGet("/invites", WaitingFor).WithName("ListInvites").RequireAuthorization(Policy.Confirms);
        people
            .MapPost("/invites/{id:guid}/agree", Agree)
            .WithName("AgreeToInvite")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Confirms)
            .ProducesProblem(403)
            .ProducesProblem(404);
        people.MapPost("/invites/{code}", SetPassword).WithName("UseInvite").AllowAnonymous().ProducesProblem(400).ProducesProblem(429);
        people.MapPost("/people/{id}/unlock", Unlock).WithName("UnlockSignIn").RequireAuthorization(Policy.Keeper).ProducesProblem(404);
        people
            .MapPost("/people/{id}/roles", Grant)
            .WithName("GiveRole")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Grants)
            .ProducesProblem(400)
            .ProducesProblem(403);
        people
            .MapPost("/roles/{id:long}/end", EndRole)
            .WithName("EndRole")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404)
            .ProducesProblem(409);
        people
            .MapPost("/people/{id}/consents", Consent)
            .WithName("AddConsent")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(404);
        people
            .MapPost("/consents/{id:guid}/end", EndConsent)
            .WithName("EndConsent")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404);
        people
            .MapPost("/people/{id}/legal-hold", LegalHold)
            .WithName("SetLegalHold")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(404);
        people
            .MapGet("/people/{id}/mentions", Mentions)
            .WithName("MentionsOfPerson")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404);
        people
            .MapDelete("/texts/{id:guid}", EraseText)
            .WithName("EraseText")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404);
        people
            .MapPost("/people/{id}/erase", Erase)
            .WithName("ErasePerson")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Created<PersonMade>, ProblemHttpResult>> Add(
        PersonRequest request,
        CurrentUser user,
        AccountStore accounts,
        InviteStore invites,
        HouseStore house,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var (person, wrong) = PeopleCsv.Check(
            Texts.NullIfBlank(request.GivenName),
            Texts.NullIfBlank(request.FamilyName),
            Texts.NullIfBlank(request.BirthDate),
            Texts.NullIfBlank(request.AgeBand),
            Texts.NullIfBlank(request.Email),
            Texts.NullIfBlank(request.SignInName),
            Texts.NullIfBlank(request.AccountEnds),
            rules.Clock.DateOf(now)
        );
        errors.Add(wrong);
        if (errors.Any)
            return errors.Answer();
        if (!string.IsNullOrEmpty(request.Password))
            return Problems.Of(PeopleProblems.PasswordInvite.Refuse("password"));
        var added = await accounts.Add([person!], _ => null, rules, user.Id, now, cancel);
        if (added.Refusal is { } refusal)
            return Problems.Of(refusal);
        var id = added.Value[0];
        var invite = person!.SignInName is null ? null : await invites.Make(id, user.Id, now, cancel);
        return TypedResults.Created($"/api/people/{id}", new PersonMade(id, invite is null ? null : Answer(invite, address)));
    }

    /// <summary>All rows or none. People from a file have no password until a keeper gives them one.</summary>
    private static async Task<Results<Ok<ImportResponse>, ProblemHttpResult>> Import(
        CsvRequest request,
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
        var read = PeopleCsv.Read(request.Csv ?? "", rules.Clock.DateOf(now));
        if (read.Refusal is { } refusal)
            return Problems.Of(refusal);
        var people = read.Value.Where(r => r is { Person: not null, Errors.Count: 0 }).Select(r => r.Person!).ToList();
        var known = await accounts.Known(people, cancel);
        var rows = read.Value.Select(r => Row(r, known)).ToList();
        var fresh = people.Where(p => !known.Contains((p.GivenName, p.FamilyName))).ToList();
        if (request.DryRun != false || rows.Any(r => r.State == "wrong"))
            return TypedResults.Ok(new ImportResponse(false, fresh.Count, rows));
        if (fresh.Count == 0)
            return TypedResults.Ok(new ImportResponse(true, 0, rows));
        var added = await accounts.Add(fresh, _ => null, rules, user.Id, now, cancel);
        return added.Refusal is { } against ? Problems.Of(against) : TypedResults.Ok(new ImportResponse(true, fresh.Count, rows));
    }

    private static ImportRow Row(CsvRow row, IReadOnlySet<(string, string)> known) =>
        new(
            row.Line,
            row.Person is { } p ? $"{p.GivenName} {p.FamilyName}" : "",
            row.Errors.Count > 0 ? "wrong"
                : row.Person is { } q && known.Contains((q.GivenName, q.FamilyName)) ? "known"
                : "new",
            [.. row.Errors.Select(e => e.Text)]
        );

    private static async Task<Results<Ok<Account>, ProblemHttpResult>> Look(
        string id,
        AccountStore accounts,
        IClock clock,
        CancellationToken cancel
    ) =>
        await accounts.Find(id, clock.GetCurrentInstant(), cancel) is { } account ? TypedResults.Ok(account) : Problems.NotFound("account");

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        string id,
        AccountEndRequest request,
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
        var errors = new FieldErrors();
        var end = errors.LastDay("lastDay", request.LastDay, rules);
        if (errors.Any)
            return errors.Answer();
        if (Accounts.MayEnd(id, user.Id, end is not null) is { } own)
            return Problems.Of(own);
        // A last day of yesterday or before closes it now: nothing is backdated.
        var ended = await accounts.SetEnd(id, end is { } e ? Instant.Max(e, now) : null, user.Id, now, cancel);
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    /// <summary>A new link; whoever it is for is told, and links of before no longer serve.</summary>
    private static async Task<Results<Created<InviteResponse>, ProblemHttpResult>> Invite(
        string id,
        CurrentUser user,
        InviteStore invites,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    ) =>
        await invites.Make(id, user.Id, clock.GetCurrentInstant(), cancel) is { } made
            ? TypedResults.Created("/api/invites", Answer(made, address))
            : Problems.NotFound("account with a sign-in name");

    private static async Task<Ok<WaitingInvites>> WaitingFor(
        CurrentUser user,
        InviteStore invites,
        IClock clock,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            new WaitingInvites([
                .. (await invites.Waiting(clock.GetCurrentInstant(), cancel)).Select(i => new WaitingInvite(
                    i.Id,
                    i.PersonId,
                    i.Name,
                    i.MadeByName,
                    i.At,
                    i.PersonId != user.Id
                )),
            ])
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Agree(
        Guid id,
        CurrentUser user,
        InviteStore invites,
        IClock clock,
        CancellationToken cancel
    )
    {
        var agreed = await invites.Agree(id, user.Id, clock.GetCurrentInstant(), cancel);
        return agreed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    /// <summary>For whoever has the link: no sign-in. Guessing is slowed down as at sign-in.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> SetPassword(
        string code,
        PasswordRequest request,
        InviteStore invites,
        SignInGuard guard,
        HttpContext http,
        IClock clock,
        CancellationToken cancel
    )
    {
        var names = await invites.Names(code, cancel);
        if (Passwords.Check(request.Password, names) is { } weak)
            return Problems.Of(PeopleProblems.PasswordWeak.Refuse("password", weak));
        if (await guard.AddressClosedUntil(http, cancel) is { } until)
            return SignInEndpoints.TooMany(http, until);
        if (await invites.Use(code, Passwords.Hash(request.Password!), clock.GetCurrentInstant(), cancel) is not { } refusal)
            return TypedResults.NoContent();
        await guard.AddressFailed(http, cancel);
        return Problems.Of(refusal);
    }

    /// <summary>Links come from the setting, never from what a request claims to be its host.</summary>
    private static InviteResponse Answer(InviteMade made, HouseAddress address) =>
        new(made.Id, address.Of($"/invite/{made.Code}"), made.Code, made.Expires, made.Waits);

    /// <summary>Who mistyped too often may try again at once.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Unlock(
        string id,
        AccountStore accounts,
        SignInGuard guard,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await accounts.Find(id, clock.GetCurrentInstant(), cancel) is not { SignInName: { } name })
            return Problems.NotFound("account with a sign-in name");
        await guard.Unlock(name, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Grant(
        string id,
        RoleRequest request,
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
        var errors = new FieldErrors();
        var role = errors.Word<Role>("role", request.Role, "Choose member, trainer, steward, keeper, countersigner or repair.");
        var until = errors.LastDay("lastDay", request.LastDay, rules);
        if (errors.Any)
            return errors.Answer();
        var given = await accounts.Grant(id, role, Ids.From<MachineId>(Texts.NullIfBlank(request.MachineId)), until, user.Id, now, cancel);
        return given.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndRole(
        long id,
        CurrentUser user,
        AccountStore accounts,
        IClock clock,
        CancellationToken cancel
    )
    {
        var ended = await accounts.EndRole(id, user.Id, clock.GetCurrentInstant(), cancel);
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Consent(
        string id,
        ConsentRequest request,
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
        var errors = new FieldErrors();
        if (Reasons.Wrong(request.Text) is not null)
            errors.Add("text", "Write who gave the consent and how, such as “mother, signed form of 3 May”.");
        var until = errors.LastDay("lastDay", request.LastDay, rules);
        if (until <= now)
            errors.Add("lastDay", "The last day is over already.");
        if (errors.Any)
            return errors.Answer();
        var made = await accounts.Consent(
            id,
            [.. (request.MachineIds ?? []).Distinct()],
            request.Text!.Trim(),
            until,
            user.Id,
            now,
            cancel
        );
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/consents/{made.Value}", new PauseMade(made.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndConsent(
        Guid id,
        CurrentUser user,
        AccountStore accounts,
        IClock clock,
        CancellationToken cancel
    ) =>
        await accounts.EndConsent(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("consent that holds");

    private static async Task<Results<NoContent, ProblemHttpResult>> LegalHold(
        string id,
        LegalHoldRequest request,
        CurrentUser user,
        AccountStore accounts,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        return await accounts.LegalHold(id, request.Hold != false, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("account");
    }

    /// <summary>For a keeper's eyes before erasing: names in free texts are nobody's to find by rule.</summary>
    private static async Task<Results<Ok<MentionList>, ProblemHttpResult>> Mentions(
        string id,
        MentionStore mentions,
        CancellationToken cancel
    ) => await mentions.Of(id, cancel) is { } found ? TypedResults.Ok(new MentionList(found)) : Problems.NotFound("account");

    private static async Task<Results<NoContent, ProblemHttpResult>> EraseText(
        Guid id,
        CurrentUser user,
        MentionStore mentions,
        IClock clock,
        CancellationToken cancel
    ) =>
        await mentions.Erase(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("text that may be erased");

    private static async Task<Results<NoContent, ProblemHttpResult>> Erase(
        string id,
        CurrentUser user,
        PersonalDataStore data,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var erased = await data.Erase(id, user.Id, rules, now, cancel);
        return erased.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
