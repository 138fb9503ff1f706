using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="Standing">One word for it over all machines.</param>
public sealed record MaterialResponse(
    MaterialId Id,
    string Name,
    string Family,
    IReadOnlyList<string> Synonyms,
    Evidence Evidence,
    string Hazard,
    string Handling,
    IReadOnlyList<string> Reasons,
    IReadOnlyList<TwinResponse> Twins,
    RulingStatus Standing,
    IReadOnlyList<ShelfCell> Cells,
    IReadOnlyList<RulingResponse> Rulings,
    int Version
);

/// <param name="Members">The other members of the group.</param>
/// <param name="Dangerous">True when one of them is banned or never allowed.</param>
public sealed record TwinResponse(IReadOnlyList<string> Members, bool FreshEdgeTells, string TellsApart, bool Dangerous);

public sealed record RulingResponse(
    LaserKind Kind,
    Operation Operation,
    decimal MinMm,
    decimal? MaxMm,
    RulingStatus Standing,
    Evidence Evidence,
    bool FilteredNeedsArrangement
);

public sealed record MaterialList(IReadOnlyList<MaterialResponse> Items);

public sealed record SheetResponse(
    SheetTag Tag,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    bool Cleared,
    Instant? ClearedUntil,
    bool Quarantined,
    string State
);

public sealed record SheetList(IReadOnlyList<SheetResponse> Items);

public static class MaterialEndpoints
{
    public static void MapMaterials(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Materials").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/materials", List).WithName("ListMaterials").ProducesProblem(400);
        group.MapGet("/sheets", Sheets).WithName("ListSheets");
    }

    /// <param name="find">Any name people use for it.</param>
    /// <param name="machine">With <paramref name="thickness"/>: only what may go into this machine so thick, cut unless
    /// <paramref name="operation"/> says otherwise.</param>
    /// <param name="on">A house day: the list as it held at its beginning.</param>
    private static async Task<Results<Ok<MaterialList>, ProblemHttpResult>> List(
        string? unit,
        string? find,
        string? machine,
        string? thickness,
        string? operation,
        string? on,
        MaterialStore materials,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        var now = clock.GetCurrentInstant();
        var at = now;
        if (!string.IsNullOrWhiteSpace(on))
        {
            if (await house.Rules(now, cancel) is not { } rules)
                return Problems.NoRules();
            if (Typed.Day(on) is not { } day)
                return Problems.Of(CommonProblems.DayBad.Refuse("on"));
            // Today reads as it is now, and any other day as it began.
            if (day != rules.Clock.DateOf(now))
                at = rules.Clock.Day(day).Start;
        }
        var (all, rulings, twins, versions) = await materials.Shelf(at, cancel);
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToList();
        var thick = string.IsNullOrWhiteSpace(thickness) ? (Result<decimal>?)null : Length.Parse(thickness, shown.Value);
        if (thick?.Refusal is { } badThickness)
            return Problems.Of(badThickness with { Field = "thickness" });
        var wanted = string.IsNullOrWhiteSpace(machine) ? null : machines.FirstOrDefault(m => m.Id == machine);
        if (wanted is null && !string.IsNullOrWhiteSpace(machine))
            return Problems.NotFound("machine");
        if ((string.IsNullOrWhiteSpace(operation) ? Operation.Cut : Typed.Word<Operation>(operation)) is not { } does)
            return Problems.Of(MaterialsProblems.OperationBad.Refuse("operation"));
        var byMaterial = rulings.ToLookup(r => r.MaterialId);
        var names = all.ToDictionary(m => m.Id, m => m.Name);
        var byId = all.ToDictionary(m => m.Id);
        return TypedResults.Ok(
            new MaterialList([.. MaterialSearch.Find(all, find ?? "").Select(id => byId[id]).Where(Serves).Select(Answer)])
        );

        bool Serves(Material m) =>
            thick is not { } mm
            || machines
                .Where(x => wanted is null || x == wanted)
                .Any(x => Shelf.At(x, byMaterial[m.Id], does, mm.Value) <= RulingStatus.ByArrangement);

        MaterialResponse Answer(Material m)
        {
            var own = byMaterial[m.Id].ToList();
            var cells = machines.Select(machine => Shelf.Cell(machine, own, shown.Value)).ToList();
            return new MaterialResponse(
                Id: m.Id,
                Name: m.Name,
                Family: m.Family,
                Synonyms: m.Synonyms,
                Evidence: own.Count > 0 ? own.Max(r => r.Evidence) : Evidence.ClearedTag,
                Hazard: own.FirstOrDefault()?.Hazard ?? "",
                Handling: own.FirstOrDefault()?.Handling ?? "",
                Reasons: own.FirstOrDefault()?.Reasons ?? [],
                Twins: [.. twins.Where(t => t.MaterialIds.Contains(m.Id)).Select(t => Twin(t, m.Id))],
                Standing: Shelf.Overall(cells, own.Count > 0),
                Cells: cells,
                Rulings:
                [
                    .. own.Select(r => new RulingResponse(
                        Kind: r.Kind,
                        Operation: r.Operation,
                        MinMm: r.MinMm,
                        MaxMm: r.MaxMm,
                        Standing: r.Standing,
                        Evidence: r.Evidence,
                        FilteredNeedsArrangement: r.FilteredNeedsArrangement
                    )),
                ],
                Version: versions[m.Id]
            );
        }

        TwinResponse Twin(LookAlikes group, MaterialId self)
        {
            var others = group.MaterialIds.Where(id => id != self && names.ContainsKey(id)).ToList();
            return new TwinResponse(
                [.. others.Select(id => names[id])],
                group.FreshEdgeTells,
                group.TellsApart,
                others.Any(id => byMaterial[id].Any(r => r.Standing is RulingStatus.Banned or RulingStatus.Never))
            );
        }
    }

    private static async Task<Ok<SheetList>> Sheets(SheetDeskStore sheets, IClock clock, CancellationToken cancel) =>
        TypedResults.Ok(
            new SheetList([
                .. (await sheets.All(clock.GetCurrentInstant(), cancel)).Select(s => new SheetResponse(
                    Tag: s.Tag,
                    MaterialId: s.MaterialId,
                    MaterialName: s.MaterialName,
                    ThicknessMm: s.ThicknessMm,
                    WidthMm: s.WidthMm,
                    HeightMm: s.HeightMm,
                    Cleared: s.ClearedUntil is not null,
                    ClearedUntil: s.ClearedUntil,
                    Quarantined: s.Quarantined,
                    State: s.State
                )),
            ])
        );
}
