using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>What somebody says of a piece that was cut.</summary>
/// <param name="Cells">Of a cut row: which fell out, which charred.</param>
/// <param name="MeasuredMm">Of a kerf comb: all its parts pushed together.</param>
/// <param name="Chosen">Of any other: the label of the cell that looks or holds best.</param>
public sealed record PieceTold(IReadOnlyList<CellResult> Cells, decimal? MeasuredMm, string? Chosen);

/// <summary>What follows from it. Lengths in mm.</summary>
/// <param name="Boundary">Of a cut row.</param>
/// <param name="Kept">The setting worth keeping; null where none is.</param>
/// <param name="KerfMm">Of a kerf comb.</param>
/// <param name="SlotMm">How wide a slot for this sheet is drawn.</param>
/// <param name="FocusMm">Below the face, where the finest line lay.</param>
/// <param name="Says">What decided it.</param>
public sealed record PieceFinding(
    CutBoundary? Boundary,
    SettingValues? Kept,
    decimal? KerfMm,
    decimal? SlotMm,
    decimal? FocusMm,
    string Says
);

/// <summary>What a piece is judged by, before it is made and after it was cut.</summary>
public static class TestPieceRules
{
    private const decimal HoldDownEdge = 5;

    public static Operation OperationOf(TestPieceKind kind) =>
        kind switch
        {
            TestPieceKind.Engrave => Operation.Engrave,
            TestPieceKind.Focus => Operation.Score,
            _ => Operation.Cut,
        };

    /// <summary>It has to lie on the machine's bed and, with an edge to hold it down, on the sheet, this way or turned.</summary>
    /// <param name="sheet">Width and height in mm; null without a tag.</param>
    public static Refusal? Fits(TestPiece piece, MachineSpec machine, (decimal Width, decimal Height)? sheet)
    {
        bool On(decimal width, decimal height) =>
            (piece.WidthMm <= width && piece.HeightMm <= height) || (piece.HeightMm <= width && piece.WidthMm <= height);
        if (!On(machine.BedWidthMm - 2 * machine.MarginMm, machine.BedHeightMm - 2 * machine.MarginMm))
            return SettingsProblems.TestOffBed.Refuse("kind", Size(piece), machine.Name);
        return sheet is { } s && !On(s.Width - 2 * HoldDownEdge, s.Height - 2 * HoldDownEdge)
            ? SettingsProblems.TestOffSheet.Refuse("sheetTag", Size(piece), $"{s.Width:0.#} x {s.Height:0.#} mm")
            : null;
    }

    /// <summary>A piece says nothing of another material.</summary>
    /// <param name="name">What people call the sheet's material.</param>
    public static Refusal? Same(SheetTag tag, MaterialId sheet, string name, MaterialId wanted) =>
        sheet == wanted ? null : SettingsProblems.TestOtherSheet.Refuse("sheetTag", tag, name);

    private static string Size(TestPiece piece) => $"{piece.WidthMm:0.#} x {piece.HeightMm:0.#} mm";

    /// <summary>What the piece says.</summary>
    /// <param name="around">The setting it was made around, with its machine, material and thickness.</param>
    /// <returns>Or why it says nothing: no answer, results that contradict, a cell it does not have.</returns>
    public static Result<PieceFinding> Read(TestPiece piece, SettingValues around, PieceTold told) =>
        piece.Kind switch
        {
            TestPieceKind.Cut => ReadCut(around, told),
            TestPieceKind.Kerf => ReadKerf(around, told),
            _ => ReadChosen(piece, around, told),
        };

    /// <summary>
    /// Why what a piece says is not kept in the library; null where it is. Energies that the piece does not have say something of another
    /// one: they are fitted, and nothing is kept.
    /// </summary>
    /// <param name="kept">As it would stand in the library.</param>
    public static Refusal? WhyNotKept(
        TestPiece piece,
        PieceTold told,
        SettingValues kept,
        MachineSpec machine,
        bool staff,
        bool membersMayAdd
    ) =>
        !IsOfThis(piece, told)
            ? SettingsProblems.TestOtherCells.Refuse("cells")
            : SettingRules.Check(kept, machine, staff, membersMayAdd).FirstOrDefault();

    /// <summary>Every energy told is one of the piece's cells, to a part in a hundred.</summary>
    public static bool IsOfThis(TestPiece piece, PieceTold told) =>
        told.Cells.All(c => piece.Cells.Any(p => p.JPerMm is { } energy && Math.Abs(c.JPerMm - (double)energy) <= 0.01 * (double)energy));

    private static Result<PieceFinding> ReadCut(SettingValues around, PieceTold told)
    {
        var read = CutResults.Of(told.Cells);
        if (read.Refusal is { } refusal)
            return refusal;
        var results = read.Value;
        var kept = results.KeepJPerMm is { } energy ? around with { SpeedMmS = SpeedFor(around, (decimal)energy) } : null;
        return new PieceFinding(results.Boundary, kept, null, null, null, results.Why);
    }

    /// <summary>Cut, never rounded up: a faster run would get less energy than was seen to be enough.</summary>
    private static decimal SpeedFor(SettingValues around, decimal jPerMm) =>
        Math.Max(SettingRules.LeastSpeedMmS, Math.Floor(around.Watts * around.Passes / jPerMm * 100) / 100);

    private static Result<PieceFinding> ReadKerf(SettingValues around, PieceTold told)
    {
        const decimal Nominal = TestPieceMaker.CombParts * TestPieceMaker.CombPartMm;
        if (told.MeasuredMm is not { } measured || measured <= 0)
            return SettingsProblems.TestMeasure.Refuse("measured", TestPieceMaker.CombParts);
        var kerf = Kerfs.OfComb(TestPieceMaker.CombParts, TestPieceMaker.CombPartMm, measured);
        if (kerf is <= 0 or > 1)
            return SettingsProblems.TestKerf.Refuse("measured", measured, Nominal);
        return new PieceFinding(
            null,
            null,
            Math.Round(kerf, 4),
            Math.Round(Kerfs.Slot(around.ThicknessMm, kerf), 3),
            null,
            $"({Nominal:0} − {measured:0.###}) mm over {TestPieceMaker.CombParts} parts"
        );
    }

    private static Result<PieceFinding> ReadChosen(TestPiece piece, SettingValues around, PieceTold told)
    {
        if (piece.Cells.FirstOrDefault(c => c.Label == told.Chosen?.Trim()) is not { } cell)
            return SettingsProblems.TestChoose.Refuse("chosen");
        return piece.Kind switch
        {
            TestPieceKind.Engrave => new PieceFinding(
                null,
                around with
                {
                    Operation = Operation.Engrave,
                    PowerPercent = cell.PowerPercent,
                    Watts = around.PowerPercent > 0 ? Math.Round(around.Watts * cell.PowerPercent / around.PowerPercent, 2) : around.Watts,
                    SpeedMmS = cell.SpeedMmS,
                    Passes = 1,
                    PitchMm = TestPieceMaker.PitchMm,
                },
                null,
                null,
                null,
                "the swatch that looked right"
            ),
            TestPieceKind.Focus => new PieceFinding(null, null, null, null, cell.FocusMm, "the finest line"),
            _ => new PieceFinding(null, null, null, cell.WidthMm, null, "the slot that held without force"),
        };
    }
}
