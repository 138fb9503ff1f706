using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>Files to take from a drawing: the one that was given, its pictures, a map of its parts.</summary>
public static class DrawingFileEndpoints
{
    public static void MapFiles(this RouteGroupBuilder group)
    {
        group
            .MapGet("/{id:guid}/file", Original)
            .WithName("DrawingFile")
            .ProducesProblem(404)
            .Produces<string>(200, "application/octet-stream");
        group.MapGet("/{id:guid}/parts.svg", Parts).WithName("DrawingParts").ProducesProblem(404).Produces<string>(200, "image/svg+xml");
        group
            .MapGet("/{id:guid}/pictures/{number:int}", Picture)
            .WithName("DrawingPicture")
            .ProducesProblem(404)
            .Produces<string>(200, "image/png", "image/jpeg");
    }

    /// <summary>The file as it was given, byte for byte; only to be kept: it may hold anything, and is never shown as a page.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Original(
        Guid id,
        CurrentUser user,
        DrawingStore drawings,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (
            await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing
            || await drawings.Bytes(drawing.Sha256, cancel) is not { } bytes
        )
            return Problems.NotFound("drawing of yours");
        return TypedResults.File(bytes, "application/octet-stream", drawing.Name);
    }

    /// <summary>A numbered map of its parts, for people.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Parts(
        Guid id,
        CurrentUser user,
        DrawingStore drawings,
        DrawingReader reader,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        var map = await reader.Read(user.Id, drawing, (d, _) => PartsMap.ToSvg(d, drawing.Summary.Meanings(rules.Colours)), cancel);
        if (map is null)
            return Problems.NotFound("drawing of yours");
        var name = $"{Path.GetFileNameWithoutExtension(drawing.Name)}, parts.svg";
        return TypedResults.File(Encoding.UTF8.GetBytes(map), "image/svg+xml", name);
    }

    /// <summary>
    /// The pixels of one picture of a drawing, as they stand in it: the kind is known from their first bytes, never from what the file
    /// says.
    /// </summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Picture(
        Guid id,
        int number,
        CurrentUser user,
        DrawingStore drawings,
        DrawingReader reader,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await reader.Read(user.Id, drawing, (d, _) => d.Files.ElementAtOrDefault(number), cancel) is not { } file)
            return Problems.NotFound("picture of this drawing");
        return TypedResults.File(file.Bytes, file.MediaType);
    }
}
