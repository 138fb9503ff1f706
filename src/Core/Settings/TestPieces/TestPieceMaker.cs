using System.Globalization;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>
/// Makes test pieces. Cells lie at least a thickness apart, are run in an order that lets each cool before its neighbour, and the outline
/// comes last, so that the piece lies still. Source: common practice; numbers of cells and their range are house practice.
/// </summary>
public static class TestPieceMaker
{
    /// <summary>Parts of a kerf comb, and how wide each is drawn.</summary>
    public const int CombParts = 10;
    public const decimal CombPartMm = 10;

    /// <summary>Line pitch of the swatches.</summary>
    public const decimal PitchMm = 0.1m;
    private const decimal Edge = 6;
    private const decimal Letters = 2.4m;

    public static TestPiece Make(TestPieceWish wish) =>
        wish.Kind switch
        {
            TestPieceKind.Cut => Cut(wish),
            TestPieceKind.Engrave => Engrave(wish),
            TestPieceKind.Kerf => Kerf(wish),
            TestPieceKind.Focus => Focus(wish),
            _ => Joint(wish),
        };

    /// <summary>Two rows of ten squares, from 0.6 to 1.7 times the energy of the setting, in equal ratios.</summary>
    private static TestPiece Cut(TestPieceWish w)
    {
        const int Cells = 10;
        const decimal Side = 8;
        var energy = LineEnergy.Of(w.From.Watts, w.From.SpeedMmS, w.From.Passes);
        var (step, drawing) = (Side + Math.Max(4, w.ThicknessMm), new PieceDrawing());
        var cells = new List<TestCell>();
        for (var row = 1; row <= 2; row++)
        for (var n = 0; n < Cells; n++)
        {
            var aimed = energy * (decimal)(0.6 * Math.Pow(1.7 / 0.6, n / (Cells - 1.0)));
            var speed = Math.Round(Math.Min(w.TopSpeedMmS, w.From.Watts * w.From.Passes / aimed), 2);
            var label = $"{(row == 1 ? 'A' : 'B')}{n + 1}";
            cells.Add(
                new TestCell(label, PieceDrawing.Colour(n), row, w.From.PowerPercent, speed, w.From.Passes)
                {
                    JPerMm = Math.Round(LineEnergy.Of(w.From.Watts, speed, w.From.Passes), 4),
                }
            );
        }
        decimal X(int n) => Edge + n * step;
        decimal Y(int row) => Edge + (row - 1) * (step + Letters + 2) + Letters + 1;
        foreach (var cell in cells)
            drawing.Words(cell.Label, X(int.Parse(cell.Label[1..], CultureInfo.InvariantCulture) - 1), Y(cell.Row) - 1, Letters);
        foreach (var n in Cool(Cells * 2))
            drawing.Box(cells[n].Colour, StrokeMeaning.Cut, X(n % Cells), Y(n / Cells + 1), Side, Side);
        return Done(
            w,
            drawing,
            (Edge * 2 + (Cells - 1) * step + Side, Y(2) + Side + Edge),
            cells,
            "Which squares fell out by themselves, and which of them are charred? Say so on the page of test pieces."
        );
    }

    /// <summary>Five powers by five speeds.</summary>
    private static TestPiece Engrave(TestPieceWish w)
    {
        const int Steps = 5;
        const decimal Side = 9;
        var drawing = new PieceDrawing();
        var cells = new List<TestCell>();
        for (var row = 1; row <= Steps; row++)
        for (var n = 0; n < Steps; n++)
        {
            var power = Math.Round(Math.Min(100, 10 + 15m * (row - 1)), 1);
            var speed = Math.Round(w.TopSpeedMmS * (0.2m + 0.15m * n), 0);
            cells.Add(new TestCell($"{power:0} {speed:0}", PieceDrawing.Colour(cells.Count), row, power, speed, 1));
        }
        var step = Side + Math.Max(4, w.ThicknessMm);
        decimal X(int n) => Edge + 8 + n * step;
        decimal Y(int row) => Edge + 5 + (row - 1) * step;
        for (var n = 0; n < Steps; n++)
        {
            drawing.Words($"{cells[n].SpeedMmS:0}", X(n), Edge + 3, Letters);
            drawing.Words($"{cells[n * Steps].PowerPercent:0}", Edge, Y(n + 1) + Side / 2, Letters);
        }
        foreach (var n in Cool(Steps * Steps))
            drawing.Fill(cells[n].Colour, X(n % Steps), Y(n / Steps + 1), Side, Side);
        return Done(
            w,
            drawing,
            (X(Steps - 1) + Side + Edge, Y(Steps) + Side + Edge),
            cells,
            $"Across: speed in mm/s; down: power in per cent. Line pitch {PitchMm.ToString(CultureInfo.InvariantCulture)} mm. "
                + "Keep the swatch that looks right."
        );
    }

