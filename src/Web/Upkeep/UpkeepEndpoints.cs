using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

public sealed record UpkeepResponse(string Id, MachineId MachineId, string Name, Instant OverdueFrom, bool Overdue);

public sealed record UpkeepList(IReadOnlyList<UpkeepResponse> Items);

/// <param name="Reason">What was done and found.</param>
/// <param name="NextDay">The last day before it is overdue again, such as 2027-01-15; left out, a month from today.</param>
public sealed record UpkeepDoneRequest(string? Reason = null, string? NextDay = null);

/// <summary>What is due on the machines, and that a steward did it.</summary>
public static class UpkeepEndpoints
{
    public static void MapUpkeep(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/upkeep", List).WithTags("House").WithName("Upkeep").RequireAuthorization(Policy.SignedIn);
        app.MapPost("/api/upkeep/{id}/done", Done)
            .WithTags("House")
            .WithName("UpkeepDone")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .RequireAuthorization(Policy.Steward);
    }

    private static async Task<Ok<UpkeepList>> List(UpkeepStore upkeep, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        return TypedResults.Ok(new UpkeepList([.. (await upkeep.All(now, cancel)).Select(t => Answer(t, now))]));
    }

    private static UpkeepResponse Answer(UpkeepTask t, Instant now) => new(t.Id, t.MachineId, t.Name, t.OverdueFrom, t.OverdueFrom <= now);

    private static async Task<Results<Ok<UpkeepResponse>, ProblemHttpResult>> Done(
        string id,
        UpkeepDoneRequest request,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var day = rules.Clock.DateOf(now).PlusMonths(1);
        if (!string.IsNullOrWhiteSpace(request.NextDay))
        {
            if (Typed.Day(request.NextDay) is not { } next)
                return Problems.Of(UpkeepProblems.UpkeepNextUnread.Refuse("nextDay"));
            day = next;
        }
        var done = await upkeep.Done(id, user.Id, request.Reason!.Trim(), rules.Clock.Day(day).End, now, cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(Answer(done.Value, now));
    }
}
