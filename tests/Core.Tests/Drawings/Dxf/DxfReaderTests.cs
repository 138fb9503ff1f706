using Shouldly;
using VelvetGate.Core.Drawings;
using Xunit;
using static VelvetGate.Core.Tests.Drawings.Dxf.DxfText;

namespace VelvetGate.Core.Tests.Drawings.Dxf;

/// <summary>Every entity against geometry that can be worked out by hand.</summary>
public class DxfReaderTests
{
    private static StrokeWork Only(string entities, string header = "", string tables = "", string blocks = "") =>
        Summary(entities, header, tables, blocks).Strokes.ShouldHaveSingleItem();

    private static void ShouldReach(DrawingSummary drawing, double minX, double minY, double maxX, double maxY)
    {
        var e = drawing.ExtentMm.ShouldNotBeNull();
        (e.MinX, e.MinY, e.MaxX, e.MaxY).ShouldSatisfyAllConditions(
            x => x.MinX.ShouldBe(minX, 1e-4),
            x => x.MinY.ShouldBe(minY, 1e-4),
            x => x.MaxX.ShouldBe(maxX, 1e-4),
            x => x.MaxY.ShouldBe(maxY, 1e-4)
        );
    }

    [Theory]
    [InlineData("0 LINE|8 0|10 0|20 0|30 5|11 3|21 4|31 -9", 5, 1)] // seen from above
    [InlineData("0 CIRCLE|10 1|20 2|40 10", 20 * Math.PI, 0)]
    [InlineData("0 ARC|10 1|20 2|40 10|50 350|51 80", 5 * Math.PI, 1)] // through 0 degrees
    [InlineData("0 ARC|10 1|20 2|40 10|50 30|51 30", 20 * Math.PI, 0)] // both ends in one place: a whole circle
    [InlineData("0 LWPOLYLINE|90 4|70 1|10 0|20 0|10 10|20 0|10 10|20 5|10 0|20 5", 30, 0)]
    [InlineData("0 LWPOLYLINE|90 4|70 0|10 0|20 0|10 10|20 0|10 10|20 5|10 0|20 5", 25, 1)]
    [InlineData("0 LWPOLYLINE|90 2|70 0|10 0|20 0|42 1|10 10|20 0", 5 * Math.PI, 1)] // half a circle
    [InlineData("0 LWPOLYLINE|90 2|70 1|10 0|20 0|42 1|10 10|20 0|42 1", 10 * Math.PI, 0)] // a whole one in two halves
    // a quarter, of radius 10 / √2
    [InlineData("0 LWPOLYLINE|90 2|70 0|10 0|20 0|42 -0.41421356237309503|10 10|20 0", 11.107207345395915, 1)]
    [InlineData("0 POLYLINE|66 1|70 1|0 VERTEX|10 0|20 0|0 VERTEX|10 3|20 0|0 VERTEX|10 3|20 4|0 SEQEND", 12, 0)]
    [InlineData("0 POLYLINE|66 1|70 8|0 VERTEX|10 0|20 0|30 7|70 32|0 VERTEX|10 3|20 4|30 1|70 32|0 SEQEND", 5, 1)]
    // the frame of a smoothed one is not drawn
    [InlineData("0 POLYLINE|66 1|70 4|0 VERTEX|10 0|20 0|70 16|0 VERTEX|10 0|20 0|70 8|0 VERTEX|10 6|20 8|70 8|0 SEQEND", 10, 1)]
    [InlineData("0 ELLIPSE|10 0|20 0|11 10|21 0|40 1|41 0|42 6.283185307179586", 20 * Math.PI, 0)]
    [InlineData("0 ELLIPSE|10 0|20 0|11 0|21 10|40 0.5|41 0|42 6.283185307179586", 48.44224110273838, 0)] // 4 a E(m), m = 0.75
    [InlineData("0 SPLINE|70 8|71 3|72 8|73 4|40 0|40 0|40 0|40 0|40 1|40 1|40 1|40 1|10 0|20 0|10 1|20 0|10 2|20 0|10 3|20 0", 3, 1)]
    [InlineData(
        "0 SPLINE|70 12|71 2|72 6|73 3|40 0|40 0|40 0|40 1|40 1|40 1|41 1|41 0.7071067811865476|41 1|10 10|20 0|10 10|20 10|10 0|20 10",
        5 * Math.PI,
        1
    )] // a quarter circle, exactly, by weights
    [InlineData("0 SPLINE|70 8|71 1|72 5|73 3|40 0|40 0|40 1|40 2|40 2|10 0|20 0|10 3|20 4|10 6|20 0", 10, 1)] // degree one is a polyline
    [InlineData("0 SPLINE|70 8|71 3|74 2|11 0|21 0|11 3|21 4", 5, 1)] // through its points
    [InlineData("0 LEADER|76 3|10 0|20 0|10 3|20 4|10 3|20 10", 11, 1)]
    public void Entity_HasTheLengthOfGeometry(string entity, double length, int open)
    {
        var stroke = Only(entity);
        stroke.LengthMm.ShouldBe(length, 1e-5 * length);
        (stroke.Paths, stroke.OpenPaths, stroke.Colour).ShouldBe((1, open, "#000000"));
    }

