namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>What of a drawing's lines lies on another line, and how near the rest run to one another.</summary>
internal static class LinesAlongside
{
    /// <summary>Pairs of colours that are kept, those with most length first: clip art may have thousands.</summary>
    private const int MostPairs = 24;

    public static (IReadOnlyList<Doubled> Doubled, IReadOnlyList<LineSpacing> Spacing) Find(
        LinePieces pieces,
        Nesting nesting,
        CancellationToken patience
    )
    {
        var (doubled, spacing, histogram) = (new List<Doubled>(), new List<LineSpacing>(), new SpacingHistogram());
        for (var colour = 0; colour < pieces.Colours.Count; colour++)
        {
            // Art may have a colour for each line.
            if (pieces.Of(colour) is var own && own.End.Value - own.Start.Value < 2)
                continue;
            histogram.Clear();
            Tell(colour, colour, Neighbours.Find(pieces, own, across: false, histogram.Crowded, patience));
        }
        if (pieces.Colours.Count > 1)
        {
            var between = Neighbours.Find(pieces, Range.All, across: true, histogram.Crowded, patience);
            foreach (
                var pair in between
                    .GroupBy(s => (ColourOf(s.A), ColourOf(s.B)) is var (a, b) && a <= b ? (a, b) : (ColourOf(s.B), ColourOf(s.A)))
                    .OrderBy(g => g.Key)
            )
            {
                histogram.Clear();
                Tell(pair.Key.Item1, pair.Key.Item2, [.. pair]);
            }
        }
        return (
            doubled,
            spacing.Count <= MostPairs ? spacing : [.. spacing.OrderByDescending(s => s.Bins.Sum(b => b.AlongMm)).Take(MostPairs)]
        );

        void Tell(int a, int b, Stretch[] found)
        {
            if (found.Length == 0)
                return;
            patience.ThrowIfCancellationRequested();
            var tally = new SpacingTally(pieces, nesting, histogram);
            tally.Add(found);
            if (tally.Doubled(pieces.Colours[a], pieces.Colours[b]) is { } twice)
                doubled.Add(twice);
            if (tally.Done(pieces.Colours[a], pieces.Colours[b]) is { } near)
                spacing.Add(near);
        }

        int ColourOf(int piece) => pieces.All[piece].Colour;
    }
}
