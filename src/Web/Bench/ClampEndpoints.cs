using Microsoft.AspNetCore.Http.HttpResults;
using VelvetGate.Core.Bench;
using VelvetGate.Store.Bench;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Bench;

/// <param name="Before">The clamps as they were shown.</param>
public sealed record ClampsRequest(IReadOnlyList<Clamp>? Before = null, IReadOnlyList<Clamp>? Clamps = null);

public sealed record ClampsAnswer(IReadOnlyList<Clamp> Clamps);

/// <summary>Where clamps stand on the sheet, marked by the person whose drawing it is.</summary>
public static class ClampEndpoints
{
    public static void MapClamps(this IEndpointRouteBuilder app) =>
        app.MapGroup("/api/drawings").WithTags("Bench").RequireAuthorization(Policy.SignedIn)
            .MapPut("/{id:guid}/clamps", Mark).WithName("MarkClamps").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);

    private static async Task<Results<Ok<ClampsAnswer>, ProblemHttpResult>> Mark(Guid id, ClampsRequest request, CurrentUser user, DrawingStore drawings, CancellationToken cancel)
    {
        var clamps = request.Clamps ?? [];
        if (await BenchEndpoints.Own(id, user, drawings, cancel) is null) return Problems.NotFound("drawing of yours");
        if (Clamps.Refused(clamps) is { } refusal) return Problems.Of(refusal);
        if (!await drawings.Mark(id, request.Before ?? [], clamps, cancel)) return Problems.Of(409, "clamps.stale", "The clamps were changed in another window. They are shown as they are now: mark yours again.");
        return TypedResults.Ok(new ClampsAnswer(clamps));
    }
}
