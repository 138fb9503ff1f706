using System.Globalization;
using NodaTime;
using PdfSharp.Drawing;
using PdfSharp.Drawing.Layout;
using PdfSharp.Pdf;
using VelvetGate.Core.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <summary>A certificate as a sheet of A4, or as a card for the wallet (ISO/IEC 7810 ID-1: 85.60 x 53.98 mm).</summary>
internal static class CertificatePrint
{
    private const double Mm = 72 / 25.4;
    private static readonly XBrush Ink = new XSolidBrush(XColor.FromArgb(0x24, 0x12, 0x1F));
    private static readonly XBrush Plum = new XSolidBrush(XColor.FromArgb(0x6B, 0x1F, 0x5E));

    public static byte[] Pdf(CertificateStatus standing, HouseRules rules, string address, bool card, Instant now)
    {
        PdfFonts.Use();
        using var document = new PdfDocument();
        document.Info.Title = $"{standing.Person}: {standing.AuthorityName}";
        var page = document.AddPage();
        if (card)
            (page.Width, page.Height) = (XUnit.FromMillimeter(85.6), XUnit.FromMillimeter(53.98));
        else
            page.Size = PdfSharp.PageSize.A4;
        using (var graphics = XGraphics.FromPdfPage(page))
        {
            if (card)
                Card(graphics, standing, rules, address);
            else
                Sheet(graphics, page, standing, rules, address, now);
        }
        using var stream = new MemoryStream();
        document.Save(stream);
        return stream.ToArray();
    }

    private static void Sheet(XGraphics g, PdfPage page, CertificateStatus c, HouseRules rules, string address, Instant now)
    {
        var (left, width) = (28 * Mm, page.Width.Point - 56 * Mm);
        g.DrawRectangle(Plum, left, 26 * Mm, width, 1.2 * Mm);
        g.DrawString(rules.HouseName, new XFont(PdfFonts.Text, 13), Ink, left, 38 * Mm);
        Fitted(g, c.Person, PdfFonts.Display, 34, left, 62 * Mm, width);
        g.DrawString("may run", new XFont(PdfFonts.Text, 16), Ink, left, 76 * Mm);
        Fitted(g, c.AuthorityName, PdfFonts.Display, 26, left, 90 * Mm, width);
        var lines = new[]
        {
            $"Signed off on {Day(c.Since, rules)} by {c.SignedBy}{(c.FromPaper ? ", entered from an earlier paper" : "")}.",
            c.Now!.Until is { } end ? $"Last day: {Day(end - Duration.Epsilon, rules)}." : "Without end.",
            $"It rests after {rules.IdleLapseDays} days without a run; one supervised run renews it then.",
        };
        for (var i = 0; i < lines.Length; i++)
            g.DrawString(lines[i], new XFont(PdfFonts.Text, 12), Ink, left, (106 + 7 * i) * Mm);
        QrDrawing.Draw(g, address, new XRect(left, 140 * Mm, 34 * Mm, 34 * Mm));
        var box = new XTextFormatter(g);
        box.DrawString(
            $"This paper counts while the page behind the code says so.\n{address}\n\nIt opens this machine and nothing else. The "
                + "gate is asked before every run; the maker’s manual and local rules go before this paper.",
            new XFont(PdfFonts.Text, 10.5),
            Ink,
            new XRect(left + 40 * Mm, 142 * Mm, width - 40 * Mm, 60 * Mm)
        );
        g.DrawString($"Printed {Day(now, rules)}", new XFont(PdfFonts.Text, 9), Ink, left, page.Height.Point - 20 * Mm);
    }

    private static void Card(XGraphics g, CertificateStatus c, HouseRules rules, string address)
    {
        g.DrawRectangle(Plum, 0, 0, 85.6 * Mm, 2 * Mm);
        Fitted(g, rules.HouseName, PdfFonts.Text, 7, 4 * Mm, 7 * Mm, 77 * Mm);
        Fitted(g, c.Person, PdfFonts.Display, 14, 4 * Mm, 15 * Mm, 77 * Mm);
        Fitted(g, c.AuthorityName, PdfFonts.Display, 11, 4 * Mm, 23 * Mm, 50 * Mm);
        Fitted(
            g,
            c.Now!.Until is { } end ? $"to {Day(end - Duration.Epsilon, rules)}" : "without end",
            PdfFonts.Text,
            9,
            4 * Mm,
            30 * Mm,
            50 * Mm
        );
        Fitted(g, $"signed off {Day(c.Since, rules)}", PdfFonts.Text, 7.5, 4 * Mm, 36 * Mm, 50 * Mm);
        Fitted(g, "Counts while the page behind", PdfFonts.Text, 7, 4 * Mm, 45 * Mm, 50 * Mm);
        Fitted(g, "the code says so.", PdfFonts.Text, 7, 4 * Mm, 48.5 * Mm, 50 * Mm);
        QrDrawing.Draw(g, address, new XRect(57 * Mm, 22 * Mm, 25 * Mm, 25 * Mm));
    }

    private static string Day(Instant at, HouseRules rules) => rules.Clock.DateOf(at).ToString("d MMMM uuuu", CultureInfo.InvariantCulture);

    /// <summary>Smaller rather than over the edge.</summary>
    private static void Fitted(XGraphics graphics, string text, string family, double size, double x, double y, double width)
    {
        var font = new XFont(family, size);
        var wide = graphics.MeasureString(text, font).Width;
        if (wide > width)
            font = new XFont(family, Math.Max(4, size * width / wide));
        graphics.DrawString(text, font, Ink, x, y);
    }
}
