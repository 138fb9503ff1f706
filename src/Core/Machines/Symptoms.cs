namespace VelvetGate.Core.Machines;

/// <summary>Something people see at a machine, before anybody knows why.</summary>
/// <param name="Seen">As people say it.</param>
/// <param name="Try">What to look at or do once, first; null where nothing is tried.</param>
/// <param name="Helped">What it is called when that was all.</param>
/// <param name="Still">What it does when it is still so.</param>
/// <param name="MayDo">What a member may still do then.</param>
/// <param name="Due">The part whose upkeep is due at once.</param>
public sealed record Symptom(
    string Key,
    string Seen,
    string? Try,
    string? Helped,
    FaultStanding Still,
    IReadOnlyList<string> MayDo,
    UpkeepPart? Due = null
);

/// <summary>What follows from a symptom on one machine.</summary>
public sealed record FaultJudged(FaultStanding Standing, IReadOnlyList<string> MayDo, UpkeepPart? Due);

/// <summary>
/// Faults as people meet them: what is seen, what is tried once, and what may still be done. Source: common practice; where a symptom can
/// hide a danger, the machine stops.
/// </summary>
public static class Symptoms
{
    private const string LeaveIt = "Nothing: leave it off.";

    /// <summary>Of a smell at full airflow: a filter blows it back into the room, a duct carries it out.</summary>
    public const string Smell = "smell";

    /// <summary>Somebody’s own words.</summary>
    public const string Other = "other";

    public static IReadOnlyList<Symptom> All { get; } =
    [
        new(
            Key: "smoke",
            Seen: "Smoke or glow where none should be",
            Try: null,
            Helped: null,
            Still: FaultStanding.Stops,
            MayDo: ["Nothing: stop it, lid shut, extraction on. A flame: the emergency card."]
        ),
        new(
            Key: "cover",
            Seen: "Cover, window, lock or switch damaged or missing",
            Try: null,
            Helped: null,
            Still: FaultStanding.Stops,
            MayDo: ["Nothing: the beam could come out. Leave it off."],
            Due: UpkeepPart.Interlocks
        ),
        new(
            Key: "redSymbol",
            Seen: "Red symbol of a unit",
            Try: "Is that unit merely off? Switch it on, and wait a minute.",
            Helped: "It was merely off",
            Still: FaultStanding.Stops,
            MayDo: [LeaveIt]
        ),
        new(
            Key: "flowAlarm",
            Seen: "Flow alarm of the cooling",
            Try: "Look for a kinked line, and straighten it. Reset the alarm once, not twice.",
            Helped: "A kinked line",
            Still: FaultStanding.Stops,
            MayDo: ["Nothing: a tube without coolant cracks. Leave it off."],
            Due: UpkeepPart.Coolant
        ),
        new(
            Key: "panelWords",
            Seen: "Odd words on the panel",
            Try: "Reset. Then switch it off, count 15 seconds, and switch it on.",
            Helped: "Gone after a restart",
            Still: FaultStanding.Stops,
            MayDo: ["Write down the words.", LeaveIt]
        ),
        new(
            Key: "noAddress",
            Seen: "No address on the panel",
            Try: "Restart the cutter once, and wait until it is ready.",
            Helped: "Gone after a restart",
            Still: FaultStanding.Caution,
            MayDo: ["Send the job another way, where there is one."]
        ),
        new(
            Key: "network",
            Seen: "The computer does not find the machine",
            Try: "Look at the cable at both ends; start the program again.",
            Helped: "It is found again",
            Still: FaultStanding.Caution,
            MayDo: ["Send the job another way, where there is one."]
        ),
        new(
            Key: "edge",
            Seen: "A job near the edge is refused",
            Try: "Move the job in from the edge by the margin of the machine, and home again.",
            Helped: "It runs further in",
            Still: FaultStanding.Caution,
            MayDo: ["Keep jobs away from the edges."]
        ),
        new(
            Key: "doubleImage",
            Seen: "Double image",
            Try: null,
            Helped: null,
            Still: FaultStanding.Stops,
            MayDo: ["Nothing: a loose screw or lens sends the beam where nobody expects it."],
            Due: UpkeepPart.Lens
        ),
        new(
            Key: "scratch",
            Seen: "Lens or mirror scratched",
            Try: null,
            Helped: null,
            Still: FaultStanding.Asks,
            MayDo: ["Do not clean it again, and run nothing on your own: a scratch heats until the glass breaks."],
            Due: UpkeepPart.Lens
        ),
        new(
            Key: "notThrough",
            Seen: "Not through, or charred",
            Try: "Focus again, and cut a test piece with the settings of the library.",
            Helped: "The test piece is clean",
            Still: FaultStanding.Caution,
            MayDo: ["A test piece first; never slower to force it."],
            Due: UpkeepPart.Mirrors
        ),
        new(
            Key: Smell,
            Seen: "Smell at full airflow",
            Try: null,
            Helped: null,
            Still: FaultStanding.Stops,
            MayDo: [],
            Due: UpkeepPart.Carbon
        ),
        new(
            Key: "nozzle",
            Seen: "The nozzle meets rotary or bed",
            Try: "Lower the table, home again, and look whether it clears.",
            Helped: "It clears",
            Still: FaultStanding.Asks,
            MayDo: ["Run without the rotary, where a steward says so."],
            Due: UpkeepPart.Nozzle
        ),
        new(
            Key: "wontStart",
            Seen: "It will not start",
            Try: "Is the lid shut, the key in, the water free of kinks?",
            Helped: "It starts",
            Still: FaultStanding.Caution,
            MayDo: ["Do not try again and again: blocked or spent water is looked at first."],
            Due: UpkeepPart.Coolant
        ),
        new(
            Key: "bed",
            Seen: "Bed damaged or bent",
            Try: null,
            Helped: null,
            Still: FaultStanding.Caution,
            MayDo: ["Focus by gauge at every corner; nothing that hangs through."],
            Due: UpkeepPart.Bed
        ),
        new(
            Key: Other,
            Seen: "Something else",
            Try: "Can it hurt somebody, or the machine?",
            Helped: "No, surely not",
            Still: FaultStanding.Stops,
            MayDo: ["Nothing until somebody has looked: not sure counts as yes."]
        ),
    ];

    /// <returns>Null for none of them.</returns>
    public static Symptom? Find(string? key) => All.FirstOrDefault(s => s.Key == key);

    /// <param name="helped">What is tried first was all; where nothing is, it cannot be.</param>
    public static FaultJudged Judge(Symptom symptom, Extraction extraction, bool helped)
    {
        if (symptom.Key == Smell)
            return extraction == Extraction.Ducted
                ? new(FaultStanding.Asks, ["Open what airs the room. No stock that leaves residue."], symptom.Due)
                : new(
                    FaultStanding.Stops,
                    ["Nothing: out of the room while it smells. The carbon is changed, or a steward finds another source."],
                    symptom.Due
                );
        if (!helped || symptom.Try is null)
            return new(symptom.Still, symptom.MayDo, symptom.Due);
        return symptom.Key == Other
            ? new(FaultStanding.Caution, ["Run as usual, and look out for it."], null)
            : new(FaultStanding.None, ["Run as usual."], null);
    }
}
