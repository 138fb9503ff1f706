namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>Finds the ends of lines that lie on another line, not only on its end: three sides of a square close against a wall.</summary>
internal static class EndsOnLines
{
    /// <summary>Pairs of an end and a piece that are looked at. Beyond it the rest is taken to be loose, which is only a warning.</summary>
    private const long MostTests = 40_000_000;

    /// <param name="ends">Each with the line it belongs to.</param>
    /// <returns>For each end whether it lies within <paramref name="mm"/> of a line of the pieces.</returns>
    public static bool[] Find(LinePieces pieces, Range range, ReadOnlySpan<(Subpath Line, Point At)> ends, double mm)
    {
        var on = new bool[ends.Length];
        var (from, count) = range.GetOffsetAndLength(pieces.All.Length);
        if (ends.Length == 0 || count == 0)
            return on;
        var box = new Box();
        foreach (var (_, at) in ends)
            box.Add(at);
        double length = 0;
        foreach (ref readonly var piece in pieces.All.Slice(from, count))
            length += (piece.B - piece.A).Length;
        var cell = Math.Max(
            Math.Max(Math.Sqrt(box.Width * box.Height / ends.Length), length / (4.0 * count)),
            Math.Max(Math.Max(box.Width, box.Height) / 2000, 2 * mm)
        );
        var (across, down) = ((int)(box.Width / cell) + 1, (int)(box.Height / cell) + 1);
        // The ends of each cell lie side by side with where they are, those of a column of cells one after another: reaching them takes
        // longer than looking through them.
        var (starts, cellOf) = (new int[across * down + 1], new int[ends.Length]);
        for (var e = 0; e < ends.Length; e++)
            starts[(cellOf[e] = Column(ends[e].At.X) * down + Row(ends[e].At.Y)) + 1]++;
        for (var c = 1; c < starts.Length; c++)
            starts[c] += starts[c - 1];
        var (members, next) = (new (Point At, int End)[ends.Length], starts[..^1]);
        for (var e = 0; e < ends.Length; e++)
            members[next[cellOf[e]]++] = (ends[e].At, e);
        long tests = 0;
        foreach (var i in FromLeft(pieces.All.Slice(from, count), from, across, Column))
        {
            if (tests >= MostTests)
                break;
            ref readonly var piece = ref pieces.All[i];
            var (a, b) = piece.A.X <= piece.B.X ? (piece.A, piece.B) : (piece.B, piece.A);
            if (b.X < box.MinX - mm || a.X > box.MaxX + mm || Math.Max(a.Y, b.Y) < box.MinY - mm || Math.Min(a.Y, b.Y) > box.MaxY + mm)
                continue;
            for (int c = Column(a.X - mm), last = Column(b.X + mm); c <= last; c++)
            {
                // Between the heights the piece has over this column.
                var (y0, y1) =
                    b.X - a.X < 1e-9
                        ? (a.Y, b.Y)
                        : (HeightAt(a, b, box.MinX + c * cell - mm), HeightAt(a, b, box.MinX + (c + 1) * cell + mm));
                var (low, high) = (Row(Math.Min(y0, y1) - mm), Row(Math.Max(y0, y1) + mm));
                var here = members.AsSpan(starts[c * down + low]..starts[c * down + high + 1]);
                tests += 1 + here.Length;
                foreach (ref readonly var member in here)
                {
                    if (Near(member.At, piece, mm) && !on[member.End])
                        on[member.End] = !IsOwnEnd(ends[member.End], piece, pieces.Paths[pieces.PathOf[i]].Line, mm);
                }
            }
        }
        return on;

        int Column(double x) => Math.Clamp((int)((x - box.MinX) / cell), 0, across - 1);

        int Row(double y) => Math.Clamp((int)((y - box.MinY) / cell), 0, down - 1);
    }

    /// <summary>Pieces by the column they begin in, so that what is looked at one after the other lies together: a counting sort.</summary>
    private static int[] FromLeft(ReadOnlySpan<Piece> pieces, int first, int across, Func<double, int> column)
    {
        var (starts, order) = (new int[across + 1], new int[pieces.Length]);
        foreach (ref readonly var piece in pieces)
            starts[column(Math.Min(piece.A.X, piece.B.X)) + 1]++;
        for (var c = 1; c < starts.Length; c++)
            starts[c] += starts[c - 1];
        for (var i = 0; i < pieces.Length; i++)
            order[starts[column(Math.Min(pieces[i].A.X, pieces[i].B.X))]++] = first + i;
        return order;
    }

    private static double HeightAt(Point a, Point b, double x) => a.Y + (b.Y - a.Y) * Math.Clamp((x - a.X) / (b.X - a.X), 0, 1);

    private static bool Near(Point at, in Piece piece, double mm)
    {
        var (d, v) = (piece.B - piece.A, at - piece.A);
        var t = Math.Clamp((v.X * d.X + v.Y * d.Y) / (d.X * d.X + d.Y * d.Y), 0, 1);
        var off = v - t * d;
        return off.X * off.X + off.Y * off.Y <= mm * mm;
    }

    /// <summary>Its own last piece, and what of its own line lies within reach along the line.</summary>
    private static bool IsOwnEnd((Subpath Line, Point At) end, in Piece piece, Subpath line, double mm) =>
        ReferenceEquals(line, end.Line) && ((piece.A - end.At).Length <= mm || (piece.B - end.At).Length <= mm);
}
