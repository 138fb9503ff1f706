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
        var lines = new Dictionary<(long, long), List<Piece>>();
        var curves = new Dictionary<(long, long, long, long, long, long, long, long), List<(int Colour, Segment Segment)>>();
        foreach (var shape in drawing.Shapes.Where(s => s.Stroke is not null))
        {
            var colour = colours.BinarySearch(shape.Stroke!, StringComparer.Ordinal);
            foreach (var segment in shape.Subpaths.SelectMany(s => s.Segments))
            {
                if (segment.Straight) AddLine(lines, segment, colour);
                else AddCurve(curves, segment, colour);
            }
        }
        foreach (var line in lines.Values.Where(l => l.Count > 1)) Sweep(line, found);
        foreach (var same in curves.Values.Where(c => c.Count > 1))
            found.Stack(same.ToLookup(s => s.Colour), same[0].Segment.Length(), same[0].Segment.At(0.5));
        return found.Done();
    }

    private static void AddLine(Dictionary<(long, long), List<Piece>> lines, in Segment segment, int colour)
    {
        var d = segment.End - segment.Start;
        var length = d.Length;
        if (length < ShortestMm) return;
        // One direction for both ways of drawing a line: angle within [0, π).
        if (d.Y < -1e-9 * length || (Math.Abs(d.Y) <= 1e-9 * length && d.X < 0)) d = new Point(-d.X, -d.Y);
        Point u = new(d.X / length, d.Y / length);
        var offset = u.X * segment.Start.Y - u.Y * segment.Start.X;
        var key = ((long)Math.Floor(Math.Atan2(u.Y, u.X) / AngleRadians + Shift), (long)Math.Floor(offset / OffsetMm + Shift));
        var from = u.X * segment.Start.X + u.Y * segment.Start.Y;
        var to = u.X * segment.End.X + u.Y * segment.End.Y;
        if (!lines.TryGetValue(key, out var list)) lines[key] = list = [];
        list.Add(from <= to ? new Piece(from, to, colour, segment.Start, segment.End) : new Piece(to, from, colour, segment.End, segment.Start));
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

    /// <summary>Walks the ends along one line and reports each stretch that two or more pieces cover.</summary>
    private static void Sweep(List<Piece> pieces, Tally found)
    {
        pieces.Sort((x, y) => x.From.CompareTo(y.From));
        var active = new List<Piece>();
        var ends = pieces.SelectMany(p => new[] { p.From, p.To }).Distinct().Order().ToList();
        var next = 0;
        for (var i = 0; i + 1 < ends.Count; i++)
        {
            var (from, to) = (ends[i], ends[i + 1]);
            active.RemoveAll(p => p.To <= from);
            while (next < pieces.Count && pieces[next].From <= from) active.Add(pieces[next++]);
            if (active.Count < 2 || to - from < ShortestMm) continue;
            var piece = active[0];
            var t = ((from + to) / 2 - piece.From) / (piece.To - piece.From);
            found.Stack(active.ToLookup(p => p.Colour), to - from, (1 - t) * piece.A + t * piece.B);
        }
    }

    /// <summary>Sums the redundant length for each pair of colours.</summary>
    private sealed class Tally(List<string> colours)
    {
        private readonly SortedDictionary<(int A, int B), (int Count, double Length, List<double[]> At)> _pairs = [];

        public void Stack<T>(ILookup<int, T> layers, double length, Point at)
        {
            var present = layers.Select(l => l.Key).Order().ToList();
            foreach (var colour in present)
            {
                var again = layers[colour].Count() - 1;
                if (again > 0) Add(colour, colour, again * length, at);
            }
            for (var i = 1; i < present.Count; i++) Add(present[i - 1], present[i], length, at);
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
