using VelvetGate.Core.Drawings.Pictures;

namespace VelvetGate.Core.Drawings;

/// <summary>
/// A straight piece or a cubic Bézier piece. Quadratics and arcs are read into cubics, exactly or to about 1 part in 10^7.
/// </summary>
public readonly record struct Segment(Point Start, Point C1, Point C2, Point End, bool Straight)
{
    public static Segment Line(Point a, Point b) => new(a, a, b, b, true);

    public static Segment Cubic(Point a, Point c1, Point c2, Point b) => new(a, c1, c2, b, false);

    public static Segment Quadratic(Point a, Point c, Point b) => Cubic(a, (1 / 3.0) * a + (2 / 3.0) * c, (2 / 3.0) * c + (1 / 3.0) * b, b);

    /// <summary>Direction at the start, not normalised; zero for a piece without extent.</summary>
    public Point Leaving => Straight ? End - Start : FirstNonZero(C1 - Start, C2 - Start, End - Start);

    public Point Arriving => Straight ? End - Start : FirstNonZero(End - C2, End - C1, End - Start);

    /// <summary>Arc length in the unit of the points, to within <paramref name="tolerance"/>.</summary>
    /// <remarks>
    /// Gauss-Legendre quadrature with eight points on the whole and on both halves, where the two agree; else, at cusps and the like,
    /// Gravesen 1997, "Adaptive subdivision and the length and energy of Bézier curves": (chord + polygon) / 2 for a cubic, halved until
    /// the two agree.
    /// </remarks>
    public double Length(double tolerance = 1e-5)
    {
        if (Straight)
            return (End - Start).Length;
        var (whole, halves) = (Quadrature(0, 1), Quadrature(0, 0.5) + Quadrature(0.5, 1));
        return Math.Abs(whole - halves) <= tolerance * 0.1 + 1e-6 * halves ? halves : Subdivided(tolerance);
    }

    /// <summary>Abramowitz and Stegun, table 25.4, n = 8.</summary>
    private double Quadrature(double from, double to)
    {
        ReadOnlySpan<double> x = [0.1834346424956498, 0.5255324099163290, 0.7966664774136267, 0.9602898564975363];
        ReadOnlySpan<double> w = [0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];
        var (middle, half) = ((from + to) / 2, (to - from) / 2);
        double sum = 0;
        for (var i = 0; i < x.Length; i++)
            sum += w[i] * (Speed(middle - half * x[i]) + Speed(middle + half * x[i]));
        return half * sum;
    }

    private double Speed(double t)
    {
        var u = 1 - t;
        var (a, b, c) = (3 * u * u, 6 * u * t, 3 * t * t);
        var dx = a * (C1.X - Start.X) + b * (C2.X - C1.X) + c * (End.X - C2.X);
        var dy = a * (C1.Y - Start.Y) + b * (C2.Y - C1.Y) + c * (End.Y - C2.Y);
        return Math.Sqrt(dx * dx + dy * dy);
    }

    private double Subdivided(double tolerance)
    {
        Span<(Segment Piece, int Level)> stack = stackalloc (Segment, int)[24];
        var depth = 0;
        stack[depth++] = (this, 0);
        var total = 0.0;
        while (depth > 0)
        {
            var (piece, level) = stack[--depth];
            var chord = (piece.End - piece.Start).Length;
            var polygon = (piece.C1 - piece.Start).Length + (piece.C2 - piece.C1).Length + (piece.End - piece.C2).Length;
            if (level >= 16 || polygon - chord <= tolerance + 1e-4 * polygon)
            {
                total += (chord + polygon) / 2;
            }
            else
            {
                var (left, right) = piece.Halve();
                stack[depth++] = (right, level + 1);
                stack[depth++] = (left, level + 1);
            }
        }
        return total;
    }

    public (Segment Left, Segment Right) Halve()
    {
        var ab = 0.5 * (Start + C1);
        var bc = 0.5 * (C1 + C2);
        var cd = 0.5 * (C2 + End);
        var abc = 0.5 * (ab + bc);
        var bcd = 0.5 * (bc + cd);
        var mid = 0.5 * (abc + bcd);
        return (Cubic(Start, ab, abc, mid), Cubic(mid, bcd, cd, End));
    }

    /// <summary>The point at <paramref name="t"/> from 0 to 1.</summary>
    public Point At(double t)
    {
        var u = 1 - t;
        return Straight ? u * Start + t * End : u * u * u * Start + 3 * u * u * t * C1 + 3 * u * t * t * C2 + t * t * t * End;
    }

    /// <summary>Widens the box by the exact extent, turning points of the curve included.</summary>
    public void Extend(ref Box box)
    {
        box.Add(Start);
        box.Add(End);
        if (Straight)
            return;
        ExtendAxis(ref box, Start.X, C1.X, C2.X, End.X);
        ExtendAxis(ref box, Start.Y, C1.Y, C2.Y, End.Y);
    }

    private void ExtendAxis(ref Box box, double p0, double p1, double p2, double p3)
    {
        // Roots of the derivative 3[(p1-p0)(1-t)² + 2(p2-p1)(1-t)t + (p3-p2)t²].
        var a = p3 - 3 * p2 + 3 * p1 - p0;
        var b = 2 * (p2 - 2 * p1 + p0);
        var c = p1 - p0;
        if (Math.Abs(a) < 1e-12)
        {
            if (Math.Abs(b) > 1e-12)
                AddAt(ref box, -c / b);
            return;
        }
        var root = b * b - 4 * a * c;
        if (root < 0)
            return;
        AddAt(ref box, (-b + Math.Sqrt(root)) / (2 * a));
        AddAt(ref box, (-b - Math.Sqrt(root)) / (2 * a));
    }

    private void AddAt(ref Box box, double t)
    {
        if (t is > 0 and < 1)
            box.Add(At(t));
    }

    private static Point FirstNonZero(Point a, Point b, Point c) =>
        a.Length > 1e-12 ? a
        : b.Length > 1e-12 ? b
        : c;
}

