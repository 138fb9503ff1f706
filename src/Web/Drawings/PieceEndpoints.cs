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

/// <param name="X">From the piece's lower left corner, in mm; so too <paramref name="Y"/>.</param>
public sealed record CopyPlace(decimal X, decimal Y);

/// <param name="Copies">How many of those wanted lie on it.</param>
/// <param name="Turned">Each by a quarter.</param>
/// <param name="LeftWidthMm">Of the largest rectangle that stays whole.</param>
/// <param name="Until">To when it is cleared; null for good.</param>
public sealed record PieceResponse(
    SheetTag Tag,
    decimal WidthMm,
    decimal HeightMm,
    decimal ThicknessMm,
    bool Offcut,
    Instant? Until,
    int Copies,
    bool Turned,
    IReadOnlyList<CopyPlace> At,
    decimal LeftWidthMm,
    decimal LeftHeightMm
);

/// <param name="WidthMm">Reach of the drawing; so too <paramref name="HeightMm"/>.</param>
/// <param name="EdgeMm">Left free all round.</param>
/// <param name="Operations">Of the drawing: what the piece is cleared for.</param>
public sealed record PieceList(
    int Copies,
    decimal WidthMm,
    decimal HeightMm,
    decimal EdgeMm,
    IReadOnlyList<Operation> Operations,
    IReadOnlyList<PieceResponse> Items
);

/// <summary>Cleared sheets and offcuts on which a drawing lies.</summary>
public static class PieceEndpoints
{
    public static void MapPieces(this RouteGroupBuilder drawings) =>
        drawings.MapGet("/{id:guid}/pieces", List).WithName("PiecesForDrawing").ProducesProblem(400).ProducesProblem(404);

    private static async Task<Results<Ok<PieceList>, ProblemHttpResult>> List(
        Guid id,
        string? machineId,
        string? materialId,
        string? thickness,
        string? unit,
        int? copies,
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        MaterialStore materials,
        SheetDeskStore sheets,
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
        var check = await CheckFor.Read(machineId, materialId, thickness, unit, house, materials, now, errors, cancel);
        var wanted = copies ?? 1;
        if (wanted is < 1 or > Pieces.MostCopies)
            errors.Add("copies", $"Give 1 to {Pieces.MostCopies} copies.");
        if (errors.Any)
            return errors.Answer();
        var (width, height) = Size(drawing.Summary);
        IReadOnlyList<Operation> operations = [.. drawing.Summary.OperationsWith(rules.Colours)];
        if (width <= 0 || height <= 0)
            return TypedResults.Ok(new PieceList(wanted, width, height, SheetLayout.EdgeMm, operations, []));
        var found = Pieces.For(
            (await sheets.All(now, cancel)).Select(Of),
            new PieceWish(
                MaterialId: check!.Material.Id,
                ThicknessMm: check.ThicknessMm,
                MachineId: check.Machine.Id,
                Operations: operations,
                Width: width,
                Height: height,
                Copies: wanted
            )
        );
        return TypedResults.Ok(new PieceList(wanted, width, height, SheetLayout.EdgeMm, operations, [.. found.Select(Answer)]));
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

    private static PieceResponse Answer(FoundPiece found) =>
        new(
            Tag: found.Piece.Tag,
            WidthMm: found.Piece.WidthMm,
            HeightMm: found.Piece.HeightMm,
            ThicknessMm: found.Piece.ThicknessMm,
            Offcut: found.Piece.Offcut,
            Until: found.Piece.ClearedFor!.Until,
            Copies: found.Layout.Copies,
            Turned: found.Layout.Turned,
            At: [.. found.Layout.At.Select(p => new CopyPlace(p.X, p.Y))],
            LeftWidthMm: found.Layout.LeftWidthMm,
            LeftHeightMm: found.Layout.LeftHeightMm
        );
}
