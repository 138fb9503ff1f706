using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace VelvetGate.Web.Shared;

/// <summary>A paper of A4 that is written from top to bottom, as many pages as it takes.</summary>
internal sealed class Paper : IDisposable
{
    private const double Mm = 72 / 25.4;
    private const double Left = 22 * Mm;
    private const double Foot = 20 * Mm;
    private static readonly XBrush Ink = new XSolidBrush(XColor.FromArgb(0x24, 0x12, 0x1F));
    private static readonly XBrush Plum = new XSolidBrush(XColor.FromArgb(0x6B, 0x1F, 0x5E));
    private static readonly XPen Rule = new(XColor.FromArgb(0xC9, 0xB4, 0x8A), 0.5);
    private readonly PdfDocument _document = new();
    private readonly string _foot;
    private XGraphics _graphics;
    private double _y;

    public Paper(string title, string foot)
    {
        PdfFonts.Use();
        _document.Info.Title = title;
        _foot = foot;
        _graphics = NewPage();
        Text(title, 20, PdfFonts.Display);
        _y += 2 * Mm;
    }

    private double Width => _document.Pages[^1].Width.Point - 2 * Left;

    private double Bottom => _document.Pages[^1].Height.Point - Foot;

    public void Heading(string text)
    {
        Room(16 * Mm);
        _y += 4 * Mm;
        Text(text, 13, PdfFonts.Display);
        _graphics.DrawLine(Rule, Left, _y, Left + Width, _y);
        _y += 1.5 * Mm;
    }

    public void Line(string text, double size = 10) => Text(text, size, PdfFonts.Text);

    /// <summary>A word and what belongs to it; nothing where there is nothing to say.</summary>
    public void Pair(string label, string? text)
    {
        if (!string.IsNullOrWhiteSpace(text))
            Columns([(label, 0.24), (text, 0.76)], 10);
    }

    /// <summary>Cells beside each other, each with its part of the width.</summary>
    public void Columns(IReadOnlyList<(string Text, double Part)> cells, double size = 9)
    {
        var font = new XFont(PdfFonts.Text, size);
        var lines = cells.Select(c => Wrap(c.Text, font, Width * c.Part - 2 * Mm)).ToList();
        var step = size * 1.3;
        Room(lines.Max(l => l.Count) * step + Mm);
        var x = Left;
        for (var i = 0; i < cells.Count; i++)
        {
            for (var n = 0; n < lines[i].Count; n++)
                _graphics.DrawString(lines[i][n], font, Ink, x, _y + (n + 1) * step - 0.3 * size);
            x += Width * cells[i].Part;
        }
        _y += lines.Max(l => l.Count) * step + 0.8 * Mm;
    }

    public void Picture(byte[] bytes)
    {
        using var stream = new MemoryStream(bytes);
        using var image = XImage.FromStream(stream);
        var scale = Math.Min(Width / image.PointWidth, 90 * Mm / image.PointHeight);
        Room(image.PointHeight * scale + 4 * Mm);
        _graphics.DrawImage(image, Left, _y, image.PointWidth * scale, image.PointHeight * scale);
        _y += image.PointHeight * scale + 4 * Mm;
    }

    /// <summary>A code that a phone reads, 60 mm wide.</summary>
    public void Code(string address)
    {
        Room(66 * Mm);
        QrDrawing.Draw(_graphics, address, new XRect(Left, _y + 2 * Mm, 60 * Mm, 60 * Mm));
        _y += 66 * Mm;
    }

    public byte[] Finish()
    {
        _graphics.Dispose();
        using var stream = new MemoryStream();
        _document.Save(stream);
        return stream.ToArray();
    }

    public void Dispose()
    {
        _graphics.Dispose();
        _document.Dispose();
    }

    private XGraphics NewPage()
    {
        var page = _document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        var graphics = XGraphics.FromPdfPage(page);
        graphics.DrawRectangle(Plum, Left, 16 * Mm, page.Width.Point - 2 * Left, 1.2 * Mm);
        graphics.DrawString($"{_foot}, page {_document.PageCount}", new XFont(PdfFonts.Text, 8), Ink, Left, page.Height.Point - 12 * Mm);
        _y = 22 * Mm;
        return graphics;
    }

    private void Room(double needed)
    {
        if (_y + needed <= Bottom)
            return;
        _graphics.Dispose();
        _graphics = NewPage();
    }

    private void Text(string text, double size, string family)
    {
        var font = new XFont(family, size);
        foreach (var line in Wrap(text, font, Width))
        {
            Room(size * 1.35);
            _graphics.DrawString(line, font, Ink, Left, _y + size);
            _y += size * 1.35;
        }
    }

    private List<string> Wrap(string text, XFont font, double width)
    {
        var lines = new List<string>();
        foreach (var paragraph in text.Split('\n'))
        {
            var line = "";
            foreach (var word in paragraph.Split(' ', StringSplitOptions.RemoveEmptyEntries).SelectMany(w => Broken(w, font, width)))
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (_graphics.MeasureString(longer, font).Width <= width)
                    line = longer;
                else
                {
                    lines.Add(line);
                    line = word;
                }
            }
            lines.Add(line);
        }
        return lines;
    }

    /// <summary>A word that is wider than its column is broken.</summary>
    private IEnumerable<string> Broken(string word, XFont font, double width)
    {
        while (word.Length > 1 && _graphics.MeasureString(word, font).Width > width)
        {
            var fits = Enumerable
                .Range(1, word.Length)
                .TakeWhile(n => _graphics.MeasureString(word[..n], font).Width <= width)
                .LastOrDefault(1);
            yield return word[..fits];
            word = word[fits..];
        }
        yield return word;
    }
}
