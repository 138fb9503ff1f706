using VelvetGate.Core.Drawings;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>One straight or evenly curved piece of a path.</summary>
/// <param name="Mm">Its length.</param>
/// <param name="RadiusMm">Of its curve; infinite where it is straight.</param>
/// <param name="Joint">How it goes on into the next: the radius of an arc through both; 0 for a corner, at which the head brakes.</param>
public readonly record struct MotionPiece(double Mm, double RadiusMm, double Joint)
{
    /// <summary>A curve is cut into pieces that each turn by at most this.</summary>
    private const double PieceTurn = 10 * Math.PI / 180;
    private const int MostPieces = 48;

    /// <summary>A path as pieces, in order.</summary>
    /// <param name="ends">Takes the place at which each piece ends, where somebody wants to know.</param>
    public static List<MotionPiece> Of(Subpath path, List<Point>? ends = null)
    {
        var pieces = new List<MotionPiece>(path.Count);
        Point arriving = default;
        for (var i = 0; i < path.Count; i++)
        {
            var segment = path[i];
            if (segment.Leaving.Length <= 0)
                continue;
            if (segment.Straight)
                Add(pieces, (segment.End - segment.Start).Length, 0, segment.Leaving, ref arriving);
            else
                Curve(pieces, segment, ref arriving, ends);
            if (ends?.Count < pieces.Count)
                ends.Add(segment.End);
        }
        return pieces;
    }

    private static void Curve(List<MotionPiece> pieces, in Segment segment, ref Point arriving, List<Point>? ends)
    {
        var turn = Turns.Of(segment.Leaving, segment.C2 - segment.C1) + Turns.Of(segment.C2 - segment.C1, segment.Arriving);
        var parts = Math.Clamp((int)Math.Ceiling(turn / PieceTurn), 1, MostPieces);
        var (from, leaving) = (segment.Start, segment.Leaving);
        for (var n = 1; n <= parts; n++)
        {
            var t = (double)n / parts;
            var to = segment.At(t);
            var going = n == parts ? segment.Arriving : Tangent(segment, t);
            var (chord, bend) = ((to - from).Length, Turns.Of(leaving, going));
            // An arc over a chord: c · (θ/2) / sin(θ/2).
            var mm = bend < 1e-6 ? chord : chord * (bend / 2) / Math.Sin(Math.Min(bend / 2, Math.PI / 2));
            Add(pieces, mm, bend, leaving, ref arriving);
            if (ends?.Count < pieces.Count)
                ends.Add(to);
            (arriving, from, leaving) = (going, to, going);
        }
    }

    /// <param name="bend">How far the piece itself turns.</param>
    private static void Add(List<MotionPiece> pieces, double mm, double bend, Point leaving, ref Point arriving)
    {
        if (mm <= 0)
            return;
        if (pieces.Count > 0)
        {
            var last = pieces[^1];
            var turn = Turns.Of(arriving, leaving);
            var joint =
                turn > Turns.Corner ? 0
                : turn < 1e-9 ? double.PositiveInfinity
                : Math.Min(last.Mm, mm) / (2 * Math.Tan(turn / 2));
            pieces[^1] = last with { Joint = joint };
        }
        pieces.Add(new MotionPiece(mm, bend < 1e-9 ? double.PositiveInfinity : mm / bend, 0));
        arriving = leaving;
    }

    private static Point Tangent(in Segment s, double t)
    {
        var u = 1 - t;
        var d = 3 * u * u * (s.C1 - s.Start) + 6 * u * t * (s.C2 - s.C1) + 3 * t * t * (s.End - s.C2);
        return d.Length > 1e-12 ? d : s.Arriving;
    }
}
