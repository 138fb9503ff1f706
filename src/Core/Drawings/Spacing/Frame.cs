namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>A part of a piece within one column, in the coordinates of the frame: X along, Y across.</summary>
/// <param name="Turn">Its angle from the middle of the direction, in ten-thousandths of a degree.</param>
/// <param name="Up">1 when its line closes round what lies above it, -1 round what lies below; 0 for an open line.</param>
internal readonly record struct Part(
    double X0,
    double X1,
    double Y0,
    double Slope,
    int Piece,
    int Turn,
    float PerChord,
    short Colour,
    sbyte Up
)
{
    public double At(double x) => Y0 + (x - X0) * Slope;
}

/// <summary>The pieces of nearly one direction, turned so that most of their length lies flat, and cut into columns.</summary>
internal sealed class Frame
{
    private const double NarrowestMm = 0.5;

    private const int Cells = 240;

    private readonly LinePieces _pieces;
    private readonly int[] _chosen;
    private readonly int _middle;
    private double _width,
        _least;
    private int _columns;

    public Frame(LinePieces pieces, ReadOnlySpan<int> chosen, int middle)
    {
        (_pieces, _chosen, _middle) = (pieces, chosen.ToArray(), middle);
        var angle = (middle + Mainly()) * Math.PI / LinePieces.HalfTurn;
        U = new Point(Math.Cos(angle), Math.Sin(angle));
        Measure();
    }

    /// <summary>Along the frame.</summary>
    private Point U { get; }

    /// <summary>Gives the parts of each column with more than one, and their order, lowest first.</summary>
    public void EachColumn(Action<Part[], ReadOnlySpan<int>> act)
    {
        var count = Cut([], []);
        var parts = GC.AllocateUninitializedArray<Part>(count);
        var columns = GC.AllocateUninitializedArray<int>(count);
        var keys = GC.AllocateUninitializedArray<double>(count);
        var order = GC.AllocateUninitializedArray<int>(count);
        Cut(parts, columns);
        var starts = new int[_columns + 1];
        for (var i = 0; i < count; i++)
            starts[columns[i] + 1]++;
        for (var c = 0; c < _columns; c++)
            starts[c + 1] += starts[c];
        var next = starts[..^1];
        for (var i = 0; i < count; i++)
        {
            var to = next[columns[i]]++;
            order[to] = i;
            // By the height in the middle of the column: lines that do not cross within it are in one order all along it.
            keys[to] = parts[i].At(_least + (columns[i] + 0.5) * _width);
        }
        for (var c = 0; c < _columns; c++)
        {
            var (from, length) = (starts[c], starts[c + 1] - starts[c]);
            if (length == 0)
                continue;
            keys.AsSpan(from, length).Sort(order.AsSpan(from, length));
            act(parts, order.AsSpan(from, length));
        }
    }

    /// <summary>The angle from the middle that has most length: a drawing full of hatching then lies exactly flat.</summary>
    private int Mainly()
    {
        Span<double> lengths = stackalloc double[Cells];
        Span<double> turned = stackalloc double[Cells];
        foreach (var i in _chosen)
        {
            ref readonly var piece = ref _pieces.All[i];
            var turn = TurnOf(piece);
            var cell = Math.Clamp((turn + Neighbours.Core) * Cells / (2 * Neighbours.Core), 0, Cells - 1);
            var length = (piece.B - piece.A).Length;
            lengths[cell] += length;
            turned[cell] += length * turn;
        }
        var best = 0;
        for (var c = 1; c < Cells; c++)
        {
            if (lengths[c] > lengths[best])
                best = c;
        }
        return lengths[best] > 0 ? (int)Math.Round(turned[best] / lengths[best]) : 0;
    }

    private int TurnOf(in Piece piece)
    {
        var turn = piece.Angle - _middle;
        return turn > LinePieces.HalfTurn / 2 ? turn - LinePieces.HalfTurn
            : turn < -LinePieces.HalfTurn / 2 ? turn + LinePieces.HalfTurn
            : turn;
    }

    /// <summary>Narrow columns as long as that makes few parts; in large drawings as wide as two pieces are long.</summary>
    private void Measure()
    {
        double along = 0,
            least = double.PositiveInfinity,
            most = double.NegativeInfinity;
        foreach (var i in _chosen)
        {
            var flat = Flat(i);
            along += flat.X1 - flat.X0;
            least = Math.Min(least, flat.X0);
            most = Math.Max(most, flat.X1);
        }
        _least = least;
        _width = Math.Max(Math.Max(NarrowestMm, 2 * along / (_chosen.Length + 20_000.0)), (most - least) / (4.0 * _chosen.Length + 16));
        _columns = (int)((most - least) / _width) + 1;
    }

    private Part Flat(int i)
    {
        ref readonly var piece = ref _pieces.All[i];
        double ax = U.X * piece.A.X + U.Y * piece.A.Y,
            ay = U.X * piece.A.Y - U.Y * piece.A.X;
        double bx = U.X * piece.B.X + U.Y * piece.B.Y,
            by = U.X * piece.B.Y - U.Y * piece.B.X;
        var slope = bx == ax ? 0 : (by - ay) / (bx - ax);
        return ax <= bx
            ? new Part(
                X0: ax,
                X1: bx,
                Y0: ay,
                Slope: slope,
                Piece: i,
                Turn: TurnOf(piece),
                PerChord: piece.PerChord,
                Colour: piece.Colour,
                Up: piece.Side
            )
            : new Part(
                X0: bx,
                X1: ax,
                Y0: by,
                Slope: slope,
                Piece: i,
                Turn: TurnOf(piece),
                PerChord: piece.PerChord,
                Colour: piece.Colour,
                Up: (sbyte)-piece.Side
            );
    }

    /// <param name="parts">Empty only counts them.</param>
    /// <returns>How many parts there are.</returns>
    private int Cut(Part[] parts, int[] columns)
    {
        var count = 0;
        foreach (var i in _chosen)
        {
            var flat = Flat(i);
            var x = flat.X0;
            for (var c = Column(x); c < _columns && x < flat.X1; c++)
            {
                var to = c == _columns - 1 ? flat.X1 : Math.Min(flat.X1, _least + (c + 1) * _width);
                if (to <= x)
                    continue;
                if (parts.Length > 0)
                {
                    columns[count] = c;
                    parts[count] = flat with { X0 = x, X1 = to, Y0 = flat.At(x) };
                }
                count++;
                x = to;
            }
        }
        return count;
    }

    private int Column(double x) => Math.Clamp((int)((x - _least) / _width), 0, _columns - 1);
}
