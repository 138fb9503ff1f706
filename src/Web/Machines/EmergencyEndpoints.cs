using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Machines;

/// <param name="Others">Ids and names of the machines, to find the right card.</param>
public sealed record EmergencyResponse(Card Card, IReadOnlyList<OtherCard> Others);

public sealed record OtherCard(MachineId Id, string Name);

/// <summary>The emergency card: for anyone at the machine, without an account.</summary>
public static class EmergencyEndpoints
{
    public static void MapEmergency(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/machines/{id}/emergency", Card).WithTags("House").WithName("EmergencyCard").AllowAnonymous().ProducesProblem(404);

    private static async Task<Results<Ok<EmergencyResponse>, ProblemHttpResult>> Card(
        string id,
        SheetStore sheets,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, problem) = await Read(id, sheets, house, clock, cancel);
        return problem is null ? TypedResults.Ok(answer!) : problem;
    }

    internal static async Task<(EmergencyResponse? Answer, ProblemHttpResult? Problem)> Read(
        string id,
        SheetStore sheets,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var machines = await sheets.Machines(cancel);
        var machine = machines.FirstOrDefault(m => m.Spec.Id == id);
        return machine is null
            ? (null, Problems.NotFound($"machine as “{id}”"))
            : (
                new EmergencyResponse(
                    EmergencyCard.For(machine.Spec, await sheets.Room(now, cancel), rules),
                    [.. machines.Select(m => new OtherCard(m.Spec.Id, m.Spec.Name))]
                ),
                null
            );
    }
}
