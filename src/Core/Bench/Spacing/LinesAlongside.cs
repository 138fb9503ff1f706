using System.Runtime.InteropServices;

namespace VelvetGate.Core.Bench.Spacing;

/// <summary>What of a drawing's lines lies on another line, and how near the rest run to one another.</summary>
internal static class LinesAlongside
{
    /// <summary>Pairs of colours that are kept, those with most length first: clip art may have thousands.</summary>
    private const int MostPairs = 24;

    public static (IReadOnlyList<Doubled> Doubled, IReadOnlyList<LineSpacing> Spacing) Find(LinePieces pieces, Nesting nesting, CancellationToken patience)
    {
        var (doubled, spacing) = (new List<Doubled>(), new List<LineSpacing>());
        for (var colour = 0; colour < pieces.Colours.Count; colour++)
        {
            var crowded = new double[Neighbours.Steps];
            Tell(colour, colour, Neighbours.Find(pieces, pieces.Of(colour), across: false, crowded, patience), crowded);
        }
        if (pieces.Colours.Count > 1)
        {
            var none = new double[Neighbours.Steps];
            var between = Neighbours.Find(pieces, Range.All, across: true, none, patience);
            foreach (var pair in between.GroupBy(s => (ColourOf(s.A), ColourOf(s.B)) is var (a, b) && a <= b ? (a, b) : (ColourOf(s.B), ColourOf(s.A))).OrderBy(g => g.Key))
                Tell(pair.Key.Item1, pair.Key.Item2, [.. pair], none);
        }
        return (doubled, spacing.Count <= MostPairs ? spacing : [.. spacing.OrderByDescending(s => s.Bins.Sum(b => b[2])).Take(MostPairs)]);

        void Tell(int a, int b, List<Stretch> found, double[] crowded)
        {
            if (found.Count == 0) return;
            var tally = new SpacingTally(pieces, nesting);
            tally.Add(InOrder(found));
            if (tally.Doubled(pieces.Colours[a], pieces.Colours[b]) is { } twice) doubled.Add(twice);
            if (tally.Done(pieces.Colours[a], pieces.Colours[b], crowded) is { } near) spacing.Add(near);
        }

        int ColourOf(int piece) => pieces.All[piece].Colour;
    }

    /// <summary>Counting sort by the lower piece.</summary>
    private static Stretch[] InOrder(List<Stretch> found)
    {
        var all = CollectionsMarshal.AsSpan(found);
        var (least, most) = (int.MaxValue, 0);
        foreach (ref readonly var s in all) (least, most) = (Math.Min(least, s.A), Math.Max(most, s.A));
        var next = new int[most - least + 2];
        foreach (ref readonly var s in all) next[s.A - least + 1]++;
        for (var i = 1; i < next.Length; i++) next[i] += next[i - 1];
        var ordered = new Stretch[all.Length];
        foreach (ref readonly var s in all) ordered[next[s.A - least]++] = s;
        return ordered;
    }
}
