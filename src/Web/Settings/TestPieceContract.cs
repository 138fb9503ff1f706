using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.TestPieces;

namespace VelvetGate.Web.Settings;

/// <param name="Id">Client-made: the same again changes nothing.</param>
/// <param name="Kind"><c>cut</c>, <c>engrave</c>, <c>kerf</c>, <c>focus</c> or <c>joint</c>.</param>
/// <param name="ThicknessMm">Measured, in mm; or <paramref name="Thickness"/> as it was typed, with any unit.</param>
/// <param name="SheetTag">The sheet or offcut it is cut from.</param>
public sealed record TestPieceRequest(
    string? Id = null,
    string? Kind = null,
    string? MachineId = null,
    string? MaterialId = null,
    decimal? ThicknessMm = null,
    string? Thickness = null,
    string? Unit = null,
    string? SheetTag = null
);

/// <param name="Card">What to set and what to look for, one line each.</param>
/// <param name="MayTell">Nobody told its results yet.</param>
/// <param name="Result">How it came out; null until somebody told.</param>
public sealed record TestPieceResponse(
    Guid Id,
    int Number,
    TestPieceKind Kind,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    SheetTag? SheetTag,
    decimal WidthMm,
    decimal HeightMm,
    string Svg,
    IReadOnlyList<TestCell> Cells,
    IReadOnlyList<string> Card,
    string By,
    Instant At,
    bool MayTell,
    PieceResultResponse? Result
);

public sealed record TestPieceLine(
    Guid Id,
    int Number,
    TestPieceKind Kind,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    SheetTag? SheetTag,
    string By,
    Instant At,
    bool Told
);

public sealed record TestPieceList(IReadOnlyList<TestPieceLine> Items);

/// <param name="Cells">Of a cut row.</param>
/// <param name="Measured">Of a kerf comb, as typed.</param>
/// <param name="Chosen">Of any other piece: the label of the best cell.</param>
public sealed record PieceResultRequest(
    IReadOnlyList<TestCellRequest>? Cells = null,
    string? Measured = null,
    string? Chosen = null,
    string? Unit = null
);

public sealed record TestCellRequest(double? EnergyJPerMm = null, bool? Through = null, bool? Charred = null);

/// <param name="Low">At 95 %, in J/mm; null where the cells cannot say.</param>
/// <param name="Separated">All that was through lies above all that was not.</param>
public sealed record BoundaryResponse(double JPerMm, double? Low, double? High, bool Separated);

/// <param name="SettingId">The entry made of it; null where none was.</param>
public sealed record RecommendedResponse(
    Guid? SettingId,
    Operation Operation,
    decimal PowerPercent,
    decimal Watts,
    decimal SpeedMmPerS,
    int Passes,
    decimal JPerMm
);

/// <param name="Cells">As they were told.</param>
/// <param name="Boundary">Of a cut row.</param>
/// <param name="Recommended">Null where nothing is worth keeping.</param>
/// <param name="Kept">It stands in the library now; else whoever told may not add to it, or there is nothing to keep.</param>
/// <param name="WhyNotKept">Said once, when it is told.</param>
/// <param name="Says">What decided it, in words.</param>
public sealed record PieceResultResponse(
    IReadOnlyList<CellResult> Cells,
    BoundaryResponse? Boundary,
    RecommendedResponse? Recommended,
    bool Kept,
    string? WhyNotKept,
    decimal? KerfMm,
    decimal? SlotMm,
    decimal? FocusMm,
    string? Chosen,
    string Says
);
