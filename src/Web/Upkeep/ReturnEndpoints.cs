using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <param name="Reason">What was done and found.</param>
/// <param name="Touched">What was touched, such as optics or interlock; empty for nothing.</param>
/// <param name="OpticsTouched">The same in one word, where nothing but the optics is asked about.</param>
/// <param name="Tested">What was tried, where something was touched.</param>
public sealed record ReturnRequest(
    string? Reason = null,
    IReadOnlyList<string>? Touched = null,
    bool? OpticsTouched = null,
    ReturnTests? Tested = null
);

/// <param name="Touched">At least one of optics, tube, alignment, interlock, extraction, coolant and other.</param>
/// <param name="By">Who did it: a name, or a firm and its fitter.</param>
/// <param name="Note">What was done.</param>
public sealed record ServiceRequest(IReadOnlyList<string>? Touched = null, string? By = null, string? Note = null);

/// <param name="StopId">It comes back by this stop.</param>
public sealed record ServiceResponse(
    Guid Id,
    MachineId MachineId,
    Guid StopId,
    Instant At,
    string By,
    IReadOnlyList<string> Touched,
    string Note,
    string? RecordedBy
);

public sealed record ServiceList(IReadOnlyList<ServiceResponse> Items);

/// <summary>Machines out of service: work on them, and their return by what was touched.</summary>
public static class ReturnEndpoints
{
    public static void MapReturns(this IEndpointRouteBuilder app)
    {
        var returns = app.MapGroup("/api").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        returns
            .MapPost("/machines/{id}/return", ReturnAll)
            .WithName("ReturnMachineWhole")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        returns
            .MapPost("/stops/{id:guid}/return", Return)
            .WithName("ReturnMachine")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        returns
            .MapPost("/machines/{id}/service", Service)
            .WithName("WriteService")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        returns.MapGet("/machines/{id}/service", Visits).WithName("ListService");
    }

    /// <summary>Every stop that stands on a machine, with one reason: what was done and checked.</summary>
    private static async Task<Results<NoContent, Accepted<HoldResponse>, ProblemHttpResult>> ReturnAll(
        string id,
        ReturnRequest request,
        CurrentUser user,
        HouseStore house,
        ReturnStore returns,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var said = Said(request, errors);
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        var stops = await house.Stops(id, now, cancel);
        if (stops.Count == 0)
            return Problems.NotFound("stop that holds on this machine");
        var waits = false;
        foreach (var stop in stops)
        {
            var ending = await returns.Return(stop, said, user.Id, await user.Is(Role.Steward), now, cancel);
            // Somebody returned this one at the same moment.
            if (ending.Refusal is { Problem.Kind: ProblemKind.NotFound })
                continue;
            if (ending.Refusal is { } refusal)
                return Problems.Of(refusal);
            waits |= ending.Value != HoldEnding.Ends;
        }
        return waits ? TypedResults.Accepted((string?)null, HoldResponse.Noted) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, Accepted<HoldResponse>, ProblemHttpResult>> Return(
        Guid id,
        ReturnRequest request,
        CurrentUser user,
        ReturnStore returns,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var said = Said(request, errors);
        if (errors.Any)
            return errors.Answer();
        var ending = await returns.Return(id, said, user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel);
        if (ending.Refusal is { } refusal)
            return Problems.Of(refusal);
        return ending.Value == HoldEnding.Ends ? TypedResults.NoContent() : TypedResults.Accepted((string?)null, HoldResponse.Noted);
    }

    private static ReturnSaid Said(ReturnRequest request, FieldErrors errors)
    {
        var touched = request.Touched is null ? null : Parts(request.Touched, errors);
        if (request.OpticsTouched is { } optics)
            touched = [.. touched ?? [], .. optics ? new[] { Touched.Optics } : []];
        return new(errors.Reason("reason", request.Reason), touched?.Distinct().ToList(), request.Tested ?? new ReturnTests());
    }

    private static List<Touched> Parts(IReadOnlyList<string> words, FieldErrors errors) =>
        [.. words.Select(w => errors.Word<Touched>("touched", w, "Choose from what is listed."))];

    private static async Task<Results<Created<ServiceResponse>, ProblemHttpResult>> Service(
        string id,
        ServiceRequest request,
        CurrentUser user,
        ReturnStore returns,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var touched = Parts(request.Touched ?? [], errors);
        if (errors.Any)
            return errors.Answer();
        var visit = await returns.Service(
            machine: id,
            touched: touched,
            doneBy: request.By ?? "",
            note: request.Note ?? "",
            by: user.Id,
            steward: await user.Is(Role.Steward),
            now: clock.GetCurrentInstant(),
            cancel: cancel
        );
        if (visit.Refusal is { } refusal)
            return Problems.Of(refusal);
        var name = await PeopleNames.Of(user.Id, people, true, clock, cancel);
        return TypedResults.Created($"/api/machines/{id}/service", Answer(visit.Value, name));
    }

    private static async Task<Ok<ServiceList>> Visits(
        string id,
        CurrentUser user,
        ReturnStore returns,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var visits = await returns.Visits(id, cancel);
        var names = await PeopleNames.Of(visits.Select(v => v.RecordedBy), people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(new ServiceList([.. visits.Select(v => Answer(v, names.GetValueOrDefault(v.RecordedBy)))]));
    }

    private static ServiceResponse Answer(ServiceVisit v, string? recordedBy) =>
        new(
            Id: v.Id,
            MachineId: v.MachineId,
            StopId: v.StopId,
            At: v.At,
            By: v.DoneBy,
            Touched: v.Touched,
            Note: v.Note,
            RecordedBy: recordedBy
        );
}