    [Fact]
    public void Spline_ThroughPointsOfALine_IsThatLine_AndOfACircleIsNearlyIt()
    {
        Only("0 SPLINE|70 8|71 3|74 3|11 0|21 0|11 3|21 4|11 9|21 12").LengthMm.ShouldBe(15, 1e-9);
        var around = string.Join(
            '|',
            Enumerable
                .Range(0, 13)
                .Select(i => FormattableString.Invariant($"11 {10 * Math.Cos(i * Math.PI / 6)}|21 {10 * Math.Sin(i * Math.PI / 6)}"))
        );
        Only($"0 SPLINE|70 8|71 3|74 13|{around}|12 0|22 1|13 0|23 1").LengthMm.ShouldBe(20 * Math.PI, 0.02);
    }

    [Theory]
    [InlineData(0, 1)]
    [InlineData(1, 25.4)]
    [InlineData(2, 304.8)]
    [InlineData(4, 1)]
    [InlineData(5, 10)]
    [InlineData(6, 1000)]
    [InlineData(9, 0.0254)]
    [InlineData(14, 100)]
    [InlineData(21, 304.8006096012192)] // the survey foot: 1200/3937 m
    [InlineData(99, 1)]
    public void Units_AreThoseOfTheHeader_AndMillimetresWithoutOne(int code, double mm)
    {
        Summary(Line(3, 4), $"9 $ACADVER|1 AC1015|9 $INSUNITS|70 {code}").ExtentMm!.MaxX.ShouldBe(3 * mm, 1e-6);
        Summary(Line(3, 4)).ExtentMm!.MaxX.ShouldBe(3);
    }

    [Fact]
    public void Extent_IsExact_AndYGrowsUpwards()
    {
        ShouldReach(Summary("0 ARC|10 0|20 0|40 10|50 0|51 90"), 0, 0, 10, 10);
        ShouldReach(Summary("0 CIRCLE|10 5|20 0|40 10|210 0|220 0|230 -1"), -15, -10, 5, 10); // looked at from below
        ShouldReach(Summary("0 LWPOLYLINE|90 2|70 0|10 0|20 0|42 1|10 10|20 0"), 0, -5, 10, 0); // a left turn bulges to the right
        ShouldReach(Summary("0 CIRCLE|10 0|20 0|40 10|210 1|220 0|230 0"), 0, -10, 0, 10); // on edge
        Summary(Line(3, 4)).Format.ShouldBe("dxf");
    }

    [Fact]
    public void Insert_TurnsScalesMirrorsAndRepeats_FromTheBasePoint()
    {
        var block = Block("Part", "0 LINE|8 0|10 1|20 2|11 4|21 2", 1, 2);
        ShouldReach(Summary("0 INSERT|2 part|10 100|20 200", blocks: block), 100, 200, 103, 200);
        ShouldReach(Summary("0 INSERT|2 PART|10 100|20 200|41 2|42 2|50 90", blocks: block), 100, 200, 100, 206);
        ShouldReach(Summary("0 INSERT|2 PART|10 100|20 200|41 -1|42 1", blocks: block), 97, 200, 100, 200);
        var rows = Summary("0 INSERT|2 PART|10 0|20 0|70 3|71 2|44 10|45 5", blocks: block);
        ShouldReach(rows, 0, 0, 23, 5);
        rows.Strokes.ShouldHaveSingleItem().Paths.ShouldBe(6);
        // The rows turn with the insert.
        ShouldReach(Summary("0 INSERT|2 PART|10 0|20 0|50 90|70 2|44 10", blocks: block), 0, 0, 0, 13);
        var nested = block + "|" + Block("Box", "0 INSERT|2 PART|10 5|20 5|41 2|42 2");
        ShouldReach(Summary("0 INSERT|2 Box|10 1|20 1|41 10|42 10", blocks: nested), 51, 51, 111, 51);
        var missing = Summary("0 INSERT|2 nothing|10 1|20 1");
        (missing.Strokes.Count, missing.Broken).ShouldBe((0, 1));
    }

