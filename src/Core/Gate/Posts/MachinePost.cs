using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>In service, upkeep not overdue, fixture there, cooling and airflow in range.</summary>
internal static class MachinePost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Machine, ask.Phase);
        var machine = facts.Machine;
        var name = machine.Spec.Name;
        if (!machine.Stops.IsKnown || !machine.Upkeep.IsKnown)
            post.Add(
                Codes.MachineUnknown,
                $"The standing of {name} is not known.",
                remedy: Remedies.HouseLook.Says("Look again, or ask a steward.")
            );
        if (!machine.Spec.IsHere(ask.Start, ask.End, facts.Rules.Clock))
            post.Add(
                Codes.MachineNotHere,
                $"{name} is in this house {Stay(machine.Spec)} only.",
                remedy: Remedies.MachineOther.Says("Choose another machine, or a time when it is here.")
            );
        var incidents = machine.IncidentStops ?? [];
        if (incidents.FirstOrDefault(s => s.Held.Overlaps(ask.Start, ask.End)) is { } incident)
            post.Add(
                Codes.HoldIncident,
                $"{name} is out of service after incident {incident.Number}.",
                remedy: Remedies.IncidentEnd.Says("A steward goes through its list, then ends the hold.")
            );
        ReadFaults(ask, facts, post);
        var faults = (machine.Faults ?? []).Where(f => f.Standing == FaultStanding.Stops).ToList();
        if (
            machine.Stops.IsKnown
            && machine.Stops.Value.Any(s =>
                s.Overlaps(ask.Start, ask.End) && incidents.All(i => i.Held != s) && faults.TrueForAll(f => f.Held != s)
            )
        )
            post.Add(
                Codes.MachineStopped,
                $"{name} is stopped.",
                remedy: Remedies.MachineReturn.Says("Whoever may, puts it right and returns it to service.")
            );
        if (facts.Rules.ClosedMachinesOnly && machine.Spec.BeamCanReachPeople)
            post.Add(
                Codes.MachineNotClosed,
                $"{name} runs as class {machine.Spec.LaserClass}: this house runs closed machines only.",
                remedy: Remedies.MachineClose.Says("Close it, verify the interlock, and write the class down with its evidence.")
            );
        SetUpReading.Read(ask, facts, post);
        ReadUpkeep(ask, facts, post);
        if (ask.Fixture is { } fixture && !machine.FixturesHere.Contains(fixture))
            post.Add(
                Codes.MachineFixture,
                $"{name} has no {fixture} here.",
                remedy: Remedies.MachineOther.Says("Choose another machine or fixture.")
            );
        ReadFixture(ask, facts, post);
        if (machine.LookAsked?.Any(s => s.Overlaps(ask.Start, ask.End)) == true)
            post.Add(
                Codes.MachineLook,
                $"Somebody told of fire or smoke at {name}, without a name: look at bed, lens, filter and duct before the first start.",
                remedy: Remedies.IncidentLook.Says("A steward looks, and writes it down.")
            );
        ReadDescription(machine.Spec, post);
        ReadReadings(machine, ask.Phase, post);
        ReadMeasured(ask, facts, post);
        var kind = machine.Spec.Kind == LaserKind.Co2 ? "CO2" : machine.Spec.Kind.ToString().ToLowerInvariant();
        return post.Done(
            ($"{machine.Spec.PowerW:0} W {kind}", true),
            (
                "in service",
                machine.Stops.IsKnown
                    && !post.Has(Codes.MachineStopped)
                    && !post.Has(Codes.HoldIncident)
                    && !post.Has(Codes.FaultStops)
                    && !post.Has(Codes.MachineNotHere)
            ),
            ("usual checks at the machine", IsRoutine(machine, ask.Phase))
        );
    }

    private static void ReadUpkeep(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (!facts.Machine.Upkeep.IsKnown)
            return;
        foreach (var task in facts.Machine.Upkeep.Value)
        {
            var what = $"{task.Task} on {facts.Machine.Spec.Name} is";
            if (task.OverdueFrom is { } overdue && overdue < ask.End)
                post.Add(
                    Codes.MachineUpkeepOverdue,
                    $"{what} overdue since {HouseDates.Day(overdue, facts.Rules)}.",
                    remedy: Remedies.UpkeepLog.Says("Somebody who may does the upkeep, and writes it down.")
                );
            else if (task.DueFrom is { } due && due < ask.End)
                post.Add(
                    Codes.UpkeepDue,
                    $"{what} due since {HouseDates.Day(due, facts.Rules)}.",
                    remedy: Remedies.UpkeepLog.Says("Somebody who may does the upkeep, and writes it down.")
                );
        }
    }

    private static void ReadFaults(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        foreach (var fault in (facts.Machine.Faults ?? []).Where(f => f.Held.Overlaps(ask.Start, ask.End)))
        {
            var (code, remedy) = fault.Standing switch
            {
                FaultStanding.Stops => (
                    Codes.FaultStops,
                    Remedies.MachineReturn.Says("Whoever may return the machine puts it right, tries it, and returns it to service.")
                ),
                FaultStanding.Asks => (Codes.FaultAsks, Remedies.FaultClose.Says("A steward decides, or has it put right.")),
                FaultStanding.Caution => (Codes.FaultOpen, Remedies.FaultClose.Says("A repairer or steward looks at it, and closes it.")),
                _ => (null, null),
            };
            if (code is not null)
                post.Add(
                    code,
                    $"Told of {facts.Machine.Spec.Name}: {Lower(fault.Seen)} (fault {fault.Number}). " + string.Join(" ", fault.MayDo),
                    remedy: remedy
                );
        }
    }

    private static string Lower(string words) => words.Length == 0 ? "" : char.ToLowerInvariant(words[0]) + words[1..];

    /// <summary>
    /// A controller says what is so now. Without one, what was last read counts: what nobody has read since is no better for that.
    /// </summary>
    private static void ReadMeasured(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var machine = facts.Machine;
        if (machine.Live is { } live)
        {
            foreach (var reading in ReadingRules.Of(machine.Spec, live))
                if (reading.Code is { } code)
                    post.Add(
                        Codes.Of(code),
                        reading.Says,
                        remedy: Remedies.MachineRead.Says("Put it right at the machine, then look again.")
                    );
        }
        else if (machine.Measured is { } measured)
        {
            foreach (var reading in ReadingRules.Known(machine.Spec, measured.At(ask.Start)))
                post.Add(
                    Codes.Of(reading.Code!),
                    $"{reading.Says} Read on {HouseDates.Moment(reading.What == "Airflow" ? measured.AirflowAt!.Value
                        : reading.What == "Coolant" ? measured.CoolantAt!.Value
                        : measured.RoomAt!.Value, facts.Rules)}.",
                    remedy: Remedies.ReadingLog.Says("Somebody puts it right, reads it again, and writes the new reading down.")
                );
        }
    }

    /// <summary>What nobody wrote down about the machine is never taken for good.</summary>
    private static string Stay(MachineSpec spec) =>
        (spec.HereFrom, spec.HereUntil) switch
        {
            ({ } from, { } last) => $"from {HouseDates.Day(from)} to {new LastDay(last)}",
            ({ } from, null) => $"from {HouseDates.Day(from)}",
            (null, { } last) => $"to {new LastDay(last)}",
            _ => "always",
        };

    /// <summary>So long before it is wanted, a fixture that is not back is somebody’s to fetch.</summary>
    private static readonly Duration FetchWithin = Duration.FromHours(24);

    private static void ReadFixture(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (ask.Fixture is not { } fixture)
            return;
        if (fixture == Fixtures.CuttingGrid && ask.Items.All(i => i.Operations.Count > 0 && !i.Operations.Contains(Operation.Cut)))
            post.Add(
                Codes.FixtureCutOnly,
                "The cutting grid is for jobs that cut, and this one does not.",
                remedy: Remedies.MachineOther.Says("Leave the grid to those who cut.")
            );
        if (facts.Machine.Fixture is not { Mine: false } there)
            return;
        var rules = facts.Rules;
        if (there.DamagedSince is { } since)
            post.Add(
                Codes.FixtureOut,
                $"The {fixture} came back damaged on {HouseDates.Day(since, rules)}, and nobody has put it right.",
                remedy: Remedies.FixtureBack.Says("A steward looks at it, and writes down that it is in order.")
            );
        if (there.Out is not { End: { } due })
            return;
        if (due > facts.Now && ask.Start < due)
            post.Add(
                Codes.FixtureOut,
                $"The {fixture} is handed out until {HouseDates.Moment(due, rules)}.",
                remedy: Remedies.TimeOther.Says($"Choose a start from {HouseDates.Moment(due, rules)} on.")
            );
        else if (due <= facts.Now && ask.Start < facts.Now + FetchWithin)
            post.Add(
                Codes.FixtureOverdue,
                $"The {fixture} was due back on {HouseDates.Moment(due, rules)} and is not.",
                remedy: Remedies.FixtureBack.Says("A steward fetches it, and writes down that it is back.")
            );
    }

    private static void ReadDescription(MachineSpec spec, PostWriter post)
    {
        if (spec.AirflowM3PerHour <= 0 || spec.EnclosureM3 <= 0)
            post.Add(
                Codes.MachineAirflow,
                $"The airflow of {spec.Name} was never measured: how long the lid has to stay shut is not known.",
                remedy: Remedies.MachineMeasure.Says($"A keeper writes the measured airflow on the form of {spec.Name}.")
            );
        // A beam that counts as open needs no proof of its enclosure.
        if (!spec.BeamCanReachPeople && spec.Station?.EnclosureKind is null)
            post.Add(
                Codes.MachineEnclosure,
                $"Nobody has said how {spec.Name} is enclosed: class {spec.LaserClass} is not shown.",
                remedy: Remedies.MachineDescribe.Says($"A keeper chooses the enclosure on the form of {spec.Name}.")
            );
    }

    /// <summary>Gauges can only be read at the machine: before, that is so for every booking and says nothing.</summary>
    private static bool IsRoutine(MachineFacts machine, Phase phase) =>
        phase != Phase.AtMachine && machine.Readings.Knowledge == Knowledge.OnlyAtMachine;

    private static void ReadReadings(MachineFacts machine, Phase phase, PostWriter post)
    {
        if (machine.Readings is { IsKnown: true, Value: true } || IsRoutine(machine, phase))
            return;
        var what = machine.Spec.WaterCooled ? "coolant and airflow" : "airflow";
        var text = machine.Readings.IsKnown
            ? $"The {what} of {machine.Spec.Name} is out of range."
            : $"Read {what} at {machine.Spec.Name} before starting.";
        post.Add(Codes.MachineReadings, text, remedy: Remedies.MachineRead.Says("Read the gauges at the machine."));
    }
}
