using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="TrainerId">Empty takes the one who asks.</param>
/// <param name="Date">House day, such as 2026-12-01.</param>
/// <param name="Time">Start, such as 18:00.</param>
public sealed record InductionRequest(
    string? MachineId = null,
    string? TrainerId = null,
    string? Date = null,
    string? Time = null,
    int? Minutes = null,
    int? Places = null
);

public sealed record InductionMade(Guid Id);

/// <summary>Who was there: by person, true or false.</summary>
public sealed record RollRequest(IReadOnlyDictionary<PersonId, bool>? There = null);

/// <param name="Attended">Null before the roll call.</param>
public sealed record InductionPlace(PersonId PersonId, string Name, bool? Attended);

/// <param name="Taken">Staff and those with a place see who comes; others see none.</param>
/// <param name="Mine">The one who asks has a place.</param>
/// <param name="MayCall">The one who asks is its trainer or a steward.</param>
public sealed record InductionResponse(
    Guid Id,
    MachineId MachineId,
    string Machine,
    PersonId TrainerId,
    string Trainer,
    Instant Start,
    Instant End,
    int Places,
    int Free,
    bool Cancelled,
    bool Mine,
    bool MayCall,
    IReadOnlyList<InductionPlace> Taken
);

public sealed record InductionList(IReadOnlyList<InductionResponse> Items);

/// <summary>Induction sessions: planned by trainers and stewards, places taken by anybody, the roll called by whoever gave it.</summary>
public static class InductionEndpoints
{
    /// <summary>So far back are sessions shown, for the roll call.</summary>
    private const int ShownBackDays = 28;

    public static void MapInductions(this IEndpointRouteBuilder app)
    {
        var sessions = app.MapGroup("/api/inductions").WithTags("Training");
        sessions.MapGet("/", List).WithName("ListInductions").RequireAuthorization(Policy.SignedIn);
        sessions
            .MapPost("/", Plan)
            .WithName("PlanInduction")
            .RequireAuthorization(Policy.Teaches)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(409);
        sessions
            .MapPost("/{id:guid}/place", Take)
            .WithName("TakePlace")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(404)
            .ProducesProblem(409);
        sessions
            .MapPost("/{id:guid}/leave", Leave)
            .WithName("LeavePlace")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(404)
            .ProducesProblem(409);
        sessions
            .MapPost("/{id:guid}/roll", Roll)
            .WithName("CallRoll")
            .RequireAuthorization(Policy.Teaches)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        sessions
            .MapPost("/{id:guid}/cancel", Cancel)
            .WithName("CancelInduction")
            .RequireAuthorization(Policy.Teaches)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Ok<InductionList>> List(
        InductionStore sessions,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var (steward, staff) = (await user.Is(Role.Steward), await user.SeesNames());
        var names = await PeopleNames.All(people, staff, clock, cancel);
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        var all = await sessions.From(now - Duration.FromDays(ShownBackDays), cancel);
        return TypedResults.Ok(
            new InductionList([
                .. all.Where(s => s.End > now || s.TrainerId == user.Id || steward || s.Taken.Any(t => t.PersonId == user.Id))
                    .Select(s =>
                    {
                        var mine = s.Taken.Any(t => t.PersonId == user.Id);
                        string Name(PersonId id) => names.GetValueOrDefault(id, "somebody");
                        return new InductionResponse(
                            Id: s.Id,
                            MachineId: s.MachineId,
                            Machine: machines.GetValueOrDefault(s.MachineId, s.MachineId.Value),
                            TrainerId: s.TrainerId,
                            Trainer: Name(s.TrainerId),
                            Start: s.Start,
                            End: s.End,
                            Places: s.Places,
                            Free: s.Places - s.Taken.Count,
                            Cancelled: s.Cancelled,
                            Mine: mine,
                            MayCall: steward || s.TrainerId == user.Id,
                            Taken: staff || mine
                                ? [.. s.Taken.Select(t => new InductionPlace(t.PersonId, Name(t.PersonId), t.Attended))]
                                : []
                        );
                    }),
            ])
        );
    }

    private static async Task<Results<Created<InductionMade>, ProblemHttpResult>> Plan(
        InductionRequest request,
        InductionStore sessions,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        errors.Need("machineId", request.MachineId, "Choose the machine.");
        var day = errors.NeedDay("date", request.Date, "Give the day, such as 2026-12-01.");
        var time = errors.Time("time", request.Time);
        if (errors.Any)
            return errors.Answer();
        var start = (day + time!.Value).InZoneLeniently(rules.Clock.Zone).ToInstant();
        var (minutes, places) = (request.Minutes ?? 0, request.Places ?? 0);
        foreach (var wrong in Inductions.Wrong(start, minutes, places, rules, now))
            errors.Add(wrong.Field == "start" ? "time" : wrong.Field!, wrong.Text);
        if (errors.Any)
            return errors.Answer();
        var trainer = string.IsNullOrWhiteSpace(request.TrainerId) ? user.Id : request.TrainerId.Trim();
        if (Inductions.MayPlanFor(trainer, user.Id, await user.Is(Role.Steward)) is { } others)
            return Problems.Of(others);
        var planned = await sessions.Plan(
            new Induction(request.MachineId!.Trim(), trainer, new Interval(start, start + Duration.FromMinutes(minutes)), places),
            rules.Clock,
            user.Id,
            now,
            cancel
        );
        return planned.Refusal is { } refusal
            ? Problems.Of(refusal with { Field = refusal.Field == "start" ? "time" : refusal.Field })
            : TypedResults.Created($"/api/inductions/{planned.Value}", new InductionMade(planned.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Take(
        Guid id,
        InductionStore sessions,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) => Answer(await sessions.Take(id, user.Id, clock.GetCurrentInstant(), cancel));

    private static async Task<Results<NoContent, ProblemHttpResult>> Leave(
        Guid id,
        InductionStore sessions,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) => Answer(await sessions.Leave(id, user.Id, clock.GetCurrentInstant(), cancel));

    private static async Task<Results<NoContent, ProblemHttpResult>> Roll(
        Guid id,
        RollRequest request,
        InductionStore sessions,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (request.There is not { Count: > 0 } there)
            return Problems.Of(TrainingProblems.InductionRoll.Refuse("there"));
        return Answer(await sessions.RollCall(id, there, user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Cancel(
        Guid id,
        ReasonRequest request,
        InductionStore sessions,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) =>
        Reasons.Check(request.Reason) is { } problem
            ? problem
            : Answer(
                await sessions.Cancel(id, request.Reason!.Trim(), user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel)
            );

    private static Results<NoContent, ProblemHttpResult> Answer(Result<bool> outcome) =>
        outcome.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
}
