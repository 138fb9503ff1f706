using System.Text;
using Shouldly;
using SkiaSharp;
using VelvetGate.Core.Machines;
using Xunit;

namespace VelvetGate.Core.Tests.Machines;

public class PhotosTests
{
    private static byte[] Picture(SKEncodedImageFormat format, int width = 40, int height = 20)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.White);
            // The left half is red, so that turning shows.
            canvas.DrawRect(0, 0, width / 2f, height, new SKPaint { Color = SKColors.Red });
        }
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(format, 95).ToArray();
    }

    /// <summary>
    /// Puts an APP1 segment behind the start of a JPEG: TIFF header, one entry that says how it is turned, one that names a camera.
    /// </summary>
    private static byte[] WithExif(byte[] jpeg, ushort orientation)
    {
        var tiff = new List<byte>();
        tiff.AddRange("Exif\0\0"u8);
        tiff.AddRange([0x4D, 0x4D, 0x00, 0x2A, 0, 0, 0, 8, 0, 2]);
        tiff.AddRange([0x01, 0x0F, 0, 2, 0, 0, 0, 12, 0, 0, 0, 38]); // Make, ASCII, 12, at 38
        tiff.AddRange([0x01, 0x12, 0, 3, 0, 0, 0, 1, (byte)(orientation >> 8), (byte)orientation, 0, 0]);
        tiff.AddRange([0, 0, 0, 0]);
        tiff.AddRange("SecretPlace\0"u8);
        var length = tiff.Count + 2;
        return [0xFF, 0xD8, 0xFF, 0xE1, (byte)(length >> 8), (byte)length, .. tiff, .. jpeg[2..]];
    }

    [Fact]
    public void WhatACameraWrote_IsGone()
    {
        var clean = Photos.Clean(WithExif(Picture(SKEncodedImageFormat.Jpeg), 1)).Value;
        Encoding.Latin1.GetString(clean.Bytes).ShouldNotContain("Exif");
        Encoding.Latin1.GetString(clean.Bytes).ShouldNotContain("SecretPlace");
        (clean.MediaType, clean.Width, clean.Height).ShouldBe(("image/jpeg", 40, 20));
    }

    /// <summary>Each of the eight ways a camera may be held: where the red half has to end up.</summary>
    [Theory]
    [InlineData(1, 40, 20, 5, 10)]
    [InlineData(2, 40, 20, 35, 10)]
    [InlineData(3, 40, 20, 35, 10)]
    [InlineData(4, 40, 20, 5, 10)]
    [InlineData(5, 20, 40, 10, 5)]
    [InlineData(6, 20, 40, 10, 5)]
    [InlineData(7, 20, 40, 10, 35)]
    [InlineData(8, 20, 40, 10, 35)]
    public void APhoto_StandsUpright(ushort orientation, int width, int height, int redX, int redY)
    {
        var clean = Photos.Clean(WithExif(Picture(SKEncodedImageFormat.Jpeg), orientation)).Value;
        (clean.Width, clean.Height).ShouldBe((width, height));
        using var read = SKBitmap.Decode(clean.Bytes);
        var red = read.GetPixel(redX, redY);
        var other = width == 40 ? read.GetPixel(width - 1 - redX, redY) : read.GetPixel(redX, height - 1 - redY);
        (red.Green < 100, other.Green > 150).ShouldBe((true, true), $"{red} {other}");
    }

    [Fact]
    public void ALargePhoto_IsMadeSmaller()
    {
        var clean = Photos.Clean(Picture(SKEncodedImageFormat.Png, 5000, 100)).Value;
        (clean.MediaType, clean.Width).ShouldBe(("image/png", 2400));
    }

    /// <summary>Told by its bytes, whatever its name says; what hangs behind a picture does not come along.</summary>
    [Fact]
    public void AScript_IsNoPhoto_AndDoesNotHideBehindOne()
    {
        var script = "<script>alert(1)</script>"u8.ToArray();
        Photos.Clean(script).Refusal!.Code.ShouldBe("photo.kind");
        Photos.Clean([0xFF, 0xD8, 0xFF, .. script]).Refusal!.Code.ShouldBe("photo.kind");
        byte[] both = [.. Picture(SKEncodedImageFormat.Png), .. script];
        Encoding.Latin1.GetString(Photos.Clean(both).Value.Bytes).ShouldNotContain("script");
    }

    [Fact]
    public void FortyMegabytes_AreTooLarge() => Photos.Clean(new byte[40 * 1024 * 1024]).Refusal!.Code.ShouldBe("photo.large");
}
