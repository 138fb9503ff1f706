using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating;

/// <summary>
/// Finds the shortest chain of actions that opens the gate. Each step is checked by <see cref="Gate.Decide"/> with the earlier ones assumed
/// done.
/// </summary>
public static class SoonestWay
{
    /// <summary>How far ahead a free time is looked for.</summary>
    private const int HorizonDays = 14;

    /// <summary>As far as the facts have to reach.</summary>
    public static Instant Until(GateQuestion ask, Instant now) => Instant.Max(now, ask.Start) + Duration.FromDays(HorizonDays + 1);

    /// <returns>Null when nothing a person can do opens it, such as a material that is never allowed.</returns>
    public static Soonest? Find(GateQuestion ask, GateFacts facts)
    {
        var steps = new List<SoonestStep>();
        ask = WithRuns(ask, facts, steps);
        var minutes = Math.Max(ask.Minutes, Gate.Decide(ask, facts).Length.SlotMinutes);
        var wanted = ask with { Minutes = minutes, Start = Instant.Max(ask.Start, facts.Now) };
        while (true)
        {
            var (opening, blocked) = Look(wanted, facts);
            if (opening is { } run)
            {
                steps.Add(new SoonestStep("run", "The run, as asked", run.Ask.Start, null));
                return new Soonest(steps, run.Ask.Start, minutes, run.Verdict);
            }
            if (blocked is not { } against || Assume(against.Reason, against.Ask, facts) is not { } assumed)
                return null;
            var toLearn = StillToLearn(against.Reason, against.Ask, facts);
            if (StillThere(against.Ask, against.Reason, toLearn, assumed))
                return null;
            // Twice the same person signing would be a step that does not help.
            if (
                steps.Count >= Codes.All.Count
                || (against.Reason.Remedy!.Action == "training.signOff" && steps.Any(s => s.Action == "training.signOff"))
            )
                return null;
            steps.AddRange(toLearn.Select(s => new SoonestStep("training.step", s.Title, s.From, Post.Training)));
            steps.Add(
                new SoonestStep(
                    against.Reason.Remedy!.Action,
                    against.Reason.Remedy.Text,
                    null,
                    Codes.All.First(c => c.Code == against.Reason.Code).Post
                )
            );
            facts = assumed;
        }
    }

    /// <summary>What nobody knows the length of is asked for first, and looked at with the fixed parts alone.</summary>
    private static GateQuestion WithRuns(GateQuestion ask, GateFacts facts, List<SoonestStep> steps)
    {
        var unknown = JobLength.UnknownRuns(ask, facts).ToHashSet();
        if (unknown.Count == 0)
            return ask;
        steps.Add(new SoonestStep("ask.run", "Say how long it runs, or add its drawing", null, Post.Time));
        return ask with { Items = [.. ask.Items.Select((item, i) => unknown.Contains(i) ? item with { RunMinutes = 0 } : item)] };
    }

    /// <summary>True when the remedy would change nothing, looked at from when its steps can be done.</summary>
    private static bool StillThere(GateQuestion ask, Reason reason, IReadOnlyList<WayStep> toLearn, GateFacts assumed)
    {
        var then = toLearn.Max(s => s.From) is { } from && from > ask.Start ? ask with { Start = from } : ask;
        return Gate.Decide(then, assumed).Reasons.Any(r => r.Code == reason.Code && r.Item == reason.Item);
    }

    /// <summary>What the path to a missing certificate still asks before its sign-off.</summary>
    internal static IReadOnlyList<WayStep> StillToLearn(Reason reason, GateQuestion ask, GateFacts facts) =>
        reason.Code == Codes.TrainingNone.Code || reason.Code == Codes.TrainingLapsed.Code || reason.Code == Codes.TrainingAddOn.Code
            ?
            [
                .. Posts
                    .TrainingPost.Needed(ask, facts)
                    .SelectMany(a => (facts.Training.Ways ?? []).Where(w => w.Authority == a))
                    .SelectMany(w => w.Steps)
                    .DistinctBy(s => s.Title),
            ]
            : [];

    /// <summary>The first time at which the gate opens; else the time with the fewest reasons against it, and the first of those.</summary>
    private static ((GateQuestion Ask, Verdict Verdict)? Opening, (GateQuestion Ask, Reason Reason)? Blocked) Look(
        GateQuestion wanted,
        GateFacts facts
    )
    {
        (GateQuestion, Reason)? blocked = null;
        var fewest = int.MaxValue;
        foreach (var ask in Candidates(wanted, facts))
        {
            var decision = Gate.Decide(ask, facts);
            if (decision.Verdict <= Verdict.Conditions)
                return ((ask, decision.Verdict), null);
            var against = decision.Reasons.Where(r => r.Standing >= Standing.Ask).ToList();
            if (against.Count >= fewest)
                continue;
            fewest = against.Count;
            blocked = (ask, against[0]);
        }
        return (null, blocked);
    }

    private static IEnumerable<GateQuestion> Candidates(GateQuestion wanted, GateFacts facts)
    {
        var rules = facts.Rules;
        var end = wanted.Start + Duration.FromDays(HorizonDays);
        for (var day = rules.Clock.DateOf(wanted.Start); rules.Clock.Day(day).Start < end; day = day.PlusDays(1))
        {
            foreach (var start in OpenSlots.Of(rules, day, wanted.Start, wanted.Minutes).TakeWhile(s => s < end))
                yield return wanted with
                {
                    Start = start,
                };
        }
    }

    /// <summary>The facts as they would be once the remedy of a reason is carried out; null when none is in anyone's hands.</summary>
    private static GateFacts? Assume(Reason reason, GateQuestion ask, GateFacts facts) =>
        reason.Remedy is null ? null : Codes.Of(reason.Code).Assumed?.Invoke(reason, ask, facts);
}