    [Fact]
    public void Colour_ComesFromTheEntity_ItsLayer_OrTheBlockAroundIt()
    {
        var tables = Layer("CUT", 1) + "|" + Layer("true", 7) + "|420 1193046";
        string Colours(string entities, string blocks = "") =>
            string.Join(' ', Summary(entities, tables: tables, blocks: blocks).Strokes.Select(s => s.Colour));
        Colours(Line(1, 1, "8 CUT")).ShouldBe("#ff0000");
        Colours(Line(1, 1, "8 cut|62 5")).ShouldBe("#0000ff", "names differ in case only");
        Colours(Line(1, 1, "8 CUT|62 5|420 65280")).ShouldBe("#00ff00");
        Colours(Line(1, 1, "8 true")).ShouldBe("#123456");
        Colours(Line(1, 1, "8 nowhere")).ShouldBe("#000000", "white on the screen is black on paper");
        var block = Block("B", Line(1, 1, "8 0|62 0") + "|" + Line(2, 1, "8 0") + "|" + Line(3, 1, "8 true"));
        Colours("0 INSERT|8 CUT|62 3|2 B|10 0|20 0", block)
            .ShouldBe("#00ff00 #123456 #ff0000", "by block, its own layer, the insert’s layer");
        Colours("0 INSERT|8 CUT|2 B|10 0|20 0", block).ShouldBe("#123456 #ff0000");
    }

    [Theory]
    [InlineData("8 off")]
    [InlineData("8 frozen")]
    [InlineData("8 0|60 1")]
    [InlineData("8 0|67 1")]
    public void Hidden_OnPaper_OrOnALayerThatIsOffOrFrozen_IsNotDrawn(string how)
    {
        var tables = Layer("off", -3) + "|" + Layer("frozen", 3, 1);
        Summary(Line(3, 4, how) + "|" + Line(30, 40), tables: tables).Strokes.ShouldHaveSingleItem().LengthMm.ShouldBe(50, 1e-9);
        Summary($"0 POLYLINE|{how}|66 1|70 0|0 VERTEX|10 0|20 0|0 VERTEX|10 3|20 0|0 SEQEND", tables: tables).Strokes.ShouldBeEmpty();
    }

    [Fact]
    public void Insert_OnALayerThatIsOff_HidesItsOwn_OnOneThatIsFrozen_HidesAll()
    {
        var tables = Layer("off", -3) + "|" + Layer("frozen", 3, 1) + "|" + Layer("X", 5);
        var block = Block("B", Line(3, 4, "8 0") + "|" + Line(30, 40, "8 X"));
        Only("0 INSERT|8 off|2 B|10 0|20 0", tables: tables, blocks: block).LengthMm.ShouldBe(50, 1e-9);
        Summary("0 INSERT|8 frozen|2 B|10 0|20 0", tables: tables, blocks: block).Strokes.ShouldBeEmpty();
    }

    [Fact]
    public void TextHatchAndSolid_AreNotedNotedAndFilled()
    {
        var drawing = Summary(
            "0 TEXT|10 3|20 4|1 Hi|0 MTEXT|10 1|20 1|1 There|0 HATCH|2 SOLID|70 1|0 HATCH|2 ANSI31|0 MLINE|10 1|20 1|0 IMAGE|10 "
                + "0|20 0|0 SOLID|10 0|20 0|11 10|21 0|12 0|22 5|13 10|23 5"
        );
        (drawing.Texts, drawing.Images).ShouldBe((2, 1));
        drawing.TextAt[0].ShouldBe(new Place(3, 4));
        drawing.Noted!.ShouldBe(new Dictionary<string, int> { ["HATCH"] = 2, ["MLINE"] = 1 });
        drawing.Fills.ShouldHaveSingleItem().AreaMm2.ShouldBe(50, 1e-9);
        DrawingFindings
            .Of(drawing, TestColours.Map, null)
            .Single(f => f.Code == "entity.noted")
            .Text.ShouldBe("2 hatches, 1 mline: not drawn here.");
    }

    [Fact]
    public void LineTwice_AndAnArcOverACircle_AreDoubled()
    {
        var drawing = Summary(
            Line(3, 4, "62 1") + "|" + Line(3, 4, "62 1") + "|0 CIRCLE|62 1|10 50|20 0|40 10|0 CIRCLE|62 1|10 50|20 0|40 10"
        );
        drawing.Doubled.ShouldHaveSingleItem().LengthMm.ShouldBe(5 + 20 * Math.PI, 1e-3);
    }

    [Fact]
    public void CarriageReturnsCommentsAndUnknownSections_DoNotMatter()
    {
        var file = Groups("999 made by hand") + Groups("0 SECTION|2 CLASSES|0 CLASS|1 X|0 ENDSEC") + File(Line(3, 4)) + "\n\n";
        DrawingReading
            .Summarise("t", Read(file.Replace("\n", "\r\n", StringComparison.Ordinal)))
            .Strokes.ShouldHaveSingleItem()
            .LengthMm.ShouldBe(5, 1e-9);
        DrawingReading
            .Summarise("t", Read(Groups("0 SECTION|2 ENTITIES") + Groups(Line(3, 4)) + Groups("0 ENDSEC|0 EOF")))
            .Strokes.Count.ShouldBe(1, "R12 files may have entities alone");
    }

