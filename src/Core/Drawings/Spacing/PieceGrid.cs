namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>The pieces of closed lines by squares of the plane.</summary>
internal sealed class PieceGrid
{
    private readonly LinePieces _pieces;
    private readonly double _x,
        _y,
        _cell;
    private readonly int _across,
        _down;
    private readonly int[] _starts,
        _members;

    /// <param name="looks">How often it will be asked: many questions want small squares.</param>
    public PieceGrid(LinePieces pieces, int from, int to, int looks)
    {
        _pieces = pieces;
        var box = new Box();
        double length = 0;
        for (var i = from; i < to; i++)
        {
            var piece = pieces.All[i];
            if (piece.Side == 0)
                continue;
            box.Add(piece.A);
            box.Add(piece.B);
            length += (piece.B - piece.A).Length;
        }
        (_x, _y) = (box.MinX, box.MinY);
        // Squares small enough for few pieces, and large enough that a long piece does not lie in too many.
        var count = Math.Max(1, to - from);
        _cell = Math.Max(
            Math.Sqrt(Math.Max(1e-9, box.Width * box.Height) / Math.Clamp(Math.Max(count, looks), 1, 1 << 20)),
            length / (4.0 * count + 1000)
        );
        _cell = Math.Max(_cell, Math.Max(box.Width, box.Height) / 4000);
        (_across, _down) = ((int)(box.Width / _cell) + 1, (int)(box.Height / _cell) + 1);
        _starts = new int[_across * _down + 1];
        Each(from, to, (cell, _) => _starts[cell + 1]++);
        for (var c = 1; c < _starts.Length; c++)
            _starts[c] += _starts[c - 1];
        _members = new int[_starts[^1]];
        var next = _starts[..^1];
        Each(from, to, (cell, i) => _members[next[cell]++] = i);
    }

    /// <summary>The first piece of another closed line straight above a point, towards smaller y.</summary>
    /// <returns>Its number, or -1.</returns>
    public int Above(Point p, int own, ref long tests)
    {
        var column = Math.Clamp((int)((p.X - _x) / _cell), 0, _across - 1);
        var (best, highest) = (-1, double.NegativeInfinity);
        for (var row = Math.Clamp((int)((p.Y - _y) / _cell), 0, _down - 1); row >= 0; row--)
        {
            var cell = row * _across + column;
            tests += 1 + _starts[cell + 1] - _starts[cell];
            for (var m = _starts[cell]; m < _starts[cell + 1]; m++)
            {
                ref readonly var piece = ref _pieces.All[_members[m]];
                if (_pieces.PathOf[_members[m]] == own || HeightAt(piece, p.X) is not { } y)
                    continue;
                if (y < p.Y && y > highest)
                    (best, highest) = (_members[m], y);
            }
            // What was found may lie in a square farther up, with something nearer before it.
            if (best >= 0 && highest >= _y + row * _cell)
                break;
        }
        return best;
    }

    /// <summary>The nearest closed line round a point: of those that lie above it an odd number of times.</summary>
    /// <returns>Its path, or -1.</returns>
    public int Round(Point p, int own, ref long tests)
    {
        var column = Math.Clamp((int)((p.X - _x) / _cell), 0, _across - 1);
        var crossed = new Dictionary<int, (int Count, double Nearest)>();
        var seen = new HashSet<int>();
        for (var row = Math.Clamp((int)((p.Y - _y) / _cell), 0, _down - 1); row >= 0; row--)
        {
            var cell = row * _across + column;
            tests += 1 + _starts[cell + 1] - _starts[cell];
            for (var m = _starts[cell]; m < _starts[cell + 1]; m++)
            {
                ref readonly var piece = ref _pieces.All[_members[m]];
                if (_pieces.PathOf[_members[m]] == own || HeightAt(piece, p.X) is not { } y || y >= p.Y || !seen.Add(_members[m]))
                    continue;
                var (count, nearest) = crossed.GetValueOrDefault(_pieces.PathOf[_members[m]], (0, double.NegativeInfinity));
                crossed[_pieces.PathOf[_members[m]]] = (count + 1, Math.Max(nearest, y));
            }
        }
        return crossed.Where(c => c.Value.Count % 2 == 1).OrderByDescending(c => c.Value.Nearest).Select(c => c.Key).FirstOrDefault(-1);
    }

    /// <summary>Half open, so that a ray through a joint meets one of the two pieces.</summary>
    private static double? HeightAt(in Piece piece, double x) =>
        piece.A.X > x == piece.B.X > x ? null : piece.A.Y + (piece.B.Y - piece.A.Y) * (x - piece.A.X) / (piece.B.X - piece.A.X);

    /// <summary>Every square of the box round a piece, column by column, between the heights it has there.</summary>
    private void Each(int from, int to, Action<int, int> act)
    {
        for (var i = from; i < to; i++)
        {
            var piece = _pieces.All[i];
            if (piece.Side == 0)
                continue;
            var (a, b) = piece.A.X <= piece.B.X ? (piece.A, piece.B) : (piece.B, piece.A);
            var (first, last) = (Column(a.X), Column(b.X));
            for (var c = first; c <= last; c++)
            {
                var (y0, y1) = first == last ? (a.Y, b.Y) : (At(Math.Max(a.X, _x + c * _cell)), At(Math.Min(b.X, _x + (c + 1) * _cell)));
                var (low, high) = (Row(Math.Min(y0, y1)), Row(Math.Max(y0, y1)));
                for (var r = low; r <= high; r++)
                    act(r * _across + c, i);
            }

            double At(double x) => b.X > a.X ? a.Y + (b.Y - a.Y) * (x - a.X) / (b.X - a.X) : a.Y;
        }
    }

    private int Column(double x) => Math.Clamp((int)((x - _x) / _cell), 0, _across - 1);

    private int Row(double y) => Math.Clamp((int)((y - _y) / _cell), 0, _down - 1);
}
