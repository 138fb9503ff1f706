using System.Buffers.Binary;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>
/// Every move of a run, one after the other: when it ends, where, and what it was. Between two of them the head goes straight on. Seconds
/// from the start of the run, places in mm of the drawing.
/// </summary>
public sealed class RunTimeline(RunSettings settings)
{
    /// <summary>More moves than this are thinned out: no screen shows them.</summary>
    public const int MostMoves = 400_000;

    /// <summary>A run of more moves is not recorded at all: nothing honest has so many, and they would fill the memory.</summary>
    private const int MostRecorded = 2_000_000;

    /// <summary>Columns of one move: end in s, x and y in mm, and what was done: 0 off, else the operation from 1.</summary>
    public const int Columns = 4;

    private readonly List<float> _ends = [];
    private readonly List<float> _x = [];
    private readonly List<float> _y = [];
    private readonly List<byte> _what = [];
    private double _seconds;
    private bool _moved;

    public int Count => _ends.Count;

    public double Seconds => _seconds;

    /// <summary>Where the head is at a second, and what it does: 0 with the beam off, else the operation from 1.</summary>
    public (double X, double Y, byte What) At(double seconds)
    {
        var i = _ends.BinarySearch((float)Math.Clamp(seconds, 0, _seconds));
        i = Math.Min(i < 0 ? ~i : i, Count - 1);
        if (i <= 0)
            return (_x[0], _y[0], 0);
        var (from, to) = (_ends[i - 1], _ends[i]);
        var part = to > from ? Math.Clamp((seconds - from) / (to - from), 0, 1) : 1;
        return (_x[i - 1] + part * (_x[i] - _x[i - 1]), _y[i - 1] + part * (_y[i] - _y[i - 1]), _what[i]);
    }

    /// <summary>The columns as little-endian 32-bit floats, one column after the other: ends, x, y, what.</summary>
    public byte[] ToBytes()
    {
        var every = (Count + MostMoves - 1) / MostMoves;
        var kept = Enumerable
            .Range(0, Count)
            .Where(i => every <= 1 || i % every == 0 || i == Count - 1 || _what[i] != _what[i + 1])
            .ToList();
        var bytes = new byte[kept.Count * Columns * sizeof(float)];
        for (var n = 0; n < kept.Count; n++)
        {
            var i = kept[n];
            Put(0, _ends[i]);
            Put(1, _x[i]);
            Put(2, _y[i]);
            Put(3, _what[i]);

            void Put(int column, float value) =>
                BinaryPrimitives.WriteSingleLittleEndian(bytes.AsSpan((column * kept.Count + n) * sizeof(float)), value);
        }
        return bytes;
    }

    internal void Wait(Operation operation, double seconds)
    {
        if (seconds > 0 && Count > 0)
            Add(operation, seconds, new Point(_x[^1], _y[^1]), on: false);
        else
            _seconds += seconds * Factor(operation);
    }

    internal void Lines(Operation operation, IEnumerable<(Subpath Path, bool FromEnd)> order, HeadLimits limits, double rapidMmS)
    {
        foreach (var (path, fromEnd) in order)
        {
            var ends = new List<Point>(path.Count);
            var each = new List<double>(path.Count);
            HeadMotion.Seconds(MotionPiece.Of(path, ends), limits, each);
            if (fromEnd)
            {
                // Backwards: each piece ends where it began.
                ends.Reverse();
                each.Reverse();
                ends = [.. ends.Skip(1), path.Start];
            }
            Go(operation, fromEnd ? path.End : path.Start, rapidMmS, limits.AccelerationMmS2);
            for (var i = 0; i < each.Count; i++)
                Add(operation, each[i], ends[i], on: true);
        }
    }

    /// <param name="turnSeconds">Beside each row.</param>
    /// <param name="slower">Every row takes so many times as long: it stands for several.</param>
    internal void Rows(IEnumerable<(double Y, double Low, double High)> rows, double speedMmS, double turnSeconds, double slower)
    {
        var back = false;
        foreach (var (y, low, high) in rows)
        {
            var (from, to) = back ? (high, low) : (low, high);
            if (Count == 0)
                Begin(new Point(from, y));
            Add(Operation.Engrave, slower * turnSeconds, new Point(from, y), on: false);
            Add(Operation.Engrave, slower * (high - low) / speedMmS, new Point(to, y), on: true);
            back = !back;
        }
    }

    private void Go(Operation operation, Point to, double rapidMmS, double acceleration)
    {
        // The way to the first line is no part of the run: the head stands where it was set.
        if (!_moved)
            Begin(to);
        else
            Add(operation, HeadMotion.Hop((to - new Point(_x[^1], _y[^1])).Length, rapidMmS, acceleration), to, on: false);
        _moved = true;
    }

    /// <exception cref="UnreadableDrawingException">There are too many moves.</exception>
    private void Begin(Point at)
    {
        if (Count >= MostRecorded)
            throw new UnreadableDrawingException("This run has too many moves to be shown. How long it takes stands in the docket.");
        _ends.Add((float)_seconds);
        _x.Add((float)at.X);
        _y.Add((float)at.Y);
        _what.Add(0);
    }

    private void Add(Operation operation, double seconds, Point to, bool on)
    {
        _seconds += seconds * Factor(operation);
        Begin(to);
        _what[^1] = on ? (byte)(1 + (int)operation) : (byte)0;
    }

    private double Factor(Operation operation) => (double)(settings.Factors?.FirstOrDefault(f => f.Operation == operation)?.Factor ?? 1);
}
