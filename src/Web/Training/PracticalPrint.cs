using System.Globalization;
using NodaTime;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using VelvetGate.Core.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <summary>A practical sheet on A4: to fill in by hand where there is no tablet, or as it was marked.</summary>
internal static class PracticalPrint
{
    private const double Margin = 42;
    private const double Line = 12.5;
    private static readonly XBrush Ink = XBrushes.Black;
    private static readonly double[] Columns = [318, 376, 424, 466];

    public static byte[] Pdf(PracticalResponse sheet, HouseRules rules)
    {
        PdfFonts.Use();
        using var document = new PdfDocument();
        document.Info.Title = $"{sheet.Sheet.Title}: {sheet.Person}";
        XGraphics? g = null;
        double y = 0,
            foot = 0;
        var text = new XFont(PdfFonts.Text, 9.5);
        var bold = new XFont(PdfFonts.Text, 9.5, XFontStyleEx.Bold);
        var counting = sheet.Marks.GroupBy(m => m.StepId).ToDictionary(m => m.Key, m => m.OrderBy(x => x.At).Last());
        Page();
        foreach (var (step, number) in sheet.Sheet.Steps.Select((s, i) => (s, i + 1)))
        {
            var lines = Wrapped(g!, $"{number}. {step.Text}", step.Critical ? bold : text, Columns[0] - Margin - 8).ToList();
            var mark = counting.GetValueOrDefault(step.Id);
            var note = mark?.Note is { } n ? Wrapped(g!, n, text, 500 - Margin).ToList() : [];
            if (y + (lines.Count + note.Count) * Line + 6 > foot)
                Page();
            for (var i = 0; i < lines.Count; i++)
                g!.DrawString(lines[i], step.Critical ? bold : text, Ink, Margin, y + i * Line);
            for (var i = 0; i < 3; i++)
            {
                g!.DrawRectangle(XPens.Black, Columns[i] + 14, y - 8, 9, 9);
                if (mark is not null && (int)mark.Mark == i)
                    g.DrawString("×", bold, Ink, Columns[i] + 15.5, y);
            }
            if (mark is not null)
                g!.DrawString(rules.Clock.At(mark.At).ToString("HH:mm:ss", CultureInfo.InvariantCulture), text, Ink, Columns[3] + 20, y);
            y += lines.Count * Line;
            foreach (var line in note)
            {
                g!.DrawString(line, text, Ink, Margin + 14, y);
                y += Line;
            }
            y += 5;
        }
        if (y > foot - 70)
            Page();
        y += 10;
        foreach (
            var line in Wrapped(
                g!,
                sheet.Marks.Count > 0
                    ? sheet.Verdict.Why
                    : $"Any step in bold that is missed: not signed. More than {rules.PromptsAllowed} prompted or missed: repeated.",
                bold,
                500
            )
        )
        {
            g!.DrawString(line, bold, Ink, Margin, y);
            y += Line;
        }
        g!.DrawString($"Trainer: {sheet.Trainer}{Agreed(sheet.TrainerAgreedAt)}", text, Ink, Margin, y + 16);
        g.DrawString($"Watched: {sheet.Person}{Agreed(sheet.MemberAgreedAt)}", text, Ink, Margin + 260, y + 16);
        g.DrawString("The maker’s manual and local rules go before this sheet.", text, Ink, Margin, y + 36);
        g.Dispose();
        using var stream = new MemoryStream();
        document.Save(stream);
        return stream.ToArray();

        string Agreed(Instant? at) =>
            at is { } i ? $", agreed {rules.Clock.At(i).ToString("d MMM uuuu HH:mm", CultureInfo.InvariantCulture)}" : " ________________";

        void Page()
        {
            g?.Dispose();
            var page = document.AddPage();
            page.Size = PdfSharp.PageSize.A4;
            g = XGraphics.FromPdfPage(page);
            foot = page.Height.Point - 46;
            g.DrawString(sheet.Sheet.Title, new XFont(PdfFonts.Display, 18), Ink, Margin, 56);
            g.DrawString(
                $"{sheet.Person}, for {sheet.AuthorityName}. {rules.HouseName}, "
                    + $"{rules.Clock.At(sheet.Started).ToString("d MMMM uuuu", CultureInfo.InvariantCulture)}, version "
                    + $"{sheet.Sheet.Version}.",
                text,
                Ink,
                Margin,
                74
            );
            foreach (var (word, i) in new[] { "unprompted", "prompted", "missed", "when" }.Select((w, i) => (w, i)))
                g.DrawString(word, text, Ink, Columns[i] + (i == 3 ? 20 : 0), 92);
            g.DrawLine(XPens.Black, Margin, 96, 553, 96);
            y = 112;
        }
    }

    private static IEnumerable<string> Wrapped(XGraphics g, string text, XFont font, double width)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && g.MeasureString(longer, font).Width > width)
            {
                yield return line;
                line = word;
            }
            else
                line = longer;
        }
        yield return line;
    }
}
