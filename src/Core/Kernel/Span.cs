using NodaTime;

namespace VelvetGate.Core.Kernel;

/// <summary>A stretch of time, <c>[Start, End)</c>; no end means until further notice.</summary>
public sealed record Span(Instant Start, Instant? End = null)
{
    public static Span Of(Interval interval) => new(interval.Start, interval.HasEnd ? interval.End : null);

    /// <summary>True when the two share an instant. Touching ends do not: ranges are half open.</summary>
    public bool Overlaps(Instant start, Instant end) => Start < end && (End is null || start < End);

    /// <summary>What the two share; null when they share nothing.</summary>
    public Span? Shared(Span other)
    {
        var start = Instant.Max(Start, other.Start);
        var end = End is { } a && other.End is { } b ? Instant.Min(a, b) : End ?? other.End;
        return end is null || start < end ? new Span(start, end) : null;
    }

    public bool Holds(Instant at) => Start <= at && (End is null || at < End);

    /// <summary>The most spans that share one instant of <c>[start, end)</c>: looked at where each begins.</summary>
    public static int MostAtOnce(IEnumerable<Span> spans, Instant start, Instant end)
    {
        var near = spans.Where(s => s.Overlaps(start, end)).ToList();
        return near.Count == 0 ? 0 : near.Max(s => near.Count(o => o.Holds(Instant.Max(s.Start, start))));
    }

    /// <summary>True when the spans together leave no gap in <c>[start, end)</c>.</summary>
    public static bool Cover(IEnumerable<Span> spans, Instant start, Instant end)
    {
        var reached = start;
        foreach (var span in spans.OrderBy(s => s.Start))
        {
            if (span.Start > reached)
                break;
            if (span.End is null)
                return true;
            if (span.End > reached)
                reached = span.End.Value;
            if (reached >= end)
                return true;
        }
        return reached >= end;
    }
}
