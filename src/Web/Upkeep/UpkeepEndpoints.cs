using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <param name="MachineId">Null for the workshop room.</param>
/// <param name="Used">In <paramref name="Unit"/>; of airflow the last reading, in per cent; null where nobody read it.</param>
/// <param name="DueSince">Null while it is not due.</param>
/// <param name="Forecast">When it will be due: certain for days, else by the use of the last four weeks; null while nobody can say.</param>
/// <param name="Who">Who does it, in the house’s school of practice.</param>
/// <param name="PlannedWho">As the task says, before the house’s bounds.</param>
/// <param name="MayDo">Whoever asks may do it.</param>
/// <param name="Airflow">Last read, in m³/h.</param>
public sealed record UpkeepResponse(
    string Id,
    long Version,
    MachineId? MachineId,
    string Name,
    UpkeepPart Part,
    UpkeepCounter Counter,
    decimal? Used,
    decimal Limit,
    string Unit,
    decimal SlipPercent,
    bool Due,
    bool Overdue,
    Instant? DueSince,
    Instant? Forecast,
    Instant Since,
    UpkeepWho Who,
    UpkeepWho PlannedWho,
    bool MayDo,
    IReadOnlyList<string> Steps,
    string Kit,
    string Basis,
    decimal? Airflow
);

/// <param name="Items">What is overdue and due first, then by when it will be.</param>
/// <param name="Untended">Machines without any task, or without the one that their class rests on.</param>
/// <param name="Foreseen">What readings of the last weeks say, in sentences.</param>
public sealed record UpkeepList(
    IReadOnlyList<UpkeepResponse> Items,
    IReadOnlyList<MachineId> Untended,
    IReadOnlyList<ForeseenResponse> Foreseen
);

/// <param name="Says">An airflow that will come under its limit, or a sensor that lies apart from what was read by hand.</param>
public sealed record ForeseenResponse(MachineId MachineId, string Says);

/// <param name="Reading">Airflow after the work, in m³/h; for tasks about airflow alone.</param>
/// <param name="Before">The same before it.</param>
/// <param name="Note">What was found.</param>
/// <param name="Used">What it used up, of the stock of the house.</param>
public sealed record UpkeepDoneRequest(
    decimal? Reading = null,
    decimal? Before = null,
    string? Note = null,
    IReadOnlyList<StockUsed>? Used = null
);

/// <param name="Used">As its counter stood.</param>
/// <param name="Photos">That whoever asks may see.</param>
public sealed record UpkeepDoneResponse(
    Guid Id,
    Instant At,
    string By,
    decimal? Used,
    decimal? Before,
    decimal? Reading,
    string? Note,
    IReadOnlyList<UpkeepPhotoResponse> Photos,
    bool MayAddPhoto
);

public sealed record UpkeepDoneList(IReadOnlyList<UpkeepDoneResponse> Items);

/// <param name="MachineId">Left out: the workshop room. A task stays with its machine.</param>
/// <param name="Version">Of the task as it was read; for changes.</param>
public sealed record UpkeepPlanRequest(
    string? MachineId = null,
    long? Version = null,
    string? Name = null,
    string? Part = null,
    string? Counter = null,
    decimal? Limit = null,
    decimal? SlipPercent = null,
    string? Who = null,
    IReadOnlyList<string>? Steps = null,
    string? Kit = null,
    string? Basis = null
);

/// <param name="Unit">In which its limit is given.</param>
public sealed record UpkeepMethodResponse(
    string Name,
    UpkeepPart Part,
    UpkeepCounter Counter,
    decimal Limit,
    string Unit,
    decimal SlipPercent,
    UpkeepWho Who,
    IReadOnlyList<string> Steps,
    string Kit,
    string Basis
);

public sealed record UpkeepMethodList(IReadOnlyList<UpkeepMethodResponse> Items);

/// <param name="Added">How many tasks were added.</param>
public sealed record UpkeepBegun(int Added);

