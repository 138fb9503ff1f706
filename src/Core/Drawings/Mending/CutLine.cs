using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>Takes parts out of a line.</summary>
internal static class CutLine
{
    /// <summary>Parts nearer than this, along a segment of 0 to 1, are one.</summary>
    private const double Join = 1e-6;

    /// <summary>An end is joined to the line that stays when it is farther from it than this, in mm.</summary>
    private const double JoinMm = 1e-3;

    /// <param name="Segment">Number of the segment, <paramref name="From"/> and <paramref name="To"/> of 0 to 1 on it.</param>
    /// <param name="Start">The place beside its beginning on the line that stays, and <paramref name="End"/> beside its end.</param>
    internal readonly record struct Part(int Segment, double From, double To, Point Start, Point End);

    /// <param name="join">Whether cut ends are led to the line that stays.</param>
    /// <returns>What remains, in its order and direction; a closed line that is cut once begins after the cut.</returns>
    public static IReadOnlyList<Subpath> Without(Subpath line, IEnumerable<Part> parts, bool join)
    {
        var bySegment = parts.ToLookup(p => p.Segment);
        var (runs, run) = (new List<List<Segment>>(), new List<Segment>());
        // The line that stays, beside the end of what was taken out last.
        Point? beside = line.IsClosed && Merged(bySegment[line.Count - 1]) is [.., { To: >= 1 - Join } last] ? last.End : null;
        for (var i = 0; i < line.Count; i++)
        {
            var at = 0.0;
            foreach (var part in Merged(bySegment[i]))
            {
                if (part.From > at + Join)
                    Keep(Piece(line[i], at, part.From));
                Stop(part.Start);
                (at, beside) = (part.To, part.End);
            }
            if (at < 1 - Join)
                Keep(Piece(line[i], at, 1));
        }
        if (run.Count > 0)
            runs.Add(run);
        if (
            runs.Count > 1
            && line.IsClosed
            && !bySegment[0].Any(p => p.From <= Join)
            && !bySegment[line.Count - 1].Any(p => p.To >= 1 - Join)
        )
        {
            // What runs through the beginning of a closed line is one.
            runs[^1].AddRange(runs[0]);
            runs.RemoveAt(0);
        }
        return [.. runs.Select(r => new Subpath(CollectionsMarshal.AsSpan(r), false))];

        void Keep(in Segment segment)
        {
            if (join && run.Count == 0 && beside is { } stays && (stays - segment.Start).Length > JoinMm)
                run.Add(Segment.Line(stays, segment.Start));
            run.Add(segment);
            beside = null;
        }

        void Stop(Point stays)
        {
            if (run.Count == 0)
                return;
            if (join && (run[^1].End - stays).Length > JoinMm)
                run.Add(Segment.Line(run[^1].End, stays));
            runs.Add(run);
            run = [];
        }
    }

    private static List<Part> Merged(IEnumerable<Part> parts)
    {
        var merged = new List<Part>();
        foreach (var part in parts.OrderBy(p => p.From))
        {
            if (merged.Count > 0 && part.From <= merged[^1].To + Join)
            {
                if (part.To > merged[^1].To)
                    merged[^1] = merged[^1] with { To = part.To, End = part.End };
            }
            else
            {
                merged.Add(part);
            }
        }
        return merged;
    }

    private static Segment Piece(in Segment s, double from, double to)
    {
        if (s.Straight)
            return Segment.Line(from <= 0 ? s.Start : s.At(from), to >= 1 ? s.End : s.At(to));
        var piece = to >= 1 ? s : Split(s, to).Left;
        return from <= 0 ? piece : Split(piece, from / to).Right;
    }

    /// <summary>De Casteljau.</summary>
    private static (Segment Left, Segment Right) Split(in Segment s, double t)
    {
        Point ab = Mix(s.Start, s.C1),
            bc = Mix(s.C1, s.C2),
            cd = Mix(s.C2, s.End);
        Point abc = Mix(ab, bc),
            bcd = Mix(bc, cd),
            mid = Mix(abc, bcd);
        return (Segment.Cubic(s.Start, ab, abc, mid), Segment.Cubic(mid, bcd, cd, s.End));

        Point Mix(Point a, Point b) => (1 - t) * a + t * b;
    }
}
