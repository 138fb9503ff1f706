using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Pictures by their pixels: alone as a file, and placed in a drawing.</summary>
public class PictureDrawingTests
{
    private static Drawing Read(byte[] bytes) => DrawingFile.Read(new MemoryStream(bytes));

    private static DrawingSummary Summary(byte[] bytes) => DrawingReading.Summarise("t", Read(bytes));

    private static IReadOnlyList<Finding> Find(DrawingSummary summary) => DrawingFindings.Of(summary, TestColours.Map, GateCase.Heron);

    private static byte[] Halves(double ppi = 300, bool interlaced = false) =>
        PngFiles.Grey(300, 200, (x, _) => (byte)(x < 150 ? 0 : 255), ppi, interlaced);

    private static string Placed(byte[] png, string attributes, string more = "") =>
        $"<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'><image {attributes} "
        + $"href='data:image/png;base64,{Convert.ToBase64String(png)}'/>{more}</svg>";

    [Theory]
    [InlineData(300, 25.4, 16.933)]
    [InlineData(600, 12.7, 8.467)]
    [InlineData(0, 79.375, 52.917)] // none stated: 96
    public void File_IsAsLargeAsItStates(double ppi, double width, double height)
    {
        var summary = Summary(Halves(ppi));
        (summary.Format, summary.Images, summary.ExtentMm).ShouldBe(("png", 1, null));
        summary.WidthMm.ShouldBe(width, 0.01);
        summary.HeightMm.ShouldBe(height, 0.01);
        summary.Reach!.Width.ShouldBe(width, 0.01);
        Find(summary).Any(f => f.Code == "image.noSize").ShouldBe(ppi == 0);
        Find(summary)
            .Any(f => f.Code == "image.lowResolution")
            .ShouldBe(ppi == 0, "whole pixels to the metre are a little less than 300 to the inch");
        summary.OperationsWith(TestColours.Map).ShouldBe([Operation.Engrave]);
        Find(summary).ShouldNotContain(f => f.Code == "file.empty" || f.Code == "scale.suspicious");
    }

    [Fact]
    public void File_IsEngravedLineByLine()
    {
        var report = DrawingReport.Of(Summary(Halves()), TestColours.Map, GateCase.Heron, 1, 3);
        // 170 lines of 25.4 mm at 400 mm/s, and as many turns.
        var settings = RunSettings.For(GateCase.Heron, 1, 3);
        report.Time.RunSeconds.ShouldBe(170 * (25.4 / settings.EngraveMmS + 2 * settings.EngraveMmS / settings.AccelerationMmS2), 0.5);
        report.Order.ShouldHaveSingleItem().ShouldBe(new RunStep(StrokeMeaning.Engrave, "picture", 1, 0));
        report.Pictures!.ShouldHaveSingleItem().ShouldBe(new ReportPicture(25.4001, 16.9334, 300, 200, 300, 0));
    }

    [Fact]
    public void File_LargerThanTheBed_Stops() =>
        Find(Summary(PngFiles.Grey(900, 90, (_, _) => 0, 20))).ShouldContain(f => f.Code == "size.offBed" && f.Severity == Severity.Stop);

    [Theory]
    [InlineData(0, 0, 0)]
    [InlineData(255, 0, 0)]
    [InlineData(30, 0, 0)] // near black
    [InlineData(225, 0, 0)] // near white
    [InlineData(128, 1, 1)]
    [InlineData(128, 0.25, 0.25)]
    public void Greys_AreTheShareOfPixelsBetween(byte grey, double of, double share)
    {
        foreach (var interlaced in new[] { false, true })
        {
            var greys = Summary(PngFiles.Grey(200, 130, (x, _) => x < 200 * of || of == 0 ? grey : (byte)255, 300, interlaced))
                .Pictures!.Single()
                .Greys;
            greys.ShouldNotBeNull().ShouldBe(share, 1e-3, $"interlaced {interlaced}");
        }
    }

    [Theory]
    [InlineData(255, 0, 0, 255, true)] // a colour is neither
    [InlineData(255, 255, 0, 255, true)]
    [InlineData(0, 0, 0, 0, false)] // clear: white
    [InlineData(0, 0, 0, 255, false)]
    [InlineData(0, 0, 0, 128, true)] // half clear: grey
    [InlineData(250, 250, 245, 255, false)]
    public void Colours_AndWhatIsHalfClear_AreNeitherBlackNorWhite(byte r, byte g, byte b, byte a, bool grey)
    {
        var summary = Summary(PngFiles.Rgba(40, 40, (_, _) => (r, g, b, a)));
        summary.Pictures!.Single().Greys.ShouldBe(grey ? 1 : 0);
        Find(summary).Any(f => f is { Code: "image.notBlackWhite", Severity: Severity.Warn }).ShouldBe(grey);
    }

