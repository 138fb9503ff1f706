using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>Takes out what is drawn again on, or nearer than the kerf to, a line that stays. The line drawn first stays.</summary>
internal static class DoubledStretches
{
    /// <summary>
    /// Lines that lie in a row, each near to the next, need a look for each: what stays is not nearer than the kerf to anything that stays.
    /// </summary>
    private const int MostLooks = 12;

    /// <summary>Shorter remains are crumbs of rounding.</summary>
    private const double CrumbMm = 0.05;

    /// <param name="withinMm">The kerf; 0 takes only what lies on another line.</param>
    /// <param name="join">Whether cut ends are joined to the line that stays.</param>
    public static Drawing TakeOut(
        Drawing drawing,
        ColourMap colours,
        double withinMm,
        string kind,
        List<MendStep> steps,
        CancellationToken patience,
        bool join = true
    )
    {
        var (count, before) = (0, Length(drawing));
        for (var look = 0; look < MostLooks; look++)
        {
            var pieces = new LinePieces(drawing, traced: true);
            var cuts = Look(pieces, colours, withinMm, patience);
            if (cuts.Count == 0)
                break;
            count += cuts.Select(c => pieces.PathOf[c.Key]).Distinct().Count();
            drawing = Without(drawing, pieces, cuts, join);
        }
        steps.Add(new(kind, count, Math.Round(before - Length(drawing), 4)));
        return drawing;
    }

    private static double Length(Drawing drawing)
    {
        double length = 0;
        foreach (var path in drawing.Shapes.Where(s => s.Stroke is not null).SelectMany(s => s.Subpaths))
        {
            for (var i = 0; i < path.Count; i++)
                length += path[i].Length();
        }
        return length;
    }

    /// <summary>Of each piece the stretches to take out, as parts of it, and what they lie along.</summary>
    private static Dictionary<int, List<Gone>> Look(LinePieces pieces, ColourMap colours, double withinMm, CancellationToken patience)
    {
        var found = new List<Stretch>();
        var nobody = new double[Neighbours.Steps];
        for (var c = 0; c < pieces.Colours.Count; c++)
        {
            // Hatching is drawn as near as it likes: only what cuts is nearly doubled.
            if (withinMm > 0 && colours.Of(pieces.Colours[c]) != StrokeMeaning.Cut)
                continue;
            if (pieces.Of(c) is var own && own.End.Value - own.Start.Value > 1)
                found.AddRange(Neighbours.Find(pieces, own, across: false, nobody, patience));
        }
        if (pieces.Colours.Count > 1)
            found.AddRange(
                Neighbours
                    .Find(pieces, Range.All, across: true, nobody, patience)
                    .Where(s => Meaning(s.A) == StrokeMeaning.Cut && Meaning(s.B) == StrokeMeaning.Cut)
            );
        var gone = new Dictionary<int, List<Gone>>();
        foreach (
            var stretch in found
                .Where(s => s is { From: 0, To: 0 } || Math.Max(Math.Abs(s.From), Math.Abs(s.To)) < withinMm)
                .OrderBy(s => s.A)
                .ThenBy(s => s.B)
        )
        {
            var (a, b) = (pieces.All[stretch.A], pieces.All[stretch.B]);
            var (onA, onB) = (Shared(a, b), Shared(b, a));
            if (onB.To - onB.From < 1e-9)
                continue;
            // What it lies along has to stay.
            if (gone.TryGetValue(stretch.A, out var own) && own.Any(g => g.From < onA.To - 1e-6 && g.To > onA.From + 1e-6))
                continue;
            if (!gone.TryGetValue(stretch.B, out var list))
                gone[stretch.B] = list = [];
            list.Add(new Gone(onB.From, onB.To, On(a, b, onB.From), On(a, b, onB.To)));
        }
        return gone;

        StrokeMeaning Meaning(int piece) => colours.Of(pieces.Colours[pieces.All[piece].Colour]);
    }

    /// <summary>The part of <paramref name="own"/> that lies alongside <paramref name="other"/>, of 0 to 1.</summary>
    private static (double From, double To) Shared(in Piece own, in Piece other)
    {
        var d = own.B - own.A;
        var size = d.X * d.X + d.Y * d.Y;
        var (p, q) = (Along(other.A - own.A), Along(other.B - own.A));
        return (Math.Clamp(Math.Min(p, q), 0, 1), Math.Clamp(Math.Max(p, q), 0, 1));

        double Along(Point v) => (v.X * d.X + v.Y * d.Y) / size;
    }

    /// <summary>The place on <paramref name="stays"/> beside a place of <paramref name="goes"/>.</summary>
    private static Point On(in Piece stays, in Piece goes, double t)
    {
        var d = stays.B - stays.A;
        var v = goes.A + t * (goes.B - goes.A) - stays.A;
        return stays.A + Math.Clamp((v.X * d.X + v.Y * d.Y) / (d.X * d.X + d.Y * d.Y), 0, 1) * d;
    }

    private static Drawing Without(Drawing drawing, LinePieces pieces, Dictionary<int, List<Gone>> gone, bool join)
    {
        var byLine = new Dictionary<Subpath, List<int>>(ReferenceEqualityComparer.Instance);
        foreach (var piece in gone.Keys)
        {
            var line = pieces.Paths[pieces.PathOf[piece]].Line;
            if (!byLine.TryGetValue(line, out var list))
                byLine[line] = list = [];
            list.Add(piece);
        }
        var shapes = new List<Shape>(drawing.Shapes.Count);
        foreach (var shape in drawing.Shapes)
        {
            if (shape.Stroke is null || !shape.Subpaths.Any(byLine.ContainsKey))
            {
                shapes.Add(shape);
                continue;
            }
            // A fill keeps its whole outline, as a shape of its own.
            if (shape.Fill is not null)
                shapes.Add(shape with { Stroke = null });
            var left = shape
                .Subpaths.SelectMany(p => byLine.TryGetValue(p, out var own) ? CutLine.Without(p, Parts(own), join) : [p])
                .Where(p => Long(p))
                .ToList();
            if (left.Count > 0)
                shapes.Add(shape with { Fill = null, Subpaths = left });
        }
        return drawing with { Shapes = shapes };

        IEnumerable<CutLine.Part> Parts(List<int> own) =>
            own.SelectMany(piece => gone[piece].Select(g => (Origin: pieces.OriginOf(piece), Gone: g)))
                .Select(x => new CutLine.Part(
                    x.Origin.Segment,
                    At(x.Origin, x.Gone.From),
                    At(x.Origin, x.Gone.To),
                    x.Gone.Start,
                    x.Gone.End
                ));

        static double At(Origin origin, double t) => origin.From + t * (origin.To - origin.From);

        static bool Long(Subpath path)
        {
            double length = 0;
            for (var i = 0; i < path.Count && length < CrumbMm; i++)
                length += path[i].Length();
            return length >= CrumbMm;
        }
    }

    private readonly record struct Gone(double From, double To, Point Start, Point End);
}
