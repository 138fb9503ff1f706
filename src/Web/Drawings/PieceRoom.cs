using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>A drawing, how it is to be laid, and the pieces of the rack that take it so.</summary>
internal sealed record FoundPieces(KeptDrawing Drawing, HouseRules Rules, PieceWish Wish, IReadOnlyList<FoundPiece> Pieces);

/// <summary>Reads how a drawing is to be laid, and looks over the rack.</summary>
public sealed class PieceRoom(DrawingStore drawings, HouseStore house, MaterialStore materials, SheetDeskStore sheets, IClock clock)
{
    internal async Task<(FoundPieces? Found, ProblemHttpResult? Problem)> Find(
        Guid id,
        PieceRequest request,
        CurrentUser user,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return (null, Problems.NotFound("drawing of yours"));
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var errors = new FieldErrors();
        var check = await CheckFor.Read(
            request.MachineId,
            request.MaterialId,
            request.Thickness,
            request.Unit,
            house,
            materials,
            now,
            errors,
            cancel
        );
        var placement = Read(request, errors);
        if (errors.Any)
            return (null, errors.Answer());
        var (width, height) = Size(drawing.Summary);
        var wish = new PieceWish(
            MaterialId: check!.Material.Id,
            ThicknessMm: check.ThicknessMm,
            MachineId: check.Machine.Id,
            Operations: [.. drawing.Summary.OperationsWith(rules.Colours)],
            Width: width,
            Height: height,
            Placement: placement
        );
        var found = width <= 0 || height <= 0 ? [] : Pieces.For((await sheets.All(now, cancel)).Select(Of), wish);
        return (new FoundPieces(drawing, rules, wish, found), null);
    }

    private static Placement Read(PieceRequest request, FieldErrors errors)
    {
        var copies = request.Copies ?? 1;
        if (copies is < 1 or > Pieces.MostCopies)
            errors.Add("copies", $"Give 1 to {Pieces.MostCopies} copies.");
        if (request.Quarters is < 0 or > 3)
            errors.Add("quarters", "Turn it by 0, 1, 2 or 3 quarters.");
        var anchor = request.Anchor is null
            ? SheetAnchor.LowerLeft
            : errors.Word<SheetAnchor>("anchor", request.Anchor, "Choose a corner of the sheet, or its middle.");
        return new Placement(copies, anchor, request.Quarters, request.Mirror ?? false);
    }

    private static (decimal Width, decimal Height) Size(DrawingSummary drawing) =>
        drawing.Reach is { } reach ? (Math.Round((decimal)reach.Width, 3), Math.Round((decimal)reach.Height, 3)) : (0, 0);

    private static Piece Of(SheetCard card) =>
        new(
            Tag: card.Tag,
            MaterialId: card.MaterialId,
            ThicknessMm: card.ThicknessMm,
            WidthMm: card.WidthMm,
            HeightMm: card.HeightMm,
            Offcut: card.ParentTag is not null,
            Quarantined: card.Quarantined,
            ClearedFor: card.ClearedFrom is null
                ? null
                : new PieceClearance(
                    [.. card.Operations.Select(o => Enum.Parse<Operation>(o, ignoreCase: true))],
                    card.MachineIds,
                    card.ClearedUntil
                )
        );
}
