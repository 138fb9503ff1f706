using VelvetGate.Core.Drawings;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>A drawing that is wrapped round something: by its way round and shape, never by the flat bed’s height.</summary>
internal static class RotaryReading
{
    /// <summary>A page within this of once around meets itself: no mark is finer. House practice.</summary>
    private const double MeetsMm = 0.05;

    public static void AddShape(PostWriter post, GateQuestion ask, MachineSpec machine, int i)
    {
        if (ask.Items[i].Round is not { } round)
            return;
        if (round.HandleOrBall)
            post.Add(
                Codes.RotaryShape,
                "Not on a rotary: a handle or a spout strikes the head or the bed, and a ball has no even turn.",
                i,
                Remedies.RoundOther.Says("Take something with straight sides and nothing that stands out.")
            );
        var (from, to) = (machine.Station?.RotaryFromMm, machine.Station?.RotaryToMm);
        if (round.NarrowestMm < from || round.WidestMm > to)
            post.Add(
                Codes.RotaryRange,
                $"{Say.Length(round.DiameterMm, ask)}{(round.Diameter2Mm is { } other ? $" and {Say.Length(other, ask)}" : "")} across: "
                    + $"{machine.Name}’s rotary takes {Range(from, to, ask)}.",
                i,
                Remedies.RoundOther.Says("Take something that the rotary holds, or another machine.")
            );
        var taper = Shapes.Taper(round.DiameterMm, round.Diameter2Mm ?? round.DiameterMm);
        if (taper > Shapes.TaperMost)
            post.Add(
                Codes.RotaryTaper,
                $"It narrows by {taper * 100:0.0} % from end to end: level on the rotary the page wraps crooked.",
                i,
                Remedies.DrawingShow.Says("Show a steward the tilt jig, with the upper side level, and a test wrap.")
            );
    }

    public static void AddPage(PostWriter post, GateQuestion ask, DrawingSummary drawing, int i)
    {
        if (ask.Items[i].Round is not { } round)
        {
            post.Add(
                Codes.DrawingRotary,
                $"{drawing.Name}: on the rotary its height has to be π times the diameter. No handles or balls; more than 2 % of taper "
                    + "needs a tilt jig and a test wrap.",
                i,
                Remedies.DrawingWrap.Says("Say how wide it is at both ends, or hold the page against the rotary calculator.")
            );
            return;
        }
        var around = Shapes.Around((double)round.WidestMm);
        if (drawing.Reach is { } reach && reach.Height > around + MeetsMm)
            post.Add(
                Codes.RotaryOverlap,
                $"{drawing.Name} is {Mm(reach.Height)} high, and once around is {Mm(around)}: the ends lie on each other by "
                    + $"{Mm(reach.Height - around)}.",
                i,
                Remedies.DrawingMend.Says("Draw it no higher than once around.")
            );
        // A DXF has no page of its own.
        else if (drawing.Format == "svg" && Math.Abs(drawing.HeightMm - around) > MeetsMm)
            post.Add(
                Codes.RotaryPage,
                $"The page of {drawing.Name} is {Mm(drawing.HeightMm)} high, and once around is {Mm(around)}: "
                    + $"{Mm(Math.Abs(drawing.HeightMm - around))} too {(drawing.HeightMm > around ? "long" : "short")}.",
                i,
                Remedies.DrawingWrap.Says("Set the page’s height to once around, not rounded, and mark one full turn.")
            );

        string Mm(double mm) => Say.Length((decimal)Math.Round(mm, 2), ask);
    }

    private static string Range(decimal? from, decimal? to, GateQuestion ask) =>
        (from, to) switch
        {
            ({ } least, { } most) => $"{Say.Length(least, ask)} to {Say.Length(most, ask)}",
            ({ } least, null) => $"{Say.Length(least, ask)} and more",
            (_, { } most) => $"up to {Say.Length(most, ask)}",
            _ => "",
        };
}
