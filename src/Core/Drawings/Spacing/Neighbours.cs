using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>A stretch of two lines side by side with nothing between them.</summary>
/// <param name="A">The piece drawn first, and <paramref name="B"/> the other.</param>
/// <param name="Mm">How long.</param>
/// <param name="From">How far apart at its one end, and <paramref name="To"/> at the other.</param>
/// <param name="Inside">The strip between them lies within the line of A, and within that of B: bits 1 and 2; nothing for open
/// lines.</param>
internal readonly record struct Stretch(int A, int B, float Mm, float From, float To, byte Inside)
{
    public double Apart => (From + To) / 2;
}

/// <summary>
/// Finds for every piece the next one on either side that runs alongside. Never pairs: the pieces are sorted into directions, each
/// direction is
/// turned flat and cut into columns, and in each column a front is carried upwards over the pieces in their order, so that each is compared
/// with
/// what lies next to it.
/// </summary>
internal static class Neighbours
{
    /// <summary>Lines farther apart than this are no neighbours: thicker sheets are not cut here.</summary>
    public const double FarthestMm = 13;

    /// <summary>Lines nearer than this lie on one another.</summary>
    public const double SameMm = 0.01;

    public const double StepMm = 0.01;

    public const int Steps = (int)(FarthestMm / StepMm);

    /// <summary>
    /// A direction takes in what lies within 6 degrees of it, and answers for the pairs within 3: so two pieces within 6 degrees of one
    /// another meet in one.
    /// </summary>
    internal const int Core = 60_000;

    private const int Few = 4096;

    private const int Directions = LinePieces.HalfTurn / Core;

    /// <param name="range">The pieces to look at.</param>
    /// <param name="patience">Ends what takes too long.</param>
    /// <param name="across">Only neighbours of two colours, and no crowding.</param>
    /// <param name="crowded">Length of line by its distance from its nearest neighbour, in hundredths of a mm.</param>
    /// <returns>In the order of their first pieces, and for each as found.</returns>
    public static Stretch[] Find(LinePieces pieces, Range range, bool across, double[] crowded, CancellationToken patience = default)
    {
        var (from, count) = range.GetOffsetAndLength(pieces.All.Length);
        var (starts, order) = Sort(pieces.All.Slice(from, count), from);
        var found = new List<Stretch>[Directions];
        var hists = new double[Directions][];
        // Few pieces are done before a second thread has begun.
        if (count < Few)
        {
            for (var d = 0; d < Directions; d++)
                Look(d, crowded);
        }
        else
        {
            Parallel.For(0, Directions, new ParallelOptions { MaxDegreeOfParallelism = 2, CancellationToken = patience }, d =>
                Look(d, hists[d] = new double[Steps])
            );
        }
        // In the order of the directions, whichever was done first.
        for (var d = 0; d < Directions; d++)
        {
            for (var i = 0; hists[d] is { } own && i < Steps; i++)
                crowded[i] += own[i];
        }
        return InOrder(found, from, count);

        void Look(int d, double[] hist)
        {
            if (starts[d + 1] - starts[d] < 2)
                return;
            var front = new Front(across, hist, patience);
            new Frame(pieces, order.AsSpan(starts[d], starts[d + 1] - starts[d]), d * Core).EachColumn(front.Sweep);
            found[d] = front.Found;
        }
    }

    /// <summary>A counting sort by the first piece: no list of all is made beside it.</summary>
    private static Stretch[] InOrder(List<Stretch>?[] found, int first, int count)
    {
        var total = found.Sum(f => f?.Count ?? 0);
        if (total < Few)
            return [.. found.OfType<List<Stretch>>().SelectMany(f => f).OrderBy(s => s.A)];
        var next = new int[count + 1];
        foreach (var list in found)
        {
            foreach (ref readonly var s in CollectionsMarshal.AsSpan(list))
                next[s.A - first + 1]++;
        }
        for (var i = 1; i < next.Length; i++)
            next[i] += next[i - 1];
        var ordered = GC.AllocateUninitializedArray<Stretch>(total);
        foreach (var list in found)
        {
            foreach (ref readonly var s in CollectionsMarshal.AsSpan(list))
                ordered[next[s.A - first]++] = s;
        }
        return ordered;
    }

    /// <summary>Counting sort: each piece goes to the direction it is nearest to and to the next nearest.</summary>
    private static (int[] Starts, int[] Order) Sort(ReadOnlySpan<Piece> pieces, int first)
    {
        var starts = new int[Directions + 1];
        foreach (ref readonly var piece in pieces)
        {
            var (a, b) = DirectionsOf(piece.Angle);
            starts[a + 1]++;
            starts[b + 1]++;
        }
        for (var d = 0; d < Directions; d++)
            starts[d + 1] += starts[d];
        var order = new int[2 * pieces.Length];
        var next = starts[..^1];
        for (var i = 0; i < pieces.Length; i++)
        {
            var (a, b) = DirectionsOf(pieces[i].Angle);
            order[next[a]++] = first + i;
            order[next[b]++] = first + i;
        }
        return (starts, order);
    }

    private static (int Nearest, int Next) DirectionsOf(int angle)
    {
        var nearest = (angle + Core / 2) / Core;
        var next = angle - nearest * Core >= 0 ? nearest + 1 : nearest - 1;
        return (nearest % Directions, (next + Directions) % Directions);
    }
}
