using VelvetGate.Core.House;
using VelvetGate.Core.People;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Account open, agreement current, not paused, not attending elsewhere, old enough.</summary>
internal static class PersonPost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Person, ask.Phase);
        var person = facts.Person;
        var name = person.Name;
        if (
            !person.Active.IsKnown
            || !person.Agreement.IsKnown
            || !person.Pauses.IsKnown
            || !person.Attending.IsKnown
            || !person.AgeYears.IsKnown
        )
            post.Add(
                Codes.PersonUnknown,
                $"Something about {name} is not known.",
                remedy: Remedies.HouseLook.Says("A keeper completes the account.")
            );
        if (person.Active.IsKnown && !Span.Cover(person.Active.Value, ask.Start, ask.End))
            post.Add(
                Codes.PersonInactive,
                $"{name}’s account is not open for the whole time.",
                remedy: Remedies.PersonOpen.Says("A keeper opens or extends the account.")
            );
        if (person.Agreement.IsKnown && !Span.Cover(person.Agreement.Value, ask.Start, ask.End))
            post.Add(
                Codes.PersonAgreement,
                $"{name} has not signed the current house agreement.",
                remedy: Remedies.PersonSign.Says("Read and sign the house agreement.")
            );
        ReadPauses(ask, facts, post);
        ReadAttending(ask, facts, post);
        ReadDuties(ask, facts, post);
        if (person.AgeYears is { IsKnown: true, Value: { } age })
            ReadAge(ask, facts, post, age);
        return post.Done(
            ("account open", person.Active.IsKnown && !post.Has(Codes.PersonInactive)),
            ("agreement signed", person.Agreement.IsKnown && !post.Has(Codes.PersonAgreement))
        );
    }

    private static void ReadPauses(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (!facts.Person.Pauses.IsKnown)
            return;
        foreach (var pause in facts.Person.Pauses.Value.Where(p => p.Overlaps(ask.Start, ask.End)))
        {
            var until = pause.End is { } end ? $" until {HouseDates.Moment(end, facts.Rules)}" : "";
            post.Add(
                Codes.PersonPaused,
                $"{facts.Person.Name} is paused{until}.",
                remedy: Remedies.PersonRelease.Says("Talk to the steward who set the pause.")
            );
        }
    }

    private static void ReadAttending(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (!facts.Person.Attending.IsKnown)
            return;
        foreach (var other in facts.Person.Attending.Value.Where(a => a.Overlaps(ask.Start, ask.End)))
            post.Add(
                Codes.PersonElsewhere,
                $"{facts.Person.Name} already attends a booking from {HouseDates.Moment(other.Start, facts.Rules)}.",
                remedy: Remedies.TimeOther.Says("Choose another time, or cancel the other booking.")
            );
    }

    private static void ReadDuties(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        foreach (var duty in (facts.Person.Duties ?? []).Where(d => d.Overlaps(ask.Start, ask.End)))
            post.Add(
                Codes.PersonElsewhere,
                $"{facts.Person.Name} teaches or supervises from {HouseDates.Moment(duty.Start, facts.Rules)}.",
                remedy: Remedies.TimeOther.Says("Choose another time.")
            );
    }

    private static void ReadAge(GateQuestion ask, GateFacts facts, PostWriter post, int age)
    {
        var rules = facts.Rules;
        if (rules.GuardianConsent && age < Ages.Adult)
        {
            var consents = (facts.Person.Consents ?? [])
                .Where(c => c.MachineIds.Count == 0 || c.MachineIds.Contains(ask.MachineId))
                .Select(c => c.Held);
            if (!Span.Cover(consents, ask.Start, ask.End))
                post.Add(
                    Codes.PersonNoConsent,
                    $"No guardian’s consent covers {facts.Machine.Spec.Name} for the whole time.",
                    remedy: Remedies.PersonConsent.Says("A keeper records the guardian’s dated consent.")
                );
        }
        if (age < rules.AttendFromAge)
        {
            post.Add(Codes.PersonTooYoung, $"This house lets people attend from {rules.AttendFromAge}.");
        }
        else if (age < rules.AloneFromAge)
        {
            if (ask.SupervisorId is null)
                post.Add(
                    Codes.PersonUnderAge,
                    $"Under {rules.AloneFromAge} nobody runs a laser alone here.",
                    remedy: Remedies.TrainingSupervisor.Says("Book a certified adult as supervisor.")
                );
            else
                post.Add(Codes.PersonWithAdult, "Runs only with the booked supervisor beside the machine.");
        }
    }
}
