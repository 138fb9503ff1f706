using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Holds after an incident, and the watch after a fire.</summary>
public static class HoldEndpoints
{
    public static void MapIncidentHolds(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/incidents/{id:guid}").WithTags("Incidents").RequireAuthorization(Policy.SignedIn);
        Errors(group.MapPost("/holds", Set).WithName("SetIncidentHolds").RequireAuthorization(Policy.Steward));
        Errors(group.MapPost("/holds/refuse", Refuse).WithName("RefuseIncidentHold").RequireAuthorization(Policy.Steward));
        Errors(group.MapPost("/holds/{hold:guid}/end", End).WithName("EndIncidentHold"));
        Errors(group.MapPost("/watch", Begin).WithName("BeginFireWatch"));
        Errors(group.MapPost("/looks", Look).WithName("MakeFireLook"));
    }

    private static void Errors(RouteHandlerBuilder endpoint) =>
        endpoint.ProducesProblem(400).ProducesProblem(403).ProducesProblem(404).ProducesProblem(409);

    private static async Task<Results<NoContent, ProblemHttpResult>> Set(
        Guid id,
        HoldsRequest request,
        CurrentUser user,
        IncidentHoldStore holds,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var asked = (request.Holds ?? []).Select(h => (Kind: Kind(h.Kind, errors), Target: h.Target?.Trim() ?? "")).ToList();
        if (asked.Count == 0)
            errors.Add("holds", "Name at least one hold.");
        if (errors.Any)
            return errors.Answer();
        var set = await holds.Set(id, asked, rules, user.Id, now, cancel);
        return set.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Refuse(
        Guid id,
        HoldRequest request,
        CurrentUser user,
        IncidentHoldStore holds,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var kind = Kind(request.Kind, errors);
        if (errors.Any)
            return errors.Answer();
        var refused = await holds.Refuse(
            id,
            kind,
            request.Target?.Trim() ?? "",
            request.Reason,
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return refused.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        Guid hold,
        EndHoldRequest request,
        CurrentUser user,
        IncidentHoldStore holds,
        IClock clock,
        CancellationToken cancel
    )
    {
        var ended = await holds.End(
            id,
            hold,
            [.. (request.Checks ?? []).Distinct()],
            request.Reason,
            request.OpticsTouched,
            await user.Is(Role.Steward),
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Begin(
        Guid id,
        WatchRequest request,
        CurrentUser user,
        FireWatchStore watches,
        IncidentReading incidents,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var watcher = Ids.From<PersonId>(Texts.NullIfBlank(request.PersonId)) ?? user.Id;
        if (await MayWatch(id, watcher, user, incidents, cancel) is { } refusal)
            return Problems.Of(refusal);
        var begun = await watches.Begin(id, watcher, rules, user.Id, now, cancel);
        return begun.Refusal is { } no ? Problems.Of(no) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Look(
        Guid id,
        LookAtRequest request,
        CurrentUser user,
        FireWatchStore watches,
        IncidentReading incidents,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await MayWatch(id, user.Id, user, incidents, cancel) is { } wrong)
            return Problems.Of(wrong);
        var errors = new FieldErrors();
        var found = errors.Word<Found>("found", request.Found, "Say what you found: nothing, warm or burning.");
        errors.AtMost("note", request.Note, IncidentRules.TextLongest);
        if (request.Minute is null)
            errors.Add("minute", "Say which look it is.");
        if (errors.Any)
            return errors.Answer();
        var looked = await watches.Look(id, request.Minute!.Value, found, request.Note, user.Id, clock.GetCurrentInstant(), cancel);
        return looked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Refusal?> MayWatch(
        Guid id,
        PersonId watcher,
        CurrentUser user,
        IncidentReading incidents,
        CancellationToken cancel
    )
    {
        if (await incidents.IsPartOf(id, user.Id, cancel) is not { } part)
            return CommonProblems.NotFound.Refuse(null, "incident");
        var staff = await user.Is(Role.Steward, Role.Keeper, Role.Trainer);
        return IncidentRules.MayRead(staff, part) ?? IncidentRules.MayNameWatcher(staff, watcher != user.Id);
    }

    private static HoldKind Kind(string? kind, FieldErrors errors) =>
        errors.Word<HoldKind>("kind", kind, $"Say what is held: {string.Join(", ", Enum.GetNames<HoldKind>())}.");
}
