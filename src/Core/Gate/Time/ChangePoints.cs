using NodaTime;

namespace VelvetGate.Core.Gating;

/// <summary>
/// The instants at which the answer for a booking of a given length can turn from shut to open: a start in between two of them, on one
/// day, is refused for the same reasons as the one before.
/// </summary>
internal static class ChangePoints
{
    /// <param name="length">Whole time at the machine: what ends or begins within it counts too.</param>
    /// <returns>In order, each once.</returns>
    public static Instant[] Of(GateQuestion ask, GateFacts facts, Duration length)
    {
        var edges = new SortedSet<Instant>();
        foreach (var span in Spans(facts))
        {
            Edge(span.Start);
            if (span.End is { } end)
                Edge(end);
        }
        foreach (var kit in Known(facts.Room.FireKit))
        {
            if (kit.InDateUntil is { } until)
                Edge(until);
        }
        foreach (var task in Known(facts.Machine.Upkeep))
        {
            if (task.OverdueFrom is { } overdue)
                Edge(overdue);
            if (task.DueFrom is { } dueFrom)
                Edge(dueFrom);
        }
        if (facts.Machine.Measured is { } measured)
        {
            foreach (var read in new[] { measured.CoolantAt, measured.RoomAt }.OfType<Instant>())
                Edge(read + MeasuredFacts.TemperatureFor);
        }
        Edge(facts.Room.RotaUntil);
        if (facts.Machine.Fixture?.Out is { End: { } due })
        {
            Edge(due);
            Edge(facts.Now + Duration.FromHours(24));
        }
        // A bench follows the run, or comes before it ends.
        if (ask.Bench is { } bench)
        {
            foreach (var held in facts.Time.Benches ?? [])
            {
                Edge(held.Held.Start - Duration.FromMinutes(bench.Minutes ?? facts.Rules.BenchMinutes));
                if (held.Held.End is { } end)
                    Edge(end);
            }
            if (bench.Start is { } start)
                Edge(start);
        }
        Edge(facts.Now + House.HouseRules.WalkUpWithin);
        Edge(facts.Now + Duration.FromMinutes(facts.Rules.BookLeadMinutes));
        return [.. edges];

        void Edge(Instant at)
        {
            edges.Add(at);
            // Spans of always begin before time itself can be counted back from.
            if (at - Instant.MinValue > length)
                edges.Add(at - length);
        }
    }

    private static IReadOnlyList<T> Known<T>(Fact<IReadOnlyList<T>> fact) => fact.IsKnown ? fact.Value : [];

    private static IEnumerable<Span> Spans(GateFacts facts)
    {
        var (person, training, machine, time, room) = (facts.Person, facts.Training, facts.Machine, facts.Time, facts.Room);
        IEnumerable<Span>[] all =
        [
            Known(person.Active),
            Known(person.Agreement),
            Known(person.Pauses),
            Known(person.Attending),
            person.Duties ?? [],
            (person.Consents ?? []).Select(c => c.Held),
            Known(training.Certificates).Select(c => c.Held),
            training.SupervisorTrains,
            training.SupervisorCertified,
            training.SupervisorBusy,
            training.SupervisorTeaches ?? [],
            training.SupervisorRuns ?? [],
            (training.Holds ?? []).Select(h => h.Held),
            facts.Sheets.SelectMany(OfSheet),
            Known(machine.Stops),
            (machine.IncidentStops ?? []).Select(h => h.Held),
            machine.LookAsked ?? [],
            Known(time.MachineTaken),
            Known(time.FixtureTaken),
            Known(time.PersonBooked),
            (time.Closures ?? []).Select(c => c.During),
            (time.Classes ?? []).SelectMany(c => c.Running.Append(c.During)),
            Known(room.OnDuty),
            (room.Shut ?? []).Select(h => h.Held),
            (facts.Lifts ?? []).Select(l => l.Window),
            (facts.Settings ?? []).Select(s => s.Held),
        ];
        return all.SelectMany(s => s);
    }

    private static IEnumerable<Span> OfSheet(SheetFacts sheet)
    {
        var held = Known(sheet.Rulings).Select(r => r.Held).Concat((sheet.UnderReview ?? []).Select(h => h.Held));
        return sheet.Tag is { IsKnown: true, Value: { } tag }
            ? held.Concat(tag.Cleared.Select(c => c.Held)).Concat(tag.Quarantined).Concat((tag.IncidentHolds ?? []).Select(h => h.Held))
            : held;
    }
}
