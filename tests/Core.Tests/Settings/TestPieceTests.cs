using System.Globalization;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>Test pieces read back by the product's own check: their size, their lengths, and nothing that stops them.</summary>
public class TestPieceTests
{
    private static TestPiece Make(TestPieceKind kind, decimal mm = 3) =>
        TestPieceMaker.Make(
            new TestPieceWish(
                kind,
                mm,
                new GuessedSetting(Watts: 48, PowerPercent: 60, SpeedMmS: 23, Passes: 1, From: null, Working: ""),
                TopSpeedMmS: 500,
                KerfMm: 0.2m
            )
        );

    private static DrawingSummary Read(TestPiece piece) =>
        DrawingReading.Summarise("piece.svg", DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(piece.Svg))));

    [Theory]
    [InlineData(TestPieceKind.Cut, 3)]
    [InlineData(TestPieceKind.Engrave, 3)]
    [InlineData(TestPieceKind.Kerf, 3)]
    [InlineData(TestPieceKind.Focus, 3)]
    [InlineData(TestPieceKind.Joint, 3)]
    [InlineData(TestPieceKind.Cut, 6)]
    [InlineData(TestPieceKind.Joint, 1.5)]
    public void EveryPiece_IsItsSize_AndNothingOfOurOwnCheckStopsIt(TestPieceKind kind, double mm)
    {
        var piece = Make(kind, (decimal)mm);
        var read = Read(piece);
        read.WidthMm.ShouldBe((double)piece.WidthMm, 1e-9);
        read.HeightMm.ShouldBe((double)piece.HeightMm, 1e-9);
        read.Texts.ShouldBe(0, "its labels are strokes");
        read.Strokes.Select(s => piece.Means.Of(s.Colour)).ShouldNotContain(StrokeMeaning.Unknown);
        var report = DrawingReport.Of(read, piece.Means, GateCase.Heron, 1.2m, (decimal)mm);
        report.Findings.Where(f => f.Severity == Severity.Stop).Select(f => $"{f.Code}: {f.Text}").ShouldBeEmpty();
        piece.Card[0].ShouldEndWith(".");
    }

    /// <summary>Two rows of ten from 0.6 to 1.7 times the energy in equal ratios, in ten colours, each square 32 mm round.</summary>
    [Fact]
    public void CutRow_StepsInEqualRatios_EachColourTwice()
    {
        var piece = Make(TestPieceKind.Cut);
        var energies = piece.Cells.Where(c => c.Row == 1).Select(c => (double)c.JPerMm!.Value).ToList();
        energies.Count.ShouldBe(10);
        energies[0].ShouldBe(0.6 * 48 / 23, 0.003);
        energies[^1].ShouldBe(1.7 * 48 / 23, 0.003);
        foreach (var (one, next) in energies.Zip(energies.Skip(1)))
            (next / one).ShouldBe(Math.Pow(1.7 / 0.6, 1 / 9.0), 0.003);
        var strokes = Read(piece).Strokes.Where(s => piece.Cells.Any(c => c.Colour == s.Colour)).ToList();
        strokes.Count.ShouldBe(10);
        strokes.ShouldAllBe(s => s.Paths == 2 && Math.Abs(s.LengthMm - 2 * 4 * 8) < 1e-6);
    }

    /// <summary>The outline is drawn last, and no two neighbours are cut one after the other.</summary>
    [Fact]
    public void TheOutlineComesLast_AndNeighboursCool()
    {
        var lines = Make(TestPieceKind.Cut).Svg.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines[^2].ShouldContain($"stroke='#5a2a00'");
        var squares = lines.Where(l => l.Contains('z') && l.StartsWith("<path", StringComparison.Ordinal)).SkipLast(1).ToList();
        squares.Count.ShouldBe(20);
        double X(string line) => double.Parse(line.Split('M')[1].Split(' ')[0], CultureInfo.InvariantCulture);
        foreach (var (one, next) in squares.Zip(squares.Skip(1)))
            Math.Abs(X(next) - X(one)).ShouldBeGreaterThan(13, "at least one square lies between");
    }

    /// <summary>Ten parts of 10 mm: nine lines of 25 mm between them and a frame of 100 x 25.</summary>
    [Fact]
    public void Comb_HasItsLines()
    {
        var piece = Make(TestPieceKind.Kerf);
        var strokes = Read(piece).Strokes.ToDictionary(s => s.Colour);
        strokes[piece.Cells[0].Colour].LengthMm.ShouldBe(9 * 25, 1e-6);
        strokes[piece.Cells[1].Colour].LengthMm.ShouldBe(250, 1e-6);
    }

    /// <summary>Slots round 3 mm less 0.2 of kerf: from 2.70 to 2.90 in steps of 0.02.</summary>
    [Fact]
    public void Ladder_StepsRoundTheSheetLessItsKerf() =>
        Make(TestPieceKind.Joint).Cells.Select(c => c.WidthMm!.Value).ShouldBe(Enumerable.Range(0, 11).Select(n => 2.70m + 0.02m * n));

    [Fact]
    public void Colours_AreToldApart()
    {
        var colours = Enumerable.Range(0, 25).Select(PieceColour).ToList();
        colours.Distinct().Count().ShouldBe(25);
        colours.ShouldAllBe(c => c.Length == 7 && c[0] == '#');

        static string PieceColour(int n) => Make(TestPieceKind.Engrave).Cells[n].Colour;
    }
}
