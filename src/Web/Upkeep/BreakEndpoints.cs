using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <summary>A machine on which nothing ran for long.</summary>
/// <param name="UsedAt">When something last ran on it, or it was set up.</param>
/// <param name="MayDo">Whoever asks may look at it and say so.</param>
public sealed record StoodResponse(MachineId MachineId, Instant UsedAt, bool MayDo);

public sealed record StoodList(IReadOnlyList<StoodResponse> Items);

/// <summary>Machines that stood for long, and what is looked at before they run again.</summary>
public static class BreakEndpoints
{
    public static void MapBreaks(this IEndpointRouteBuilder app)
    {
        var breaks = app.MapGroup("/api").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        breaks.MapGet("/upkeep/breaks", List).WithName("ListBreaks").ProducesProblem(409);
        breaks
            .MapPost("/machines/{id}/after-break", Check)
            .WithName("CheckAfterBreak")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<StoodList>, ProblemHttpResult>> List(
        CurrentUser user,
        BreakStore breaks,
        UpkeepStore upkeep,
        CommissioningStore commissioning,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToList();
        var setUps = await commissioning.SetUps(machines, rules, now, cancel);
        var used = await breaks.LastUse(now, cancel);
        var stood = machines
            .Select(m => (m.Id, At: Breaks.LastUse(used[m.Id].Ran, used[m.Id].Looked, setUps[m.Id])))
            .Where(m => Breaks.IsAfter(m.At, now, rules))
            .ToList();
        var hands = await upkeep.HandsOf(user.Id, [.. stood.Select(m => (MachineId?)m.Id)], now, cancel);
        return TypedResults.Ok(
            new StoodList([
                .. stood.Select(m => new StoodResponse(m.Id, m.At!.Value, UpkeepDone.MayDo(UpkeepWho.Trainer, hands[m.Id.Value]))),
            ])
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Check(
        string id,
        BreakCheck? check,
        CurrentUser user,
        BreakStore breaks,
        IClock clock,
        CancellationToken cancel
    )
    {
        var done = await breaks.Check(id, check ?? new BreakCheck(), user.Id, clock.GetCurrentInstant(), cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
