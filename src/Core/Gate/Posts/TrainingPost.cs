using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>A valid certificate for this machine and each add-on over the whole time, not lapsed by date or idleness.</summary>
internal static class TrainingPost
{
    /// <summary>What facts of before version 4 knew of add-ons: rotary alone.</summary>
    private const string RotaryAlone = Fixtures.Rotary;

    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Training, ask.Phase);
        if (!facts.Training.Certificates.IsKnown || !facts.Training.LastUse.IsKnown)
        {
            post.Add(
                Codes.TrainingUnknown,
                "The certificates are not known.",
                remedy: Remedies.HouseLook.Says("Look again, or ask a steward.")
            );
            return post.Done("Not known");
        }
        var supervised =
            ask.SupervisorId is not null
            && Span.Cover(facts.Training.SupervisorTrains, ask.Start, ask.End)
            && !facts.Training.SupervisorBusy.Any(b => b.Overlaps(ask.Start, ask.End))
            && (
                InOwnClass(ask, facts)
                || Span.MostAtOnce(facts.Training.SupervisorRuns ?? [], ask.Start, ask.End) < facts.Rules.MachinesPerAdult
            )
            && (InOwnClass(ask, facts) || !(facts.Training.SupervisorTeaches ?? []).Any(b => b.Overlaps(ask.Start, ask.End)));
        foreach (var authority in Needed(ask, facts))
        {
            ReadAuthority(ask, facts, post, authority, supervised);
            ReadHolds(ask, facts, post, authority, supervised);
        }
        if (!supervised)
            ReadTheory(ask, facts, post);
        return post.Done(FactOf(ask, facts));
    }

    /// <summary>Authorities an ask needs: the machine, and each add-on.</summary>
    public static IEnumerable<string> Needed(GateQuestion ask, GateFacts facts) =>
        NeededAuthorities.Of(
            ask,
            facts.Training.AddOns is { } addOns
                ? addOns.Select(a => (a.Authority, a.Need))
                : [($"{ask.MachineId}/{RotaryAlone}", new AddOnNeed(RotaryAlone))]
        );

    private static void ReadHolds(GateQuestion ask, GateFacts facts, PostWriter post, string authority, bool supervised)
    {
        foreach (
            var hold in (facts.Training.Holds ?? [])
                .Where(h => h.Authority == authority && h.Held.Overlaps(ask.Start, ask.End))
                .DistinctBy(h => h.Kind)
        )
        {
            // Where supervised runs are the condition, they stay possible.
            if (supervised && hold.Conditions is { SupervisedRuns: > 0 })
                post.Add(
                    Codes.TrainingSupervised,
                    $"A supervised run on {What(authority, ask, facts)}, towards its reinstatement: the supervisor stays throughout."
                );
            else if (hold.Kind == CertificateHoldKind.Suspended)
                post.Add(
                    Codes.TrainingSuspended,
                    $"The certificate for {What(authority, ask, facts)} is suspended.",
                    remedy: Remedies.TrainingReinstate.Says("A steward reinstates it when its conditions are met.")
                );
            else
                post.Add(
                    Codes.TrainingReview,
                    $"The certificate for {What(authority, ask, facts)} is under review.",
                    remedy: Remedies.TrainingReview.Says("A steward looks at it, or lets this run go ahead once.")
                );
        }
    }

    /// <summary>What is owed counts up to its day, over the whole time of the run.</summary>
    private static void ReadTheory(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var needed = Needed(ask, facts).ToList();
        var owed = (facts.Training.Owed ?? []).Where(o => needed.Contains(o.Authority)).DistinctBy(o => o.ModuleId).ToList();
        var over = owed.Where(o => o.CountsUntil < ask.End).ToList();
        var ahead = owed.Except(over).ToList();
        if (over.Count > 0)
            post.Add(
                Codes.TrainingUnread,
                $"To be done first: {Titles(over)}.",
                remedy: Remedies.TrainingRead.Says($"{facts.Person.Name} reads, answers or shows it again.")
            );
        else if (ahead.Count > 0)
            post.Add(
                Codes.TrainingReadBy,
                $"{Titles(ahead)}: to be done by {HouseDates.LastDay(ahead.Min(o => o.CountsUntil), facts.Rules)}."
            );

        static string Titles(IEnumerable<OwedTheory> owed) => string.Join(", ", owed.Select(o => o.Title));
    }

    private static string What(string authority, GateQuestion ask, GateFacts facts)
    {
        var machine = facts.Machine.Spec.Name;
        if (authority == ask.MachineId)
            return machine;
        var name = facts.Training.AddOns?.FirstOrDefault(a => a.Authority == authority)?.Name ?? authority.Split('/')[1];
        return $"{machine} with {name.ToLowerInvariant()}";
    }

    private static void ReadAuthority(GateQuestion ask, GateFacts facts, PostWriter post, string authority, bool supervised)
    {
        var held = facts.Training.Certificates.Value.Where(c => c.Authority == authority).ToList();
        var machine = facts.Machine.Spec.Name;
        var what = What(authority, ask, facts);
        var sign = Remedies.TrainingSignOff.Says($"A trainer for {machine} signs {facts.Person.Name} off for {what}.");
        var covered = Span.Cover(held.Select(c => c.Held), ask.Start, ask.End);
        if (covered && !Idle(ask, facts))
        {
            if (!Span.Cover(held.Where(c => c.Confirmed).Select(c => c.Held), ask.Start, ask.End))
                post.Add(
                    Codes.TrainingFounding,
                    $"The certificate for {what} is a founding one that nobody has confirmed yet.",
                    remedy: Remedies.TrainingConfirm.Says("A steward or the countersigner looks at the evidence and confirms it.")
                );
            return;
        }
        if (supervised)
        {
            post.Add(Codes.TrainingSupervised, $"A supervised run on {what}: the supervisor stays throughout.");
        }
        else if (held.Count == 0)
        {
            var rule = authority == ask.MachineId ? Codes.TrainingNone : Codes.TrainingAddOn;
            post.Add(rule, $"{facts.Person.Name} holds no certificate for {what}.", remedy: sign);
        }
        else if (!covered)
        {
            var end = held.Max(c => c.Held.End ?? Instant.MaxValue);
            var when =
                end == Instant.MaxValue ? "starts later"
                : end <= ask.Start ? $"ended, its last day was {HouseDates.LastDay(end, facts.Rules)}"
                : $"ends {HouseDates.Moment(end, facts.Rules)}, within this time";
            post.Add(Codes.TrainingLapsed, $"The certificate for {what} {when}.", remedy: sign);
        }
        else
        {
            post.Add(
                Codes.TrainingIdle,
                $"Nothing run on {machine} for more than {facts.Rules.IdleLapseDays} days.",
                remedy: Remedies.TrainingSupervisor.Says("One supervised run renews it.")
            );
        }
    }

    /// <summary>True when the booked supervisor teaches the very class this run is part of.</summary>
    private static bool InOwnClass(GateQuestion ask, GateFacts facts) =>
        (facts.Time.Classes ?? []).Any(c =>
            c.OnRoster && c.AdultId == ask.SupervisorId && c.During.Start <= ask.Start && c.During.End >= ask.End
        );

    private static bool Idle(GateQuestion ask, GateFacts facts) =>
        facts.Training.LastUse.Value is { } last
        && Idleness.LapsesAt(last, StoodStill(facts.Machine), facts.Rules.IdleLapseDays) is { } lapses
        && ask.Start > lapses;

    private static IEnumerable<Span> StoodStill(MachineFacts machine) =>
        [.. machine.Stops.IsKnown ? machine.Stops.Value : [], .. machine.LongClosures ?? []];

    private static string FactOf(GateQuestion ask, GateFacts facts)
    {
        var own = facts.Training.Certificates.Value.Where(c => c.Authority == ask.MachineId && c.Held.Holds(ask.Start)).ToList();
        if (own.Count == 0)
            return "No certificate for this machine";
        return own.Max(c => c.Held.End) is { } end ? $"Certificate to {HouseDates.LastDay(end, facts.Rules)}" : "Certificate without end";
    }
}
