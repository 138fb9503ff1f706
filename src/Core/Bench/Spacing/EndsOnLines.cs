namespace VelvetGate.Core.Bench.Spacing;

/// <summary>Finds the ends of lines that lie on another line, not only on its end: three sides of a square close against a wall.</summary>
internal static class EndsOnLines
{
    /// <summary>Pairs of an end and a piece that are looked at. Beyond it the rest is taken to be loose, which is only a warning.</summary>
    private const long MostTests = 40_000_000;

    /// <param name="ends">Each with the line it belongs to.</param>
    /// <returns>For each end whether it lies within <paramref name="mm"/> of a line of the pieces.</returns>
    public static bool[] Find(LinePieces pieces, Range range, IReadOnlyList<(Subpath Line, Point At)> ends, double mm)
    {
        var on = new bool[ends.Count];
        var (from, count) = range.GetOffsetAndLength(pieces.All.Length);
        if (ends.Count == 0 || count == 0) return on;
        var box = new Box();
        foreach (var (_, at) in ends) box.Add(at);
        double length = 0;
        foreach (ref readonly var piece in pieces.All.Slice(from, count)) length += (piece.B - piece.A).Length;
        var cell = Math.Max(Math.Max(Math.Sqrt(box.Width * box.Height / ends.Count), length / (4.0 * count)), Math.Max(Math.Max(box.Width, box.Height) / 2000, 2 * mm));
        var (across, down) = ((int)(box.Width / cell) + 1, (int)(box.Height / cell) + 1);
        var cells = new List<int>?[across * down];
        for (var e = 0; e < ends.Count; e++) (cells[Row(ends[e].At.Y) * across + Column(ends[e].At.X)] ??= []).Add(e);
        long tests = 0;
        for (var i = from; i < from + count && tests < MostTests; i++)
        {
            ref readonly var piece = ref pieces.All[i];
            var (a, b) = piece.A.X <= piece.B.X ? (piece.A, piece.B) : (piece.B, piece.A);
            if (b.X < box.MinX - mm || a.X > box.MaxX + mm || Math.Max(a.Y, b.Y) < box.MinY - mm || Math.Min(a.Y, b.Y) > box.MaxY + mm) continue;
            for (int c = Column(a.X - mm), last = Column(b.X + mm); c <= last; c++)
            {
                // Between the heights the piece has over this column.
                var (y0, y1) = b.X - a.X < 1e-9 ? (a.Y, b.Y) : (HeightAt(a, b, box.MinX + c * cell - mm), HeightAt(a, b, box.MinX + (c + 1) * cell + mm));
                for (int r = Row(Math.Min(y0, y1) - mm), low = Row(Math.Max(y0, y1) + mm); r <= low; r++)
                {
                    tests++;
                    if (cells[r * across + c] is not { } here) continue;
                    tests += here.Count;
                    foreach (var e in here) on[e] = on[e] || Lies(ends[e], piece, pieces.Paths[pieces.PathOf[i]].Line, mm);
                }
            }
        }
        return on;

        int Column(double x) => Math.Clamp((int)((x - box.MinX) / cell), 0, across - 1);

        int Row(double y) => Math.Clamp((int)((y - box.MinY) / cell), 0, down - 1);
    }

    private static double HeightAt(Point a, Point b, double x) => a.Y + (b.Y - a.Y) * Math.Clamp((x - a.X) / (b.X - a.X), 0, 1);

    private static bool Lies((Subpath Line, Point At) end, in Piece piece, Subpath line, double mm)
    {
        // Its own last piece, and what of its own line lies within reach along the line.
        if (ReferenceEquals(line, end.Line) && ((piece.A - end.At).Length <= mm || (piece.B - end.At).Length <= mm)) return false;
        var (d, v) = (piece.B - piece.A, end.At - piece.A);
        var t = Math.Clamp((v.X * d.X + v.Y * d.Y) / (d.X * d.X + d.Y * d.Y), 0, 1);
        return (v - t * d).Length <= mm;
    }
}
