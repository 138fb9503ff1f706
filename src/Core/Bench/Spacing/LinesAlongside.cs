using System.Runtime.InteropServices;

namespace VelvetGate.Core.Bench.Spacing;

/// <summary>What of a drawing's lines lies on another line, and how near the rest run to one another.</summary>
internal static class LinesAlongside
{
    /// <summary>Pairs of colours that are kept, those with most length first: clip art may have thousands.</summary>
    private const int MostPairs = 24;

    private const int Few = 4096;

    public static (IReadOnlyList<Doubled> Doubled, IReadOnlyList<LineSpacing> Spacing) Find(LinePieces pieces, Nesting nesting, CancellationToken patience)
    {
        var (doubled, spacing, histogram) = (new List<Doubled>(), new List<LineSpacing>(), new SpacingHistogram());
        for (var colour = 0; colour < pieces.Colours.Count; colour++)
        {
            // Art may have a colour for each line.
            if (pieces.Of(colour) is var own && own.End.Value - own.Start.Value < 2) continue;
            histogram.Clear();
            Tell(colour, colour, Neighbours.Find(pieces, own, across: false, histogram.Crowded, patience));
        }
        if (pieces.Colours.Count > 1)
        {
            var between = Neighbours.Find(pieces, Range.All, across: true, histogram.Crowded, patience);
            foreach (var pair in between.GroupBy(s => (ColourOf(s.A), ColourOf(s.B)) is var (a, b) && a <= b ? (a, b) : (ColourOf(s.B), ColourOf(s.A))).OrderBy(g => g.Key))
            {
                histogram.Clear();
                Tell(pair.Key.Item1, pair.Key.Item2, [.. pair]);
            }
        }
        return (doubled, spacing.Count <= MostPairs ? spacing : [.. spacing.OrderByDescending(s => s.Bins.Sum(b => b[2])).Take(MostPairs)]);

        void Tell(int a, int b, List<Stretch> found)
        {
            if (found.Count == 0) return;
            patience.ThrowIfCancellationRequested();
            var tally = new SpacingTally(pieces, nesting, histogram);
            tally.Add(InOrder(found));
            if (tally.Doubled(pieces.Colours[a], pieces.Colours[b]) is { } twice) doubled.Add(twice);
            if (tally.Done(pieces.Colours[a], pieces.Colours[b]) is { } near) spacing.Add(near);
        }

        int ColourOf(int piece) => pieces.All[piece].Colour;
    }

    /// <summary>By the first piece of each, and as found: counting sort where they are many.</summary>
    private static Stretch[] InOrder(List<Stretch> found)
    {
        var all = CollectionsMarshal.AsSpan(found);
        if (all.Length < Few) return [.. found.OrderBy(s => s.A)];
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