/// <summary>A growing bounding box; empty until a point is added.</summary>
public struct Box()
{
    public double MinX { get; private set; } = double.PositiveInfinity;

    public double MinY { get; private set; } = double.PositiveInfinity;

    public double MaxX { get; private set; } = double.NegativeInfinity;

    public double MaxY { get; private set; } = double.NegativeInfinity;

    public readonly bool IsEmpty => MinX > MaxX;

    public readonly double Width => IsEmpty ? 0 : MaxX - MinX;

    public readonly double Height => IsEmpty ? 0 : MaxY - MinY;

    public void Add(Point p)
    {
        MinX = Math.Min(MinX, p.X);
        MinY = Math.Min(MinY, p.Y);
        MaxX = Math.Max(MaxX, p.X);
        MaxY = Math.Max(MaxY, p.Y);
    }

    public void Add(in Box other)
    {
        if (other.IsEmpty)
            return;
        Add(new Point(other.MinX, other.MinY));
        Add(new Point(other.MaxX, other.MaxY));
    }
}

/// <summary>A drawn shape in mm: its pieces, and the colours it is stroked and filled with, <c>#rrggbb</c>; null for none.</summary>
public sealed record Shape(IReadOnlyList<Subpath> Subpaths, string? Stroke, string? Fill, bool EvenOdd, double? WidthMm = null)
{
    /// <summary>Widens the box by the exact extent of the shape.</summary>
    public void Extend(ref Box box)
    {
        // Plain loops: a drawing may hold a million of these.
        for (var s = 0; s < Subpaths.Count; s++)
        {
            var path = Subpaths[s];
            for (var i = 0; i < path.Count; i++)
                path[i].Extend(ref box);
        }
    }

    /// <summary>The corner of its box with the smallest x and y.</summary>
    public Place Corner()
    {
        var box = new Box();
        Extend(ref box);
        return new Place(box.MinX, box.MinY);
    }
}

/// <summary>A drawing as read: true millimetres, y downwards in SVG and upwards in DXF.</summary>
/// <param name="TextAt">Where live text stands.</param>
/// <param name="Images">Pixel pictures placed in it.</param>
/// <param name="Broken">Shapes whose path data stopped at an error.</param>
/// <param name="Pictures">Where those are that were looked at; null for none.</param>
/// <param name="Noted">Kinds of entity that are counted and not drawn; null for none.</param>
/// <param name="PictureFiles">The files of <paramref name="Pictures"/>, one for each; null where it is linked or cannot be read.</param>
public sealed record Drawing(
    string Format,
    double WidthMm,
    double HeightMm,
    IReadOnlyList<Shape> Shapes,
    IReadOnlyList<Point> TextAt,
    int Images,
    int Broken,
    IReadOnlyDictionary<string, int>? Noted = null,
    IReadOnlyList<PlacedPicture>? Pictures = null,
    DrawingAsides? Asides = null,
    IReadOnlyList<PictureFile?>? PictureFiles = null
)
{
    /// <summary>Each file once, however often it is placed, in the order of the first places.</summary>
    public IReadOnlyList<PictureFile> Files => [.. (PictureFiles ?? []).OfType<PictureFile>().Distinct()];
}
