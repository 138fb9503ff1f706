using VelvetGate.Core.Gating;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Run;

/// <summary>Who stands behind a logged run.</summary>
public enum Behind
{
    /// <summary>A booking of this person, machine, time and stock.</summary>
    Booking,

    /// <summary>A steward who logged it for somebody else, or who looked at it.</summary>
    Steward,
}

/// <summary>
/// What a logged run is worth. Practice, and what is tested, rest only on runs that the gate allowed and that a booking or a steward stands
/// behind:
/// nobody renews themselves by writing a run down. Any other run is kept and told to a steward. Source: house practice.
/// </summary>
/// <param name="Codes">What stands against it; empty when the gate allowed it.</param>
public sealed record RunVerdict(IReadOnlyList<string> Codes, Behind? Behind)
{
    public bool Allowed => Codes.Count == 0;

    /// <summary>A steward has to look at it: no rule allows it, or nobody stands behind it.</summary>
    public bool WantsALook => !Allowed || Behind is null;

    /// <summary>What the gate has against a run that is over: everything but its time, which has passed, and being there at all.</summary>
    public static IReadOnlyList<string> Against(Decision decision) =>
        [
            .. decision
                .Posts.Where(p => p.Post != Post.Time)
                .SelectMany(p => p.Reasons)
                .Where(r => r.Standing >= Standing.Ask && r.Code != Gating.Codes.PersonElsewhere.Code)
                .Select(r => r.Code)
                .Distinct(),
        ];

    /// <summary>Why a steward has to look at a run, in a clause.</summary>
    /// <param name="codes">What the gate has against it.</param>
    public static string Why(bool flame, IReadOnlyCollection<string> codes)
    {
        var against = codes.Count > 0 ? $"no rule allowed it: {Gating.Codes.Says(codes)}" : null;
        return flame
            ? string.Join("; ", new[] { "a flame stayed", against }.OfType<string>())
            : against ?? "no booking covers it, and no steward has vouched for it";
    }

    /// <summary>
    /// Does the booking stand behind this run? It was not given back, the run touches its time, and its stock and operations were asked
    /// about.
    /// </summary>
    public static bool Covers(GateQuestion booked, bool cancelled, LoggedRun run) =>
        !cancelled
        && booked.MemberId == run.PersonId
        && booked.MachineId == run.MachineId
        && run.Start < booked.End
        && run.End > booked.Start - RunLog.ArriveFrom
        && ItemOf(booked, run) is not null;

    /// <summary>The item of the booking that was run; null when it is another.</summary>
    public static GateItem? ItemOf(GateQuestion booked, LoggedRun run) =>
        booked
            .Items.Where((_, i) => run.Item is not { } named || named == i)
            .FirstOrDefault(i =>
                i.MaterialId == run.MaterialId && run.Operations.All(i.Operations.Contains) && Tested.IsNear(run.ThicknessMm, i.ThicknessMm)
            );

    /// <returns>Null when this steward may look at the run and say so.</returns>
    public static Refusal? MayLook(PersonId personId, PersonId by, bool allowed, bool counts, string? reason)
    {
        if (personId == by)
            return RunProblems.RunSelf.Refuse();
        if (WrittenReason.Wrong(reason, RunLog.SettingsLongest) is { } wrong)
            return wrong;
        return counts && !allowed ? RunProblems.RunNotAllowed.Refuse("counts") : null;
    }
}
