using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>The basic shapes of SVG 2 (chapter 10) as subpaths, in user units.</summary>
/// <param name="budget">Pieces of line that the file may still draw.</param>
/// <param name="scratch">See <see cref="PathScanner"/>.</param>
internal sealed class SvgShapes(Dictionary<string, string> properties, Inherited style, int budget, List<Segment> scratch)
{
    public bool HadError { get; private set; }

    public IReadOnlyList<Subpath> Of(string element) =>
        element switch
        {
            "path" => Path(),
            "rect" => Rectangle(),
            "circle" => Ellipse(Diagonal("r"), Diagonal("r")),
            "ellipse" => Ellipse(Across("rx") ?? Down("ry"), Down("ry") ?? Across("rx")),
            "line" =>
            [
                new Subpath([Segment.Line(new(Across("x1") ?? 0, Down("y1") ?? 0), new(Across("x2") ?? 0, Down("y2") ?? 0))], false),
            ],
            "polyline" => Poly(close: false),
            "polygon" => Poly(close: true),
            _ => [],
        };

    private List<Subpath> Path()
    {
        if (!properties.TryGetValue("d", out var data))
            return [];
        if (data.StartsWith("path(", StringComparison.OrdinalIgnoreCase))
            data = data[5..].Trim(')', '"', '\'', ' ');
        var scanner = new PathScanner(data, budget, scratch);
        var found = scanner.Read();
        HadError = scanner.HadError;
        return found;
    }

    private IReadOnlyList<Subpath> Rectangle()
    {
        var (x, y, w, h) = (Across("x") ?? 0, Down("y") ?? 0, Across("width") ?? 0, Down("height") ?? 0);
        if (w <= 0 || h <= 0)
            return [];
        var rx = Across("rx");
        var ry = Down("ry");
        if (rx < 0)
            rx = null;
        if (ry < 0)
            ry = null;
        var a = Math.Min(rx ?? ry ?? 0, w / 2);
        var b = Math.Min(ry ?? rx ?? 0, h / 2);
        if (a <= 0 || b <= 0)
        {
            Point p = new(x, y),
                q = new(x + w, y),
                r = new(x + w, y + h),
                s = new(x, y + h);
            return [new Subpath([Segment.Line(p, q), Segment.Line(q, r), Segment.Line(r, s), Segment.Line(s, p)], true)];
        }
        var pieces = new List<Segment>();
        Point here = new(x + a, y);
        Side(new(x + w - a, y), new(x + w, y + b));
        Side(new(x + w, y + h - b), new(x + w - a, y + h));
        Side(new(x + a, y + h), new(x, y + h - b));
        Side(new(x, y + b), new(x + a, y));
        return [new Subpath(CollectionsMarshal.AsSpan(pieces), true)];

        void Side(Point to, Point corner)
        {
            if (to != here)
                pieces.Add(Segment.Line(here, to));
            pieces.AddRange(Arcs.ToCubics(to, a, b, 0, false, true, corner));
            here = corner;
        }
    }

    private IReadOnlyList<Subpath> Ellipse(double? rx, double? ry)
    {
        if (rx is not > 0 || ry is not > 0)
            return [];
        return [new Subpath(Arcs.Ellipse(new(Across("cx") ?? 0, Down("cy") ?? 0), rx.Value, ry.Value), true)];
    }

    private List<Subpath> Poly(bool close)
    {
        var numbers = SvgValues.Numbers(properties.GetValueOrDefault("points", ""));
        if (numbers.Length % 2 == 1)
            HadError = true;
        var count = numbers.Length / 2;
        if (count > budget)
            throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
        if (count < 2)
            return [];
        var pieces = new List<Segment>(count);
        for (var i = 1; i < count; i++)
            pieces.Add(Segment.Line(At(i - 1), At(i)));
        if (close && At(count - 1) != At(0))
            pieces.Add(Segment.Line(At(count - 1), At(0)));
        return [new Subpath(CollectionsMarshal.AsSpan(pieces), close)];

        Point At(int i) => new(numbers[2 * i], numbers[2 * i + 1]);
    }

    private double? Across(string name) => SvgValues.Length(properties.GetValueOrDefault(name), style.ViewWidth, style.FontSize);

    private double? Down(string name) => SvgValues.Length(properties.GetValueOrDefault(name), style.ViewHeight, style.FontSize);

    private double? Diagonal(string name) =>
        SvgValues.Length(
            properties.GetValueOrDefault(name),
            Math.Sqrt((style.ViewWidth * style.ViewWidth + style.ViewHeight * style.ViewHeight) / 2),
            style.FontSize
        );
}
