namespace VelvetGate.Core.Bench.Svg;

/// <summary>Elliptical arcs as cubics.</summary>
internal static class Arcs
{
    /// <summary>Largest turn of one cubic. At 45° its radius is off by less than 5 parts in 10^6.</summary>
    private const double Step = Math.PI / 4;

    /// <summary>Endpoint form to centre form (SVG 2, appendix B.2.4), then to cubics.</summary>
    public static IEnumerable<Segment> ToCubics(Point from, double rx, double ry, double turnDegrees, bool large, bool sweep, Point to)
    {
        if (from == to) return [];
        rx = Math.Abs(rx);
        ry = Math.Abs(ry);
        if (rx == 0 || ry == 0) return [Segment.Line(from, to)];
        var (sin, cos) = Math.SinCos(turnDegrees * Math.PI / 180);
        var half = 0.5 * (from - to);
        var x = cos * half.X + sin * half.Y;
        var y = -sin * half.X + cos * half.Y;
        var grow = x * x / (rx * rx) + y * y / (ry * ry);
        if (!double.IsFinite(grow)) return [Segment.Line(from, to)];
        if (grow > 1)
        {
            rx *= Math.Sqrt(grow);
            ry *= Math.Sqrt(grow);
        }
        var under = rx * rx * y * y + ry * ry * x * x;
        var root = Math.Sqrt(Math.Max(0, (rx * rx * ry * ry - under) / under));
        if (large == sweep) root = -root;
        var cx = root * rx * y / ry;
        var cy = -root * ry * x / rx;
        var mid = 0.5 * (from + to);
        var centre = new Point(cos * cx - sin * cy + mid.X, sin * cx + cos * cy + mid.Y);
        var first = Math.Atan2((y - cy) / ry, (x - cx) / rx);
        var delta = Math.Atan2((-y - cy) / ry, (-x - cx) / rx) - first;
        if (sweep && delta < 0) delta += 2 * Math.PI;
        if (!sweep && delta > 0) delta -= 2 * Math.PI;
        return Pieces(centre, rx, ry, sin, cos, first, delta, from, to);
    }

    /// <summary>A whole ellipse from its rightmost point, closed.</summary>
    public static Segment[] Ellipse(Point centre, double rx, double ry)
    {
        var start = new Point(centre.X + rx, centre.Y);
        return [.. Pieces(centre, rx, ry, 0, 1, 0, 2 * Math.PI, start, start)];
    }

    private static IEnumerable<Segment> Pieces(Point centre, double rx, double ry, double sin, double cos, double first, double delta, Point from, Point to)
    {
        var count = Math.Max(1, (int)Math.Ceiling(Math.Abs(delta) / Step - 1e-9));
        var step = delta / count;
        var k = 4 / 3.0 * Math.Tan(step / 4);
        var here = from;
        for (var i = 0; i < count; i++)
        {
            var (s0, c0) = Math.SinCos(first + i * step);
            var (s1, c1) = Math.SinCos(first + (i + 1) * step);
            var end = i == count - 1 ? to : Place(c1, s1);
            yield return Segment.Cubic(here, Place(c0 - k * s0, s0 + k * c0), Place(c1 + k * s1, s1 - k * c1), end);
            here = end;
        }

        Point Place(double u, double v) => new(centre.X + cos * rx * u - sin * ry * v, centre.Y + sin * rx * u + cos * ry * v);
    }
}
