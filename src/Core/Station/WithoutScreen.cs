using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>The session of a machine on paper, for a house without a screen there: the same looks and rules, to tick.</summary>
public sealed record WithoutScreen(string Machine, IReadOnlyList<PaperPart> Parts)
{
    public static WithoutScreen Of(MachineSpec machine, HouseRules rules)
    {
        var attention = Attention.Minutes(machine, rules);
        var wait = LidWait.Of(machine, rules, null, BeamLeft.Smoke);
        var hot = LidWait.Of(machine, rules, null, BeamLeft.FlameOrGlow);
        return new(
            machine.Name,
            [
                .. PlaceChecks.For(machine, null, default, default).Select(p => new PaperPart(p.Title, p.Lines)),
                new(
                    "Sheet",
                    [
                        "Its tag is the one that was booked",
                        "Thickness measured; at three places for plywood and stock brought in",
                        "No tag, or not on the list: ask a steward first",
                    ]
                ),
                new(
                    "Focus",
                    [$"On this sheet as it lies: {string.Join(", ", FocusOf(machine))}", "The gauge goes back: it stops the head"]
                ),
                new("Settings", ["Power, speed, passes as booked, for the thickness as measured"]),
                new("Frame", ["The box fits the sheet, clear of clamps and magnets", "The job is the one that was checked"]),
                new(
                    "Air",
                    [
                        $"The fan has run for {machine.ExtractionLeadSeconds} s, and draws: see the ribbon at the slot",
                        .. machine.Station?.AirAssist is null or AirAssist.None ? [] : (string[])["Air assist on before cutting"],
                        "Lid shut",
                    ]
                ),
                new(
                    "While it runs",
                    [
                        $"Somebody stays, and looks at least every {attention} min: set a kitchen timer",
                        .. RunWatch.For(machine),
                        "Flame, glow or choking smell: the machine’s own stop, then the emergency card",
                        "The building’s alarm: the machine’s own stop, lid shut, go. Do not wait for the air",
                    ]
                ),
                new(
                    "The lid",
                    [
                        wait.Seconds is { } seconds
                            ? $"Shut for {seconds} s at least after the beam, and no smoke to be seen. {wait.Why}"
                            : wait.Why,
                        hot.Seconds is { } longer ? $"After a flame or a glow, or left hot: {longer} s" : hot.Why,
                    ]
                ),
                new(
                    "After",
                    [
                        "Tap the part before you move the sheet: through, or not through",
                        "Not through and nothing moved: one extra pass, only those lines, at most half the energy",
                        "Moved, charred or broken off: a fresh piece",
                    ]
                ),
                new(
                    "Leaving",
                    [.. SessionActs.Closing.SelectMany(c => ClosingPlaces.Lines(c.Id, machine, residue: true, comesAfter: false))]
                ),
            ]
        );
    }

    private static IReadOnlyList<string> FocusOf(MachineSpec machine) =>
        machine.Station?.FocusMethods is { Count: > 0 } methods ? methods : ["gauge"];
}

public sealed record PaperPart(string Title, IReadOnlyList<string> Lines);
