namespace VelvetGate.Core.Bench;

/// <summary>Lines that do not close, each with what touches it end to end.</summary>
/// <param name="Count">Chains of touching lines that have a loose end.</param>
/// <param name="LengthMm">Length of those chains, in mm.</param>
/// <param name="At">Up to fifty loose ends.</param>
public sealed record Loose(int Count, double LengthMm, IReadOnlyList<double[]> At);

/// <summary>Finds the ends that touch no other end: four lines may make a square as well as one path does.</summary>
internal sealed class LooseEnds
{
    /// <summary>Ends nearer than this touch: a fifth of a usual kerf, and more than programs round away. House practice.</summary>
    public const double TouchMm = 0.05;

    private readonly List<(Point Start, Point End, double Length)> _lines = [];

    public void Add(Subpath path, double length) => _lines.Add((path.Start, path.End, length));

    /// <summary>Linear in the lines: of each cell only the first end is looked at, so that a thousand in one place are no more work than two.</summary>
    /// <returns>Null when nothing is loose.</returns>
    public Loose? Find()
    {
        if (_lines.Count == 0) return null;
        var (parents, touched) = (new int[_lines.Count], new bool[2 * _lines.Count]);
        for (var i = 0; i < parents.Length; i++) parents[i] = i;
        // Each cell keeps its first end; those after touch it, those beside it are measured.
        var cells = new Dictionary<(long, long), int>(2 * _lines.Count);
        for (var end = 0; end < touched.Length; end++)
        {
            var (x, y) = Cell(end);
            if (cells.TryGetValue((x, y), out var first)) Touch(first, end);
            else cells[(x, y)] = end;
        }
        foreach (var ((x, y), end) in cells)
        {
            // Half of the neighbours: the other half looks back.
            Look(x + 1, y - 1, end);
            Look(x + 1, y, end);
            Look(x + 1, y + 1, end);
            Look(x, y + 1, end);
        }
        return Count(parents, touched);

        void Look(long x, long y, int end)
        {
            if (cells.TryGetValue((x, y), out var other) && (At(end) - At(other)).Length <= TouchMm) Touch(other, end);
        }

        void Touch(int a, int b)
        {
            touched[a] = touched[b] = true;
            parents[Root(parents, a / 2)] = Root(parents, b / 2);
        }
    }

    private Loose? Count(int[] parents, bool[] touched)
    {
        var open = new HashSet<int>();
        var at = new List<double[]>();
        for (var end = 0; end < touched.Length; end++)
        {
            if (touched[end]) continue;
            open.Add(Root(parents, end / 2));
            if (at.Count < 50) at.Add([At(end).X, At(end).Y]);
        }
        if (open.Count == 0) return null;
        var length = 0.0;
        for (var i = 0; i < _lines.Count; i++)
        {
            if (open.Contains(Root(parents, i))) length += _lines[i].Length;
        }
        return new Loose(open.Count, length, at);
    }

    private Point At(int end) => end % 2 == 0 ? _lines[end / 2].Start : _lines[end / 2].End;

    private (long, long) Cell(int end) => (Bins.Of(At(end).X, TouchMm), Bins.Of(At(end).Y, TouchMm));

    private static int Root(int[] parents, int i)
    {
        while (parents[i] != i) i = parents[i] = parents[parents[i]];
        return i;
    }
}
