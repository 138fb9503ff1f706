using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Says">What is written down of it.</param>
/// <param name="Months">Usually again after so many; null where only a change brings it.</param>
/// <param name="Basis">Where the months come from.</param>
public sealed record PaperFormResponse(PaperKind Kind, string Name, string By, string Says, int? Months, bool OfMachine, string Basis);

/// <param name="Next">Its next day; null where only a change brings it.</param>
/// <param name="Over">Its next day has come.</param>
/// <param name="Current">The newest of its kind: the others stay on record.</param>
public sealed record HousePaperResponse(
    Guid Id,
    PaperKind Kind,
    MachineId? MachineId,
    LocalDate On,
    LocalDate? Next,
    string By,
    string Says,
    bool Over,
    bool Current,
    string RecordedBy
);

/// <param name="Missing">What nobody has entered yet, with its machine.</param>
public sealed record HousePaperList(
    IReadOnlyList<PaperFormResponse> Kinds,
    IReadOnlyList<HousePaperResponse> Items,
    IReadOnlyList<MissingPaper> Missing
);

public sealed record MissingPaper(PaperKind Kind, MachineId? MachineId);

/// <param name="OnDay">ISO 8601, such as 2026-11-24.</param>
/// <param name="NextDay">Left out where only a change brings it.</param>
public sealed record HousePaperRequest(
    string? Kind = null,
    string? MachineId = null,
    string? OnDay = null,
    string? NextDay = null,
    string? By = null,
    string? Says = null
);

/// <summary>Papers that inspectors and insurers ask for, each with its day and the next one.</summary>
public static class PaperEndpoints
{
    public static void MapHousePapers(this IEndpointRouteBuilder app)
    {
        var papers = app.MapGroup("/api/house/papers").WithTags("House");
        papers.MapGet("", List).WithName("HousePapers").RequireAuthorization(Policy.Staff).ProducesProblem(409);
        papers.MapPost("", Add).WithName("AddHousePaper").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(409);
    }

    private static async Task<Results<Ok<HousePaperList>, ProblemHttpResult>> List(
        PaperStore papers,
        PeopleStore people,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var today = rules.Clock.DateOf(now);
        var here = (await house.MachinesHere(now, cancel)).Select(m => m.Spec.Id).ToList();
        var all = await papers.All(cancel);
        var names = await PeopleNames.Of(all.Select(p => p.RecordedBy), people, true, clock, cancel);
        var current = all.GroupBy(p => (p.Kind, p.MachineId)).ToDictionary(g => g.Key, g => g.First().Id);
        return TypedResults.Ok(
            new HousePaperList(
                [
                    .. Papers.All.Select(f => new PaperFormResponse(
                        Kind: f.Kind,
                        Name: f.Name,
                        By: f.By,
                        Says: f.Says,
                        Months: f.Months,
                        OfMachine: f.OfMachine,
                        Basis: f.Basis
                    )),
                ],
                [
                    .. all.Where(p => p.MachineId is null || here.Contains(p.MachineId.Value))
                        .Select(p => new HousePaperResponse(
                            Id: p.Id,
                            Kind: p.Kind,
                            MachineId: p.MachineId,
                            On: p.On,
                            Next: p.Next,
                            By: p.By,
                            Says: p.Says,
                            Over: Papers.IsOver(p.Next, today),
                            Current: current[(p.Kind, p.MachineId)] == p.Id,
                            RecordedBy: names.GetValueOrDefault(p.RecordedBy, "somebody")
                        )),
                ],
                [
                    .. Papers
                        .All.Where(f => f.Kind != PaperKind.DetectorIsolated)
                        .SelectMany(f => f.OfMachine ? here.Select(m => new MissingPaper(f.Kind, m)) : [new MissingPaper(f.Kind, null)])
                        .Where(m => !current.ContainsKey((m.Kind, m.MachineId))),
                ]
            )
        );
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Add(
        HousePaperRequest request,
        CurrentUser user,
        PaperStore papers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var kind = errors.Word<PaperKind>("kind", request.Kind, "Choose what kind of paper it is.");
        var machine = string.IsNullOrWhiteSpace(request.MachineId) ? (MachineId?)null : new MachineId(request.MachineId.Trim());
        if (machine is not null && (await house.Machines(now, cancel)).All(m => m.Spec.Id != machine))
            errors.Add("machineId", "Choose a machine of the house.");
        var on = errors.NeedDay("onDay", request.OnDay, "Enter the day on which it was done.");
        var next = errors.Day("nextDay", request.NextDay);
        var (by, says) = (request.By?.Trim() ?? "", request.Says?.Trim() ?? "");
        if (!errors.Any)
            errors.Add(Papers.Wrong(kind, machine is not null, on, next, by, says, rules.Clock.DateOf(now)));
        if (errors.Any)
            return errors.Answer();
        var paper = new HousePaper(
            Id: Guid.NewGuid(),
            Kind: kind,
            MachineId: machine,
            On: on,
            Next: next,
            By: by,
            Says: says,
            RecordedAt: now,
            RecordedBy: user.Id
        );
        return TypedResults.Created($"/api/house/papers#{paper.Id}", new Made(await papers.Add(paper, cancel)));
    }
}
