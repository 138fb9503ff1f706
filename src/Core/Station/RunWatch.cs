using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>What somebody who stays watches for while the beam is on. Source: common practice.</summary>
public static class RunWatch
{
    public static IReadOnlyList<string> For(MachineSpec machine) =>
        [
            Stop(machine) is { } stop
                ? $"A hand near its own stop while the first lines appear: {stop}"
                : "A hand near its own stop while the first lines appear",
            "Usual: smoke that is drawn off, sparks, a brief flare",
            "Not usual: a flame or a glow that stays, much smoke, an odd smell. Stop",
            "A piece that shifts into the head’s way, or the same line cut again: stop",
            "Watch the work and the head. Do not stare at the beam, nor at shiny work",
        ];

    private static string? Stop(MachineSpec machine) =>
        machine.Station?.StopDevices.FirstOrDefault(s => s.CutsTube && !s.OpensLid) is { } stop ? $"{stop.Name}, {stop.Where}" : null;
}
