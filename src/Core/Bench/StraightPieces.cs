using System.Buffers;
using System.Numerics;

namespace VelvetGate.Core.Bench;

/// <summary>A straight piece of a line: from and to along it in mm, and its ends in that order.</summary>
internal readonly record struct StraightPiece(double From, double To, int Colour, Point A, Point B);

/// <summary>Puts lengths into bins. They are shifted by an amount no drawing uses, so that round coordinates never sit on a border between two.</summary>
internal static class Bins
{
    private const double Shift = 0.31830988;

    public static long Of(double value, double width) => (long)Math.Floor(value / width + Shift);
}

/// <summary>
/// The straight pieces of a drawing, gathered by the line they lie on. They stay where they were added, in borrowed arrays, and only their numbers
/// are put in order, by counting: a million of them are too many to jump about among.
/// </summary>
/// <param name="most">How many pieces may be added.</param>
internal sealed class StraightPieces(int most) : IDisposable
{
    /// <summary>A shared stretch shorter than this is a touching corner.</summary>
    public const double ShortestMm = 0.05;

    /// <summary>Lines nearer than this are one line here; nearly doubled lines are another finding.</summary>
    private const double OffsetMm = 0.01;

    private const double AngleRadians = 1e-4;

    private readonly Stretch[] _stretches = ArrayPool<Stretch>.Shared.Rent(Math.Max(1, most));
    private readonly Origin[] _origins = ArrayPool<Origin>.Shared.Rent(Math.Max(1, most));
    private readonly List<Subpath> _paths = [];
    private int _count;

    // Apart from where they stand in the drawing, so that what is compared fits into the processor's cache.
    private readonly record struct Stretch(long Line, double From, double To);

    private readonly record struct Origin(int Colour, int Path, int Index, bool Backwards);

    public void Add(Subpath path, int colour)
    {
        _paths.Add(path);
        for (var i = 0; i < path.Count; i++)
        {
            if (path[i] is { Straight: true } segment) Add(segment, i, colour);
        }
    }

    /// <summary>Gives each line on which pieces overlap: all of its pieces, in order along it. The list is used again for the next.</summary>
    public void EachOverlapping(Action<List<StraightPiece>> act)
    {
        var buckets = (int)BitOperations.RoundUpToPowerOf2((uint)Math.Max(16, _count));
        var (starts, order) = (ArrayPool<int>.Shared.Rent(buckets + 1), ArrayPool<int>.Shared.Rent(Math.Max(1, _count)));
        Order(starts.AsSpan(0, buckets + 1), order);
        var (bucket, line) = (new List<(Stretch Stretch, int Piece)>(), new List<StraightPiece>());
        for (var b = 0; b < buckets; b++)
        {
            if (starts[b + 1] - starts[b] < 2) continue;
            bucket.Clear();
            for (var i = starts[b]; i < starts[b + 1]; i++) bucket.Add((_stretches[order[i]], order[i]));
            // Most drawings go along a line one way, and most buckets hold one line.
            if (!InOrder(bucket)) bucket.Sort(Compare);
            for (var from = 0; from < bucket.Count;)
            {
                var (to, reach, overlap) = (from, double.NegativeInfinity, false);
                for (; to < bucket.Count && bucket[to].Stretch.Line == bucket[from].Stretch.Line; to++)
                {
                    overlap |= bucket[to].Stretch.From < reach - ShortestMm;
                    reach = Math.Max(reach, bucket[to].Stretch.To);
                }
                if (overlap)
                {
                    line.Clear();
                    for (var i = from; i < to; i++) line.Add(PieceOf(bucket[i].Stretch, _origins[bucket[i].Piece]));
                    act(line);
                }
                from = to;
            }
        }
        ArrayPool<int>.Shared.Return(starts);
        ArrayPool<int>.Shared.Return(order);
    }

    public void Dispose()
    {
        ArrayPool<Stretch>.Shared.Return(_stretches);
        ArrayPool<Origin>.Shared.Return(_origins);
    }

    private void Add(in Segment segment, int index, int colour)
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
        // Angles take 15 bits and offsets, within the limits of a drawing, 32: together they are the line.
        var line = (Bins.Of(Math.Atan2(u.Y, u.X), AngleRadians) << 40) + Bins.Of(offset, OffsetMm);
        _stretches[_count] = new Stretch(line, Math.Min(from, to), Math.Max(from, to));
        _origins[_count++] = new Origin(colour, _paths.Count - 1, index, from > to);
    }

    /// <summary>Counting sort by bucket: <paramref name="starts"/> tells where each begins in <paramref name="order"/>.</summary>
    private void Order(Span<int> starts, int[] order)
    {
        starts.Clear();
        var mask = starts.Length - 2;
        for (var i = 0; i < _count; i++) starts[Bucket(i, mask)]++;
        var sum = 0;
        for (var b = 0; b < starts.Length; b++) starts[b] = sum += starts[b];
        // From the last to the first, so that each bucket keeps the order of drawing and ends at its own start.
        for (var i = _count - 1; i >= 0; i--) order[--starts[Bucket(i, mask)]] = i;
    }

    private int Bucket(int piece, int mask) => HashCode.Combine(_stretches[piece].Line) & mask;

    private static bool InOrder(List<(Stretch Stretch, int Piece)> bucket)
    {
        for (var i = 1; i < bucket.Count; i++)
        {
            if (Compare(bucket[i - 1], bucket[i]) > 0) return false;
        }
        return true;
    }

    private static int Compare((Stretch Stretch, int Piece) x, (Stretch Stretch, int Piece) y) =>
        x.Stretch.Line != y.Stretch.Line ? x.Stretch.Line.CompareTo(y.Stretch.Line) : x.Stretch.From.CompareTo(y.Stretch.From);

    private StraightPiece PieceOf(in Stretch stretch, in Origin origin)
    {
        var segment = _paths[origin.Path][origin.Index];
        return origin.Backwards
            ? new StraightPiece(stretch.From, stretch.To, origin.Colour, segment.End, segment.Start)
            : new StraightPiece(stretch.From, stretch.To, origin.Colour, segment.Start, segment.End);
    }
}
