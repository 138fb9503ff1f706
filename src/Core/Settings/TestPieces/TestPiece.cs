using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.TestPieces;

public enum TestPieceKind
{
    /// <summary>Squares over energy: which falls out?</summary>
    Cut,

    /// <summary>Swatches over power and speed: which looks right?</summary>
    Engrave,

    /// <summary>Parts side by side: how much does the beam take away?</summary>
    Kerf,

    /// <summary>Lines at heights of the bed: which is finest?</summary>
    Focus,

    /// <summary>Slots at small steps: which holds the sheet?</summary>
    Joint,
}

/// <summary>One thing that is set differently from the others, in a colour of its own.</summary>
/// <param name="Label">As it stands on the piece.</param>
/// <param name="Colour">For drivers that set power and speed by colour.</param>
/// <param name="Row">Of repeats, from 1.</param>
/// <param name="JPerMm">Energy of its lines; null where the cell is no line.</param>
/// <param name="FocusMm">Below the face; null where the focus is not what is tried.</param>
/// <param name="WidthMm">Of a slot; null elsewhere.</param>
public sealed record TestCell(
    string Label,
    string Colour,
    int Row,
    decimal PowerPercent,
    decimal SpeedMmS,
    int Passes,
    decimal? JPerMm = null,
    decimal? FocusMm = null,
    decimal? WidthMm = null
);

/// <summary>A test piece: its drawing and the card that goes with it. Lengths in mm.</summary>
/// <param name="Means">What its colours are: its own, beside those of the house.</param>
/// <param name="Card">What to set and what to look for, one line each.</param>
public sealed record TestPiece(
    TestPieceKind Kind,
    string Svg,
    decimal WidthMm,
    decimal HeightMm,
    ColourMap Means,
    IReadOnlyList<TestCell> Cells,
    IReadOnlyList<string> Card
);

/// <summary>What a test piece is made for.</summary>
/// <param name="From">The setting that it tries around.</param>
/// <param name="KerfMm">What the beam takes away, as known so far.</param>
public sealed record TestPieceWish(TestPieceKind Kind, decimal ThicknessMm, GuessedSetting From, decimal TopSpeedMmS, decimal KerfMm);
