using PdfSharp.Drawing;
using PdfSharp.Pdf;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="Address">What the code leads to.</param>
public sealed record TagLabel(SheetTag Tag, string Material, string Size, string Address);

/// <summary>Labels on plain A4, in a grid: number and code large enough to read at arm's length.</summary>
public static class TagLabels
{
    private const double Margin = 24;
    private const double Pad = 8;

    public static byte[] Pdf(IReadOnlyList<TagLabel> labels, int columns, int rows, int skip)
    {
        PdfFonts.Use();
        using var document = new PdfDocument();
        document.Info.Title = "Sheet labels";
        PdfPage? page = null;
        XGraphics? graphics = null;
        for (var i = 0; i < labels.Count; i++)
        {
            var place = (i + skip) % (columns * rows);
            if (page is null || place == 0)
            {
                graphics?.Dispose();
                page = document.AddPage();
                page.Size = PdfSharp.PageSize.A4;
                graphics = XGraphics.FromPdfPage(page);
            }
            var (width, height) = ((page.Width.Point - 2 * Margin) / columns, (page.Height.Point - 2 * Margin) / rows);
            Draw(graphics!, labels[i], new XRect(Margin + place % columns * width, Margin + place / columns * height, width, height));
        }
        graphics?.Dispose();
        using var stream = new MemoryStream();
        document.Save(stream);
        return stream.ToArray();
    }

    private static void Draw(XGraphics graphics, TagLabel label, XRect box)
    {
        graphics.DrawRectangle(new XPen(XColors.LightGray, 0.5), box);
        var side = Math.Min(box.Height - 2 * Pad, box.Width * 0.45);
        QrDrawing.Draw(graphics, label.Address, new XRect(box.X + Pad, box.Y + (box.Height - side) / 2, side, side));
        var (x, width) = (box.X + 2 * Pad + side, box.Width - side - 3 * Pad);
        Fitted(graphics, label.Tag.Value, PdfFonts.Display, 20, x, box.Y + box.Height * 0.42, width);
        Fitted(graphics, label.Material, PdfFonts.Text, 9, x, box.Y + box.Height * 0.62, width);
        Fitted(graphics, label.Size, PdfFonts.Text, 9, x, box.Y + box.Height * 0.80, width);
    }

    /// <summary>Smaller rather than over the edge.</summary>
    private static void Fitted(XGraphics graphics, string text, string family, double size, double x, double y, double width)
    {
        var font = new XFont(family, size);
        var wide = graphics.MeasureString(text, font).Width;
        if (wide > width)
            font = new XFont(family, Math.Max(4, size * width / wide));
        graphics.DrawString(text, font, XBrushes.Black, x, y);
    }
}
