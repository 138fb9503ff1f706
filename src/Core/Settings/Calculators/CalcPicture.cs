using System.Globalization;
using System.Text;

namespace VelvetGate.Core.Settings.Calculators;

/// <summary>How a line of a picture is drawn.</summary>
public enum Pen
{
    /// <summary>The thing itself.</summary>
    Part,

    /// <summary>What is taken out of it, or marks it.</summary>
    Cut,

    /// <summary>A measure beside it.</summary>
    Measure,
}

/// <param name="Path">SVG path data, in the picture's own units.</param>
public sealed record CalcLine(Pen Pen, string Path);

/// <param name="Anchor"><c>start</c>, <c>middle</c> or <c>end</c>.</param>
public sealed record CalcText(double X, double Y, string Text, string Anchor = "middle");

/// <summary>A small picture of the case, to its own scale: lines and words; whoever shows it brings colours and pens.</summary>
public sealed record CalcPicture(string Says, IReadOnlyList<CalcLine> Lines, IReadOnlyList<CalcText> Texts)
{
    public const double Width = 360;
    public const double Height = 180;
}

/// <summary>Draws a <see cref="CalcPicture"/>.</summary>
internal sealed class Sketch(string says)
{
    private readonly List<CalcLine> _lines = [];
    private readonly List<CalcText> _texts = [];

    public Sketch Line(Pen pen, params (double X, double Y)[] points)
    {
        var path = new StringBuilder();
        foreach (var (x, y) in points)
            path.Append(path.Length == 0 ? 'M' : 'L').Append(CultureInfo.InvariantCulture, $"{x:0.##} {y:0.##}");
        _lines.Add(new CalcLine(pen, path.ToString()));
        return this;
    }

    public Sketch Box(Pen pen, double x, double y, double width, double height) =>
        Line(pen, (x, y), (x + width, y), (x + width, y + height), (x, y + height), (x, y));

    /// <summary>A curve through many places.</summary>
    public Sketch Curve(Pen pen, double from, double to, Func<double, (double X, double Y)> at, int steps = 48) =>
        Line(pen, [.. Enumerable.Range(0, steps + 1).Select(i => at(from + (to - from) * i / steps))]);

    public Sketch Text(double x, double y, string text, string anchor = "middle")
    {
        _texts.Add(new CalcText(Math.Round(x, 2), Math.Round(y, 2), text, anchor));
        return this;
    }

    /// <summary>A measure from one place to another with its words above the middle.</summary>
    public Sketch Across(double x1, double x2, double y, string text) =>
        Line(Pen.Measure, (x1, y), (x2, y))
            .Line(Pen.Measure, (x1, y - 4), (x1, y + 4))
            .Line(Pen.Measure, (x2, y - 4), (x2, y + 4))
            .Text((x1 + x2) / 2, y - 6, text);

    public Sketch Up(double x, double y1, double y2, string text) =>
        Line(Pen.Measure, (x, y1), (x, y2))
            .Line(Pen.Measure, (x - 4, y1), (x + 4, y1))
            .Line(Pen.Measure, (x - 4, y2), (x + 4, y2))
            .Text(x + 7, (y1 + y2) / 2 + 4, text, "start");

    public CalcPicture Done() => new(says, _lines, _texts);
}
