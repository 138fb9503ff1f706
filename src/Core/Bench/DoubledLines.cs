namespace VelvetGate.Core.Bench;

/// <summary>
/// Finds what is drawn twice: straight stretches that lie on one another, wholly or in part, and curves drawn again, forwards or backwards.
/// The second pass has nothing left to absorb it and becomes heat and fire (common practice).
/// </summary>
internal static class DoubledLines
{
    private const double PointMm = 0.002;

    public static IReadOnlyList<Doubled> Find(Drawing drawing)
    {
        var colours = drawing.Shapes.Where(s => s.Stroke is not null).Select(s => s.Stroke!).Distinct().Order(StringComparer.Ordinal).ToList();
        var found = new Tally(colours);
        using var lines = new StraightPieces(drawing.Shapes.Where(s => s.Stroke is not null).Sum(s => s.Subpaths.Sum(p => p.Count)));
        var curves = new Dictionary<(long, long, long, long, long, long, long, long), List<(int Colour, Segment Segment)>>();
        foreach (var shape in drawing.Shapes.Where(s => s.Stroke is not null))
        {
            var colour = colours.BinarySearch(shape.Stroke!, StringComparer.Ordinal);
            for (var s = 0; s < shape.Subpaths.Count; s++)
            {
                var path = shape.Subpaths[s];
                lines.Add(path, colour);
                for (var i = 0; i < path.Count; i++)
                {
                    if (path[i] is { Straight: false } curve) AddCurve(curves, curve, colour);
                }
            }
        }
        lines.EachOverlapping(line => Sweep(line, found));
        foreach (var same in curves.Values.Where(c => c.Count > 1))
            found.Stack(new(same.GroupBy(s => s.Colour).ToDictionary(g => g.Key, g => g.Count())), same[0].Segment.Length(), same[0].Segment.At(0.5));
        return found.Done();
    }

    private static void AddCurve(Dictionary<(long, long, long, long, long, long, long, long), List<(int, Segment)>> curves, in Segment s, int colour)
    {
        var (a, b, c, d) = (Cell(s.Start), Cell(s.C1), Cell(s.C2), Cell(s.End));
        if (d.CompareTo(a) < 0 || (d == a && c.CompareTo(b) < 0)) (a, b, c, d) = (d, c, b, a);
        var key = (a.Item1, a.Item2, b.Item1, b.Item2, c.Item1, c.Item2, d.Item1, d.Item2);
        if (!curves.TryGetValue(key, out var list)) curves[key] = list = [];
        list.Add((colour, s));
    }

    private static (long, long) Cell(Point p) => (Bins.Of(p.X, PointMm), Bins.Of(p.Y, PointMm));

    /// <summary>Walks the ends along one line and reports each stretch that two or more pieces cover. Sorting apart, linear in the pieces.</summary>
    /// <param name="pieces">In the order of their starts.</param>
    private static void Sweep(List<StraightPiece> pieces, Tally found)
    {
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
            if (to - from < StraightPieces.ShortestMm || layers.Count == 0) continue;
            var t = ((from + to) / 2 - along.From) / (along.To - along.From);
            found.Stack(layers, to - from, (1 - t) * along.A + t * along.B);
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
