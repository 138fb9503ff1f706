namespace VelvetGate.Core.Bench.Pictures;

/// <summary>A pixel picture where a drawing places it.</summary>
/// <param name="X">Of its middle, in mm.</param>
/// <param name="WidthMm">As drawn, along its own edges.</param>
/// <param name="Pixels">Pixels across; 0 where the file is not in the drawing or cannot be read.</param>
public sealed record PlacedPicture(double X, double Y, double WidthMm, double HeightMm, int Pixels, int Rows)
{
    /// <summary>Pixels to the inch as placed, in the direction that has fewer; null where they are not known.</summary>
    public double? Ppi() => Pixels > 0 && WidthMm > 0 && HeightMm > 0 ? Math.Min(Pixels / WidthMm, Rows / HeightMm) * 25.4 : null;

    /// <summary>Where a picture comes to lie that an SVG places at a box of its own coordinates; within the box it keeps its proportions.</summary>
    /// <param name="header">Null where its pixels are not known.</param>
    /// <param name="aspect">SVG's preserveAspectRatio: none stretches, slice fills, else it fits (SVG 2, section 8.7).</param>
    public static PlacedPicture Of(PictureHeader? header, double x, double y, double? width, double? height, string? aspect, in Matrix matrix)
    {
        var (w, h) = (width, height) switch
        {
            ({ } a, { } b) => (a, b),
            ({ } a, null) => (a, header is null ? a : a * header.Height / header.Width),
            (null, { } b) => (header is null ? b : b * header.Width / header.Height, b),
            _ => (header?.Width ?? 0, header?.Height ?? 0),
        };
        var middle = matrix.Map(new Point(x + w / 2, y + h / 2));
        if (header is not null && aspect?.Contains("none", StringComparison.Ordinal) != true)
        {
            var (across, down) = (w / header.Width, h / header.Height);
            var scale = aspect?.Contains("slice", StringComparison.Ordinal) == true ? Math.Max(across, down) : Math.Min(across, down);
            (w, h) = (scale * header.Width, scale * header.Height);
        }
        var (right, under) = (new Point(matrix.A, matrix.B).Length, new Point(matrix.C, matrix.D).Length);
        return new PlacedPicture(middle.X, middle.Y, w * right, h * under, header?.Width ?? 0, header?.Height ?? 0);
    }
}

/// <summary>Pictures that stand in a drawing as text.</summary>
internal static class DataUri
{
    /// <summary>Enough for every head, and for the colour profiles before it.</summary>
    private const int MostCharacters = 2_000_000;

    /// <returns>Null when it is a link, or no picture that is known.</returns>
    public static PictureHeader? Header(string? href)
    {
        const string mark = ";base64,";
        if (href is null || !href.StartsWith("data:", StringComparison.OrdinalIgnoreCase) || href.IndexOf(mark, StringComparison.OrdinalIgnoreCase) is var at && at < 0) return null;
        var text = href.AsSpan(at + mark.Length);
        if (text.Length > MostCharacters) text = text[..MostCharacters];
        var tidy = new char[text.Length];
        var n = 0;
        foreach (var c in text)
        {
            if (!char.IsWhiteSpace(c)) tidy[n++] = c;
        }
        // What was cut off, or is not padded, ends at a whole group of four.
        n -= n % 4;
        var bytes = new byte[n / 4 * 3];
        return Convert.TryFromBase64Chars(tidy.AsSpan(0, n), bytes, out var written) ? PictureHeader.Read(bytes.AsSpan(0, written)) : null;
    }
}
