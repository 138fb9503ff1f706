namespace VelvetGate.Core.Drawings;

/// <summary>The way between paths: always on to the nearest end that is left.</summary>
internal static class HeadRoute
{
    /// <summary>The hops from path to path, in mm, where the head stands at the end, and which path comes when, from which end.</summary>
    /// <param name="at">Where the head stands.</param>
    public static (List<double> Hops, Point At, List<(int Path, bool FromEnd)> Order) Of(IReadOnlyList<Subpath> paths, Point at)
    {
        var hops = new List<double>(paths.Count);
        var order = new List<(int, bool)>(paths.Count);
        var grid = new EndGrid(paths);
        for (var left = paths.Count; left > 0; left--)
        {
            var (path, fromEnd) = grid.Nearest(at);
            var line = paths[path];
            hops.Add(((fromEnd ? line.End : line.Start) - at).Length);
            at = line.IsClosed || fromEnd ? line.Start : line.End;
            grid.Take(path);
            order.Add((path, fromEnd));
        }
        return (hops, at, order);
    }

    /// <summary>Where the first line begins for a head that stands at the corner.</summary>
    public static Point First(IReadOnlyList<Subpath> paths)
    {
        var (path, fromEnd) = new EndGrid(paths).Nearest(new Point(0, 0));
        return fromEnd ? paths[path].End : paths[path].Start;
    }

    /// <summary>The ends of paths by place: closed ones by their start alone.</summary>
    private sealed class EndGrid
    {
        private readonly IReadOnlyList<Subpath> _paths;
        private readonly Dictionary<(int X, int Y), List<(int Path, bool FromEnd)>> _cells = [];
        private readonly double _size;
        private readonly bool[] _taken;
        private readonly Box _box;
        private (int X, int Y) _low = (int.MaxValue, int.MaxValue),
            _high = (int.MinValue, int.MinValue);

        public EndGrid(IReadOnlyList<Subpath> paths)
        {
            _paths = paths;
            _taken = new bool[paths.Count];
            var box = new Box();
            foreach (var path in paths)
            {
                box.Add(path.Start);
                box.Add(path.End);
            }
            _box = box;
            // About one path in each cell.
            _size = Math.Max(0.5, Math.Max(box.Width, box.Height) / Math.Max(1, Math.Sqrt(paths.Count)));
            for (var i = 0; i < paths.Count; i++)
            {
                Add(i, false, paths[i].Start);
                if (!paths[i].IsClosed)
                    Add(i, true, paths[i].End);
            }
        }

        public (int Path, bool FromEnd) Nearest(Point at)
        {
            // From outside, the rings lie round the nearest place of the grid: nothing is nearer to it than to where the head stands.
            var cell = Cell(new Point(Math.Clamp(at.X, _box.MinX, _box.MaxX), Math.Clamp(at.Y, _box.MinY, _box.MaxY)));
            var best = (Path: -1, FromEnd: false);
            var nearest = double.PositiveInfinity;
            var farthest = Math.Max(Math.Max(cell.X - _low.X, _high.X - cell.X), Math.Max(cell.Y - _low.Y, _high.Y - cell.Y));
            for (var ring = 0; ring <= farthest; ring++)
            {
                // Nothing farther out can be nearer than what was found.
                if (best.Path >= 0 && (ring - 1) * _size > nearest)
                    break;
                foreach (var key in Ring(cell, ring))
                {
                    if (!_cells.TryGetValue(key, out var ends))
                        continue;
                    ends.RemoveAll(e => _taken[e.Path]);
                    if (ends.Count == 0)
                        _cells.Remove(key);
                    foreach (var end in ends)
                    {
                        var mm = ((end.FromEnd ? _paths[end.Path].End : _paths[end.Path].Start) - at).Length;
                        if (mm < nearest)
                            (best, nearest) = (end, mm);
                    }
                }
            }
            return best;
        }

        public void Take(int path) => _taken[path] = true;

        private void Add(int path, bool fromEnd, Point at)
        {
            var cell = Cell(at);
            if (!_cells.TryGetValue(cell, out var ends))
                _cells[cell] = ends = [];
            ends.Add((path, fromEnd));
            _low = (Math.Min(_low.X, cell.X), Math.Min(_low.Y, cell.Y));
            _high = (Math.Max(_high.X, cell.X), Math.Max(_high.Y, cell.Y));
        }

        private (int X, int Y) Cell(Point at) => ((int)((at.X - _box.MinX) / _size), (int)((at.Y - _box.MinY) / _size));

        private static IEnumerable<(int X, int Y)> Ring((int X, int Y) at, int ring)
        {
            if (ring == 0)
            {
                yield return at;
                yield break;
            }
            for (var d = -ring; d <= ring; d++)
            {
                yield return (at.X + d, at.Y - ring);
                yield return (at.X + d, at.Y + ring);
                if (Math.Abs(d) == ring)
                    continue;
                yield return (at.X - ring, at.Y + d);
                yield return (at.X + ring, at.Y + d);
            }
        }
    }
}