    [Theory]
    [InlineData("", "it is empty")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1\n", "it ends in the middle")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n", "it ends in the middle")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10", "it ends in the middle of a group")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\nten\n1\n", "line 7 should be a group code and is “ten”")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nfar away\n0\nENDSEC\n0\nEOF\n", "“far away” on line 8 is not a number")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1e999\n0\nENDSEC\n0\nEOF\n", "is not a number")]
    [InlineData("0\nLINE\n0\nEOF\n", "“LINE” stands where a section should")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n0\nLINE\n0\nENDSEC\n0\nEOF\n", "a POLYLINE has no end")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nEOF\n", "a section has no end")]
    public void Damaged_IsRefusedInWords_NeverHalfRead(string file, string says)
    {
        var message = Should.Throw<UnreadableDrawingException>(() => Read(file)).Message;
        message.ShouldContain(says);
        message.ShouldEndWith("Save it again as ASCII DXF, R12 or later.");
    }

    [Fact]
    public void Whole_OnlyWithItsEnd_WhereverItIsCut()
    {
        var file = File(Line(3, 4) + "|0 INSERT|2 B|10 0|20 0", tables: Layer("CUT", 1), blocks: Block("B", "0 CIRCLE|10 0|20 0|40 3"));
        Read(file).Shapes.Count.ShouldBe(2);
        // Up to “EO” the end is missing.
        for (var length = 0; length < file.TrimEnd().Length; length += 3)
            Should.Throw<UnreadableDrawingException>(() => Read(file[..length]), $"cut after {length} characters");
    }

    [Fact]
    public void Hostile_BlocksThatHoldThemselves_RowsWithoutEnd_AndFarAwayPlaces_AreRefused()
    {
        Should
            .Throw<UnreadableDrawingException>(() =>
                Summary("0 INSERT|2 A|10 0|20 0", blocks: Block("A", "0 INSERT|2 B|10 0|20 0") + "|" + Block("B", "0 INSERT|2 A|10 1|20 0"))
            )
            .Message.ShouldContain("A block places itself");
        Should
            .Throw<UnreadableDrawingException>(() =>
                Summary("0 INSERT|2 A|10 0|20 0|70 32767|71 32767|44 1|45 1", blocks: Block("A", Line(1, 1)))
            )
            .Message.ShouldContain("With every copy counted");
        // Each block holds the one before ten times: a hundred million lines.
        var tower = string.Join(
            '|',
            Enumerable
                .Range(0, 9)
                .Select(i =>
                    Block($"L{i}", i == 0 ? Line(1, 1) : string.Join('|', Enumerable.Repeat($"0 INSERT|2 L{i - 1}|10 0|20 0", 10)))
                )
        );
        Should
            .Throw<UnreadableDrawingException>(() => Summary("0 INSERT|2 L8|10 0|20 0", blocks: tower))
            .Message.ShouldContain("With every copy counted");
        Should.Throw<UnreadableDrawingException>(() => Summary(Line(1e8, 0))).Message.ShouldContain("ten kilometres away");
        Should.Throw<UnreadableDrawingException>(() => Read(new string('x', 200_000))).Message.ShouldContain("characters");
        using var patience = new CancellationTokenSource();
        patience.Cancel();
        Should
            .Throw<UnreadableDrawingException>(() =>
                VelvetGate.Core.Drawings.Dxf.DxfReader.Read(new MemoryStream("0\n"u8.ToArray()), patience.Token)
            )
            .Message.ShouldContain("too long");
    }

    [Theory]
    [InlineData("0 SPLINE|70 8|71 3|40 0|40 1|10 0|20 0|10 1|20 1")]
    [InlineData("0 SPLINE|70 8|71 3|72 8|73 4|40 0|40 0|40 0|40 0|40 -1|40 1|40 1|40 1|10 0|20 0|10 1|20 0|10 2|20 0|10 3|20 0")]
    [InlineData("0 SPLINE|70 12|71 2|72 6|73 3|40 0|40 0|40 0|40 1|40 1|40 1|41 1|41 0|41 1|10 10|20 0|10 10|20 10|10 0|20 10")]
    [InlineData("0 CIRCLE|10 1|20 1|40 0")]
    [InlineData("0 ELLIPSE|10 0|20 0|11 0|21 0|40 1")]
    [InlineData("0 LWPOLYLINE|90 1|70 0|10 0|20 0")]
    [InlineData("0 LINE|10 1|20 1|62 1", false)]
    public void Nothing_ThatCanBeDrawn_IsCounted(string entity, bool broken = true) => Summary(entity).Broken.ShouldBe(broken ? 1 : 0);
}