    /// <summary>Ten parts of 10 mm side by side: pressed together they lack ten kerfs.</summary>
    private static TestPiece Kerf(TestPieceWish w)
    {
        const int Parts = CombParts;
        const decimal Nominal = CombPartMm,
            High = 25;
        var drawing = new PieceDrawing();
        drawing.Words($"{Parts} {Nominal:0}", Edge, Edge + Letters, Letters);
        var top = Edge + Letters + 3;
        for (var n = 1; n < Parts; n++)
            drawing.Line(PieceDrawing.Colour(0), StrokeMeaning.Cut, (Edge + n * Nominal, top), (Edge + n * Nominal, top + High));
        drawing.Box(PieceDrawing.Colour(1), StrokeMeaning.Cut, Edge, top, Parts * Nominal, High);
        var cells = new[] { 0, 1 }
            .Select(i => new TestCell(
                i == 0 ? "lines" : "frame",
                PieceDrawing.Colour(i),
                1,
                w.From.PowerPercent,
                w.From.SpeedMmS,
                w.From.Passes
            ))
            .ToList();
        return Done(
            w,
            drawing,
            (Edge * 2 + Parts * Nominal, top + High + Edge),
            cells,
            $"Push all {Parts} parts together and measure them: the calculator “Kerf” takes {Parts}, {Nominal:0} mm and what you measured."
        );
    }

    /// <summary>Eleven lines, each at another height of the focus.</summary>
    private static TestPiece Focus(TestPieceWish w)
    {
        const decimal Long = 25;
        var drawing = new PieceDrawing();
        var cells = new List<TestCell>();
        for (var n = 0; n < 11; n++)
        {
            var below = -2.5m + 0.5m * n;
            var y = Edge + 3 + n * 4;
            drawing.Words($"{(below > 0 ? "+" : "")}{below.ToString("0.0", CultureInfo.InvariantCulture)}", Edge, y + Letters / 2, Letters);
            drawing.Line(PieceDrawing.Colour(n), StrokeMeaning.Score, (Edge + 10, y), (Edge + 10 + Long, y));
            cells.Add(
                new TestCell($"{below:0.0}", PieceDrawing.Colour(n), 1, Math.Round(w.From.PowerPercent / 4, 1), w.From.SpeedMmS, 1)
                {
                    FocusMm = below,
                }
            );
        }
        return Done(
            w,
            drawing,
            (Edge * 2 + 10 + Long, Edge * 2 + 3 + 10 * 4),
            cells,
            "Set the bed anew before each colour: so many mm below the face, with a minus above it. The finest line is the focus."
        );
    }

    /// <summary>Eleven slots round the sheet's thickness less one kerf, in steps of 0.02 mm, open at the edge.</summary>
    private static TestPiece Joint(TestPieceWish w)
    {
        const decimal Deep = 12;
        var drawing = new PieceDrawing();
        var cells = new List<TestCell>();
        var step = w.ThicknessMm + Math.Max(7, 2 * w.ThicknessMm);
        var top = Edge + Letters + 2;
        // Down to the outline, which ends them.
        var foot = Math.Ceiling(top + Deep + Edge) - 1;
        for (var n = 0; n < 11; n++)
        {
            var wide = Kerfs.Slot(w.ThicknessMm, w.KerfMm) + 0.02m * (n - 5);
            var x = Edge + n * step;
            drawing.Words(wide.ToString("0.00", CultureInfo.InvariantCulture), x, Edge + Letters - 1, Letters * 0.8m);
            drawing.Line(PieceDrawing.Colour(0), StrokeMeaning.Cut, (x, foot), (x, top), (x + wide, top), (x + wide, foot));
            cells.Add(
                new TestCell(
                    wide.ToString("0.00", CultureInfo.InvariantCulture),
                    PieceDrawing.Colour(0),
                    1,
                    w.From.PowerPercent,
                    w.From.SpeedMmS,
                    w.From.Passes
                )
                {
                    WidthMm = wide,
                }
            );
        }
        return Done(
            w,
            drawing,
            (Edge + 11 * step, top + Deep + Edge),
            cells,
            "Push an edge of the same sheet into each slot: draw your slots as wide as the one that holds without force."
        );
    }

    /// <summary>From cell to cell so that neighbours never follow each other: every third, then what is left between them.</summary>
    private static IEnumerable<int> Cool(int count) =>
        Enumerable.Range(0, 3).SelectMany(first => Enumerable.Range(0, count).Where(n => n % 3 == first));

    private static TestPiece Done(
        TestPieceWish wish,
        PieceDrawing drawing,
        (decimal Width, decimal Height) size,
        IReadOnlyList<TestCell> cells,
        string look
    )
    {
        var (width, height) = (Math.Ceiling(size.Width), Math.Ceiling(size.Height));
        // The outline comes last: until then the piece lies still.
        drawing.Box(PieceDrawing.Outline, StrokeMeaning.Cut, 1, 1, width - 2, height - 2);
        var (svg, means) = drawing.Done(width, height);
        return new TestPiece(
            Kind: wish.Kind,
            Svg: svg,
            WidthMm: width,
            HeightMm: height,
            Means: means,
            Cells: cells,
            Card: [look, .. cells.Select(Says).Distinct()]
        );
    }

    private static string Says(TestCell c) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{c.Label}, {c.Colour}: {c.PowerPercent:0.#} %, {c.SpeedMmS:0.##} mm/s, {c.Passes} {(c.Passes == 1 ? "pass" : "passes")}"
        ) + (c.JPerMm is { } e ? string.Create(CultureInfo.InvariantCulture, $", {e:0.00} J/mm") : "");
}
