using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Station;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <param name="Heard">Of its last message; null before the first.</param>
/// <param name="Silent">Nothing was read for ten seconds.</param>
/// <param name="Boot">How often it has booted.</param>
/// <param name="LostReadings">That never came, since its last boot.</param>
/// <param name="ClockApartSeconds">Its clock less the house’s. It decides nothing.</param>
public sealed record ControllerResponse(
    string Serial,
    MachineId MachineId,
    Instant EnrolledAt,
    Instant? Heard,
    bool Silent,
    int Boot,
    long LostReadings,
    int? ClockApartSeconds
);

/// <param name="On">This house has a broker and a station key.</param>
public sealed record ControllersResponse(bool On, IReadOnlyList<ControllerResponse> Controllers);

/// <param name="Serial">As it stands on the box.</param>
public sealed record EnrolRequest(string? MachineId = null, string? Serial = null);

/// <param name="Key">Base 64, for the controller. Shown this once.</param>
public sealed record EnrolledResponse(string Serial, MachineId MachineId, string Key);

/// <summary>Controllers of the machines: enrolled by a keeper, and revoked.</summary>
public static class ControllerEndpoints
{
    public static void MapControllers(this IEndpointRouteBuilder app)
    {
        var controllers = app.MapGroup("/api/controllers").WithTags("Station").RequireAuthorization(Policy.Keeper);
        controllers.MapGet("", All).WithName("Controllers");
        controllers.MapPost("", Enrol).WithName("EnrolController").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
        controllers.MapDelete("/{serial}", Revoke).WithName("RevokeController").ProducesProblem(404);
    }

    private static async Task<Ok<ControllersResponse>> All(
        ControllerStore store,
        ControllerSettings settings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            new ControllersResponse(
                settings.IsOn,
                [
                    .. (await store.Enrolled(cancel)).Select(c => new ControllerResponse(
                        Serial: c.Serial,
                        MachineId: c.MachineId,
                        EnrolledAt: c.EnrolledAt,
                        Heard: c.Live?.HeardAt,
                        Silent: c.Live?.IsSilent(now) ?? true,
                        Boot: c.Boot,
                        LostReadings: c.Gaps,
                        ClockApartSeconds: c.Live?.ClockApartSeconds
                    )),
                ]
            )
        );
    }

    private static async Task<Results<Ok<EnrolledResponse>, ProblemHttpResult>> Enrol(
        EnrolRequest request,
        CurrentUser user,
        ControllerStore store,
        ControllerSettings settings,
        Store.House.HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (settings.Keys is not { } keys)
            return Problems.Of(StationProblems.ControllerOff.Refuse());
        var now = clock.GetCurrentInstant();
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id.Value == request.MachineId) is not { Spec: var spec })
            return Problems.NotFound($"machine as “{request.MachineId}”");
        var serial = (request.Serial ?? "").Trim();
        var salt = Convert.ToBase64String(RandomNumberGenerator.GetBytes(16));
        var enrolled = await store.Enrol(serial, spec.Id, salt, user.Id, now, cancel);
        return enrolled.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Ok(new EnrolledResponse(serial, spec.Id, Convert.ToBase64String(keys.Controller(serial, salt))));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Revoke(
        string serial,
        CurrentUser user,
        ControllerStore store,
        ControllerLink link,
        IClock clock,
        CancellationToken cancel
    )
    {
        var machine = (await store.Enrolled(cancel)).FirstOrDefault(c => c.Serial == serial)?.MachineId;
        var revoked = await store.Revoke(serial, user.Id, clock.GetCurrentInstant(), cancel);
        if (revoked.Refusal is { } refusal)
            return Problems.Of(refusal);
        if (machine is { } of)
            await link.Drop(of, "revoked", cancel);
        return TypedResults.NoContent();
    }
}
