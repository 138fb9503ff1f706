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

/// <param name="Where">Which lock hangs where.</param>
/// <param name="Holder">Who has its key.</param>
/// <param name="Mine">Whoever asks has it.</param>
public sealed record LockResponse(Guid Id, MachineId MachineId, string Where, string Holder, Instant HungAt, bool Mine);

public sealed record LockList(IReadOnlyList<LockResponse> Items);

public sealed record LockRequest(string? Where = null);

/// <param name="Why">Where whoever takes it off does not have its key.</param>
public sealed record LockOffRequest(string? Why = null);

/// <summary>Locks and tags on machines out of service.</summary>
public static class LockEndpoints
{
    public static void MapLocks(this IEndpointRouteBuilder app)
    {
        var locks = app.MapGroup("/api").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        locks.MapGet("/locks", List).WithName("ListLocks");
        locks
            .MapPost("/machines/{id}/locks", Hang)
            .WithName("HangLock")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        locks
            .MapPost("/locks/{id:guid}/off", TakeOff)
            .WithName("TakeLockOff")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        locks.MapGet("/machines/{id}/tag.pdf", Tag).WithName("PrintTag").Produces(200, contentType: "application/pdf").ProducesProblem(404);
    }

    private static async Task<Ok<LockList>> List(
        CurrentUser user,
        LockStore locks,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var all = await locks.All(cancel);
        var names = await PeopleNames.Of(all.Select(l => l.HolderId), people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(
            new LockList([
                .. all.Select(l => new LockResponse(
                    Id: l.Id,
                    MachineId: l.MachineId,
                    Where: l.WhereText,
                    Holder: names.GetValueOrDefault(l.HolderId, "somebody"),
                    HungAt: l.HungAt,
                    Mine: l.HolderId == user.Id
                )),
            ])
        );
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Hang(
        string id,
        LockRequest request,
        CurrentUser user,
        LockStore locks,
        IClock clock,
        CancellationToken cancel
    )
    {
        var hung = await locks.Hang(id, request.Where, user.Id, clock.GetCurrentInstant(), cancel);
        return hung.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Created($"/api/locks/{hung.Value}", new Made(hung.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeOff(
        Guid id,
        LockOffRequest? request,
        CurrentUser user,
        LockStore locks,
        IClock clock,
        CancellationToken cancel
    )
    {
        var off = await locks.TakeOff(id, request?.Why, user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel);
        return off.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    /// <summary>To hang on a machine out of service. Names stand on it by hand alone: the printed sheet gives none away.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Tag(
        string id,
        HouseStore house,
        LockStore locks,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (
            (await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { Stop: { } stop } machine
            || await house.Rules(now, cancel) is not { } rules
        )
            return Problems.NotFound("stop that holds on this machine");
        using var paper = new Paper($"Do not use: {machine.Spec.Name}", rules.HouseName);
        paper.Line(LockOut.Tag, 16);
        paper.Pair("Why", stop.Reason);
        paper.Pair("Since", HouseDates.Moment(stop.Since, rules));
        foreach (var hung in (await locks.All(cancel)).Where(l => l.MachineId == machine.Spec.Id))
            paper.Pair("Lock", hung.WhereText);
        paper.Pair("Key with", "______________________________");
        paper.Pair("Reached at", "______________________________");
        paper.Line("A lock holds, not this sheet. Plug pulled where there is one; a charge stays after switch-off: wait.", 12);
        paper.Code(address.Of("/machines"));
        return TypedResults.File(paper.Finish(), "application/pdf", $"do-not-use-{id}.pdf");
    }
}
