using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Store.House;
using VelvetGate.Store.Settings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Settings;

/// <summary>How the logged runs of a machine compare with the estimates of their drawings.</summary>
/// <param name="MayAccept">A steward accepts what is proposed.</param>
public sealed record RunTimesResponse(
    MachineId MachineId,
    string MachineName,
    int FewestRuns,
    IReadOnlyList<TimeComparison> Operations,
    bool MayAccept
);

/// <param name="Factor">As it was proposed; null takes an accepted one away.</param>
public sealed record AcceptTimesRequest(string? Operation = null, decimal? Factor = null);

public static class RunTimeEndpoints
{
    public static void MapRunTimes(this IEndpointRouteBuilder app)
    {
        var times = app.MapGroup("/api/machines/{id}/run-times").WithTags("Settings");
        times.MapGet("", Compare).WithName("RunTimes").RequireAuthorization(Policy.SignedIn).ProducesProblem(404);
        times
            .MapPost("", Accept)
            .WithName("AcceptRunTimes")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<RunTimesResponse>, ProblemHttpResult>> Compare(
        string id,
        CurrentUser user,
        HouseStore house,
        RunTimesStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { Spec: { } machine })
            return Problems.NotFound($"machine as “{id}”");
        var compared = Calibration.Of(await store.Runs(machine, now, cancel), machine.TimeFactors);
        return TypedResults.Ok(
            new RunTimesResponse(machine.Id, machine.Name, Calibration.FewestRuns, compared, await user.Is(Role.Steward))
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Accept(
        string id,
        AcceptTimesRequest request,
        CurrentUser user,
        HouseStore house,
        RunTimesStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { Spec: { } machine })
            return Problems.NotFound($"machine as “{id}”");
        var errors = new FieldErrors();
        var operation = errors.Word<Operation>("operation", request.Operation, "Say which: cut, score or engrave.");
        if (errors.Any)
            return errors.Answer();
        var compared = Calibration.Of(await store.Runs(machine, now, cancel), machine.TimeFactors);
        var factor = Calibration.Accept(compared, operation, request.Factor);
        if (factor.Refusal is { } moved)
            return Problems.Of(moved);
        var kept = await store.Accept(machine.Id, operation, factor.Value, user.Id, now, cancel);
        return kept.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
