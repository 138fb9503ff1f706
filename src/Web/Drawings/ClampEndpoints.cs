using Microsoft.AspNetCore.Http.HttpResults;
using VelvetGate.Core.Drawings;
using VelvetGate.Store.Drawings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <param name="Before">The clamps as they were shown.</param>
/// <param name="Clamps">Those that stay.</param>
/// <param name="Add">One more, as it was typed.</param>
/// <param name="Unit">Of what is typed without one.</param>
public sealed record ClampsRequest(
    IReadOnlyList<Clamp>? Before = null,
    IReadOnlyList<Clamp>? Clamps = null,
    ClampWords? Add = null,
    string? Unit = null
);

public sealed record ClampsResponse(IReadOnlyList<Clamp> Clamps);

/// <summary>Where clamps stand on the sheet, marked by the person whose drawing it is.</summary>
public static class ClampEndpoints
{
    public static void MapClamps(this IEndpointRouteBuilder app) =>
        app.MapGroup("/api/drawings")
            .WithTags("Drawings")
            .RequireAuthorization(Policy.SignedIn)
            .MapPut("/{id:guid}/clamps", Mark)
            .WithName("MarkClamps")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);

    private static async Task<Results<Ok<ClampsResponse>, ProblemHttpResult>> Mark(
        Guid id,
        ClampsRequest request,
        CurrentUser user,
        DrawingStore drawings,
        CancellationToken cancel
    )
    {
        if (await DrawingEndpoints.OnlyOwn(id, user, drawings, cancel) is null)
            return Problems.NotFound("drawing of yours");
        var errors = new FieldErrors();
        var unit = errors.Unit(request.Unit);
        IReadOnlyList<Clamp> clamps = request.Clamps ?? [];
        if (request.Add is { } words)
        {
            if (words.Read(unit, out var refusals) is { } added)
                clamps = [.. clamps, added];
            errors.Add(refusals);
        }
        if (errors.Any)
            return errors.Answer();
        if (Clamps.Refused(clamps) is { } refusal)
            return Problems.Of(refusal);
        if (!await drawings.Mark(id, request.Before ?? [], clamps, cancel))
            return Problems.Of(DrawingsProblems.ClampsStale.Refuse());
        return TypedResults.Ok(new ClampsResponse(clamps));
    }
}
