using System.Diagnostics;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using QRCoder;
using Shouldly;
using VelvetGate.Core.Bench.Pictures;
using Xunit;

namespace VelvetGate.Web.Tests.Bench;

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
        var folder = Directory.CreateTempSubdirectory("vg-picture-").FullName;
        try
        {
            using (var document = new PdfDocument())
            {
                var page = document.AddPage();
                (page.Width, page.Height) = (XUnit.FromInch(3), XUnit.FromInch(2));
                document.Save(Path.Combine(folder, "page.pdf"));
            }
            using var process = Process.Start(new ProcessStartInfo("pdftoppm", ["-r", $"{ppi}", format, Path.Combine(folder, "page.pdf"), Path.Combine(folder, "page")]))!;
            await process.WaitForExitAsync(TestContext.Current.CancellationToken);
            var bytes = await File.ReadAllBytesAsync(Directory.GetFiles(folder, "page-*").ShouldHaveSingleItem(), TestContext.Current.CancellationToken);
            var header = PictureHeader.Read(bytes).ShouldNotBeNull();
            (header.Width, header.Height).ShouldBe((3 * ppi, 2 * ppi));
            header.PpiX!.Value.ShouldBe(ppi, 0.02);
            header.PpiY!.Value.ShouldBe(ppi, 0.02);
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
    }
}
