using System.Globalization;
using System.Text;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>Draws a test piece as SVG: true millimetres, hairlines, no live text, each path in the colour of its setting.</summary>
internal sealed class PieceDrawing
{
    /// <summary>Labels and marks, which are scored.</summary>
    public const string Mark = "#1f3a5f";

    /// <summary>What is cut with the setting of the house: outlines and combs.</summary>
    public const string Outline = "#5a2a00";
    private readonly List<string> _paths = [];
    private readonly Dictionary<string, StrokeMeaning> _means = [];

    /// <summary>Colours that are told apart by eye: hues in steps of the golden angle, three depths in turn.</summary>
    public static string Colour(int index)
    {
        var hue = index * 137.508 % 360;
        var light = 0.35 + 0.12 * (index % 3);
        double Part(double n)
        {
            var k = (n + hue / 30) % 12;
            return light - 0.75 * Math.Min(light, 1 - light) * Math.Max(-1, Math.Min(Math.Min(k - 3, 9 - k), 1));
        }
        return $"#{(int)Math.Round(Part(0) * 255):x2}{(int)Math.Round(Part(8) * 255):x2}{(int)Math.Round(Part(4) * 255):x2}";
    }

    public void Line(string colour, StrokeMeaning means, params (decimal X, decimal Y)[] points) =>
        Path(colour, means, points, closed: false);

    public void Box(string colour, StrokeMeaning means, decimal x, decimal y, decimal width, decimal height) =>
        Path(colour, means, [(x, y), (x + width, y), (x + width, y + height), (x, y + height)], closed: true);

    public void Fill(string colour, decimal x, decimal y, decimal width, decimal height)
    {
        _means[colour] = StrokeMeaning.Engrave;
        _paths.Add(
            string.Create(CultureInfo.InvariantCulture, $"<rect x='{x}' y='{y}' width='{width}' height='{height}' fill='{colour}'/>")
        );
    }

    /// <summary>Words in strokes, so that no font is needed where it is run. The left foot of the first letter is at (x, y).</summary>
    public void Words(string text, decimal x, decimal y, decimal height)
    {
        foreach (var letter in text)
        {
            foreach (var stroke in StrokeLetters.Of(letter))
                Path(Mark, StrokeMeaning.Score, [.. stroke.Select(p => (x + p.X * height / 4, y - p.Y * height / 4))], closed: false);
            x += 3 * height / 4;
        }
    }

    public (string Svg, ColourMap Means) Done(decimal width, decimal height)
    {
        var svg = new StringBuilder();
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns='http://www.w3.org/2000/svg' width='{width}mm' height='{height}mm' viewBox='0 0 {width} {height}'>\n"
        );
        foreach (var path in _paths)
            svg.Append(path).Append('\n');
        return (svg.Append("</svg>\n").ToString(), new ColourMap(_means));
    }

    private void Path(string colour, StrokeMeaning means, IReadOnlyList<(decimal X, decimal Y)> points, bool closed)
    {
        _means[colour] = means;
        var path = new StringBuilder();
        foreach (var (x, y) in points)
            path.Append(path.Length == 0 ? 'M' : 'L').Append(CultureInfo.InvariantCulture, $"{x:0.####} {y:0.####}");
        _paths.Add($"<path d='{path}{(closed ? "z" : "")}' fill='none' stroke='{colour}' stroke-width='0.1'/>");
    }
}

/// <summary>Digits and letters in straight strokes on a field 2 wide and 4 high.</summary>
internal static class StrokeLetters
{
    private static readonly Dictionary<char, string> Strokes = new()
    {
        ['0'] = "0,0 2,0 2,4 0,4 0,0",
        ['1'] = "0,3 1,4 1,0",
        ['2'] = "0,4 2,4 2,2 0,2 0,0 2,0",
        ['3'] = "0,4 2,4 2,0 0,0|0,2 2,2",
        ['4'] = "0,4 0,2 2,2|2,4 2,0",
        ['5'] = "2,4 0,4 0,2 2,2 2,0 0,0",
        ['6'] = "2,4 0,4 0,0 2,0 2,2 0,2",
        ['7'] = "0,4 2,4 1,0",
        ['8'] = "0,0 2,0 2,4 0,4 0,0|0,2 2,2",
        ['9'] = "0,0 2,0 2,4 0,4 0,2 2,2",
        ['A'] = "0,0 1,4 2,0|0.5,2 1.5,2",
        ['B'] = "0,0 0,4 1.5,4 1.5,2 0,2|1.5,2 2,1 2,0 0,0",
        ['.'] = "0.8,0 1.2,0",
        ['-'] = "0,2 2,2",
        ['+'] = "0,2 2,2|1,1 1,3",
        [' '] = "",
    };

    /// <returns>Strokes of points; none for what is not known.</returns>
    public static IEnumerable<IReadOnlyList<(decimal X, decimal Y)>> Of(char letter) =>
        Strokes
            .GetValueOrDefault(letter, "")
            .Split('|', StringSplitOptions.RemoveEmptyEntries)
            .Select(s => (IReadOnlyList<(decimal, decimal)>)[.. s.Split(' ').Select(Point)]);

    private static (decimal X, decimal Y) Point(string pair)
    {
        var parts = pair.Split(',');
        return (decimal.Parse(parts[0], CultureInfo.InvariantCulture), decimal.Parse(parts[1], CultureInfo.InvariantCulture));
    }
}
