using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>In service, upkeep not overdue, fixture there, cooling and airflow in range.</summary>
internal static class MachinePost
{
    public static PostReading Read(Ask ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Machine, ask.Phase);
        var machine = facts.Machine;
        var name = machine.Spec.Name;
        if (!machine.Stops.IsKnown || !machine.Upkeep.IsKnown)
            post.Add(Codes.MachineUnknown, $"The standing of {name} is not known.", remedy: new("house.look", "Look again, or ask a steward."));
        if (machine.Stops.IsKnown && machine.Stops.Value.Any(s => s.Overlaps(ask.Start, ask.End)))
            post.Add(Codes.MachineStopped, $"{name} is stopped.", remedy: new("machine.return", "A steward returns it to service."));
        if (facts.Rules.ClosedMachinesOnly && machine.Spec.BeamCanReachPeople)
            post.Add(Codes.MachineNotClosed, $"{name} runs as class {machine.Spec.LaserClass}: this house runs closed machines only.", remedy: new("machine.close", "Close it, verify the interlock, and write the class down with its evidence."));
        if (machine.Upkeep.IsKnown)
        {
            foreach (var task in machine.Upkeep.Value.Where(u => u.OverdueFrom < ask.End))
                post.Add(Codes.MachineUpkeepOverdue, $"{task.Task} on {name} is overdue since {Say.Day(task.OverdueFrom, facts.Rules)}.", remedy: new("upkeep.log", "Whoever may service it logs the upkeep."));
        }
        if (ask.Fixture is { } fixture && !machine.FixturesHere.Contains(fixture))
            post.Add(Codes.MachineFixture, $"{name} has no {fixture} here.", remedy: new("machine.other", "Choose another machine or fixture."));
        ReadReadings(machine, post);
        return post.Done(machine.Spec.Kind == LaserKind.Co2 ? $"{machine.Spec.PowerW:0} W CO2, in service" : $"{machine.Spec.PowerW:0} W {machine.Spec.Kind.ToString().ToLowerInvariant()}, in service");
    }

    private static void ReadReadings(MachineFacts machine, PostWriter post)
    {
        if (machine.Readings is { IsKnown: true, Value: true }) return;
        var what = machine.Spec.WaterCooled ? "coolant and airflow" : "airflow";
        var text = machine.Readings.IsKnown ? $"The {what} of {machine.Spec.Name} is out of range." : $"Read {what} at {machine.Spec.Name} before starting.";
        post.Add(Codes.MachineReadings, text, remedy: new("machine.read", "Read the gauges at the machine."));
    }
}
