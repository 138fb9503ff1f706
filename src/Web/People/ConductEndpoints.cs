using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="Matter">leftRunning, interlockBypassed, neverStock or other.</param>
/// <param name="Step">note, warning, lastWarning or pause; empty takes what the ladder says.</param>
public sealed record ConductRequest(string? Matter = null, string? Step = null, string? MachineId = null, string? Text = null);

public sealed record TextRequest(string? Text = null);

/// <param name="Outcome">upheld or lifted.</param>
/// <param name="HeardOn">Day of the hearing; empty takes today.</param>
public sealed record HearRequest(string? Outcome = null, string? HeardOn = null, string? Text = null);

/// <param name="ByRule">What the ladder said.</param>
/// <param name="MayAppeal">The one who asks may.</param>
/// <param name="MayHear">The one who asks was not involved, and an appeal waits.</param>
public sealed record ConductResponse(
    Guid Id,
    PersonId PersonId,
    string Name,
    MachineId? MachineId,
    ConductMatter Matter,
    ConductStep Step,
    ConductStep ByRule,
    string WrittenBy,
    string? Text,
    Instant At,
    AppealResponse? Appeal,
    bool MayAppeal,
    bool MayHear
);

/// <param name="Outcome">Null while it waits.</param>
public sealed record AppealResponse(string? Text, Instant At, string? HeardBy, LocalDate? HeardOn, string? Outcome, string? OutcomeText);

public sealed record ConductList(IReadOnlyList<ConductResponse> Items);

/// <param name="LeftRunning">Step that the ladder says for each matter now.</param>
public sealed record ConductNext(ConductStep LeftRunning, ConductStep InterlockBypassed, ConductStep NeverStock, ConductStep Other);

/// <summary>The conduct ladder: written by stewards, read by the person, appealed to somebody who was not involved.</summary>
public static class ConductEndpoints
{
    public static void MapConduct(this IEndpointRouteBuilder app)
    {
        var conduct = app.MapGroup("/api").WithTags("People");
        conduct.MapGet("/people/{id}/conduct", List).WithName("ListConduct").RequireAuthorization(Policy.SignedIn).ProducesProblem(403);
        conduct.MapGet("/people/{id}/conduct/next", Next).WithName("NextConduct").RequireAuthorization(Policy.Steward);
        conduct
            .MapPost("/people/{id}/conduct", Write)
            .WithName("WriteConduct")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
        conduct.MapGet("/appeals", Waiting).WithName("ListAppeals").RequireAuthorization(Policy.Answers);
        conduct
            .MapPost("/conduct/{id:guid}/appeal", Appeal)
            .WithName("Appeal")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        conduct
            .MapPost("/conduct/{id:guid}/hear", Hear)
            .WithName("HearAppeal")
            .RequireAuthorization(Policy.Answers)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<ConductList>, ProblemHttpResult>> List(
        string id,
        ConductStore conduct,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) =>
        id != user.Id && !await user.Is(Role.Steward, Role.Countersigner)
            ? Problems.Of(PeopleProblems.ConductNotYours.Refuse())
            : TypedResults.Ok(await Answer(await conduct.Of(id, cancel), people, user, clock, cancel));

    private static async Task<Ok<ConductList>> Waiting(
        ConductStore conduct,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) => TypedResults.Ok(await Answer(await conduct.Waiting(cancel), people, user, clock, cancel));

    private static async Task<ConductList> Answer(
        IEnumerable<ConductNow> entries,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var names = await PeopleNames.All(people, true, clock, cancel);
        var hears = await user.Is(Role.Steward, Role.Countersigner);
        string Name(PersonId id) => names.GetValueOrDefault(id, "somebody");
        return new ConductList([
            .. entries.Select(e => new ConductResponse(
                Id: e.Id,
                PersonId: e.PersonId,
                Name: Name(e.PersonId),
                MachineId: e.MachineId,
                Matter: e.Matter,
                Step: e.Step,
                ByRule: e.ByRule,
                WrittenBy: Name(e.WrittenBy),
                Text: e.Text,
                At: e.At,
                Appeal: e.Appeal is { } a
                    ? new AppealResponse(a.Text, a.At, a.HeardBy is { } h ? Name(h) : null, a.HeardOn, a.Outcome, a.OutcomeText)
                    : null,
                MayAppeal: e.PersonId == user.Id && e.Appeal is null,
                MayHear: hears && e.Appeal is { Outcome: null } && ConductLadder.MayHear(e.PersonId, e.WrittenBy, user.Id) is null
            )),
        ]);
    }

    private static async Task<Results<Ok<ConductNext>, ProblemHttpResult>> Next(
        string id,
        ConductStore conduct,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        async Task<ConductStep> Of(ConductMatter matter) => await conduct.Next(id, matter, rules, now, cancel);
        return TypedResults.Ok(
            new ConductNext(
                await Of(ConductMatter.LeftRunning),
                await Of(ConductMatter.InterlockBypassed),
                await Of(ConductMatter.NeverStock),
                await Of(ConductMatter.Other)
            )
        );
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Write(
        string id,
        ConductRequest request,
        ConductStore conduct,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var matter = errors.Word<ConductMatter>("matter", request.Matter, "Choose what happened.");
        ConductStep? step = string.IsNullOrWhiteSpace(request.Step)
            ? null
            : errors.Word<ConductStep>("step", request.Step, "Choose what follows, or leave it to the ladder.");
        errors.Reason("text", request.Text, "Write what happened, in a sentence or two.");
        if (errors.Any)
            return errors.Answer();
        var follows = step ?? await conduct.Next(id, matter, rules, now, cancel);
        var written = await conduct.Write(
            id,
            Ids.From<MachineId>(Texts.NullIfBlank(request.MachineId)),
            matter,
            follows,
            request.Text!.Trim(),
            user.Id,
            rules,
            now,
            cancel
        );
        return written.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/conduct/{written.Value}", new PauseMade(written.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Appeal(
        Guid id,
        TextRequest request,
        ConductStore conduct,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (WrittenReason.Wrong(request.Text) is not null)
            return Problems.Of(
                string.IsNullOrWhiteSpace(request.Text)
                    ? PeopleProblems.AppealText.Refuse("text")
                    : PeopleProblems.AppealLong.Refuse("text", WrittenReason.Longest)
            );
        return Done(await conduct.Appeal(id, request.Text!.Trim(), user.Id, clock.GetCurrentInstant(), cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Hear(
        Guid id,
        HearRequest request,
        ConductStore conduct,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var today = rules.Clock.DateOf(now);
        var day = errors.Day("heardOn", request.HeardOn) ?? today;
        if (day > today)
            errors.Add("heardOn", "The hearing is still to come. Write its outcome when it is over.");
        if (request.Outcome is not ("upheld" or "lifted"))
            errors.Add("outcome", "Say upheld or lifted.");
        errors.Reason("text", request.Text);
        if (errors.Any)
            return errors.Answer();
        return Done(await conduct.Hear(id, request.Outcome == "lifted", day, request.Text!.Trim(), user.Id, now, cancel));
    }

    private static Results<NoContent, ProblemHttpResult> Done(Result<bool> outcome) =>
        outcome.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
}