/// <summary>What is due on machines and room, that it was done, and what the house wants done.</summary>
public static class UpkeepEndpoints
{
    public static void MapUpkeep(this IEndpointRouteBuilder app)
    {
        var upkeep = app.MapGroup("/api/upkeep").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        upkeep.MapGet("", List).WithName("Upkeep").ProducesProblem(422);
        upkeep.MapGet("/methods", Methods).WithName("UpkeepMethods");
        upkeep.MapPost("", Add).WithName("AddUpkeep").RequireAuthorization(Policy.Steward).ProducesProblem(400).ProducesProblem(409);
        upkeep
            .MapPut("/{id}", Change)
            .WithName("ChangeUpkeep")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        upkeep.MapDelete("/{id}", End).WithName("EndUpkeep").RequireAuthorization(Policy.Steward).ProducesProblem(404);
        upkeep.MapGet("/{id}/done", Done).WithName("UpkeepHistory");
        upkeep
            .MapPost("/{id}/done", WriteDone)
            .WithName("UpkeepDone")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        app.MapPost("/api/machines/{id}/upkeep", Begin)
            .WithTags("Upkeep")
            .WithName("BeginUpkeep")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(404);
        app.MapPost("/api/machines/{id}/readings", Read)
            .WithTags("Upkeep")
            .WithName("WriteReadings")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<UpkeepList>, ProblemHttpResult>> List(
        string? machineId,
        CurrentUser user,
        UpkeepStore upkeep,
        TrendStore trends,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var machine = string.IsNullOrWhiteSpace(machineId) ? (MachineId?)null : new MachineId(machineId.Trim());
        var tasks = await upkeep.All(machine, rules, now, cancel);
        var hands = await upkeep.HandsOf(user.Id, [.. tasks.Select(t => t.MachineId).Distinct()], now, cancel);
        var here = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToList();
        var lately = await trends.Lately(machine, now, cancel);
        return TypedResults.Ok(
            new UpkeepList(
                [
                    .. tasks
                        .Select(t => Answer(t, UpkeepDone.MayDo(t.Who, hands[t.MachineId?.Value ?? ""])))
                        .OrderBy(t =>
                            t.Overdue ? 0
                            : t.Due ? 1
                            : 2
                        )
                        .ThenBy(t => t.DueSince ?? t.Forecast ?? Instant.MaxValue)
                        .ThenBy(t => t.Name, StringComparer.Ordinal),
                ],
                machine is null ? [.. here.Where(m => UpkeepMethods.IsUntended(m, Parts(tasks, m.Id))).Select(m => m.Id)] : [],
                [
                    .. here.SelectMany(m =>
                        AirflowTrend.Foreseen(m, [.. lately[m.Id]], now, rules.Clock).Select(s => new ForeseenResponse(m.Id, s))
                    ),
                ]
            )
        );
    }

    private static IReadOnlyCollection<UpkeepPart> Parts(IEnumerable<UpkeepTask> tasks, MachineId machine) =>
        [.. tasks.Where(t => t.MachineId == machine).Select(t => t.Plan.Part)];

    private static UpkeepResponse Answer(UpkeepTask t, bool mayDo) =>
        new(
            Id: t.Id,
            Version: t.Version,
            MachineId: t.MachineId,
            Name: t.Plan.Name,
            Part: t.Plan.Part,
            Counter: t.Plan.Counter,
            Used: t.Stand.Used is { } used ? decimal.Round(used, 1) : null,
            Limit: t.Plan.Limit,
            Unit: t.Plan.Unit,
            SlipPercent: t.Plan.SlipPercent,
            Due: t.Stand.Due,
            Overdue: t.Stand.Overdue,
            DueSince: t.Stand.Due ? t.Stand.DueFrom : null,
            Forecast: t.Stand.Due ? null : t.Stand.DueFrom,
            Since: t.Since,
            Who: t.Who,
            PlannedWho: t.Plan.Who,
            MayDo: mayDo,
            Steps: t.Plan.Steps,
            Kit: t.Plan.Kit,
            Basis: t.Plan.Basis,
            Airflow: t.Airflow
        );

    private static async Task<Ok<UpkeepMethodList>> Methods(string? machineId, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var machine = (await house.MachinesHere(clock.GetCurrentInstant(), cancel)).FirstOrDefault(m => m.Spec.Id.Value == machineId);
        var plans = machine is null ? UpkeepMethods.All : UpkeepMethods.For(machine.Spec);
        return TypedResults.Ok(
            new UpkeepMethodList([
                .. plans.Select(p => new UpkeepMethodResponse(
                    Name: p.Name,
                    Part: p.Part,
                    Counter: p.Counter,
                    Limit: p.Limit,
                    Unit: p.Unit,
                    SlipPercent: p.SlipPercent,
                    Who: p.Who,
                    Steps: p.Steps,
                    Kit: p.Kit,
                    Basis: p.Basis
                )),
            ])
        );
    }

    private static Task<Results<Ok<UpkeepResponse>, ProblemHttpResult>> Add(
        UpkeepPlanRequest request,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) => Put(null, request, user, upkeep, house, clock, cancel);

    private static Task<Results<Ok<UpkeepResponse>, ProblemHttpResult>> Change(
        string id,
        UpkeepPlanRequest request,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) => Put(id, request, user, upkeep, house, clock, cancel);

    private static async Task<Results<Ok<UpkeepResponse>, ProblemHttpResult>> Put(
        string? id,
        UpkeepPlanRequest request,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var machine = string.IsNullOrWhiteSpace(request.MachineId) ? (MachineId?)null : new MachineId(request.MachineId.Trim());
        if (machine is not null && (await house.Machines(now, cancel)).All(m => m.Spec.Id != machine))
            errors.Add("machineId", "Choose a machine of the house, or the room.");
        var plan = new UpkeepPlan(
            Name: request.Name?.Trim() ?? "",
            Part: errors.Word<UpkeepPart>("part", request.Part, "Choose what the task is about."),
            Counter: errors.Word<UpkeepCounter>("counter", request.Counter, "Choose what the task counts."),
            Limit: request.Limit ?? 0,
            SlipPercent: request.SlipPercent ?? 0,
            Who: errors.Word<UpkeepWho>("who", request.Who, "Choose who does it."),
            Steps: [.. (request.Steps ?? []).Select(s => s.Trim()).Where(s => s.Length > 0)],
            Kit: request.Kit?.Trim() ?? "",
            Basis: request.Basis?.Trim() ?? ""
        );
        if (!errors.Any && id is null)
            errors.Add(plan.Wrong(machine is not null));
        if (errors.Any)
            return errors.Answer();
        var put = await upkeep.Put(id, request.Version ?? 0, machine, plan, user.Id, rules, now, cancel);
        return put.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(Answer(put.Value, true));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        string id,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var ended = await upkeep.End(id, user.Id, rules, now, cancel);
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Ok<UpkeepDoneList>> Done(
        string id,
        CurrentUser user,
        UpkeepStore upkeep,
        UpkeepPhotoStore photos,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var done = await upkeep.Done(id, cancel);
        var staff = await user.SeesNames();
        var names = await PeopleNames.Of(done.Select(d => d.By), people, staff, clock, cancel);
        var shown = await photos.Of(done.Select(d => d.Id), cancel);
        return TypedResults.Ok(
            new UpkeepDoneList([
                .. done.Select(d => new UpkeepDoneResponse(
                    Id: d.Id,
                    At: d.At,
                    By: names.GetValueOrDefault(d.By, "somebody"),
                    Used: d.Used,
                    Before: d.BeforeM3h,
                    Reading: d.AfterM3h,
                    Note: d.Note,
                    Photos: UpkeepPhotoResponse.Of(shown[d.Id], user.Id, staff),
                    MayAddPhoto: UpkeepPhotos.MayAdd(staff, d.By == user.Id, shown[d.Id].Count()) is null
                )),
            ])
        );
    }

    private static async Task<Results<Ok<UpkeepResponse>, ProblemHttpResult>> WriteDone(
        string id,
        UpkeepDoneRequest? request,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var work = new UpkeepWork(request?.Reading, request?.Before, request?.Note, request?.Used);
        var done = await upkeep.Done(id, work, user.Id, rules, now, cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(Answer(done.Value, true));
    }

    private static async Task<Results<Ok<UpkeepBegun>, ProblemHttpResult>> Begin(
        string id,
        CurrentUser user,
        UpkeepStore upkeep,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { } machine)
            return Problems.NotFound($"machine as “{id}”");
        return TypedResults.Ok(new UpkeepBegun(await upkeep.Begin(machine.Spec, user.Id, rules, now, cancel)));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Read(
        string id,
        HandReading request,
        CurrentUser user,
        ReadingStore readings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var added = await readings.Add(id, request, user.Id, clock.GetCurrentInstant(), cancel);
        return added.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
