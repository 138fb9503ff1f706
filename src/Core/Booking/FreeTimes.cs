using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Booking;

/// <summary>One time at which the gate opens.</summary>
/// <param name="Conditions">How many things it opens under.</param>
public sealed record FreeTime(Instant Start, Instant End, Verdict Verdict, int Conditions);

/// <summary>One machine for a job: when it could run there, or what is against it.</summary>
/// <param name="Reasons">Where there is a choice, what the first is open under; else everything against the best time there is.</param>
/// <param name="RunMinutes">What the runs take there by themselves; null while that is not known.</param>
/// <param name="Opens">What is still to be learnt, where training is in the way; a step that waits for a time says from when.</param>
/// <param name="Choices">The soonest first; each begins after the one before is over.</param>
public sealed record MachineTimes(
    MachineId MachineId,
    string MachineName,
    Verdict Verdict,
    IReadOnlyList<Reason> Reasons,
    BookingLength Length,
    decimal? RunMinutes,
    IReadOnlyList<WayStep> Opens,
    IReadOnlyList<FreeTime> Choices
)
{
    public int Minutes => Length.SlotMinutes;
}

/// <summary>Which machine, soonest? Every time that is offered was decided by the gate as a question of its own.</summary>
public static class FreeTimes
{
    public const int MostChoices = 3;

    /// <summary>
    /// Soonest finish first, then the fewest conditions; what cannot be booked last, what a steward may open before what is shut.
    /// </summary>
    public static IReadOnlyList<MachineTimes> Sorted(IEnumerable<MachineTimes> machines) =>
        [
            .. machines
                .OrderBy(m => m.Choices.Count == 0)
                .ThenBy(m => m.Choices.Count == 0 ? Instant.MaxValue : m.Choices[0].End)
                .ThenBy(m => m.Choices.Count == 0 ? 0 : m.Choices[0].Conditions)
                .ThenBy(m => m.Verdict)
                .ThenBy(m => m.Reasons.Count)
                .ThenBy(m => m.MachineId.Value, StringComparer.Ordinal),
        ];

    /// <summary>Looks until the last day that may be booked.</summary>
    /// <param name="ask">Its start is not read, and its minutes only where there are any; 0 takes what the job needs.</param>
    public static MachineTimes On(GateQuestion ask, GateFacts facts, TimeWish wish)
    {
        var from = wish.After is { } after && after > facts.Now ? after : facts.Now;
        ask = OnItsMachine(ask with { Start = from }, facts);
        var length = JobLength.Of(ask, facts);
        if (ask.Minutes == 0)
            ask = ask with { Minutes = length.SlotMinutes };
        var search = new Search(ask, facts, wish);
        search.Look(from);
        var (reasons, verdict) = search.Choices.Count > 0 ? search.Conditions() : search.Against();
        return new MachineTimes(
            MachineId: ask.MachineId,
            MachineName: facts.Machine.Spec.Name,
            Verdict: verdict,
            Reasons: reasons,
            Length: length,
            RunMinutes: JobLength.AllRuns(ask, facts),
            Opens: search.Choices.Count > 0 ? [] : [.. reasons.SelectMany(r => SoonestWay.StillToLearn(r, ask, facts)).Distinct()],
            Choices: search.Choices
        );
    }

    /// <summary>The end of the last day on which a booking may begin.</summary>
    public static Instant Until(HouseRules rules, Instant now) =>
        rules.Clock.Day(rules.Clock.DateOf(now).PlusDays(rules.BookAheadDays)).End;

    /// <summary>Settings are for one machine: those chosen for another are left out, and the sheet reads as the machine knows it.</summary>
    private static GateQuestion OnItsMachine(GateQuestion ask, GateFacts facts)
    {
        var here = (facts.Settings ?? []).Where(s => s.MachineId == ask.MachineId).Select(s => s.Id).ToHashSet();
        return ask with
        {
            Items =
            [
                .. ask.Items.Select(i =>
                    i.SettingIds is { } ids ? i with { SettingIds = ids.Any(here.Contains) ? [.. ids.Where(here.Contains)] : null } : i
                ),
            ],
        };
    }

    private sealed class Search(GateQuestion ask, GateFacts facts, TimeWish wish)
    {
        private readonly Duration _length = Duration.FromMinutes(ask.Minutes);
        private readonly List<FreeTime> _choices = [];
        private readonly List<(Instant Start, Instant End)> _held = Held(facts);
        private Instant[] _changes = [];
        private Decision? _first;
        private Decision? _best;
        private int _fewest = int.MaxValue;

