namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>
/// Sums the stretches of two colours, or of one, into runs: stretches that follow one another between the same two lines.
/// </summary>
internal sealed class SpacingTally(LinePieces pieces, Nesting nesting, SpacingHistogram histogram)
{
    /// <summary>A shared stretch shorter than this is a touching corner.</summary>
    private const double ShortestMm = 0.05;

    private const double SpreadBelowMm = 1;

    private const int MostPlaces = 50,
        PlacesPerBand = 12,
        Bands = 12;

    private readonly PriorityQueue<Gap, float>[] _places = new PriorityQueue<Gap, float>[Bands];
    private readonly List<Place> _doubledAt = [];
    private Run _run;
    private double _doubledMm;
    private int _doubledRuns;

    private struct Run
    {
        public int PathA,
            PathB,
            Last;
        public bool Doubled,
            Inside;
        public double Mm;
        public Stretch Best;
    }

    /// <param name="stretches">In the order of their lower pieces.</param>
    public void Add(ReadOnlySpan<Stretch> stretches)
    {
        foreach (ref readonly var stretch in stretches)
        {
            var (a, b) = (pieces.PathOf[stretch.A], pieces.PathOf[stretch.B]);
            var doubled = stretch.From == 0 && stretch.To == 0;
            var inside = !doubled && nesting.IsPart(a, b, stretch.Inside);
            if (!(_run.Mm > 0 && _run.PathA == a && _run.PathB == b && _run.Doubled == doubled && stretch.A - _run.Last <= 1))
            {
                End();
                _run = new Run
                {
                    PathA = a,
                    PathB = b,
                    Doubled = doubled,
                    Best = stretch,
                };
            }
            else if (
                doubled
                    ? stretch.Mm > _run.Best.Mm
                    : stretch.Apart < _run.Best.Apart - 0.005 || (stretch.Apart < _run.Best.Apart + 0.005 && stretch.Mm > _run.Best.Mm)
            )
            {
                _run.Best = stretch;
            }
            (_run.Last, _run.Mm, _run.Inside) = (stretch.A, _run.Mm + stretch.Mm, _run.Inside || inside);
            if (!doubled)
                Spread(stretch, inside);
        }
        End();
        _run = default;
    }

    public Doubled? Doubled(string colourA, string colourB) =>
        _doubledRuns == 0 ? null : new Doubled(colourA, colourB, _doubledRuns, _doubledMm, _doubledAt);

    /// <returns>Null when nothing runs alongside.</returns>
    public LineSpacing? Done(string colourA, string colourB)
    {
        var bins = histogram.Bins();
        return bins.Count == 0
            ? null
            : new LineSpacing(
                colourA,
                colourB,
                bins,
                [
                    .. _places
                        .Where(p => p is not null)
                        .SelectMany(p => p.UnorderedItems.OrderByDescending(i => i.Priority).Select(i => i.Element)),
                ]
            );
    }

    private void End()
    {
        if (_run.Mm <= 0)
            return;
        ref readonly var best = ref _run.Best;
        if (_run.Doubled)
        {
            if (_run.Mm < ShortestMm)
                return;
            _doubledMm += _run.Mm;
            _doubledRuns++;
            if (_doubledAt.Count < MostPlaces && Middles(best) is var at)
                _doubledAt.Add(new Place(at.A.X, at.A.Y));
            return;
        }
        var step = Front.Step(best.Apart);
        histogram.Runs[step]++;
        if (_run.Inside)
            histogram.RunsInside[step]++;
        var band = Math.Clamp((int)Math.Floor(Math.Log2(Math.Max(best.Apart, 0.01) / 0.01)), 0, Bands - 1);
        var places = _places[band] ??= new PriorityQueue<Gap, float>();
        if (places.Count >= PlacesPerBand && places.TryPeek(out _, out var least) && least >= _run.Mm)
            return;
        var (a, b) = Middles(best);
        places.Enqueue(new Gap(new Place(Tidy(a.X), Tidy(a.Y)), new Place(Tidy(b.X), Tidy(b.Y)), _run.Inside), (float)_run.Mm);
        if (places.Count > PlacesPerBand)
            places.Dequeue();
    }

    /// <summary>The middle of what two pieces share, on each of them.</summary>
    private (Point A, Point B) Middles(in Stretch stretch)
    {
        ref readonly var a = ref pieces.All[stretch.A];
        ref readonly var b = ref pieces.All[stretch.B];
        var d = a.B - a.A;
        var (start, end) = (Along(b.A, a.A), Along(b.B, a.A));
        var middle = (Math.Clamp(start, 0, 1) + Math.Clamp(end, 0, 1)) / 2;
        var on = a.A + middle * d;
        return (on, start == end ? b.A : b.A + Math.Clamp((middle - start) / (end - start), 0, 1) * (b.B - b.A));

        double Along(Point p, Point from) => ((p.X - from.X) * d.X + (p.Y - from.Y) * d.Y) / (d.X * d.X + d.Y * d.Y);
    }

    /// <summary>A stretch that opens like a wedge has length at each distance between its ends.</summary>
    private void Spread(in Stretch stretch, bool inside)
    {
        var (low, high) = (Math.Min(stretch.From, stretch.To), Math.Max(stretch.From, stretch.To));
        // Where the two cross, one end is below zero: both wings are as far apart as they are.
        if (low < 0)
        {
            var share = (float)(high / (high - low));
            Spread(stretch with { From = 0.0001f, To = Math.Max(high, 0.0001f), Mm = stretch.Mm * share }, inside);
            Spread(stretch with { From = 0.0001f, To = Math.Max(-low, 0.0001f), Mm = stretch.Mm * (1 - share) }, inside);
            return;
        }
        // Far apart the middle does: parts of lines are too short to open far.
        var (first, last) =
            low > SpreadBelowMm ? (Front.Step(stretch.Apart), Front.Step(stretch.Apart)) : (Front.Step(low), Front.Step(high));
        for (var step = first; step <= last; step++)
        {
            var part =
                first == last
                    ? 1
                    : (Math.Min(high, (step + 1) * Neighbours.StepMm) - Math.Max(low, step * Neighbours.StepMm)) / (high - low);
            if (part <= 0)
                continue;
            histogram.Along[step] += part * stretch.Mm;
            if (inside)
                histogram.Inside[step] += part * stretch.Mm;
        }
    }

    /// <summary>To the hundredth: these only point.</summary>
    private static double Tidy(double mm) => Math.Round(mm, 3);
}
