using PdfSharp.Drawing;
using PdfSharp.Pdf;
using VelvetGate.Core.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <summary>
/// The list as a poster: what stays out first and large, then the rest in columns, the date and the way back to the live list at the foot.
/// </summary>
internal sealed class ListPoster : IDisposable
{
    private static readonly XBrush Ink = new XSolidBrush(XColor.FromArgb(0x24, 0x12, 0x1F));
    private static readonly XBrush Signal = new XSolidBrush(XColor.FromArgb(0xA8, 0x1E, 0x12));
    private readonly PdfDocument _document = new();
    private readonly PublicListResponse _list;
    private readonly string _address;
    private readonly bool _large;
    private readonly double _scale;
    private XGraphics? _graphics;
    private double _width,
        _height,
        _y,
        _columnTop;
    private int _column,
        _columns = 1;

    private ListPoster(PublicListResponse list, bool large, string address)
    {
        (_list, _large, _address) = (list, large, address);
        _scale = large ? 1.35 : 1;
    }

    public static byte[] Pdf(PublicListResponse list, bool large, string address)
    {
        PdfFonts.Use();
        using var poster = new ListPoster(list, large, address);
        poster.Draw();
        using var stream = new MemoryStream();
        poster._document.Save(stream);
        return stream.ToArray();
    }

    public void Dispose()
    {
        _graphics?.Dispose();
        _document.Dispose();
    }

    private double Margin => 36 * _scale;

    private double Foot => 84 * _scale;

    private double ColumnWidth => (_width - 2 * Margin - (_columns - 1) * 16 * _scale) / _columns;

    private double Left => Margin + _column * (ColumnWidth + 16 * _scale);

    private void Draw()
    {
        _document.Info.Title = $"Materials: {_list.Machine?.Name ?? _list.House}";
        NewPage();
        foreach (var section in _list.Sections)
        {
            var shut = section.Standing is RulingStatus.Never or RulingStatus.Banned;
            StartColumns(shut ? 2 : 3);
            Heading(section.Title, shut);
            _columnTop = _y;
            _left = section.Items.Sum(i => HeightOf(i, shut));
            _target = _left / _columns;
            foreach (var item in section.Items)
                Item(item, shut);
        }
        StartColumns(1);
        Room(40 * _scale);
        Paragraph(
            "What is not on this list stays out. If you do not know what it is, you do not cut it. Follow your local code, the "
                + "maker’s manual and the supplier’s data sheet.",
            11 * _scale,
            true,
            Ink
        );
    }

    private void NewPage()
    {
        _graphics?.Dispose();
        var page = _document.AddPage();
        page.Size = _large ? PdfSharp.PageSize.A3 : PdfSharp.PageSize.A4;
        _graphics = XGraphics.FromPdfPage(page);
        (_width, _height) = (page.Width.Point, page.Height.Point);
        var title = new XFont(PdfFonts.Display, 26 * _scale);
        _graphics.DrawString(
            _list.Machine is { } machine ? $"{machine.Name}: what may go in" : "What may go in",
            title,
            Ink,
            Margin,
            Margin + 22 * _scale
        );
        _graphics.DrawRectangle(Signal, Margin, Margin + 30 * _scale, _width - 2 * Margin, 3 * _scale);
        QrDrawing.Draw(
            _graphics,
            _address,
            new XRect(_width - Margin - 72 * _scale, _height - Margin - 72 * _scale, 72 * _scale, 72 * _scale)
        );
        var small = new XFont(PdfFonts.Text, 8.5 * _scale);
        var y = _height - Margin - 36 * _scale;
        var review =
            _list.Overdue.Count == 0
                ? "Every ruling was looked at in its time."
                : "To be looked at again: "
                    + string.Join(", ", _list.Overdue.Take(4))
                    + (_list.Overdue.Count > 4 ? $" and {_list.Overdue.Count - 4} more." : ".");
        foreach (var line in new[] { $"{_list.House}, made {_list.Made}, page {_document.PageCount}. The live list: {_address}", review })
        {
            _graphics.DrawString(line, small, Ink, Margin, y);
            y += 12 * _scale;
        }
        (_y, _column) = (Margin + 44 * _scale, 0);
        _columnTop = _y;
    }

    private void StartColumns(int columns)
    {
        // Another number of columns starts under the longest of what stands there: simplest is a line across.
        if (_column > 0 || _columns > 1)
            _y = _deepest;
        (_columns, _column, _columnTop) = (columns, 0, _y);
        _deepest = _y;
    }

    private double _deepest,
        _left,
        _target;

    private double HeightOf(ListedMaterial item, bool shut)
    {
        var lines = Lines(item, shut).Sum(l => Wrap(l.Text, Font(l.Size, l.Bold), ColumnWidth).Count * l.Size * LineHeight);
        return lines + 3 * _scale;
    }

    private void Room(double needed)
    {
        if (_y + needed <= _height - Margin - Foot)
            return;
        if (_column + 1 < _columns)
            (_column, _y) = (_column + 1, _columnTop);
        else
        {
            NewPage();
            _deepest = _y;
            _target = _left / _columns;
        }
    }

    private void Heading(string text, bool shut)
    {
        Room(60 * _scale);
        _y += 6 * _scale;
        _graphics!.DrawString(text, new XFont(PdfFonts.Display, (shut ? 20 : 15) * _scale), shut ? Signal : Ink, Left, _y + 15 * _scale);
        _y += 24 * _scale;
        _deepest = Math.Max(_deepest, _y);
    }

    private void Item(ListedMaterial item, bool shut)
    {
        var height = HeightOf(item, shut);
        // Columns of one section end at about the same height.
        if (_column + 1 < _columns && _y + height / 2 > _columnTop + _target)
            (_column, _y) = (_column + 1, _columnTop);
        Room(height);
        foreach (var line in Lines(item, shut))
            Paragraph(line.Text, line.Size, line.Bold, line.Bold && shut ? Signal : Ink);
        _y += 3 * _scale;
        _left -= height;
        _deepest = Math.Max(_deepest, _y);
    }

    private IEnumerable<(string Text, double Size, bool Bold)> Lines(ListedMaterial item, bool shut)
    {
        yield return (item.Name, (shut ? 12 : 9.5) * _scale, true);
        var also = item.AlsoCalled.Count > 0 ? $"Also called {string.Join(", ", item.AlsoCalled)}. " : "";
        var text = shut ? $"{also}{item.Hazard}" : string.Join(". ", new[] { item.Words, item.Hints }.Where(t => t.Length > 0));
        if (text.Length > 0)
            yield return (text, 8.5 * _scale, false);
    }

    private const double LineHeight = 1.25;

    private static XFont Font(double size, bool bold) => new(PdfFonts.Text, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    private void Paragraph(string text, double size, bool bold, XBrush brush)
    {
        var font = Font(size, bold);
        foreach (var line in Wrap(text, font, ColumnWidth))
        {
            _graphics!.DrawString(line, font, brush, Left, _y + size);
            _y += size * LineHeight;
        }
        _deepest = Math.Max(_deepest, _y);
    }

    private List<string> Wrap(string text, XFont font, double width)
    {
        var lines = new List<string> { "" };
        foreach (var word in text.Split(' '))
        {
            var longer = lines[^1].Length == 0 ? word : $"{lines[^1]} {word}";
            if (lines[^1].Length > 0 && _graphics!.MeasureString(longer, font).Width > width)
                lines.Add(word);
            else
                lines[^1] = longer;
        }
        return lines;
    }
}
