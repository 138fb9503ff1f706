namespace VelvetGate.Core.Drawings.Pictures;

/// <summary>Pictures that stand in a drawing as text (RFC 2397).</summary>
internal static class DataUri
{
    /// <returns>Null when it is a link, or not in base64.</returns>
    public static byte[]? Bytes(string? href)
    {
        const string mark = ";base64,";
        if (
            href is null
            || !href.StartsWith("data:", StringComparison.OrdinalIgnoreCase)
            || href.IndexOf(mark, StringComparison.OrdinalIgnoreCase) is var at && at < 0
        )
            return null;
        var text = href.AsSpan(at + mark.Length);
        var tidy = new char[text.Length];
        var n = 0;
        foreach (var c in text)
        {
            if (!char.IsWhiteSpace(c))
                tidy[n++] = c;
        }
        // What was cut off, or is not padded, ends at a whole group of four.
        n -= n % 4;
        var bytes = new byte[n / 4 * 3];
        return Convert.TryFromBase64Chars(tidy.AsSpan(0, n), bytes, out var written) ? bytes[..written] : null;
    }

    public static string Write(PictureFile picture) => $"data:{picture.MediaType};base64,{Convert.ToBase64String(picture.Bytes)}";
}
