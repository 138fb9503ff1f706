using NodaTime;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>A piece as it is kept: what was drawn, and the setting it was drawn around.</summary>
public sealed record MadePiece(TestPiece Piece, SettingValues Around);

/// <param name="Number">Counts up in a house, for people.</param>
/// <param name="Told">Null until somebody said how it came out.</param>
public sealed record KeptPiece(
    Guid Id,
    int Number,
    MadePiece Made,
    SheetTag? SheetTag,
    PersonId By,
    Instant At,
    PieceTold? Told,
    Guid? SettingId,
    PersonId? ToldBy,
    Instant? ToldAt
)
{
    /// <summary>What people call a piece.</summary>
    public string Name => $"T-{Number:0000}";
}