        public IReadOnlyList<FreeTime> Choices => _choices;

        public void Look(Instant from)
        {
            _changes = ChangePoints.Of(ask, facts, _length);
            var rules = facts.Rules;
            var until = Until(rules, facts.Now);
            for (var day = rules.Clock.DateOf(from); rules.Clock.Day(day).Start < until; day = day.PlusDays(1))
            {
                if (Day(day, from))
                    return;
            }
        }

        public (IReadOnlyList<Reason>, Verdict) Conditions() =>
            ([.. _first!.Reasons.Where(r => r.Standing > Standing.Clear)], _first.Verdict);

        public (IReadOnlyList<Reason>, Verdict) Against()
        {
            if (_best is { } best)
                return ([.. best.Reasons.Where(r => r.Standing >= Standing.Ask)], best.Verdict);
            // No time was left to ask about: that, and what is against the job whatever the time.
            var none = new Reason(
                Codes.TimeTaken.Code,
                Standing.Shut,
                $"No {ask.Minutes} min are left on {facts.Machine.Spec.Name} in that time.",
                Codes.TimeTaken.Source,
                Remedy: Remedies.TimeOther.Says("Give more days or hours, or wait for a time.")
            );
            var others = Core.Gating.Gate.Decide(ask, facts).Posts.Where(p => p.Post != Post.Time).SelectMany(p => p.Reasons);
            return ([.. others.Where(r => r.Standing >= Standing.Ask), none], Verdict.Shut);
        }

        /// <returns>True when there are choices enough.</returns>
        private bool Day(LocalDate day, Instant from)
        {
            var refusedUntil = Instant.MinValue;
            foreach (var start in OpenSlots.Of(facts.Rules, day, from, ask.Minutes))
            {
                var end = start + _length;
                if (start < refusedUntil)
                    continue;
                if (HeldUntil(start, end) is { } free)
                {
                    refusedUntil = free;
                    continue;
                }
                if ((_choices.Count > 0 && start < _choices[^1].End) || !wish.Allows(start, end, facts.Rules.Clock))
                    continue;
                var decision = Core.Gating.Gate.Decide(ask with { Start = start }, facts);
                if (decision.Verdict > Verdict.Conditions)
                {
                    refusedUntil = NextChange(start);
                    Note(decision);
                    continue;
                }
                _first ??= decision;
                _choices.Add(new FreeTime(start, end, decision.Verdict, decision.Reasons.Count(r => r.Standing > Standing.Clear)));
                if (_choices.Count == MostChoices)
                    return true;
            }
            return false;
        }

        private void Note(Decision decision)
        {
            var against = decision.Reasons.Count(r => r.Standing >= Standing.Ask);
            if (against >= _fewest)
                return;
            _fewest = against;
            _best = decision;
        }

        private Instant NextChange(Instant after)
        {
            var at = Array.BinarySearch(_changes, after);
            var next = at < 0 ? ~at : at + 1;
            return next < _changes.Length ? _changes[next] : Instant.MaxValue;
        }

        /// <returns>The end of what holds some of <c>[start, end)</c>; null where it is free.</returns>
        private Instant? HeldUntil(Instant start, Instant end)
        {
            var (low, high) = (0, _held.Count);
            while (low < high)
            {
                var middle = (low + high) / 2;
                if (_held[middle].End <= start)
                    low = middle + 1;
                else
                    high = middle;
            }
            return low < _held.Count && _held[low].Start < end ? _held[low].End : null;
        }

        /// <summary>What stands against any booking of this job, whatever else is so: in order, and joined where it touches.</summary>
        private static List<(Instant Start, Instant End)> Held(GateFacts facts)
        {
            Fact<IReadOnlyList<Span>>[] taken = [facts.Time.MachineTaken, facts.Time.FixtureTaken, facts.Person.Attending];
            var spans = taken.Where(h => h.IsKnown).SelectMany(h => h.Value).Concat((facts.Time.Closures ?? []).Select(c => c.During));
            var held = new List<(Instant Start, Instant End)>();
            foreach (var span in spans.OrderBy(s => s.Start))
            {
                var end = span.End ?? Instant.MaxValue;
                if (held.Count > 0 && span.Start <= held[^1].End)
                    held[^1] = (held[^1].Start, Instant.Max(held[^1].End, end));
                else
                    held.Add((span.Start, end));
            }
            return held;
        }
    }
}