    [Fact]
    public void SoftEdges_ArePassed_AndMoreIsSaidWithItsShare()
    {
        Find(Summary(PngFiles.Grey(100, 100, (x, _) => (byte)(x < 5 ? 128 : 0), 300)))
            .ShouldNotContain(f => f.Code == "image.notBlackWhite");
        Find(Summary(PngFiles.Grey(100, 100, (x, _) => (byte)(x < 37 ? 128 : 0), 300)))
            .Single(f => f.Code == "image.notBlackWhite")
            .Text.ShouldBe("1 pixel picture with greys or colours: 37 % of its pixels are neither black nor white.");
    }

    [Fact]
    public void Placed_IsLookedAtOnce_HoweverOftenItIsCopied()
    {
        var grey = PngFiles.Grey(300, 200, (_, _) => 99);
        var copies = Placed(
            grey,
            "id='p' width='20' height='20'",
            string.Concat(Enumerable.Range(1, 150).Select(i => $"<use href='#p' x='{i}'/>"))
        );
        var drawing = SvgReaderTests.Read(copies);
        drawing.Files.Count.ShouldBe(1);
        var finding = Find(DrawingReading.Summarise("t", drawing)).Single(f => f.Code == "image.notBlackWhite");
        (finding.Count, finding.At.Count).ShouldBe((151, 50));
        finding.Text.ShouldBe("151 pixel pictures with greys or colours: up to 100 % of the pixels are neither black nor white.");
    }

    /// <summary>The four corners, by the matrix and the box of each way to place it.</summary>
    [Theory]
    [InlineData("x='10' y='20' width='30' height='20'", 10, 20, 40, 40)]
    [InlineData("x='10' y='20' width='30' height='60'", 10, 40, 40, 60)] // keeps its proportions, in the middle
    [InlineData("x='10' y='20' width='30' height='60' preserveAspectRatio='none'", 10, 20, 40, 80)]
    [InlineData("x='0' y='0' width='30' height='20' transform='translate(50 50) rotate(90)'", 30, 50, 50, 80)]
    [InlineData("x='0' y='0' width='30' height='20' transform='translate(50 50) scale(-1 1)'", 20, 50, 50, 70)]
    public void Placed_CoversWhatItCovers(string attributes, double left, double top, double right, double bottom)
    {
        var covers = DrawingReading.Summarise("t", SvgReaderTests.Read(Placed(Halves(), attributes))).Pictures!.Single().Covers!;
        new[] { covers.MinX, covers.MinY, covers.MaxX, covers.MaxY }
            .Zip([left, top, right, bottom])
            .ShouldAllBe(p => Math.Abs(p.First - p.Second) < 1e-6);
    }

    [Fact]
    public void PictureThatReachesOffTheBed_Stops_ThoughItsLinesDoNot()
    {
        var svg = Placed(Halves(), "x='0' y='0' width='3000' height='20' preserveAspectRatio='none'", "<path d='M0 0h10' stroke='red'/>");
        var summary = DrawingReading.Summarise("t", SvgReaderTests.Read(svg));
        summary.ExtentMm!.Width.ShouldBe(10, 1e-9);
        Find(summary).ShouldContain(f => f.Code == "size.offBed");
        summary.OperationsWith(TestColours.Map).ShouldBe([Operation.Cut, Operation.Engrave]);
    }

