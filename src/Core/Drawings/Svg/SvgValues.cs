using System.Globalization;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>Lengths, colours and transforms as SVG and CSS write them.</summary>
internal static class SvgValues
{
    /// <summary>CSS pixels per inch (CSS Values 4, section 6.2).</summary>
    public const double PxPerInch = 96;

    public const double MmPerPx = 25.4 / PxPerInch;

    /// <summary>A length in px.</summary>
    /// <param name="percentOf">What 100 % is, in px.</param>
    /// <returns>Null when absent or not a length.</returns>
    public static double? Length(string? text, double percentOf, double fontSize = 16)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var span = text.AsSpan().Trim();
        var end = NumberEnd(span);
        if (
            end == 0
            || !double.TryParse(span[..end], NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
            || !double.IsFinite(value)
        )
            return null;
        var unit = span[end..].Trim();
        if (unit.IsEmpty)
            return value;
        Span<char> lower = stackalloc char[Math.Min(unit.Length, 8)];
        unit[..lower.Length].ToLowerInvariant(lower);
        return lower switch
        {
            "px" => value,
            "mm" => value * PxPerInch / 25.4,
            "cm" => value * PxPerInch / 2.54,
            "q" => value * PxPerInch / 101.6,
            "in" => value * PxPerInch,
            "pt" => value * PxPerInch / 72,
            "pc" => value * PxPerInch / 6,
            "em" => value * fontSize,
            "rem" => value * 16,
            "ex" => value * fontSize / 2,
            "%" => value / 100 * percentOf,
            _ => null,
        };
    }

    /// <summary><c>#rrggbb</c>, or null for none and for what is wholly transparent.</summary>
    /// <param name="current">What <c>currentColor</c> means here.</param>
    public static string? Colour(string value, string? current)
    {
        var text = value.Trim();
        if (
            text.Length == 0
            || text.Equals("none", StringComparison.OrdinalIgnoreCase)
            || text.Equals("transparent", StringComparison.OrdinalIgnoreCase)
        )
            return null;
        if (text.Equals("currentcolor", StringComparison.OrdinalIgnoreCase))
            return current;
        if (text[0] == '#')
            return Hex(text.AsSpan(1));
        if (text.StartsWith("url(", StringComparison.OrdinalIgnoreCase))
            return FromUrl(text, current);
        var open = text.IndexOf('(');
        if (open > 0)
            return Function(text[..open].Trim().ToLowerInvariant(), text[(open + 1)..].TrimEnd(')', ' '));
        return ExCSS.Color.FromName(text.ToLowerInvariant()) is { } named ? Rgb(named.R, named.G, named.B) : "#000000";
    }

    /// <summary>A transform list as attribute or as CSS; null when it is wrong, which draws as if there were none.</summary>
    public static Matrix? Transform(string? text)
    {
        var result = Matrix.Identity;
        var rest = (text ?? "").AsSpan().Trim();
        while (!rest.IsEmpty)
        {
            rest = rest.TrimStart(" ,\t\r\n");
            if (rest.IsEmpty)
                break;
            var open = rest.IndexOf('(');
            var close = rest.IndexOf(')');
            if (open <= 0 || close < open)
                return rest.SequenceEqual("none") ? Matrix.Identity : null;
            if (One(rest[..open].Trim().ToString().ToLowerInvariant(), Numbers(rest[(open + 1)..close])) is not { } step)
                return null;
            result = result.Times(step);
            rest = rest[(close + 1)..];
        }
        return result;
    }

