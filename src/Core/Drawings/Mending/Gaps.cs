using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>Joins ends of open lines that lie near one another, the nearest first, each end once.</summary>
internal static class Gaps
{
    /// <summary>Ends looked at around each: beyond it a drawing is a thicket that no gap is to be closed in.</summary>
    private const int MostAround = 64;

    private readonly record struct End(int Shape, int Path, bool AtStart, Point At, double Length);

    public static Drawing Close(Drawing drawing, double mm, List<MendStep> steps)
    {
        var ends = Ends(drawing);
        var pairs = Pairs(ends, mm);
        var (taken, added, length) = (new HashSet<int>(), new Dictionary<(int, int), List<(bool AtStart, Point To)>>(), 0.0);
        foreach (var (a, b, apart) in pairs.OrderBy(p => p.Apart))
        {
            if (!taken.Add(a))
                continue;
            if (!taken.Add(b))
            {
                taken.Remove(a);
                continue;
            }
            // Ends that meet need nothing.
            if (apart <= Subpath.ClosedWithinMm)
                continue;
            var key = (ends[a].Shape, ends[a].Path);
            if (!added.TryGetValue(key, out var list))
                added[key] = list = [];
            list.Add((ends[a].AtStart, ends[b].At));
            length += apart;
        }
        steps.Add(new("close", added.Values.Sum(l => l.Count), Math.Round(length, 4)));
        var changed = added.Keys.Select(k => k.Item1).ToHashSet();
        return changed.Count == 0
            ? drawing
            : drawing with
            {
                Shapes = [.. drawing.Shapes.Select((s, i) => changed.Contains(i) ? Joined(s, i, added) : s)],
            };
    }

    private static List<End> Ends(Drawing drawing)
    {
        var ends = new List<End>();
        for (var s = 0; s < drawing.Shapes.Count; s++)
        {
            var shape = drawing.Shapes[s];
            for (var p = 0; shape.Stroke is not null && p < shape.Subpaths.Count; p++)
            {
                if (shape.Subpaths[p] is not { IsClosed: false } path)
                    continue;
                var length = 0.0;
                for (var i = 0; i < path.Count; i++)
                    length += path[i].Length();
                ends.Add(new End(s, p, true, path.Start, length));
                ends.Add(new End(s, p, false, path.End, length));
            }
        }
        return ends;
    }

    private static List<(int A, int B, double Apart)> Pairs(List<End> ends, double mm)
    {
        var cells = new Dictionary<(long, long), List<int>>();
        for (var i = 0; i < ends.Count; i++)
        {
            if (!cells.TryGetValue(Cell(ends[i].At), out var list))
                cells[Cell(ends[i].At)] = list = [];
            if (list.Count < MostAround)
                list.Add(i);
        }
        var pairs = new List<(int, int, double)>();
        for (var i = 0; i < ends.Count; i++)
        {
            var (x, y) = Cell(ends[i].At);
            for (var dx = -1; dx <= 1; dx++)
            {
                for (var dy = -1; dy <= 1; dy++)
                {
                    if (!cells.TryGetValue((x + dx, y + dy), out var list))
                        continue;
                    foreach (var j in list)
                    {
                        if (j > i && (ends[j].At - ends[i].At).Length is var apart && apart <= mm && !IsShort(i, j))
                            pairs.Add((i, j, apart));
                    }
                }
            }
        }
        return pairs;

        (long, long) Cell(Point p) => (Bins.Of(p.X, mm), Bins.Of(p.Y, mm));

        // A line hardly longer than the gap is not bent back on itself.
        bool IsShort(int i, int j) => ends[i].Shape == ends[j].Shape && ends[i].Path == ends[j].Path && ends[i].Length <= 2 * mm;
    }

    private static Shape Joined(Shape shape, int index, Dictionary<(int, int), List<(bool AtStart, Point To)>> added) =>
        shape with
        {
            Subpaths = [.. shape.Subpaths.Select((p, i) => added.TryGetValue((index, i), out var joins) ? Joined(p, joins) : p)],
        };

    private static Subpath Joined(Subpath path, List<(bool AtStart, Point To)> joins)
    {
        var pieces = new List<Segment>(path.Count + joins.Count);
        foreach (var join in joins.Where(j => j.AtStart))
            pieces.Add(Segment.Line(join.To, path.Start));
        for (var i = 0; i < path.Count; i++)
            pieces.Add(path[i]);
        foreach (var join in joins.Where(j => !j.AtStart))
            pieces.Add(Segment.Line(path.End, join.To));
        return new Subpath(CollectionsMarshal.AsSpan(pieces), false);
    }
}
