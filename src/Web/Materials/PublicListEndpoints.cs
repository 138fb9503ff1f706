using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

public sealed record ListMachine(MachineId Id, string Name);

/// <param name="Machine">Whose list it is; null for the whole house.</param>
/// <param name="Made">When it was made, on the house's calendar.</param>
/// <param name="Overdue">Materials whose rulings should have been looked at again.</param>
public sealed record PublicListResponse(
    string House,
    ListMachine? Machine,
    IReadOnlyList<ListMachine> Machines,
    string Made,
    IReadOnlyList<ListSection> Sections,
    IReadOnlyList<string> Overdue
);

/// <summary>The list for everybody, on a phone and on the wall.</summary>
public static class PublicListEndpoints
{
    public static void MapPublicList(this IEndpointRouteBuilder app)
    {
        var lists = app.MapGroup("/api").WithTags("Materials").AllowAnonymous();
        lists.MapGet("/list", List).WithName("PublicList").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
        lists
            .MapGet("/list.pdf", Poster)
            .WithName("PublicListPoster")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<PublicListResponse>, ProblemHttpResult>> List(
        string? machine,
        string? unit,
        MaterialStore materials,
        RulingStore rulings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, problem) = await Read(machine, unit, materials, rulings, house, clock, cancel);
        return problem is null ? TypedResults.Ok(answer!) : problem;
    }

    /// <param name="paper">a4 or a3.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Poster(
        string? machine,
        string? unit,
        string? paper,
        HouseAddress where,
        MaterialStore materials,
        RulingStore rulings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var size = paper?.ToLowerInvariant() ?? "a4";
        if (size is not ("a4" or "a3"))
            return Problems.Of(MaterialsProblems.PaperBad.Refuse("paper"));
        var (answer, problem) = await Read(machine, unit, materials, rulings, house, clock, cancel);
        if (problem is not null)
            return problem;
        var address = where.Of($"/list{(answer!.Machine is { } one ? $"/{one.Id}" : "")}");
        return TypedResults.File(
            ListPoster.Pdf(answer, size == "a3", address),
            "application/pdf",
            $"material-list-{answer.Machine?.Id ?? "house"}-{size}.pdf"
        );
    }

    internal static async Task<(PublicListResponse? Answer, ProblemHttpResult? Problem)> Read(
        string? machine,
        string? unit,
        MaterialStore materials,
        RulingStore rulings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return (null, Problems.Of(refusal));
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToList();
        var one = string.IsNullOrWhiteSpace(machine) ? null : machines.FirstOrDefault(m => m.Id == machine);
        if (one is null && !string.IsNullOrWhiteSpace(machine))
            return (null, Problems.NotFound("machine"));
        var shelf = await materials.Shelf(now, cancel);
        var overdue = await rulings.Overdue(rules.Clock.DateOf(now), now, cancel);
        return (
            new PublicListResponse(
                rules.HouseName,
                one is null ? null : new ListMachine(one.Id, one.Name),
                [.. machines.Select(m => new ListMachine(m.Id, m.Name))],
                rules.Clock.At(now).ToString("d MMMM uuuu, HH:mm", System.Globalization.CultureInfo.InvariantCulture),
                PublicList.Of(shelf.Materials, shelf.Rulings.ToLookup(r => r.MaterialId), one is null ? machines : [one], shown.Value),
                [.. overdue.Select(o => o.Name)]
            ),
            null
        );
    }
}
