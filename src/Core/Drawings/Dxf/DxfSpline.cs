namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// Splines of any degree, with knots and weights, as cubics. Source: Piegl and Tiller 1997, "The NURBS Book", de Boor's algorithm.
/// </summary>
internal static class DxfSpline
{
    private const int MostDegree = 25;
    private const int MostHalvings = 14;

    /// <param name="weights">Empty for a spline without weights.</param>
    /// <param name="tolerance">Farthest a cubic may lie from the curve, in the file's unit. Up to degree three without weights they are the
    /// same.</param>
    /// <returns>Empty when the knots do not fit the points.</returns>
    public static List<Segment> ToCubics(
        int degree,
        IReadOnlyList<double> knots,
        IReadOnlyList<Point> points,
        IReadOnlyList<double> weights,
        double tolerance
    )
    {
        var pieces = new List<Segment>();
        var serves =
            degree is >= 1 and <= MostDegree
            && points.Count > degree
            && knots.Count == points.Count + degree + 1
            && (weights.Count == 0 || (weights.Count == points.Count && weights.All(w => w > 0)));
        for (var i = 1; serves && i < knots.Count; i++)
            serves = knots[i] >= knots[i - 1];
        if (!serves)
            return pieces;
        var curve = new Curve(degree, knots, points, weights);
        for (var span = degree; span < points.Count; span++)
        {
            if (knots[span + 1] - knots[span] > 1e-12 * Math.Max(1, Math.Abs(knots[span])))
                Fit(pieces, curve, span, knots[span], knots[span + 1], tolerance);
            if (pieces.Count > DrawingLimits.Segments)
                throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
        }
        return pieces;
    }

    /// <summary>
    /// A curve through points, smooth to the second derivative, its parameter the chord; its ends are straight or lead as given.
    /// </summary>
    public static List<Segment> Through(List<Point> points, Point? first, Point? last)
    {
        var n = points.Count - 1;
        var h = new double[n];
        for (var i = 0; i < n; i++)
            h[i] = Math.Max(1e-12, (points[i + 1] - points[i]).Length);
        // Unknown are the derivatives at the points: a tridiagonal system, solved forwards and back.
        var (under, main, over, right) = (new double[n + 1], new double[n + 1], new double[n + 1], new Point[n + 1]);
        End(0, first, 0, 1);
        for (var i = 1; i < n; i++)
        {
            (under[i], main[i], over[i]) = (h[i], 2 * (h[i - 1] + h[i]), h[i - 1]);
            right[i] = 3 * (h[i] / h[i - 1]) * (points[i] - points[i - 1]) + 3 * (h[i - 1] / h[i]) * (points[i + 1] - points[i]);
        }
        End(n, last, n - 1, -1);
        for (var i = 1; i <= n; i++)
        {
            var k = under[i] / main[i - 1];
            main[i] -= k * over[i - 1];
            right[i] -= k * right[i - 1];
        }
        var slope = new Point[n + 1];
        slope[n] = 1 / main[n] * right[n];
        for (var i = n - 1; i >= 0; i--)
            slope[i] = 1 / main[i] * (right[i] - over[i] * slope[i + 1]);
        var pieces = new List<Segment>(n);
        for (var i = 0; i < n; i++)
            pieces.Add(Segment.Cubic(points[i], points[i] + h[i] / 3 * slope[i], points[i + 1] - h[i] / 3 * slope[i + 1], points[i + 1]));
        return pieces;

        void End(int at, Point? tangent, int chord, int side)
        {
            if (tangent is { Length: > 1e-12 } given)
            {
                (main[at], right[at]) = (1, 1 / given.Length * given);
                return;
            }
            main[at] = 2;
            if (side > 0)
                over[at] = 1;
            else
                under[at] = 1;
            right[at] = 3 / h[chord] * (points[chord + 1] - points[chord]);
        }
    }

    private static void Fit(List<Segment> pieces, in Curve curve, int span, double from, double to, double tolerance)
    {
        Span<(double From, double To, int Level)> stack = stackalloc (double, double, int)[MostHalvings + 2];
        var depth = 0;
        stack[depth++] = (from, to, 0);
        while (depth > 0)
        {
            var (a, b, level) = stack[--depth];
            var ((p, dp), (q, dq)) = (curve.At(span, a), curve.At(span, b));
            var third = (b - a) / 3;
            var cubic = Segment.Cubic(p, p + third * dp, q - third * dq, q);
            if (level >= MostHalvings || (Near(curve, cubic, 0.25) && Near(curve, cubic, 0.5) && Near(curve, cubic, 0.75)))
            {
                pieces.Add(cubic);
                continue;
            }
            var mid = 0.5 * (a + b);
            stack[depth++] = (mid, b, level + 1);
            stack[depth++] = (a, mid, level + 1);

            bool Near(in Curve c, in Segment s, double t) => (c.At(span, a + t * (b - a)).Place - s.At(t)).Length <= tolerance;
        }
    }

    private readonly struct Curve(int degree, IReadOnlyList<double> knots, IReadOnlyList<Point> points, IReadOnlyList<double> weights)
    {
        /// <summary>Place and derivative, by halving towards the parameter in homogeneous coordinates.</summary>
        public (Point Place, Point Slope) At(int span, double u)
        {
            Span<(double X, double Y, double W)> d = stackalloc (double, double, double)[degree + 1];
            for (var j = 0; j <= degree; j++)
            {
                var i = j + span - degree;
                var w = weights.Count == 0 ? 1 : weights[i];
                d[j] = (points[i].X * w, points[i].Y * w, w);
            }
            (double X, double Y, double W) rise = default;
            for (var r = 1; r <= degree; r++)
            {
                if (r == degree)
                {
                    var k = degree / (knots[span + 1] - knots[span]);
                    rise = (k * (d[degree].X - d[degree - 1].X), k * (d[degree].Y - d[degree - 1].Y), k * (d[degree].W - d[degree - 1].W));
                }
                for (var j = degree; j >= r; j--)
                {
                    var low = knots[j + span - degree];
                    var wide = knots[j + 1 + span - r] - low;
                    var t = wide > 0 ? (u - low) / wide : 0;
                    d[j] = ((1 - t) * d[j - 1].X + t * d[j].X, (1 - t) * d[j - 1].Y + t * d[j].Y, (1 - t) * d[j - 1].W + t * d[j].W);
                }
            }
            var (x, y, weight) = d[degree];
            var place = new Point(x / weight, y / weight);
            return (place, new Point((rise.X - place.X * rise.W) / weight, (rise.Y - place.Y * rise.W) / weight));
        }
    }
}
