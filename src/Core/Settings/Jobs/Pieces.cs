using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;

namespace VelvetGate.Core.Settings.Jobs;

/// <summary>A sheet or offcut as it lies on the rack. Lengths in mm.</summary>
/// <param name="Offcut">Cut from another sheet.</param>
/// <param name="ClearedFor">Operations and machines that its clearance names, and to when; null where none holds. No machine means
/// every one.</param>
public sealed record Piece(
    SheetTag Tag,
    MaterialId MaterialId,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    bool Offcut,
    bool Quarantined,
    PieceClearance? ClearedFor
);

public sealed record PieceClearance(IReadOnlyList<Operation> Operations, IReadOnlyList<MachineId> MachineIds, Instant? Until);

/// <param name="Width">Reach of the drawing in mm; so too <paramref name="Height"/>.</param>
public sealed record PieceWish(
    MaterialId MaterialId,
    decimal ThicknessMm,
    MachineId MachineId,
    IReadOnlyList<Operation> Operations,
    decimal Width,
    decimal Height,
    Placement Placement
);

/// <summary>One piece of the rack with the drawing laid on it.</summary>
public sealed record FoundPiece(Piece Piece, SheetLayout Layout);

/// <summary>
/// Cleared pieces that a drawing lies on: those that take all copies first, of these offcuts before whole sheets, and the smallest first.
/// What is in quarantine, or not cleared for the machine and the work, is not offered. Source: common practice.
/// </summary>
public static class Pieces
{
    /// <summary>More copies than this are another question.</summary>
    public const int MostCopies = 500;

    public static IReadOnlyList<FoundPiece> For(IEnumerable<Piece> rack, PieceWish wish) =>
        [
            .. rack.Where(p => Serves(p, wish))
                .Select(p =>
                    (Piece: p, Layout: wish.Placement.Layout((wish.Width, wish.Height), (p.WidthMm, p.HeightMm), wish.ThicknessMm))
                )
                .Where(p => p.Layout is not null)
                .Select(p => new FoundPiece(p.Piece, p.Layout!))
                .OrderByDescending(f => f.Layout.Copies)
                .ThenByDescending(f => f.Piece.Offcut)
                .ThenBy(f => f.Piece.WidthMm * f.Piece.HeightMm)
                .ThenBy(f => f.Piece.Tag.Value, StringComparer.Ordinal),
        ];

    private static bool Serves(Piece piece, PieceWish wish) =>
        piece.MaterialId == wish.MaterialId
        && !piece.Quarantined
        && SheetThickness.IsOf(piece.ThicknessMm, wish.ThicknessMm)
        && piece.ClearedFor is { } cleared
        && wish.Operations.All(cleared.Operations.Contains)
        && (cleared.MachineIds.Count == 0 || cleared.MachineIds.Contains(wish.MachineId));
}
