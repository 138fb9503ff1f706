using PdfSharp.Fonts;

namespace VelvetGate.Web.Shared;

/// <summary>The faces shipped for print (SIL Open Font License, see Fonts).</summary>
public sealed class PdfFonts : IFontResolver
{
    public const string Display = "Besley";
    public const string Text = "Atkinson Hyperlegible Next";
    private static readonly Lock Setting = new();

    /// <summary>Tells the PDF library once where fonts come from: a server has none of its own.</summary>
    public static void Use()
    {
        lock (Setting)
            GlobalFontSettings.FontResolver ??= new PdfFonts();
    }

    public FontResolverInfo? ResolveTypeface(string familyName, bool bold, bool italic) =>
        new(
            familyName == Display ? "Besley-ExtraBold"
            : bold ? "AtkinsonHyperlegibleNext-Bold"
            : "AtkinsonHyperlegibleNext-Regular"
        );

    public byte[]? GetFont(string faceName)
    {
        using var stream = typeof(PdfFonts).Assembly.GetManifestResourceStream($"{faceName}.ttf")
            ?? throw new InvalidOperationException($"The font {faceName} is not shipped.");
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }
}
