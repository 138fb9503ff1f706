using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <param name="Colour">A colour of the drawing that the house gives no operation.</param>
/// <param name="Operation">Cut, score, engrave or ignore; null takes it back.</param>
public sealed record DrawingColourRequest(string? Colour = null, string? Operation = null);

public sealed record DrawingColoursResponse(IReadOnlyList<ColourResponse> Own);

/// <summary>What colours mean in one drawing alone: where the house's map is silent, its owner says it for this drawing.</summary>
public static class ColourEndpoints
{
    public static void MapDrawingColours(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/drawings/{id:guid}/colours").WithTags("Drawings").RequireAuthorization(Policy.SignedIn);
        group.MapPut("/", Put).WithName("ColourDrawing").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/file", Text).WithName("DrawingColoursFile").ProducesProblem(404).Produces<string>(200, "text/plain");
    }

    private static async Task<Results<Ok<DrawingColoursResponse>, ProblemHttpResult>> Put(
        Guid id,
        DrawingColourRequest request,
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await DrawingEndpoints.OnlyOwn(id, user, drawings, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (ColourMap.Tidy(request.Colour ?? "") is not { } colour || drawing.Summary.Strokes.All(s => s.Colour != colour))
            return Problems.Of(DrawingsProblems.ColourNotDrawn.Refuse("colour"));
        if (rules.Colours.Strokes.ContainsKey(colour))
            return Problems.Of(DrawingsProblems.ColourOfHouse.Refuse("colour", colour));
        StrokeMeaning? meaning = null;
        if (request.Operation is { } text)
        {
            var read = ColourMap.Parse($"{colour}={text}");
            if (read.Refusal is { } refusal)
                return Problems.Of(refusal with { Field = "operation" });
            meaning = read.Value.Of(colour);
        }
        await drawings.Colour(drawing, colour, meaning, user.Id, now, cancel);
        return TypedResults.Ok(
            new DrawingColoursResponse(ColourResponse.All(rules.Colours.Counting((await drawings.Find(id, cancel))?.Summary.Own)))
        );
    }

    /// <summary>Every colour with its operation for this drawing, a line each: what <c>vg check --colours</c> reads.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Text(
        Guid id,
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        return TypedResults.File(
            Encoding.UTF8.GetBytes(drawing.Summary.Meanings(rules.Colours).ToText()),
            "text/plain",
            Path.GetFileNameWithoutExtension(drawing.Name) + ".colours.txt"
        );
    }
}
