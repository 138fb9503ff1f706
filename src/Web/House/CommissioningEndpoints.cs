using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;
using VelvetGate.Core.Machines;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Class">As it counts now; <paramref name="ClassWhy"/> says why, where that is not what its form says.</param>
/// <param name="Missing">What nobody has shown yet, in words.</param>
/// <param name="NextBy">Last day on which the sheet counts; null without a sheet.</param>
/// <param name="InterlocksAt">Last tried; null where nobody did. They count until <paramref name="InterlocksUntil"/>.</param>
/// <param name="Version">Of the last sheet, 0 without one: pass it back with a change.</param>
/// <param name="Versions">Newest first.</param>
public sealed record MachineCommissioning(
    MachineId MachineId,
    string Name,
    string Class,
    string? ClassWhy,
    IReadOnlyList<string> Missing,
    LocalDate? NextBy,
    Instant? InterlocksAt,
    Instant? InterlocksUntil,
    long Version,
    IReadOnlyList<CommissioningResponse> Versions
);

/// <param name="By">Who wrote it down.</param>
/// <param name="Until">When another took its place; null for the last.</param>
public sealed record CommissioningResponse(CommissioningSheet Sheet, string? By, Instant From, Instant? Until);

/// <param name="Fields">Of the form.</param>
public sealed record CommissioningList(IReadOnlyList<FormField> Fields, IReadOnlyList<MachineCommissioning> Items);

/// <param name="Fields">By key, as typed.</param>
/// <param name="Version">The version that was read; 0 where there was none.</param>
public sealed record CommissioningRequest(JsonElement Fields, long? Version = null);

public sealed record CommissioningWritten(long Version);

/// <summary>How each machine was set up, and what of it nobody has shown.</summary>
public static class CommissioningEndpoints
{
    public static void MapCommissioning(this IEndpointRouteBuilder app)
    {
        var house = app.MapGroup("/api").WithTags("House");
        house.MapGet("/commissioning", All).WithName("Commissioning").RequireAuthorization(Policy.SignedIn).ProducesProblem(409);
        house
            .MapPut("/machines/{id}/commissioning", Put)
            .WithName("WriteCommissioning")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<CommissioningList>, ProblemHttpResult>> All(
        HouseStore house,
        CommissioningStore commissioning,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToList();
        var setUps = await commissioning.SetUps(machines, rules, now, cancel);
        var items = new List<MachineCommissioning>();
        foreach (var machine in machines)
        {
            var versions = await commissioning.Versions(machine.Id, cancel);
            var names = await PeopleNames.Of(versions.Select(v => v.SetBy), people, await user.SeesNames(), clock, cancel);
            items.Add(Answer(machine, setUps[machine.Id], versions, names, rules, now));
        }
        return TypedResults.Ok(new CommissioningList(CommissioningForm.Fields, items));
    }

    private static MachineCommissioning Answer(
        MachineSpec machine,
        SetUpFacts setUp,
        IReadOnlyList<CommissioningVersion> versions,
        IReadOnlyDictionary<PersonId, string> names,
        HouseRules rules,
        Instant now
    ) =>
        new(
            MachineId: machine.Id,
            Name: machine.Name,
            Class: ClassInUse.Of(machine, setUp, rules, now).LaserClass,
            ClassWhy: ClassInUse.WhyFour(machine, setUp, rules, now),
            Missing: setUp.Missing,
            NextBy: setUp.On is { } on ? rules.Clock.DateOf(on).PlusMonths(rules.CommissioningMonths) : null,
            InterlocksAt: setUp.InterlocksAt,
            InterlocksUntil: setUp.InterlocksAt + Duration.FromDays(rules.InterlockDays),
            Version: versions.FirstOrDefault(v => v.Until is null)?.Version ?? 0,
            Versions: [.. versions.Select(v => new CommissioningResponse(v.Sheet, names.GetValueOrDefault(v.SetBy), v.From, v.Until))]
        );

    private static async Task<Results<Ok<CommissioningWritten>, ProblemHttpResult>> Put(
        string id,
        CommissioningRequest request,
        HouseStore house,
        CommissioningStore commissioning,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var read = CommissioningForm.Read(request.Fields, rules.Clock.DateOf(now));
        var errors = new FieldErrors();
        errors.Add(read.Errors);
        if (read.Value is not { } sheet)
            return errors.Answer();
        var put = await commissioning.Put(id, sheet, request.Version ?? 0, user.Id, now, cancel);
        return put.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new CommissioningWritten(put.Value));
    }
}
