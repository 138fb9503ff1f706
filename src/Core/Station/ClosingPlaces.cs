using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>How a machine is left, by the place one stands. Source: common practice.</summary>
public static class ClosingPlaces
{
    /// <param name="id">bed, head or fan.</param>
    /// <param name="residue">What was cut leaves residue on the optics.</param>
    /// <param name="comesAfter">Somebody has the machine later today.</param>
    public static IReadOnlyList<string> Lines(string id, MachineSpec machine, bool residue, bool comesAfter) =>
        id switch
        {
            "bed" =>
            [
                "Scraps to the bin, every small bit; a lid on it where there is one",
                "Bed out and brushed, the floor below it too; on its rails before the hatch is shut",
            ],
            SessionActs.Overnight =>
            [
                "Nozzle clean",
                .. residue ? (string[])["After this stock the lens and its holder too: look, puff or dab, never rub"] : [],
                "Gauge and tools back where they live, fixture too; the offcut keeps its tag",
                "Head home, lid shut",
            ],
            _ =>
            [
                "Stick out, and log off: the computer keeps the last person’s sign-in",
                .. comesAfter ? (string[])[LeftOn.ForTheNext] : Off(machine),
            ],
        };

    private static IEnumerable<string> Off(MachineSpec machine) =>
        machine.Station?.SwitchOff is { Count: > 0 } steps
            ?
            [
                "Nobody comes after you today. Off, in this order:",
                .. steps.Select((s, i) => $"{i + 1}. {s.What}{(s.Where.Length > 0 ? $": {s.Where}" : "")}"),
            ]
            : [LeftOn.Nothing];
}
