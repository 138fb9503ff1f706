using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Drawings;

/// <summary>A clamp, weight or magnet that holds the sheet, where it was marked on the drawing. All in mm.</summary>
/// <param name="X">Of its middle, in the drawing's own direction.</param>
/// <param name="Across">Its widest size.</param>
public sealed record Clamp(double X, double Y, double Across)
{
    public const double UsualAcross = 20;
}

/// <summary>
/// A clamp as it was typed: its place across and down, or up where the drawing counts upwards, and its size, or nothing for the usual one.
/// </summary>
public sealed record ClampWords(string? X, string? Y, string? Across = null)
{
    /// <param name="unit">Of numbers typed without one.</param>
    /// <param name="refusals">All that is wrong, each with its field.</param>
    /// <returns>Null when something is.</returns>
    public Clamp? Read(LengthUnit unit, out IReadOnlyList<Refusal> refusals)
    {
        var wrong = new List<Refusal>();
        refusals = wrong;
        var across = string.IsNullOrWhiteSpace(Across) ? Clamp.UsualAcross : Take(Length.Parse(Across, unit), "across");
        var clamp = new Clamp(Take(Length.ParsePlace(X, unit), "x"), Take(Length.ParsePlace(Y, unit), "y"), across);
        return wrong.Count == 0 ? clamp : null;

        double Take(Result<decimal> read, string field)
        {
            if (read.Refusal is not { } bad)
                return (double)read.Value;
            wrong.Add(bad with { Field = field });
            return 0;
        }
    }
}

/// <summary>Clamps in the way of the head. Source: common practice; the frame run on the machine decides.</summary>
public static class Clamps
{
    public const int Most = 50;

    /// <summary>How far the head stands out round the beam. From memory, rough: it differs from machine to machine.</summary>
    private const double HeadMm = 15;

    /// <param name="clamps">As they came from outside.</param>
    /// <returns>Null when they can be kept.</returns>
    public static Refusal? Refused(IReadOnlyList<Clamp?> clamps)
    {
        if (clamps.Count > Most)
            return DrawingsProblems.ClampsMany.Refuse("clamps", Most);
        // Farther out than any bed, and not a number.
        if (clamps.Any(c => c is null || !(Math.Abs(c.X) <= 10_000 && Math.Abs(c.Y) <= 10_000)))
            return DrawingsProblems.ClampsPlace.Refuse("clamps");
        return clamps.Any(c => c!.Across is not (>= 1 and <= 500)) ? DrawingsProblems.ClampsSize.Refuse("across") : null;
    }

    /// <summary>Reads places as typed in one line, such as <c>120,40; 10,10</c>.</summary>
    /// <param name="text">Null for none at all.</param>
    /// <returns>Clamps of the usual size, or what to type instead.</returns>
    public static Result<IReadOnlyList<Clamp>> Parse(string? text)
    {
        if (text is null)
            return Array.Empty<Clamp>();
        var clamps = new List<Clamp>();
        foreach (var pair in text.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (pair.Split(',') is not [var x, var y])
                return Bad();
            if (new ClampWords(x, y).Read(LengthUnit.Mm, out _) is not { } clamp)
                return Bad();
            clamps.Add(clamp);
        }
        return clamps.Count == 0 ? Bad()
            : Refused(clamps) is { } refusal ? refusal
            : clamps;

        static Refusal Bad() => DrawingsProblems.ClampsTyped.Refuse("clamps");
    }

    /// <summary>The head runs over all of the box round the work, first of all when it is framed.</summary>
    /// <param name="framing">How this machine frames a job; null where nobody said, or no machine is named.</param>
    internal static Finding? Find(DrawingSummary drawing, IReadOnlyList<Clamp> clamps, LengthUnit unit, Framing? framing)
    {
        if (drawing.Reach is not { } frame)
            return null;
        var inTheWay = clamps.Where(c => Beyond(frame, c) < HeadMm + c.Across / 2).ToList();
        if (inTheWay.Count == 0)
            return null;
        var (one, head) = (inTheWay.Count == 1, Length.Show((decimal)HeadMm, unit));
        return new(
            kind: FindingKinds.FrameObstructed,
            severity: Severity.Note,
            count: inTheWay.Count,
            lengthMm: 0,
            at: [.. inTheWay.Select(c => new Place(c.X, c.Y))],
            text: $"{(one ? "1 clamp stands" : $"{inTheWay.Count} clamps stand")} within {head} of the frame, in the head’s way.",
            why: $"The head would hit it: move the clamp or the drawing, and frame the job before you start{How(framing)}."
        );
    }

    private static string How(Framing? framing) =>
        framing switch
        {
            Framing.PointerLidOpen => ", lid open, pointer only",
            Framing.PointerLidShut => ", lid shut, pointer only",
            Framing.BeamOffLidShut => ", lid shut, high voltage off",
            Framing.ByHand => " by hand, beam off",
            _ => ", as the card of the machine says",
        };

    /// <summary>From the middle of the clamp to the box, mm; 0 within it.</summary>
    private static double Beyond(Extent frame, Clamp clamp) =>
        new Point(
            Math.Max(0, Math.Max(frame.MinX - clamp.X, clamp.X - frame.MaxX)),
            Math.Max(0, Math.Max(frame.MinY - clamp.Y, clamp.Y - frame.MaxY))
        ).Length;
}
