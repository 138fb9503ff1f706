namespace VelvetGate.Core.Bench;

/// <summary>
/// Finds what is drawn twice: straight stretches that lie on one another, wholly or in part, and curves drawn again, forwards or backwards.
/// The second pass has nothing left to absorb it and becomes heat and fire (common practice).
/// </summary>
internal static class DoubledLines
{
    /// <summary>Lines nearer than this are one line here; nearly doubled lines are another finding.</summary>
    private const double OffsetMm = 0.01;

    private const double AngleRadians = 1e-4;

    private const double PointMm = 0.002;

    /// <summary>A shared stretch shorter than this is a touching corner.</summary>
    private const double ShortestMm = 0.05;

    // Bins are shifted by amounts no drawing uses, so that round coordinates never sit on a border between two.
    private const double Shift = 0.31830988;

    private readonly record struct Piece(double From, double To, int Colour, Point A, Point B);

    public static IReadOnlyList<Doubled> Find(Drawing drawing)
    {
        var colours = drawing.Shapes.Where(s => s.Stroke is not null).Select(s => s.Stroke!).Distinct().Order(StringComparer.Ordinal).ToList();
        var found = new Tally(colours);
        using var lines = new Lines(drawing.Shapes.Where(s => s.Stroke is not null).Sum(s => s.Subpaths.Sum(p => p.Segments.Count)));
        var curves = new Dictionary<(long, long, long, long, long, long, long, long), List<(int Colour, Segment Segment)>>();
        foreach (var shape in drawing.Shapes.Where(s => s.Stroke is not null))
        {
            var colour = colours.BinarySearch(shape.Stroke!, StringComparer.Ordinal);
            for (var s = 0; s < shape.Subpaths.Count; s++)
            {
                foreach (ref readonly var segment in shape.Subpaths[s].Pieces)
                {
                    if (segment.Straight) AddLine(lines, segment, colour);
                    else AddCurve(curves, segment, colour);
                }
            }
        }
        lines.EachShared(line => Sweep(line, found));
        foreach (var same in curves.Values.Where(c => c.Count > 1))
            found.Stack(new(same.GroupBy(s => s.Colour).ToDictionary(g => g.Key, g => g.Count())), same[0].Segment.Length(), same[0].Segment.At(0.5));
        return found.Done();
    }

    private static void AddLine(Lines lines, in Segment segment, int colour)
    {
        var d = segment.End - segment.Start;
        var length = d.Length;
        if (length < ShortestMm) return;
        // One direction for both ways of drawing a line: angle within [0, π).
        if (d.Y < -1e-9 * length || (Math.Abs(d.Y) <= 1e-9 * length && d.X < 0)) d = new Point(-d.X, -d.Y);
        Point u = new(d.X / length, d.Y / length);
        var offset = u.X * segment.Start.Y - u.Y * segment.Start.X;
        var from = u.X * segment.Start.X + u.Y * segment.Start.Y;
        var to = u.X * segment.End.X + u.Y * segment.End.Y;
        lines.Add(
            (long)Math.Floor(Math.Atan2(u.Y, u.X) / AngleRadians + Shift), (long)Math.Floor(offset / OffsetMm + Shift),
            from <= to ? new Piece(from, to, colour, segment.Start, segment.End) : new Piece(to, from, colour, segment.End, segment.Start));
    }

    private static void AddCurve(Dictionary<(long, long, long, long, long, long, long, long), List<(int, Segment)>> curves, in Segment s, int colour)
    {
        var (a, b, c, d) = (Cell(s.Start), Cell(s.C1), Cell(s.C2), Cell(s.End));
        if (d.CompareTo(a) < 0 || (d == a && c.CompareTo(b) < 0)) (a, b, c, d) = (d, c, b, a);
        var key = (a.Item1, a.Item2, b.Item1, b.Item2, c.Item1, c.Item2, d.Item1, d.Item2);
        if (!curves.TryGetValue(key, out var list)) curves[key] = list = [];
        list.Add((colour, s));
    }

    private static (long, long) Cell(Point p) => ((long)Math.Floor(p.X / PointMm + Shift), (long)Math.Floor(p.Y / PointMm + Shift));