    /// <summary>
    /// Mended to another width, written and read again, the picture lies where it was, that much larger, with the same bytes.
    /// </summary>
    [Theory]
    [InlineData("x='10' y='20' width='30' height='20'")]
    [InlineData("x='0' y='0' width='30' height='20' transform='translate(50 50) rotate(37) skewX(12)'")]
    public void Mended_TakesPicturesAlong(string attributes)
    {
        var before = SvgReaderTests.Read(
            Placed(Halves(), attributes, "<image width='9' height='9' href='linked.png'/><path d='M20 20h10' stroke='red'/>")
        );
        var made = Mender.Mend(before, new MendingQuestion(WidthMm: 300), TestColours.Map, 0.2);
        made.LeftOut.ShouldBe(["1 pixel picture that is linked or cannot be read", "1 pixel picture, where it is taken as DXF"]);
        var after = DrawingReading.Summarise(
            "t",
            SvgReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(SvgWriter.Write(made.Drawing))))
        );
        after.Reach!.Width.ShouldBe(300, 1e-3);
        var by = 300 / DrawingReading.Summarise("t", before).Reach!.Width;
        var (was, now) = (before.Pictures![0], after.Pictures!.ShouldHaveSingleItem());
        now.Place!.Zip(was.Place!).ShouldAllBe(p => Math.Abs(p.First - by * p.Second) < 1e-5);
        now.Ppi()!.Value.ShouldBe(was.Ppi()!.Value / by, 1e-3);
    }

    /// <summary>
    /// A mended file holds a picture once, however often it is placed: else two hundred copies of a large one would fill the disk.
    /// </summary>
    [Fact]
    public void Mended_CopiesShareTheirFile()
    {
        var before = SvgReaderTests.Read(
            Placed(
                Halves(),
                "id='p' width='20' height='20'",
                string.Concat(Enumerable.Range(1, 150).Select(i => $"<use href='#p' x='{i / 3.0:R}' transform='rotate({i})'/>"))
            )
        );
        var text = SvgWriter.Write(Mender.Mend(before, new MendingQuestion(Scale: 2), TestColours.Map, 0.2).Drawing);
        text.Split("base64,").Length.ShouldBe(2);
        var after = SvgReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(text)));
        after.Pictures!.Count.ShouldBe(151);
        foreach (var (was, now) in before.Pictures!.Zip(after.Pictures!))
            now.Place!.Zip(was.Place!).ShouldAllBe(n => Math.Abs(n.First - 2 * n.Second) < 1e-4);
    }

    [Fact]
    public void FileThatIsAPicture_IsPlacedAsWideAsAsked()
    {
        var made = Mender.Mend(Read(Halves(0)), new MendingQuestion(WidthMm: 25.4), TestColours.Map, 0.2);
        var again = SvgReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(SvgWriter.Write(made.Drawing))));
        (Math.Round(again.WidthMm, 3), Math.Round(again.HeightMm, 3)).ShouldBe((25.4, 16.933));
        Find(DrawingReading.Summarise("t", again)).Select(f => f.Code).ShouldBe(["image.placed"]);
    }

    public static TheoryData<byte[], string> Bad =>
        new()
        {
            { PngFiles.Claim(100_000, 100_000), "claims 100000 x 100000 pixels" },
            { [0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10], "damaged or cut short" },
            { [0xFF, 0xD8, 0xFF, 0xE0], "damaged or cut short" },
            { Halves()[..30], "damaged or cut short" },
            { PngFiles.Grey(20_000, 1, (_, _) => 0, 0.0254), "kilometres" },
            { "GIF89a"u8.ToArray(), "Save it as PNG or JPEG" },
        };

    [Theory]
    [MemberData(nameof(Bad))]
    public void Bad_SaysWhatToDo(byte[] file, string says) =>
        Should.Throw<UnreadableDrawingException>(() => Read(file)).Message.ShouldContain(says);

    [Fact]
    public void CutShort_OrClaimingTooMuch_InADrawing_IsSaidToBeUnread()
    {
        var noise = new Random(5);
        var long_ = PngFiles.Grey(300, 300, (_, _) => (byte)noise.Next(256), 300);
        foreach (var file in new[] { long_[..(long_.Length / 2)], PngFiles.Claim(100_000, 100_000) })
        {
            var summary = DrawingReading.Summarise("t", SvgReaderTests.Read(Placed(file, "width='20' height='20'")));
            summary.Pictures!.Single().Greys.ShouldBeNull();
            Find(summary).ShouldContain(f => f.Code == "image.unread" && f.Severity == Severity.Stop);
        }
    }

    /// <summary>Rows that follow one another are looked at however many; what takes all its memory at once only up to a bound.</summary>
    [Fact]
    public void LargePictures_AreLookedAtByRows_AndInterlacedOnesUpToABound()
    {
        var rows = Summary(PngFiles.Grey(9000, 5000, (_, _) => 0, 300));
        rows.Pictures!.Single().Greys.ShouldBe(0);
        var interlaced = PngFiles.Grey(9000, 5000, (_, _) => 0, 300, interlaced: true);
        PictureHeader.Read(interlaced)!.Whole.ShouldBeTrue();
        Find(Summary(interlaced)).ShouldContain(f => f.Code == "image.unread");
    }

    /// <summary>Whatever is changed in a file, it is read or refused in words.</summary>
    [Fact]
    public void Damaged_IsNoException()
    {
        var (random, files) = (new Random(11), new[] { Halves(), Halves(72, interlaced: true) });
        for (var i = 0; i < 1500; i++)
        {
            var changed = (byte[])files[i % 2].Clone();
            for (var n = random.Next(1, 4); n > 0; n--)
                changed[random.Next(8, changed.Length)] = (byte)random.Next(256);
            try
            {
                Summary(changed).Images.ShouldBe(1);
            }
            catch (UnreadableDrawingException e)
            {
                e.Message.ShouldEndWith(".");
            }
        }
    }
}
