using System.Globalization;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>A number at the head of path data (SVG 2, section 9.3.9).</summary>
internal static class PathNumber
{
    /// <summary>Whole numbers up to here are exact in a double.</summary>
    private const long Exact = 1L << 53;

    /// <summary>Powers of ten that are exact in a double.</summary>
    private static readonly double[] Powers =
    [
        1e0,
        1e1,
        1e2,
        1e3,
        1e4,
        1e5,
        1e6,
        1e7,
        1e8,
        1e9,
        1e10,
        1e11,
        1e12,
        1e13,
        1e14,
        1e15,
        1e16,
        1e17,
        1e18,
        1e19,
        1e20,
        1e21,
        1e22,
    ];

    /// <returns>How many characters it takes; 0 when there is no number.</returns>
    /// <remarks>
    /// Short decimals, which is nearly all of a drawing, are one exact whole number over one exact power of ten and so rounded once,
    /// correctly:
    /// W. D. Clinger 1990, "How to read floating point numbers accurately". All others are left to
    /// <see cref="double.TryParse(ReadOnlySpan{char}, NumberStyles, IFormatProvider?, out double)"/>.
    /// </remarks>
    public static int Read(ReadOnlySpan<char> text, out double value)
    {
        var i = text.Length > 0 && text[0] is '+' or '-' ? 1 : 0;
        long digits = 0;
        var whole = Digits(text, ref i, ref digits);
        var fraction = 0;
        if (i < text.Length && text[i] == '.')
        {
            i++;
            fraction = Digits(text, ref i, ref digits);
        }
        value = 0;
        if (whole + fraction == 0)
            return 0;
        var plain = i;
        if (i < text.Length && text[i] is 'e' or 'E')
        {
            var e = i + 1;
            if (e < text.Length && text[e] is '+' or '-')
                e++;
            var exponent = e;
            while (e < text.Length && char.IsAsciiDigit(text[e]))
                e++;
            if (e > exponent)
                i = e;
        }
        if (i == plain && whole + fraction <= 18 && digits <= Exact)
        {
            value = digits / Powers[fraction];
            if (text[0] == '-')
                value = -value;
            return i;
        }
        return double.TryParse(text[..i], NumberStyles.Float, CultureInfo.InvariantCulture, out value) ? i : 0;
    }

    /// <returns>How many digits there are. More than 18 of them overflow <paramref name="total"/>, which is then not used.</returns>
    private static int Digits(ReadOnlySpan<char> text, ref int at, ref long total)
    {
        var start = at;
        while (at < text.Length && char.IsAsciiDigit(text[at]))
            total = unchecked(total * 10 + (text[at++] - '0'));
        return at - start;
    }
}
