using System.Diagnostics;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Store.Demo;
using VelvetGate.Web.Shared;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

/// <summary>
/// Lettering that another program turned into outlines: poppler (<c>pdftocairo</c>) writes each letter of a page as a path and places
/// copies of it.
/// </summary>
public class OutsideLetteringTests
{
    /// <summary>The page as SVG, its letters cut along their outlines.</summary>
    private static async Task<string> Outlines(string text, double pt, double degrees)
    {
        var folder = Directory.CreateTempSubdirectory("vg-letters-").FullName;
        try
        {
            PdfFonts.Use();
            using (var document = new PdfDocument())
            {
                var page = document.AddPage();
                (page.Width, page.Height) = (XUnit.FromMillimeter(500), XUnit.FromMillimeter(300));
                using var graphics = XGraphics.FromPdfPage(page);
                graphics.TranslateTransform(200, 400);
                graphics.RotateTransform(degrees);
                graphics.DrawString(text, new XFont(PdfFonts.Text, pt), XBrushes.Black, 0, 0);
                document.Save(Path.Combine(folder, "page.pdf"));
            }
            using var process = Process.Start(
                new ProcessStartInfo("pdftocairo", ["-svg", Path.Combine(folder, "page.pdf"), Path.Combine(folder, "page.svg")])
            )!;
            await process.WaitForExitAsync(TestContext.Current.CancellationToken);
            var svg = await File.ReadAllTextAsync(Path.Combine(folder, "page.svg"), TestContext.Current.CancellationToken);
            svg.ShouldContain("<use");
            svg.ShouldNotContain("<text");
            return svg.Replace("stroke:none", "stroke:#9c2f4f", StringComparison.Ordinal);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static DrawingSummary Read(string svg) =>
        DrawingReading.Summarise("letters.svg", DrawingFile.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(svg))));

    /// <param name="outlines">Letters, dots on them counted.</param>
    /// <param name="counters">Closed spaces within letters: none in g, which is open in this face.</param>
    [Theory]
    [InlineData("Velvet Gate", 120, 0, 10, 4)]
    [InlineData("Velvet Gate", 120, 31, 10, 4)]
    [InlineData("ROPEWALK", 90, 0, 8, 4)]
    [InlineData("Bird 80", 160, -12, 7, 7)] // the 0 of this face has a stroke through it, and so two
    public async Task Letters_AreSound_AndTheirCountersRunFirst(string text, double pt, double degrees, int outlines, int counters)
    {
        var summary = Read(await Outlines(text, pt, degrees));
        var heron = DemoHouse.Machines.Single(m => m.Id == "heron");
        DrawingFindings.Of(summary, DemoHouse.Colours, heron, thicknessMm: 3).Where(f => f.Severity == Severity.Stop).ShouldBeEmpty();
        DrawingFindings
            .Of(summary, DemoHouse.Colours, heron, thicknessMm: 3)
            .ShouldNotContain(f => f.Code == "path.open" || f.Code == "line.near");
        var order = RunOrder.Of(summary, DemoHouse.Colours).Where(s => s.Operation == StrokeMeaning.Cut).ToList();
        (order.Single(s => s.What.StartsWith("inner", StringComparison.Ordinal)).Lines, order[^1].Lines).ShouldBe((counters, outlines));
    }

    /// <summary>Small print cut out is found thin, whatever turns it: its strokes are thinner than the sheet.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(17)]
    public async Task SmallPrint_IsThin(double degrees) =>
        DrawingFindings
            .Of(Read(await Outlines("Velvet Gate", 24, degrees)), DemoHouse.Colours, DemoHouse.Machines[0], thicknessMm: 3)
            .ShouldContain(f => f.Code == "detail.thin" && f.LengthMm > 50);
}
