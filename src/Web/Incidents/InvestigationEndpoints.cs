using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Causes, actions, closing, teaching cases.</summary>
public static class InvestigationEndpoints
{
    public static void MapInvestigations(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/incidents/{id:guid}").WithTags("Incidents").RequireAuthorization(Policy.SignedIn);
        Errors(group.MapPost("/causes", Causes).WithName("SetIncidentCauses").RequireAuthorization(Policy.Steward));
        Errors(group.MapPost("/actions", AddAction).WithName("AddIncidentAction").RequireAuthorization(Policy.Steward));
        Errors(group.MapPost("/actions/{action:guid}/end", EndAction).WithName("EndIncidentAction"));
        Errors(group.MapPost("/close", Close).WithName("CloseIncident").RequireAuthorization(Policy.Answers));
        Errors(group.MapPost("/reopen", Reopen).WithName("ReopenIncident").RequireAuthorization(Policy.Steward));
        Errors(group.MapPost("/lesson", Teach).WithName("TeachIncident").RequireAuthorization(Policy.Steward));
    }

    private static void Errors(RouteHandlerBuilder endpoint) =>
        endpoint.ProducesProblem(400).ProducesProblem(403).ProducesProblem(404).ProducesProblem(409);

    private static async Task<Results<NoContent, ProblemHttpResult>> Causes(
        Guid id,
        CausesRequest request,
        CurrentUser user,
        InvestigationStore store,
        IClock clock,
        CancellationToken cancel
    ) => Done(await store.SetCauses(id, [.. (request.Codes ?? []).Distinct()], request.Note, user.Id, clock.GetCurrentInstant(), cancel));

    private static async Task<Results<Created<Made>, ProblemHttpResult>> AddAction(
        Guid id,
        ActionRequest request,
        CurrentUser user,
        InvestigationStore store,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var text = errors.Need("text", request.Text, "Write what is done.");
        errors.AtMost("text", request.Text, 1000);
        var owner = errors.Need("ownerId", request.OwnerId, "Choose who does it.");
        var due = errors.NeedDay("due", request.Due, "Give the day until when.");
        var shows = errors.Need("showsBy", request.ShowsBy, "Write what would show that it helped.");
        errors.AtMost("showsBy", request.ShowsBy, 1000);
        var link = Texts.NullIfBlank(request.Link);
        if (link is not null && (link.Length > 200 || link[0] != '/' || link.StartsWith("//", StringComparison.Ordinal)))
            errors.Add("link", "Give an address inside this house, such as /materials/birch-ply.");
        if (errors.Any)
            return errors.Answer();
        var made = await store.AddAction(id, new NewAction(text, owner, due, shows, link), rules, user.Id, now, cancel);
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/incidents/{id}/actions/{made.Value}", new Made(made.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndAction(
        Guid id,
        Guid action,
        EndActionRequest request,
        CurrentUser user,
        InvestigationStore store,
        IClock clock,
        CancellationToken cancel
    ) =>
        Done(
            await store.EndAction(
                id,
                action,
                request.Done,
                request.Words,
                await user.Is(Role.Steward),
                user.Id,
                clock.GetCurrentInstant(),
                cancel
            )
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Close(
        Guid id,
        NoteRequest request,
        CurrentUser user,
        InvestigationStore store,
        IClock clock,
        CancellationToken cancel
    ) =>
        Done(
            await store.Close(
                id,
                request.Note,
                new ClosingRoles(await user.Is(Role.Steward), await user.Is(Role.Countersigner)),
                user.Id,
                clock.GetCurrentInstant(),
                cancel
            )
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Reopen(
        Guid id,
        ReasonRequest request,
        CurrentUser user,
        InvestigationStore store,
        IClock clock,
        CancellationToken cancel
    ) => Done(await store.Reopen(id, request.Reason, user.Id, clock.GetCurrentInstant(), cancel));

    private static async Task<Results<NoContent, ProblemHttpResult>> Teach(
        Guid id,
        WordsRequest request,
        CurrentUser user,
        InvestigationStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.AtMost("words", request.Words, IncidentRules.TextLongest);
        return errors.Any ? errors.Answer() : Done(await store.Teach(id, request.Words, user.Id, clock.GetCurrentInstant(), cancel));
    }

    private static Results<NoContent, ProblemHttpResult> Done<T>(Result<T> result) =>
        result.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
}