    /// <summary>Walks the ends along one line and reports each stretch that two or more pieces cover. Sorting apart, linear in the pieces.</summary>
    /// <param name="pieces">In the order of their starts.</param>
    private static void Sweep(List<Piece> pieces, Tally found)
    {
        if (!Overlap(pieces)) return;
        var ends = pieces.SelectMany(p => new (double At, int Turn, int Colour)[] { (p.From, 1, p.Colour), (p.To, -1, p.Colour) }).ToArray();
        Array.Sort(ends, (x, y) => x.At.CompareTo(y.At));
        // Any piece tells where along the line a place lies: all of them are on it.
        var along = pieces[0];
        var layers = new SortedDictionary<int, int>();
        for (var i = 0; i + 1 < ends.Length; i++)
        {
            var count = layers.GetValueOrDefault(ends[i].Colour) + ends[i].Turn;
            if (count == 0) layers.Remove(ends[i].Colour);
            else layers[ends[i].Colour] = count;
            var (from, to) = (ends[i].At, ends[i + 1].At);
            if (to - from < ShortestMm || layers.Count == 0) continue;
            var t = ((from + to) / 2 - along.From) / (along.To - along.From);
            found.Stack(layers, to - from, (1 - t) * along.A + t * along.B);
        }
    }

    /// <summary>Most pieces on one line lie one after the other: then there is nothing to sweep.</summary>
    private static bool Overlap(List<Piece> pieces)
    {
        var reach = double.NegativeInfinity;
        foreach (var piece in pieces)
        {
            if (piece.From < reach - ShortestMm) return true;
            reach = Math.Max(reach, piece.To);
        }
        return false;
    }

    /// <summary>Pieces by the line they lie on, in two borrowed arrays: most lines have one piece, and a list for each would cost more than all else here.</summary>
    private sealed class Lines : IDisposable
    {
        private readonly int[] _heads;
        private readonly Entry[] _entries;
        private readonly int _mask;
        private int _count;

        private record struct Entry(long Angle, long Offset, int Next, Piece Piece);

        /// <param name="most">How many pieces may be added.</param>
        public Lines(int most)
        {
            var size = (int)System.Numerics.BitOperations.RoundUpToPowerOf2((uint)Math.Max(16, most));
            _mask = size - 1;
            _heads = System.Buffers.ArrayPool<int>.Shared.Rent(size);
            _entries = System.Buffers.ArrayPool<Entry>.Shared.Rent(Math.Max(1, most));
            Array.Fill(_heads, -1, 0, size);
        }

        public void Add(long angle, long offset, in Piece piece)
        {
            ref var head = ref _heads[HashCode.Combine(angle, offset) & _mask];
            _entries[_count] = new Entry(angle, offset, head, piece);
            head = _count++;
        }

        /// <summary>Gives each line with more than one piece, its pieces in order along it. The list is used again for the next.</summary>
        public void EachShared(Action<List<Piece>> act)
        {
            var (bucket, line) = (new List<Entry>(), new List<Piece>());
            for (var b = 0; b <= _mask; b++)
            {
                if (_heads[b] < 0 || _entries[_heads[b]].Next < 0) continue;
                bucket.Clear();
                for (var i = _heads[b]; i >= 0; i = _entries[i].Next) bucket.Add(_entries[i]);
                bucket.Sort(static (x, y) => x.Angle != y.Angle ? x.Angle.CompareTo(y.Angle) : x.Offset != y.Offset ? x.Offset.CompareTo(y.Offset) : x.Piece.From.CompareTo(y.Piece.From));
                for (var from = 0; from < bucket.Count;)
                {
                    var to = from + 1;
                    while (to < bucket.Count && bucket[to].Angle == bucket[from].Angle && bucket[to].Offset == bucket[from].Offset) to++;
                    if (to - from > 1)
                    {
                        line.Clear();
                        for (var i = from; i < to; i++) line.Add(bucket[i].Piece);
                        act(line);
                    }
                    from = to;
                }
            }
        }

        public void Dispose()
        {
            System.Buffers.ArrayPool<int>.Shared.Return(_heads);
            System.Buffers.ArrayPool<Entry>.Shared.Return(_entries);
        }
    }

    /// <summary>Sums the redundant length for each pair of colours.</summary>
    private sealed class Tally(List<string> colours)
    {
        private readonly SortedDictionary<(int A, int B), (int Count, double Length, List<double[]> At)> _pairs = [];

        /// <param name="layers">How often each colour is drawn there, in the order of the colours.</param>
        public void Stack(SortedDictionary<int, int> layers, double length, Point at)
        {
            var below = -1;
            foreach (var (colour, times) in layers)
            {
                if (times > 1) Add(colour, colour, (times - 1) * length, at);
                if (below >= 0) Add(below, colour, length, at);
                below = colour;
            }
        }

        public IReadOnlyList<Doubled> Done() =>
            [.. _pairs.Select(p => new Doubled(colours[p.Key.A], colours[p.Key.B], p.Value.Count, p.Value.Length, p.Value.At))];

        private void Add(int a, int b, double length, Point at)
        {
            var entry = _pairs.GetValueOrDefault((a, b), (0, 0, []));
            if (entry.At.Count < 50) entry.At.Add([at.X, at.Y]);
            _pairs[(a, b)] = (entry.Count + 1, entry.Length + length, entry.At);
        }
    }
}
