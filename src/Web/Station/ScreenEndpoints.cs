using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Station;
using VelvetGate.Store.House;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

public sealed record ScreenResponse(Guid Id, string Name, Instant EnrolledAt);

public sealed record ScreenList(IReadOnlyList<ScreenResponse> Items);

/// <param name="Name">Such as “tablet at Heron”.</param>
public sealed record ScreenRequest(string? Name = null);

/// <summary>Screens that stand at a machine: a keeper enrolls the one they are signed in on.</summary>
public static class ScreenEndpoints
{
    public static void MapScreens(this IEndpointRouteBuilder app)
    {
        var screens = app.MapGroup("/api/stations/{machine}/devices").WithTags("Station").RequireAuthorization(Policy.Keeper);
        screens.MapGet("", All).WithName("Screens");
        screens.MapPost("", Enrol).WithName("EnrolScreen").RequireRecentSignIn().ProducesProblem(400).ProducesProblem(404);
        screens.MapDelete("/{id:guid}", Revoke).WithName("RevokeScreen").ProducesProblem(404);
    }

    private static async Task<Ok<ScreenList>> All(string machine, DeviceStore devices, CancellationToken cancel) =>
        TypedResults.Ok(
            new ScreenList([.. (await devices.Enrolled(machine, cancel)).Select(d => new ScreenResponse(d.Id, d.Name, d.EnrolledAt))])
        );

    private static async Task<Results<Ok<ScreenResponse>, ProblemHttpResult>> Enrol(
        string machine,
        ScreenRequest request,
        HttpContext http,
        CurrentUser user,
        HouseStore house,
        DeviceStore devices,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if ((await house.MachinesHere(now, cancel)).All(m => m.Spec.Id != machine))
            return Problems.NotFound($"machine as “{machine}”");
        var name = (request.Name ?? "").Trim();
        if (Fobs.MayEnrol(name) is { } not)
            return Problems.Of(not);
        var secret = StationScreens.NewSecret();
        var device = await devices.Enrol(machine, name, secret, user.Id, now, cancel);
        StationScreens.Mark(http, device.Id, secret);
        return TypedResults.Ok(new ScreenResponse(device.Id, device.Name, device.EnrolledAt));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Revoke(
        string machine,
        Guid id,
        CurrentUser user,
        DeviceStore devices,
        IClock clock,
        CancellationToken cancel
    )
    {
        var revoked = await devices.Revoke(machine, id, user.Id, clock.GetCurrentInstant(), cancel);
        return revoked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
