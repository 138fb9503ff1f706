namespace VelvetGate.Core.Drawings;

/// <summary>Elliptical arcs as cubics.</summary>
internal static class Arcs
{
    /// <summary>Largest turn of one cubic. At 45° its radius is off by less than 5 parts in 10^6.</summary>
    private const double Step = Math.PI / 4;

    /// <summary>Endpoint form to centre form (SVG 2, appendix B.2.4), then to cubics.</summary>
    public static IEnumerable<Segment> ToCubics(Point from, double rx, double ry, double turnDegrees, bool large, bool sweep, Point to)
    {
        if (from == to)
            return [];
        rx = Math.Abs(rx);
        ry = Math.Abs(ry);
        if (rx == 0 || ry == 0)
            return [Segment.Line(from, to)];
        var (sin, cos) = Math.SinCos(turnDegrees * Math.PI / 180);
        var half = 0.5 * (from - to);
        var x = cos * half.X + sin * half.Y;
        var y = -sin * half.X + cos * half.Y;
        var grow = x * x / (rx * rx) + y * y / (ry * ry);
        if (!double.IsFinite(grow))
            return [Segment.Line(from, to)];
        if (grow > 1)
        {
            rx *= Math.Sqrt(grow);
            ry *= Math.Sqrt(grow);
        }
        var under = rx * rx * y * y + ry * ry * x * x;
        var root = Math.Sqrt(Math.Max(0, (rx * rx * ry * ry - under) / under));
        if (large == sweep)
            root = -root;
        var cx = root * rx * y / ry;
        var cy = -root * ry * x / rx;
        var mid = 0.5 * (from + to);
        var centre = new Point(cos * cx - sin * cy + mid.X, sin * cx + cos * cy + mid.Y);
        var first = Math.Atan2((y - cy) / ry, (x - cx) / rx);
        var delta = Math.Atan2((-y - cy) / ry, (-x - cx) / rx) - first;
        if (sweep && delta < 0)
            delta += 2 * Math.PI;
        if (!sweep && delta > 0)
            delta -= 2 * Math.PI;
        return Pieces(centre, new Point(rx * cos, rx * sin), new Point(-ry * sin, ry * cos), first, delta, from, to);
    }

    /// <summary>A whole ellipse from its rightmost point, closed.</summary>
    public static Segment[] Ellipse(Point centre, double rx, double ry)
    {
        var start = new Point(centre.X + rx, centre.Y);
        return [.. Pieces(centre, new Point(rx, 0), new Point(0, ry), 0, 2 * Math.PI, start, start)];
    }

    /// <summary>A turn on the ellipse centre + cos t · u + sin t · v, from t = <paramref name="first"/> on.</summary>
    public static IEnumerable<Segment> Turn(Point centre, Point u, Point v, double first, double delta) =>
        Pieces(
            centre,
            u,
            v,
            first,
            delta,
            Place(centre, u, v, first),
            Math.Abs(delta) >= 2 * Math.PI - 1e-9 ? Place(centre, u, v, first) : Place(centre, u, v, first + delta)
        );

    /// <summary>The arc of a DXF bulge: the tangent of a quarter of its angle, left turns positive.</summary>
    public static IEnumerable<Segment> Bulge(Point from, Point to, double bulge)
    {
        var chord = to - from;
        if (bulge == 0 || chord.Length == 0)
            return [Segment.Line(from, to)];
        var reach = (1 - bulge * bulge) / (4 * bulge);
        var centre = 0.5 * (from + to) + reach * new Point(-chord.Y, chord.X);
        var u = from - centre;
        return Pieces(centre, u, new Point(-u.Y, u.X), 0, 4 * Math.Atan(bulge), from, to);
    }

    private static IEnumerable<Segment> Pieces(Point centre, Point u, Point v, double first, double delta, Point from, Point to)
    {
        var count = Math.Max(1, (int)Math.Ceiling(Math.Abs(delta) / Step - 1e-9));
        var step = delta / count;
        var k = 4 / 3.0 * Math.Tan(step / 4);
        var here = from;
        for (var i = 0; i < count; i++)
        {
            var (s0, c0) = Math.SinCos(first + i * step);
            var (s1, c1) = Math.SinCos(first + (i + 1) * step);
            var end = i == count - 1 ? to : centre + c1 * u + s1 * v;
            yield return Segment.Cubic(
                here,
                centre + (c0 - k * s0) * u + (s0 + k * c0) * v,
                centre + (c1 + k * s1) * u + (s1 - k * c1) * v,
                end
            );
            here = end;
        }
    }

    private static Point Place(Point centre, Point u, Point v, double t)
    {
        var (sin, cos) = Math.SinCos(t);
        return centre + cos * u + sin * v;
    }
}
