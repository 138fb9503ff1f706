using System.Diagnostics;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using QRCoder;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Pictures;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>Heads of pictures that other programs wrote: poppler renders a page of a known size, QRCoder writes a code.</summary>
public class OutsidePicturesTests
{
    [Theory]
    [InlineData("-png", 300)]
    [InlineData("-png", 72)]
    [InlineData("-jpeg", 300)]
    [InlineData("-jpeg", 96)]
    public async Task Page_RenderedByPoppler_HasItsPixelsAndDensity(string format, int ppi)
    {
        var header = PictureHeader.Read(await Rendered(format, ppi, _ => { })).ShouldNotBeNull();
        (header.Width, header.Height).ShouldBe((3 * ppi, 2 * ppi));
        header.PpiX!.Value.ShouldBe(ppi, 0.02);
        header.PpiY!.Value.ShouldBe(ppi, 0.02);
    }

    /// <summary>
    /// A page three by two inches, a third of it grey: whatever poppler makes of it, that share is between black and white.
    /// </summary>
    [Theory]
    [InlineData("-png", 0.5, 1.0 / 3)]
    [InlineData("-jpeg", 0.5, 1.0 / 3)]
    [InlineData("-png", 0, 0)]
    [InlineData("-jpeg", 0, 0)]
    [InlineData("-png -gray", 0.4, 1.0 / 3)]
    [InlineData("-png -mono", 0.5, 0)] // which it turns into dots
    public async Task GreyPage_RenderedByPoppler_IsGreyToThatShare(string format, double grey, double share)
    {
        var bytes = await Rendered(format, 300, page =>
        {
            using var graphics = XGraphics.FromPdfPage(page);
            graphics.DrawRectangle(new XSolidBrush(XColor.FromGrayScale(grey)), 0, 0, 72, 144);
        });
        var summary = DrawingReading.Summarise("page", DrawingFile.Read(new MemoryStream(bytes)));
        (Math.Round(summary.WidthMm, 1), Math.Round(summary.HeightMm, 1)).ShouldBe((76.2, 50.8));
        summary.Pictures!.Single().Greys.ShouldNotBeNull().ShouldBe(share, 0.005);
    }

    /// <summary>
    /// Exif 2.32: an APP1 segment after the start of the file, with tag 0x0112 in a little-endian TIFF directory of one entry.
    /// </summary>
    [Theory]
    [InlineData(1, 900, 600)]
    [InlineData(3, 900, 600)] // upside down
    [InlineData(6, 600, 900)]
    [InlineData(8, 600, 900)]
    public async Task CameraOnItsSide_TurnsThePicture(byte turn, int across, int down)
    {
        var jpeg = await Rendered("-jpeg", 300, _ => { });
        byte[] exif = [0xFF, 0xE1, 0, 34, .. "Exif\0\0II*\0"u8, 8, 0, 0, 0, 1, 0, 0x12, 1, 3, 0, 1, 0, 0, 0, turn, 0, 0, 0, 0, 0, 0, 0];
        byte[] turned = [.. jpeg[..2], .. exif, .. jpeg[2..]];
        var picture = DrawingReading.Summarise("photo", DrawingFile.Read(new MemoryStream(turned)));
        (picture.Pictures!.Single().Pixels, picture.Pictures!.Single().Rows).ShouldBe((across, down));
        (picture.WidthMm / picture.HeightMm).ShouldBe((double)across / down, 1e-3);
        picture.Pictures!.Single().Greys.ShouldBe(0);
    }

    private static async Task<byte[]> Rendered(string format, int ppi, Action<PdfPage> draw)
    {
        var folder = Directory.CreateTempSubdirectory("vg-picture-").FullName;
        try
        {
            using (var document = new PdfDocument())
            {
                var page = document.AddPage();
                (page.Width, page.Height) = (XUnit.FromInch(3), XUnit.FromInch(2));
                draw(page);
                document.Save(Path.Combine(folder, "page.pdf"));
            }
            using var process = Process.Start(
                new ProcessStartInfo(
                    "pdftoppm",
                    ["-r", $"{ppi}", .. format.Split(' '), Path.Combine(folder, "page.pdf"), Path.Combine(folder, "page")]
                )
            )!;
            await process.WaitForExitAsync(TestContext.Current.CancellationToken);
            return await File.ReadAllBytesAsync(
                Directory.GetFiles(folder, "page-*").ShouldHaveSingleItem(),
                TestContext.Current.CancellationToken
            );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public void Code_WrittenByQRCoder_HasItsPixels()
    {
        using var data = QRCodeGenerator.GenerateQrCode("velvet", QRCodeGenerator.ECCLevel.M);
        var header = PictureHeader.Read(new PngByteQRCode(data).GetGraphic(7)).ShouldNotBeNull();
        (header.Width, header.Height).ShouldBe((data.ModuleMatrix.Count * 7, data.ModuleMatrix.Count * 7));
        DrawingReading
            .Summarise("code", DrawingFile.Read(new MemoryStream(new PngByteQRCode(data).GetGraphic(7))))
            .Pictures!.Single()
            .Greys.ShouldBe(0);
    }
}
