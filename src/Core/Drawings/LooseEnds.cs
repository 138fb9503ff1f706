using VelvetGate.Core.Drawings.Spacing;

namespace VelvetGate.Core.Drawings;

/// <summary>Lines that do not close, each with what touches it end to end.</summary>
/// <param name="Count">Chains of touching lines that have a loose end.</param>
/// <param name="LengthMm">Length of those chains, in mm.</param>
/// <param name="At">Up to fifty loose ends.</param>
public sealed record Loose(int Count, double LengthMm, IReadOnlyList<Place> At);

/// <summary>
/// Finds the ends that touch no other line: four lines may make a square as well as one path does, and three against the side of another.
/// </summary>
internal sealed class LooseEnds
{
    /// <summary>Ends nearer than this touch: a fifth of a usual kerf, and more than programs round away. House practice.</summary>
    public const double TouchMm = 0.05;

    /// <summary>More cells than a row can have.</summary>
    private const long Row = 1L << 31;

    private readonly List<(Subpath Line, double Length)> _lines = [];
    private readonly List<Point> _ends = [];

    public void Add(Subpath path, double length)
    {
        _lines.Add((path, length));
        _ends.Add(path.Start);
        _ends.Add(path.End);
    }

    /// <summary>No slower for a thousand ends in one place: of each cell only the first is measured.</summary>
    /// <param name="pieces">Of the drawing, and which of them may be touched.</param>
    /// <returns>Null when nothing is loose.</returns>
    public Loose? Find(LinePieces pieces, Range range)
    {
        if (_lines.Count == 0)
            return null;
        var (parents, touched) = (new int[_lines.Count], new bool[2 * _lines.Count]);
        for (var i = 0; i < parents.Length; i++)
            parents[i] = i;
        var (cells, ends) = InCells();
        // Ends in one cell touch; those in the cells beside it are measured. Rows lie one after another, so that three places are walked at
        // once.
        for (int i = 0, below = 0; i < cells.Length; i++)
        {
            if (i > 0 && cells[i] == cells[i - 1])
            {
                Touch(ends[i - 1], ends[i]);
                continue;
            }
            Look(cells[i] + 1, i);
            while (below < cells.Length && cells[below] < cells[i] + Row - 1)
                below++;
            for (var k = below; k < cells.Length && cells[k] <= cells[i] + Row + 1; k++)
            {
                if (k == below || cells[k] != cells[k - 1])
                    Measure(ends[i], ends[k]);
            }
        }
        TouchLines(pieces, range, touched, ends);
        return Count(parents, touched);

        void Look(long cell, int i)
        {
            var next = i + 1;
            while (next < cells.Length && cells[next] == cells[i])
                next++;
            if (next < cells.Length && cells[next] == cell)
                Measure(ends[i], ends[next]);
        }

        void Measure(int a, int b)
        {
            if ((At(a) - At(b)).Length <= TouchMm)
                Touch(a, b);
        }

        void Touch(int a, int b)
        {
            touched[a] = touched[b] = true;
            parents[Root(parents, a / 2)] = Root(parents, b / 2);
        }
    }

    /// <summary>Cells in their order, row by row, and the end in each.</summary>
    private (long[] Cells, int[] Ends) InCells()
    {
        var (cells, ends) = (new long[2 * _lines.Count], new int[2 * _lines.Count]);
        var (least, most) = (long.MaxValue, long.MinValue);
        foreach (var at in _ends)
            (least, most) = (Math.Min(least, Bins.Of(at.Y, TouchMm)), Math.Max(most, Bins.Of(at.Y, TouchMm)));
        if (most - least > 2L * ends.Length)
        {
            for (var end = 0; end < ends.Length; end++)
                (cells[end], ends[end]) = (CellOf(end), end);
            Array.Sort(cells, ends);
            return (cells, ends);
        }
        // Rows are counted first: many short rows are in order sooner than one long list.
        var starts = new int[most - least + 2];
        foreach (var at in _ends)
            starts[Bins.Of(at.Y, TouchMm) - least + 1]++;
        for (var row = 1; row < starts.Length; row++)
            starts[row] += starts[row - 1];
        var next = starts[..^1];
        for (var end = 0; end < ends.Length; end++)
        {
            var to = next[Bins.Of(At(end).Y, TouchMm) - least]++;
            (cells[to], ends[to]) = (CellOf(end), end);
        }
        for (var row = 0; row + 1 < starts.Length; row++)
            Array.Sort(cells, ends, starts[row], starts[row + 1] - starts[row]);
        return (cells, ends);

        long CellOf(int end) => Bins.Of(At(end).Y, TouchMm) * Row + Bins.Of(At(end).X, TouchMm);
    }

    /// <param name="order">All ends, neighbours near to one another: so they are looked at fastest.</param>
    private void TouchLines(LinePieces pieces, Range range, bool[] touched, int[] order)
    {
        var loose = new int[touched.Count(t => !t)];
        var ends = new (Subpath, Point)[loose.Length];
        var n = 0;
        foreach (var e in order)
        {
            if (!touched[e])
                (loose[n], ends[n++]) = (e, (_lines[e / 2].Line, At(e)));
        }
        var on = EndsOnLines.Find(pieces, range, ends, TouchMm);
        for (var i = 0; i < on.Length; i++)
            touched[loose[i]] = on[i];
    }

    private Loose? Count(int[] parents, bool[] touched)
    {
        var open = new HashSet<int>();
        var at = new List<Place>();
        for (var end = 0; end < touched.Length; end++)
        {
            if (touched[end])
                continue;
            open.Add(Root(parents, end / 2));
            if (at.Count < 50)
                at.Add(new Place(At(end).X, At(end).Y));
        }
        if (open.Count == 0)
            return null;
        var length = 0.0;
        for (var i = 0; i < _lines.Count; i++)
        {
            if (open.Contains(Root(parents, i)))
                length += _lines[i].Length;
        }
        return new Loose(open.Count, length, at);
    }

    private Point At(int end) => _ends[end];

    private static int Root(int[] parents, int i)
    {
        while (parents[i] != i)
            i = parents[i] = parents[parents[i]];
        return i;
    }
}

/// <summary>
/// Puts lengths into bins. They are shifted by an amount no drawing uses, so that round coordinates never sit on a border between two.
/// </summary>
internal static class Bins
{
    private const double Shift = 0.31830988;

    public static long Of(double value, double width) => (long)Math.Floor(value / width + Shift);
}
