using System.Globalization;
using System.Xml;

namespace VelvetGate.Bench.Baseline;

/// <summary>Parses the XML and the path data of an SVG and nothing more: what any reader has to do. Frozen; shares no code with the application.</summary>
public static class SvgBaseline
{
    /// <returns>How many numbers stand in the path data.</returns>
    public static int Parse(byte[] svg)
    {
        var numbers = new List<double>();
        using var reader = XmlReader.Create(new MemoryStream(svg));
        while (reader.Read())
        {
            if (reader.NodeType != XmlNodeType.Element || reader.LocalName != "path" || reader.GetAttribute("d") is not { } data) continue;
            Tokens(data, numbers);
        }
        return numbers.Count;
    }

    private static void Tokens(string data, List<double> numbers)
    {
        var at = 0;
        while (at < data.Length)
        {
            var c = data[at];
            if (!char.IsAsciiDigit(c) && c is not ('-' or '+' or '.')) { at++; continue; }
            var start = at++;
            while (at < data.Length && (char.IsAsciiDigit(data[at]) || data[at] is '.' or 'e' or 'E' || (data[at] is '-' or '+' && data[at - 1] is 'e' or 'E'))) at++;
            numbers.Add(double.Parse(data.AsSpan(start, at - start), NumberStyles.Float, CultureInfo.InvariantCulture));
        }
    }
}
