using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>The code that hangs at a machine and leads to its page.</summary>
public static class GuideEndpoints
{
    public static void MapGuide(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/machines/{id}/page-code.pdf", Code)
            .WithTags("Station")
            .WithName("MachinePageCode")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Code(
        string id,
        HouseStore house,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { } machine)
            return Problems.NotFound("machine");
        using var paper = new Paper($"{machine.Spec.Name}: its page", rules.HouseName);
        paper.Line("Point a phone here: switching on and off, air, cooling, focus, what each stop really does. No account.", 14);
        paper.Code(address.Of($"/at/{id}"));
        paper.Line(address.Of($"/at/{id}"), 9);
        paper.Line("In danger first the machine’s own stop, then the card beside it.", 12);
        return TypedResults.File(paper.Finish(), "application/pdf", $"page-of-{id}.pdf");
    }
}
