namespace VelvetGate.Core.Drawings;

/// <summary>Area that a shape's fill covers, by its fill rule.</summary>
internal static class FilledArea
{
    private const int Rows = 1024;

    /// <summary>Square units of the points. One simple outline is exact; several are summed along 1024 rows, good to about 0.2 %.</summary>
    public static double Of(Shape shape)
    {
        if (shape.Subpaths.Count == 1)
            return Math.Abs(Signed(shape.Subpaths[0]));
        var edges = Edges(shape);
        return ByRows(edges, shape.EvenOdd);
    }

    /// <summary>Green's theorem over each piece: exact for lines and for cubics.</summary>
    private static double Signed(Subpath path)
    {
        double twice = 0;
        for (var i = 0; i < path.Count; i++)
        {
            var s = path[i];
            if (s.Straight)
            {
                twice += Cross(s.Start, s.End);
            }
            else
            {
                twice +=
                    (
                        6 * Cross(s.Start, s.C1)
                        + 3 * Cross(s.Start, s.C2)
                        + Cross(s.Start, s.End)
                        + 3 * Cross(s.C1, s.C2)
                        + 3 * Cross(s.C1, s.End)
                        + 6 * Cross(s.C2, s.End)
                    ) / 10;
            }
        }
        twice += Cross(path.End, path.Start);
        return twice / 2;
    }

    private static double Cross(Point a, Point b) => a.X * b.Y - b.X * a.Y;

    private static List<(Point A, Point B)> Edges(Shape shape)
    {
        var edges = new List<(Point, Point)>();
        foreach (var path in shape.Subpaths)
        {
            for (var p = 0; p < path.Count; p++)
            {
                var s = path[p];
                var pieces = s.Straight ? 1 : 16;
                for (var i = 0; i < pieces; i++)
                    edges.Add((s.At((double)i / pieces), s.At((i + 1.0) / pieces)));
            }
            edges.Add((path.End, path.Start));
        }
        return edges;
    }

    private static double ByRows(List<(Point A, Point B)> edges, bool evenOdd)
    {
        var top = edges.Min(e => Math.Min(e.A.Y, e.B.Y));
        var bottom = edges.Max(e => Math.Max(e.A.Y, e.B.Y));
        if (bottom <= top)
            return 0;
        // Bounded work for very large outlines: fewer rows, still hundreds.
        var rows = (int)Math.Clamp(200_000_000L / Math.Max(1, edges.Count), 64, Rows);
        var step = (bottom - top) / rows;
        var crossings = new List<(double X, int Turn)>[rows];
        foreach (var (a, b) in edges)
        {
            if (a.Y == b.Y)
                continue;
            var (low, high, turn) = a.Y < b.Y ? (a, b, 1) : (b, a, -1);
            var first = Math.Max(0, (int)Math.Ceiling((low.Y - top) / step - 0.5));
            var last = Math.Min(rows - 1, (int)Math.Ceiling((high.Y - top) / step - 0.5) - 1);
            for (var r = first; r <= last; r++)
            {
                var y = top + (r + 0.5) * step;
                (crossings[r] ??= []).Add((low.X + (high.X - low.X) * (y - low.Y) / (high.Y - low.Y), turn));
            }
        }
        return step * crossings.Sum(row => row is null ? 0 : Inside(row, evenOdd));
    }

    private static double Inside(List<(double X, int Turn)> row, bool evenOdd)
    {
        row.Sort((a, b) => a.X.CompareTo(b.X));
        double length = 0;
        var winding = 0;
        for (var i = 0; i + 1 < row.Count; i++)
        {
            winding += evenOdd ? 1 : row[i].Turn;
            if (evenOdd ? winding % 2 == 1 : winding != 0)
                length += row[i + 1].X - row[i].X;
        }
        return length;
    }
}
