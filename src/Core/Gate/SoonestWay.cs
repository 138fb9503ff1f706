using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating;

/// <summary>Finds the shortest chain of actions that opens the gate. Each step is checked by <see cref="Gate.Decide"/> with the earlier ones assumed done.</summary>
public static class SoonestWay
{
    /// <summary>How far ahead a free time is looked for; the facts are loaded as far.</summary>
    public const int HorizonDays = 14;

    /// <returns>Null when nothing a person can do opens it, such as a material that is never allowed.</returns>
    public static Soonest? Find(Ask ask, GateFacts facts)
    {
        var minutes = Math.Max(ask.Minutes, Gate.Decide(ask, facts).Length.SlotMinutes);
        var wanted = ask with { Minutes = minutes, Start = FirstSlot(ask, facts) };
        var steps = new List<SoonestStep>();
        while (true)
        {
            if (FirstOpening(wanted, facts) is { } run)
            {
                steps.Add(new SoonestStep("run", "The run, as asked", run.Ask.Start, null));
                return new Soonest(steps, run.Ask.Start, minutes, run.Verdict);
            }
            var blocked = LeastBlocked(wanted, facts);
            if (blocked is null || Assumption.Of(blocked.Value.Reason, blocked.Value.Ask, facts) is not { } assumed) return null;
            var still = Gate.Decide(blocked.Value.Ask, assumed).Reasons.Any(r => r.Code == blocked.Value.Reason.Code && r.Item == blocked.Value.Reason.Item);
            if (still || steps.Count >= Codes.All.Count) return null;
            var reason = blocked.Value.Reason;
            steps.Add(new SoonestStep(reason.Remedy!.Action, reason.Remedy.Text, null, Codes.All.First(c => c.Code == reason.Code).Post));
            facts = assumed;
        }
    }

    private static Instant FirstSlot(Ask ask, GateFacts facts)
    {
        var from = Instant.Max(ask.Start, facts.Now);
        var slot = facts.Rules.SlotMinutes * 60;
        var seconds = from.ToUnixTimeSeconds();
        return from == ask.Start ? from : Instant.FromUnixTimeSeconds((seconds + slot - 1) / slot * slot);
    }

    private static (Ask Ask, Verdict Verdict)? FirstOpening(Ask wanted, GateFacts facts)
    {
        foreach (var ask in Candidates(wanted, facts))
        {
            var verdict = Gate.Decide(ask, facts).Verdict;
            if (verdict <= Verdict.Conditions) return (ask, verdict);
        }
        return null;
    }

    /// <summary>The time with the fewest reasons against it that are not the calendar's, and the first of those.</summary>
    private static (Ask Ask, Reason Reason)? LeastBlocked(Ask wanted, GateFacts facts) => Candidates(wanted, facts)
        .Select(ask => (Ask: ask, Against: Gate.Decide(ask, facts).Reasons.Where(r => r.Standing >= Standing.Ask).ToList()))
        .Where(c => c.Against.Count > 0)
        .OrderBy(c => c.Against.Count)
        .Select(c => ((Ask, Reason)?)(c.Ask, c.Against[0]))
        .FirstOrDefault();

    private static IEnumerable<Ask> Candidates(Ask wanted, GateFacts facts)
    {
        var rules = facts.Rules;
        var end = wanted.Start + Duration.FromDays(HorizonDays);
        var step = Duration.FromMinutes(rules.SlotMinutes);
        for (var day = rules.Clock.DateOf(wanted.Start); rules.Clock.Day(day).Start < end; day = day.PlusDays(1))
        {
            if (rules.OpenOn(day) is not { } open) continue;
            for (var start = Instant.Max(open.Start, wanted.Start); start + Duration.FromMinutes(wanted.Minutes) <= open.End && start < end; start += step)
                yield return wanted with { Start = start };
        }
    }
}

/// <summary>The facts as they would be once a remedy is carried out; null when no remedy is in anyone's hands.</summary>
internal static class Assumption
{
    public static GateFacts? Of(Reason reason, Ask ask, GateFacts facts)
    {
        if (reason.Remedy is null) return null;
        var always = new Span(Instant.FromUnixTimeSeconds(0));
        if (reason.Code == Codes.TrainingNone.Code || reason.Code == Codes.TrainingLapsed.Code || reason.Code == Codes.TrainingAddOn.Code)
            return SignedOff(ask, facts, always);
        if (reason.Code == Codes.TrainingIdle.Code)
            return facts with { Training = facts.Training with { LastUse = Fact.Known<Instant?>(facts.Now) } };
        if (reason.Code == Codes.PersonAgreement.Code)
            return facts with { Person = facts.Person with { Agreement = Fact.Known<IReadOnlyList<Span>>([always]) } };
        if (reason.Code == Codes.PersonPaused.Code)
            return facts with { Person = facts.Person with { Pauses = Fact.Known<IReadOnlyList<Span>>([]) } };
        if (reason.Code == Codes.MachineStopped.Code)
            return facts with { Machine = facts.Machine with { Stops = Fact.Known<IReadOnlyList<Span>>([]) } };
        if (reason.Code == Codes.MachineUpkeepOverdue.Code)
            return facts with { Machine = facts.Machine with { Upkeep = Fact.Known<IReadOnlyList<UpkeepFacts>>([]) } };
        if (reason.Code == Codes.RoomKitOut.Code)
            return facts with { Room = facts.Room with { FireKit = Fact.Known<IReadOnlyList<KitFacts>>([new KitFacts("fire kit", null)]) } };
        return reason.Code is "sheet.untagged" or "sheet.notCleared" or "material.byArrangement" or "material.extraction"
            ? Cleared(reason.Item!.Value, ask, facts, always)
            : null;
    }

    private static GateFacts SignedOff(Ask ask, GateFacts facts, Span always)
    {
        var certificates = Posts.TrainingPost.Needed(ask).Select(a => new Certificate(a, always));
        return facts with { Training = facts.Training with { Certificates = Fact.Known<IReadOnlyList<Certificate>>([.. facts.Training.Certificates.Value, .. certificates]) } };
    }

    private static GateFacts Cleared(int item, Ask ask, GateFacts facts, Span always)
    {
        var sheet = facts.Sheets[item];
        var asked = ask.Items[item];
        var rulings = sheet.Rulings.Value.Select(h => h with
        {
            Ruling = h.Ruling with
            {
                Evidence = Evidence.None,
                FilteredNeedsArrangement = false,
                Standing = h.Ruling.Standing == RulingStanding.ByArrangement ? RulingStanding.Permitted : h.Ruling.Standing,
            },
        });
        var tag = sheet.Tag.Value is { } known ? known with { Cleared = [new ClearanceFacts(always, asked.Operations, [])] } : null;
        var cleared = sheet with { Rulings = Fact.Known<IReadOnlyList<HeldRuling>>([.. rulings]), Tag = Fact.Known(tag) };
        return facts with { Sheets = [.. facts.Sheets.Select((s, i) => i == item ? cleared : s)] };
    }
}
