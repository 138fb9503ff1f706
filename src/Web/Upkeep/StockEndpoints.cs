using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <param name="Part">Tasks about this offer it.</param>
/// <param name="MachineId">Null: for any machine.</param>
/// <param name="Waste">Where the used one goes.</param>
/// <param name="Stock">There by the record, in its unit.</param>
/// <param name="Low">To be ordered.</param>
/// <param name="Batch">Of what came in last.</param>
/// <param name="MayChange">Whoever asks may write down what came in, and what was counted.</param>
public sealed record StockResponse(
    Guid Id,
    int Version,
    string Name,
    string Unit,
    UpkeepPart? Part,
    MachineId? MachineId,
    string Place,
    string Supplier,
    decimal Reorder,
    string Waste,
    decimal Stock,
    bool Low,
    string? Batch,
    Instant? LastIn,
    bool MayChange
);

/// <param name="Items">What is to be ordered first, then by name.</param>
public sealed record StockList(IReadOnlyList<StockResponse> Items);

/// <param name="Version">As it was read; for changes.</param>
public sealed record StockRequest(
    int? Version = null,
    string? Name = null,
    string? Unit = null,
    string? Part = null,
    string? MachineId = null,
    string? Place = null,
    string? Supplier = null,
    decimal? Reorder = null,
    string? Waste = null
);

/// <param name="Kind">cameIn, usedUp or counted.</param>
/// <param name="Amount">In its unit; counted, what is there.</param>
/// <param name="Batch">As on the package, for what came in.</param>
public sealed record StockChangeRequest(string? Kind = null, decimal? Amount = null, string? Batch = null);

/// <summary>What upkeep uses up: what is there, what came in and went, and where the used one goes.</summary>
public static class StockEndpoints
{
    public static void MapStock(this IEndpointRouteBuilder app)
    {
        var stock = app.MapGroup("/api/upkeep/stock").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        stock.MapGet("", List).WithName("UpkeepStock");
        stock.MapPost("", Add).WithName("AddUpkeepStock").RequireAuthorization(Policy.Steward).ProducesProblem(400).ProducesProblem(409);
        stock
            .MapPut("/{id:guid}", Describe)
            .WithName("DescribeUpkeepStock")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        stock.MapDelete("/{id:guid}", End).WithName("EndUpkeepStock").RequireAuthorization(Policy.Steward).ProducesProblem(404);
        stock
            .MapPost("/{id:guid}/changes", Change)
            .WithName("ChangeUpkeepStock")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Ok<StockList>> List(
        CurrentUser user,
        ConsumableStore stock,
        UpkeepStore upkeep,
        IClock clock,
        CancellationToken cancel
    )
    {
        var all = await stock.All(cancel);
        var hands = await upkeep.HandsOf(user.Id, [.. all.Select(i => i.What.MachineId).Distinct()], clock.GetCurrentInstant(), cancel);
        return TypedResults.Ok(
            new StockList([
                .. all.Select(i => new StockResponse(
                        Id: i.Id,
                        Version: i.Version,
                        Name: i.What.Name,
                        Unit: i.What.Unit,
                        Part: i.What.Part,
                        MachineId: i.What.MachineId,
                        Place: i.What.Place,
                        Supplier: i.What.Supplier,
                        Reorder: i.What.Reorder,
                        Waste: i.What.Waste,
                        Stock: i.Stock,
                        Low: Consumable.IsLow(i.Stock, i.What.Reorder),
                        Batch: i.Batch,
                        LastIn: i.LastIn,
                        MayChange: UpkeepDone.MayDo(UpkeepWho.Trainer, hands[i.What.MachineId?.Value ?? ""])
                    ))
                    .OrderByDescending(i => i.Low),
            ])
        );
    }

    private static Task<Results<Ok<Made>, ProblemHttpResult>> Add(
        StockRequest request,
        CurrentUser user,
        ConsumableStore stock,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) => Put(null, request, user, stock, house, clock, cancel);

    private static Task<Results<Ok<Made>, ProblemHttpResult>> Describe(
        Guid id,
        StockRequest request,
        CurrentUser user,
        ConsumableStore stock,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) => Put(id, request, user, stock, house, clock, cancel);

    private static async Task<Results<Ok<Made>, ProblemHttpResult>> Put(
        Guid? id,
        StockRequest request,
        CurrentUser user,
        ConsumableStore stock,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var errors = new FieldErrors();
        var machine = string.IsNullOrWhiteSpace(request.MachineId) ? (MachineId?)null : new MachineId(request.MachineId.Trim());
        if (machine is not null && (await house.Machines(now, cancel)).All(m => m.Spec.Id != machine))
            errors.Add("machineId", "Choose a machine of the house, or none.");
        var what = new Consumable(
            Name: request.Name?.Trim() ?? "",
            Unit: request.Unit?.Trim() ?? "",
            Part: string.IsNullOrWhiteSpace(request.Part)
                ? null
                : errors.Word<UpkeepPart>("part", request.Part, "Choose what it is used for, or nothing."),
            MachineId: machine,
            Place: request.Place?.Trim() ?? "",
            Supplier: request.Supplier?.Trim() ?? "",
            Reorder: request.Reorder ?? -1,
            Waste: request.Waste?.Trim() ?? ""
        );
        errors.Add(what.Wrong());
        if (errors.Any)
            return errors.Answer();
        var put = await stock.Put(id, request.Version ?? 0, what, user.Id, now, cancel);
        return put.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new Made(put.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        CurrentUser user,
        ConsumableStore stock,
        IClock clock,
        CancellationToken cancel
    )
    {
        var ended = await stock.End(id, user.Id, clock.GetCurrentInstant(), cancel);
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Change(
        Guid id,
        StockChangeRequest request,
        CurrentUser user,
        ConsumableStore stock,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var kind = errors.Word<StockKind>("kind", request.Kind, "Say whether it came in, was used up or was counted.");
        errors.AtMost("batch", request.Batch, Consumable.NameLongest);
        if (errors.Any)
            return errors.Answer();
        var changed = await stock.Change(id, kind, request.Amount, request.Batch, user.Id, clock.GetCurrentInstant(), cancel);
        return changed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
