using System.Buffers.Binary;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Pictures;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Heads of pictures by their standards, and pictures as drawings place them.</summary>
public class PictureTests
{
    private static byte[] Chunk(string type, params byte[] data)
    {
        var chunk = new byte[12 + data.Length];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, (uint)data.Length);
        System.Text.Encoding.ASCII.GetBytes(type).CopyTo(chunk, 4);
        data.CopyTo(chunk, 8);
        return chunk;
    }

    private static byte[] Be(params uint[] numbers)
    {
        var bytes = new byte[4 * numbers.Length];
        for (var i = 0; i < numbers.Length; i++)
            BinaryPrimitives.WriteUInt32BigEndian(bytes.AsSpan(4 * i), numbers[i]);
        return bytes;
    }

    private static byte[] Png(uint width, uint height, byte[]? more = null) =>
        [
            0x89,
            .. "PNG"u8,
            13,
            10,
            26,
            10,
            .. Chunk("IHDR", [.. Be(width, height), 8, 0, 0, 0, 0]),
            .. more ?? [],
            .. Chunk("IDAT"),
            .. Chunk("IEND"),
        ];

    /// <summary>SOI, APP0 of JFIF 1.02, a comment, then the frame as ITU-T T.81 lays it out.</summary>
    private static byte[] Jpeg(byte unit, ushort density, byte frame = 0xC0) =>
        [
            0xFF,
            0xD8,
            0xFF,
            0xE0,
            0,
            16,
            .. "JFIF\0"u8,
            1,
            2,
            unit,
            (byte)(density >> 8),
            (byte)density,
            (byte)(density >> 8),
            (byte)density,
            0,
            0,
            0xFF,
            0xFE,
            0,
            4,
            1,
            2,
            0xFF,
            0xC4,
            0,
            4,
            0,
            0,
            0xFF,
            0xFF,
            frame,
            0,
            11,
            8,
            0x02,
            0x58,
            0x03,
            0x20,
            1,
            1,
            0x11,
            0,
        ];

    [Fact]
    public void Png_HasTheSizeOfItsHead_AndADensityWhereOneStands()
    {
        PictureHeader.Read(Png(800, 600)).ShouldBe(new PictureHeader("png", 800, 600, null, null));
        PictureHeader.Read(Png(800, 600, Chunk("pHYs", [.. Be(11811, 11811), 1])))!.PpiX!.Value.ShouldBe(300, 0.01);
        PictureHeader.Read(Png(800, 600, Chunk("pHYs", [.. Be(4, 3), 0])))!.PpiX.ShouldBeNull("a ratio alone");
        PictureHeader.Read(Png(100_000, 100_000))!.Width.ShouldBe(100_000, "a claim, for which nothing is set aside");
        PictureHeader.Read(Png(0, 600)).ShouldBeNull();
    }

    [Theory]
    [InlineData(1, 300, 300.0)]
    [InlineData(2, 118, 299.72)]
    [InlineData(0, 1, null)]
    [InlineData(1, 0, null)]
    public void Jpeg_HasTheSizeOfItsFrame_AndTheDensityOfJfif(byte unit, ushort density, double? ppi)
    {
        var header = PictureHeader.Read(Jpeg(unit, density))!;
        (header.Format, header.Width, header.Height).ShouldBe(("jpeg", 800, 600));
        if (ppi is null)
            header.PpiX.ShouldBeNull();
        else
            header.PpiX!.Value.ShouldBe(ppi.Value, 0.01);
        (PictureHeader.Read(Jpeg(1, 72, 0xC2))!.Width, PictureHeader.Read(Jpeg(1, 72, 0xC2))!.Whole).ShouldBe(
            (800, true),
            "progressive too"
        );
        header.Whole.ShouldBeFalse();
    }

    [Fact]
    public void Damaged_WhereverItIsCutOrChanged_IsNoException()
    {
        foreach (var file in new[] { Png(800, 600, Chunk("pHYs", [.. Be(1, 1), 1])), Jpeg(1, 300) })
        {
            for (var length = 0; length < file.Length; length++)
                PictureHeader.Read(file.AsSpan(0, length));
            var random = new Random(7);
            for (var i = 0; i < 20_000; i++)
            {
                var changed = (byte[])file.Clone();
                for (var n = random.Next(1, 4); n > 0; n--)
                    changed[random.Next(changed.Length)] = (byte)random.Next(256);
                PictureHeader.Read(changed);
            }
        }
        PictureHeader.Read("GIF89a"u8).ShouldBeNull();
    }

    private static DrawingSummary Placed(string attributes, string before = "", string after = "") =>
        DrawingReading.Summarise(
            "t.svg",
            SvgReaderTests.Read(
                $"<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'>{before}<image "
                    + $"{attributes} "
                    + $"href='data:image/png;base64,{Convert.ToBase64String(PngFiles.Grey(600, 300, (_, _) => 0), Base64FormattingOptions.InsertLineBreaks)}'/>{after}</svg>"
            )
        );

    [Theory]
    [InlineData("width='50.8' height='25.4'", 50.8, 25.4, 300)]
    [InlineData("width='50.8'", 50.8, 25.4, 300)]
    [InlineData("height='25.4'", 50.8, 25.4, 300)]
    [InlineData("width='50.8' height='50.8'", 50.8, 25.4, 300)] // it keeps its proportions
    [InlineData("width='50.8' height='50.8' preserveAspectRatio='none'", 50.8, 50.8, 150)] // or is stretched
    [InlineData("width='50.8' height='50.8' preserveAspectRatio='xMidYMid slice'", 101.6, 50.8, 150)]
    [InlineData("width='25.4' height='12.7' transform='scale(2)'", 50.8, 25.4, 300)]
    [InlineData("width='50.8%' height='25.4%'", 50.8, 25.4, 300)]
    [InlineData("width='25.4' height='12.7' transform='rotate(30)'", 25.4, 12.7, 600)]
    public void Placed_PixelsToTheInch_FollowTheDrawing(string attributes, double width, double height, double ppi)
    {
        var picture = Placed(attributes).Pictures!.ShouldHaveSingleItem();
        picture.WidthMm.ShouldBe(width, 1e-6);
        picture.HeightMm.ShouldBe(height, 1e-6);
        picture.Ppi()!.Value.ShouldBe(ppi, 1e-6);
    }

    [Theory]
    [InlineData("width='50.8' height='25.4'", "image.placed")] // 300, which is enough
    [InlineData("width='51' height='25.5'", "image.lowResolution image.placed")]
    [InlineData("width='51' height='25.5' visibility='hidden'", "file.empty")]
    public void Finding_BelowThreeHundred_AtItsMiddle(string attributes, string codes)
    {
        var findings = DrawingFindings
            .Of(Placed(attributes), TestColours.Map, null)
            .Where(f => codes.Contains("file.empty", StringComparison.Ordinal) || f.Code != "file.empty")
            .ToList();
        string.Join(' ', findings.Select(f => f.Code)).ShouldBe(codes);
        if (findings.FirstOrDefault(f => f.Code == "image.lowResolution") is not { } coarse)
            return;
        coarse.Text.ShouldBe("1 pixel picture of only 298 pixels to the inch as placed.");
        coarse.At.ShouldHaveSingleItem().ShouldBe(new Place(25.5, 12.75));
    }

    [Theory]
    [InlineData("<image width='9' height='9' href='cat.png'/>")]
    [InlineData("<image width='9' height='9' href='data:image/png;base64,AAAA'/>")]
    [InlineData("<image width='9' height='9' href='data:image/png;base64,!!!'/>")]
    [InlineData("<image width='9' height='9'/>")]
    public void Linked_OrUnreadable_IsSaidToBeUnmeasured(string image)
    {
        var drawing = DrawingReading.Summarise(
            "t.svg",
            SvgReaderTests.Read($"<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'>{image}</svg>")
        );
        DrawingFindings
            .Of(drawing, TestColours.Map, null)
            .Single(f => f.Code == "image.placed")
            .Text.ShouldBe("1 pixel picture, not in the file.");
    }
}
