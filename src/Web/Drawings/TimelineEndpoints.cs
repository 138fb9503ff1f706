using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>Every move of a run, so that somebody may watch it.</summary>
public static class TimelineEndpoints
{
    public static void MapTimeline(this IEndpointRouteBuilder drawings) =>
        drawings
            .MapGet("/{id:guid}/timeline", Timeline)
            .WithName("DrawingTimeline")
            .WithDescription(
                "Columns of little-endian 32-bit floats, one after the other and all of one length: seconds at which a move ends, x and "
                    + "y in mm, and what was done (0 beam off, 1 cut, 2 score, 3 engrave)."
            )
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422)
            .Produces<string>(200, "application/octet-stream");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Timeline(
        Guid id,
        string? machineId,
        string? materialId,
        string? thickness,
        string? unit,
        CurrentUser user,
        DrawingStore drawings,
        DrawingReader reader,
        HouseStore house,
        MaterialStore materials,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        if (await CheckFor.Read(machineId, materialId, thickness, unit, house, materials, now, errors, cancel) is not { } check)
            return errors.Answer();
        var settings = RunSettings.For(check.Machine, check.Material.CutEnergyJPerMm2, check.ThicknessMm);
        byte[]? bytes;
        try
        {
            bytes = await Moves(reader, user.Id, drawing, drawing.Summary.Meanings(rules.Colours), settings, cancel);
        }
        catch (UnreadableDrawingException e)
        {
            return Problems.Of(DrawingsProblems.FileUnreadable.Refuse(null, e.Message));
        }
        if (bytes is null)
            return Problems.NotFound("drawing of yours");
        return TypedResults.File(bytes, "application/octet-stream");
    }

    private static Task<byte[]?> Moves(
        DrawingReader reader,
        PersonId person,
        KeptDrawing drawing,
        ColourMap colours,
        RunSettings settings,
        CancellationToken cancel
    ) =>
        reader.Read(
            person,
            drawing,
            (d, _) =>
            {
                var timeline = new RunTimeline(settings);
                DrawingTime.Of(d, colours, settings, timeline);
                return timeline.ToBytes();
            },
            cancel
        );
}
