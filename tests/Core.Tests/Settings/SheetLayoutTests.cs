using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Jobs;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>Copies on a sheet, and the piece of the rack to take.</summary>
public class SheetLayoutTests
{
    /// <summary>By hand: (600 − 10 + 3) / 103 = 5 columns, (400 − 10 + 3) / 53 = 7 rows.</summary>
    [Theory]
    [InlineData(100, 50, 600, 400, 35, 35)]
    [InlineData(100, 50, 600, 400, 200, 35)]
    [InlineData(590, 390, 600, 400, 1, 1)]
    [InlineData(390, 590, 600, 400, 1, 1)]
    public void Of_LaysAsManyAsLieOnIt(int width, int height, int sheetWidth, int sheetHeight, int wanted, int lie) =>
        SheetLayout.Of((width, height), (sheetWidth, sheetHeight), wanted, 3)!.Copies.ShouldBe(lie);

    [Fact]
    public void Of_WhatLiesNoWay_IsNull() => SheetLayout.Of((591, 100), (600, 400), 1, 3).ShouldBeNull();

    /// <summary>Random parts and sheets: no copy leaves the held edge, none comes nearer to another than the sheet is thick.</summary>
    [Fact]
    public void Of_KeepsTheEdgeAndTheGap_AndLeavesAWholePiece()
    {
        var random = new Random(3);
        for (var n = 0; n < 300; n++)
        {
            (decimal W, decimal H) part = (random.Next(10, 200), random.Next(10, 200));
            (decimal W, decimal H) sheet = (random.Next(100, 900), random.Next(100, 600));
            decimal thick = random.Next(1, 12);
            if (SheetLayout.Of(part, sheet, random.Next(1, 60), thick) is not { } layout)
                continue;
            var (w, h) = layout.Turned ? (part.H, part.W) : part;
            layout.At.Count.ShouldBe(layout.Copies);
            foreach (var (x, y) in layout.At)
            {
                x.ShouldBeGreaterThanOrEqualTo(SheetLayout.EdgeMm);
                y.ShouldBeGreaterThanOrEqualTo(SheetLayout.EdgeMm);
                (x + w).ShouldBeLessThanOrEqualTo(sheet.W - SheetLayout.EdgeMm);
                (y + h).ShouldBeLessThanOrEqualTo(sheet.H - SheetLayout.EdgeMm);
            }
            var gap = Math.Max(SheetLayout.LeastGapMm, thick);
            foreach (var (a, i) in layout.At.Select((a, i) => (a, i)))
            foreach (var b in layout.At.Skip(i + 1))
                (Math.Abs(a.X - b.X) >= w + gap || Math.Abs(a.Y - b.Y) >= h + gap).ShouldBeTrue();
            // Nothing of the copies lies in what is said to stay whole.
            var free = layout.LeftWidthMm == sheet.W ? sheet.H - layout.LeftHeightMm : sheet.W - layout.LeftWidthMm;
            layout.At.ShouldAllBe(p => layout.LeftWidthMm == sheet.W ? p.Y + h <= free : p.X + w <= free);
        }
    }

    /// <summary>The smallest offcut that takes it, then whole sheets; nothing that is not cleared, or of another thickness.</summary>
    [Fact]
    public void For_OffersTheSmallestOffcutFirst_AndOnlyWhatIsCleared()
    {
        var cleared = new PieceClearance([Operation.Cut], [], null);
        Piece Of(string tag, decimal width, bool offcut = false) =>
            new(
                Tag: tag,
                MaterialId: "mdf",
                ThicknessMm: 3,
                WidthMm: width,
                HeightMm: 300,
                Offcut: offcut,
                Quarantined: false,
                ClearedFor: cleared
            );
        Piece[] rack =
        [
            Of("S-0001", 600),
            Of("S-0002", 400, offcut: true),
            Of("S-0003", 250, offcut: true),
            Of("S-0004", 220, offcut: true) with
            {
                Quarantined = true,
            },
            Of("S-0005", 220, offcut: true) with
            {
                ClearedFor = null,
            },
            Of("S-0006", 220, offcut: true) with
            {
                ThicknessMm = 4,
            },
            Of("S-0007", 220, offcut: true) with
            {
                ClearedFor = cleared with { MachineIds = ["wren"] },
            },
            Of("S-0008", 220, offcut: true) with
            {
                MaterialId = "acrylic-cast",
            },
            Of("S-0009", 60, offcut: true),
        ];
        var wish = new PieceWish(
            MaterialId: "mdf",
            ThicknessMm: 3,
            MachineId: "heron",
            Operations: [Operation.Cut],
            Width: 200,
            Height: 100,
            Placement: new Placement(1)
        );
        Pieces.For(rack, wish).Select(p => p.Piece.Tag.Value).ShouldBe(["S-0003", "S-0002", "S-0001"]);
        Pieces
            .For(rack, wish with { Placement = new Placement(4) })
            .Select(p => p.Piece.Tag.Value)
            .First()
            .ShouldBe("S-0001", "it takes all four");
        Pieces.For(rack, wish with { Operations = [Operation.Cut, Operation.Engrave] }).ShouldBeEmpty("cleared for cuts alone");
    }

    private static readonly (decimal, decimal) Part = (100, 50);
    private static readonly (decimal, decimal) Sheet = (300, 200);

    /// <summary>By hand: three of 100 x 50 in a row, 3 apart, need 306 + 10; two rows, so four corners give mirrored places.</summary>
    [Theory]
    [InlineData(SheetAnchor.LowerLeft, 5, 5)]
    [InlineData(SheetAnchor.LowerRight, 195, 5)]
    [InlineData(SheetAnchor.UpperLeft, 5, 145)]
    [InlineData(SheetAnchor.UpperRight, 195, 145)]
    [InlineData(SheetAnchor.Middle, 100, 75)]
    public void From_ACornerOrTheMiddle(SheetAnchor anchor, decimal x, decimal y)
    {
        var layout = new Placement(1, anchor, Quarters: 0).Layout(Part, Sheet, 3)!;
        layout.At.ShouldBe([(x, y)]);
        // Round the middle 100 on either side stay, and the gap is taken off: 97 x 200 beside, 300 x 72 above.
        if (anchor == SheetAnchor.Middle)
            (layout.LeftWidthMm, layout.LeftHeightMm).ShouldBe((300, 72));
    }

    [Theory]
    [InlineData(0, false)]
    [InlineData(1, true)]
    [InlineData(2, false)]
    [InlineData(3, true)]
    public void Quarters_SayWhichWayItLies(int quarters, bool turned) =>
        new Placement(1, Quarters: quarters).Layout(Part, Sheet, 3)!.Turned.ShouldBe(turned);

    [Fact]
    public void Quarters_ThatDoNotLieOnTheSheet_AreNull() => new Placement(1, Quarters: 1).Layout((290, 40), (300, 200), 3).ShouldBeNull();
}
