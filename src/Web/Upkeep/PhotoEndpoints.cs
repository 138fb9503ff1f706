using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

public sealed record UpkeepPhotoResponse(Guid Id, int Width, int Height, bool Mine)
{
    /// <summary>Those that somebody may see: staff all of them, others their own.</summary>
    internal static IReadOnlyList<UpkeepPhotoResponse> Of(IEnumerable<UpkeepPhoto> photos, PersonId by, bool staff) =>
        [
            .. photos
                .Where(p => UpkeepPhotos.MaySee(staff, p.By == by) is null)
                .Select(p => new UpkeepPhotoResponse(p.Id, p.Width, p.Height, p.By == by)),
        ];
}

/// <summary>Photos of faults, and of what was done in tasks.</summary>
public static class PhotoEndpoints
{
    public static void MapUpkeepPhotos(this IEndpointRouteBuilder app)
    {
        var photos = app.MapGroup("/api/upkeep").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        photos
            .MapPost("/{id:guid}/photos", Add)
            .WithName("AddUpkeepPhoto")
            .DisableAntiforgery()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(413)
            .ProducesProblem(415)
            .ProducesProblem(507);
        photos
            .MapGet("/photos/{photo:guid}", Show)
            .WithName("ShowUpkeepPhoto")
            .Produces(200, contentType: "image/jpeg")
            .ProducesProblem(403)
            .ProducesProblem(404);
        photos.MapPost("/photos/{photo:guid}/remove", Remove).WithName("RemoveUpkeepPhoto").ProducesProblem(404);
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Add(
        Guid id,
        IFormFile? file,
        CurrentUser user,
        UpkeepPhotoStore photos,
        IClock clock,
        CancellationToken cancel
    )
    {
        var clean = await PhotoFiles.Read(file, cancel);
        if (clean.Refusal is { } unread)
            return Problems.Of(unread);
        var added = await photos.Add(id, clean.Value, user.Id, await user.SeesNames(), clock.GetCurrentInstant(), cancel);
        return added.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/upkeep/photos/{added.Value}", new Made(added.Value));
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Show(
        Guid photo,
        CurrentUser user,
        UpkeepPhotoStore photos,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await photos.Find(photo, cancel) is not { } found)
            return Problems.NotFound("photo");
        if (UpkeepPhotos.MaySee(await user.SeesNames(), found.By == user.Id) is { } refusal)
            return Problems.Of(refusal);
        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
        return TypedResults.File(found.Bytes, found.MediaType);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid photo,
        CurrentUser user,
        UpkeepPhotoStore photos,
        IClock clock,
        CancellationToken cancel
    ) =>
        await photos.Remove(photo, user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("photo of yours");
}