    /// <summary>Numbers separated by spaces or commas; CSS units px, deg, rad, grad and turn are taken.</summary>
    public static double[] Numbers(ReadOnlySpan<char> text)
    {
        var found = new List<double>();
        while (true)
        {
            text = text.TrimStart(" ,\t\r\n");
            if (text.IsEmpty)
                return [.. found];
            var end = NumberEnd(text);
            if (
                end == 0
                || !double.TryParse(text[..end], NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
                || !double.IsFinite(value)
            )
                return [];
            text = text[end..];
            var unit = 0;
            while (unit < text.Length && (char.IsAsciiLetter(text[unit]) || text[unit] == '%'))
                unit++;
            found.Add(
                text[..unit] switch
                {
                    "rad" => value * 180 / Math.PI,
                    "grad" => value * 0.9,
                    "turn" => value * 360,
                    "mm" => value / MmPerPx,
                    "cm" => value * 10 / MmPerPx,
                    "in" => value * PxPerInch,
                    _ => value,
                }
            );
            text = text[unit..];
        }
    }

    private static Matrix? One(string name, double[] n) =>
        (name, n.Length) switch
        {
            ("matrix", 6) => new Matrix(n[0], n[1], n[2], n[3], n[4], n[5]),
            ("translate", 1) => Matrix.Translate(n[0], 0),
            ("translate", 2) => Matrix.Translate(n[0], n[1]),
            ("translatex", 1) => Matrix.Translate(n[0], 0),
            ("translatey", 1) => Matrix.Translate(0, n[0]),
            ("scale", 1) => Matrix.Scale(n[0], n[0]),
            ("scale", 2) => Matrix.Scale(n[0], n[1]),
            ("scalex", 1) => Matrix.Scale(n[0], 1),
            ("scaley", 1) => Matrix.Scale(1, n[0]),
            ("rotate", 1) => Matrix.Rotate(n[0]),
            ("rotate", 3) => Matrix.Translate(n[1], n[2]).Times(Matrix.Rotate(n[0])).Times(Matrix.Translate(-n[1], -n[2])),
            ("skewx", 1) => new Matrix(1, 0, Math.Tan(n[0] * Math.PI / 180), 1, 0, 0),
            ("skewy", 1) => new Matrix(1, Math.Tan(n[0] * Math.PI / 180), 0, 1, 0, 0),
            _ => null,
        };

    private static int NumberEnd(ReadOnlySpan<char> s)
    {
        var i = 0;
        if (i < s.Length && s[i] is '+' or '-')
            i++;
        var digits = 0;
        while (i < s.Length && char.IsAsciiDigit(s[i]))
            (i, digits) = (i + 1, digits + 1);
        if (i < s.Length && s[i] == '.')
        {
            i++;
            while (i < s.Length && char.IsAsciiDigit(s[i]))
                (i, digits) = (i + 1, digits + 1);
        }
        if (digits == 0)
            return 0;
        if (i < s.Length && s[i] is 'e' or 'E')
        {
            var e = i + 1;
            if (e < s.Length && s[e] is '+' or '-')
                e++;
            if (e < s.Length && char.IsAsciiDigit(s[e]))
            {
                while (e < s.Length && char.IsAsciiDigit(s[e]))
                    e++;
                i = e;
            }
        }
        return i;
    }

    private static string? Hex(ReadOnlySpan<char> hex)
    {
        foreach (var c in hex)
        {
            if (!char.IsAsciiHexDigit(c))
                return "#000000";
        }
        switch (hex.Length)
        {
            case 3:
            case 4:
                if (hex.Length == 4 && hex[3] == '0')
                    return null;
                return string.Create(7, hex.ToString(), (to, h) =>
                {
                    to[0] = '#';
                    for (var i = 0; i < 3; i++)
                        to[2 * i + 1] = to[2 * i + 2] = char.ToLowerInvariant(h[i]);
                });
            case 6:
                return "#" + hex.ToString().ToLowerInvariant();
            case 8:
                return hex[6..].SequenceEqual("00") ? null : "#" + hex[..6].ToString().ToLowerInvariant();
            default:
                return "#000000";
        }
    }

    private static string? Function(string name, string arguments)
    {
        var parts = arguments.Split([',', ' ', '/', '\t', '\n'], StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length < 3)
            return "#000000";
        if (parts.Length > 3 && Part(parts[3], 1) == 0)
            return null;
        if (name is "rgb" or "rgba")
            return Rgb((byte)Math.Round(Part(parts[0], 255)), (byte)Math.Round(Part(parts[1], 255)), (byte)Math.Round(Part(parts[2], 255)));
        if (name is not ("hsl" or "hsla"))
            return "#000000";
        var hue = Numbers(parts[0]) is [var degrees] ? (float)((degrees % 360 + 360) % 360 / 360) : 0;
        var colour = ExCSS.Color.FromHsl(hue, (float)Part(parts[1], 1), (float)Part(parts[2], 1));
        return Rgb(colour.R, colour.G, colour.B);
    }

    /// <summary>A number or a percentage of <paramref name="full"/>, held within 0 to full.</summary>
    private static double Part(string text, double full)
    {
        var percent = text.EndsWith('%');
        var ok = double.TryParse(text.TrimEnd('%'), NumberStyles.Float, CultureInfo.InvariantCulture, out var value);
        return ok && double.IsFinite(value) ? Math.Clamp(percent ? value / 100 * full : value, 0, full) : 0;
    }

    /// <summary>A gradient or pattern has no one colour: its fallback, else a grey that no colour map names.</summary>
    private static string? FromUrl(string text, string? current)
    {
        var close = text.IndexOf(')');
        var fallback = close >= 0 ? text[(close + 1)..].Trim() : "";
        return fallback.Length > 0 ? Colour(fallback, current) : "#808080";
    }

    private static string Rgb(byte r, byte g, byte b) => string.Create(CultureInfo.InvariantCulture, $"#{r:x2}{g:x2}{b:x2}");
}
