using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Gating;

/// <summary>A steward's leave, once: these reasons, for one person, machine, these items and this window.</summary>
/// <param name="AskId">The ask it answers.</param>
public sealed record LiftFacts(
    Guid AskId,
    PersonId MemberId,
    MachineId MachineId,
    Span Window,
    IReadOnlyList<GateItem> Items,
    IReadOnlyList<LiftedReason> Reasons
);

/// <param name="Item">Index in the lift's own items; null for a reason that concerns the whole ask.</param>
public sealed record LiftedReason(string Code, int? Item);

/// <summary>Turns what a steward lifted into a condition. A new reason, another sheet or a longer time is not covered.</summary>
internal static class Lifts
{
    /// <summary>
    /// The lifts that serve this ask: same person and machine, every item among theirs, the whole time within their window.
    /// </summary>
    public static IReadOnlyList<LiftFacts> Serving(GateQuestion ask, GateFacts facts) =>
        [
            .. (facts.Lifts ?? []).Where(l =>
                l.MemberId == ask.MemberId
                && l.MachineId == ask.MachineId
                && Span.Cover([l.Window], ask.Start, ask.End)
                && ask.Items.All(item => IndexOf(l, item, ask.Phase) >= 0)
            ),
        ];

    /// <returns>The post as it reads with the lifts, and the asks whose lift it rests on.</returns>
    public static (PostReading Post, IEnumerable<Guid> Used) Apply(PostReading post, GateQuestion ask, IReadOnlyList<LiftFacts> serving)
    {
        if (serving.Count == 0 || post.Standing != Standing.Ask)
            return (post, []);
        var used = new List<Guid>();
        var reasons = post.Reasons.Select(Lifted).ToList();
        return (post with { Reasons = reasons, Standing = reasons.Max(r => r.Standing) }, used);

        Reason Lifted(Reason reason)
        {
            var lift = serving.FirstOrDefault(l => Covers(l, reason, ask));
            if (lift is null)
                return reason;
            used.Add(lift.AskId);
            return reason with { Standing = Standing.Caution, Text = $"{reason.Text} A steward lifted this, once.", Remedy = null };
        }
    }

    private static bool Covers(LiftFacts lift, Reason reason, GateQuestion ask) =>
        reason.Standing == Standing.Ask
        && Codes.Of(reason.Code).LiftedBy == LiftedBy.Steward
        && (reason.Code != Codes.SettingsFlame.Code || SameSettings(lift, ask.Items[reason.Item!.Value], ask.Phase))
        && lift.Reasons.Any(r => r.Code == reason.Code && r.Item == (reason.Item is { } i ? IndexOf(lift, ask.Items[i], ask.Phase) : null));

    /// <summary>What was lifted of one setting says nothing of another.</summary>
    private static bool SameSettings(LiftFacts lift, GateItem item, Phase phase) =>
        (item.SettingIds ?? []).All((lift.Items[IndexOf(lift, item, phase)].SettingIds ?? []).Contains);

    /// <summary>At the machine the sheet is measured anew: about as thick is the same sheet.</summary>
    private static int IndexOf(LiftFacts lift, GateItem item, Phase phase)
    {
        for (var i = 0; i < lift.Items.Count; i++)
        {
            var own = lift.Items[i];
            if (
                own.MaterialId == item.MaterialId
                && (own.ThicknessMm == item.ThicknessMm || phase == Phase.AtMachine && Tested.IsNear(item.ThicknessMm, own.ThicknessMm))
                && own.SheetTag == item.SheetTag
                && own.DrawingId == item.DrawingId
                && own.Round == item.Round
                && item.Operations.All(own.Operations.Contains)
            )
                return i;
        }
        return -1;
    }
}
