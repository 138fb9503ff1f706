namespace VelvetGate.Core.Incidents;

/// <summary>What is held until somebody has looked.</summary>
public enum HoldKind
{
    /// <summary>The machine stays out of service until its list has been gone through.</summary>
    Machine,

    /// <summary>Nobody runs in the room until it is aired.</summary>
    Room,

    /// <summary>The sheet, the pieces cut from it, and what came with it.</summary>
    Sheets,

    /// <summary>What the house says of the material looked at again.</summary>
    Ruling,

    /// <summary>Lens and mirrors are looked at: what was never to be cut leaves films that eat them.</summary>
    Optics,

    /// <summary>A word about conduct, by the house's rule.</summary>
    Conduct,
}

/// <summary>One hold that an incident speaks for.</summary>
/// <param name="Target">The machine, the tag, the material or the person; <c>room</c> for the room.</param>
/// <param name="AtOnce">It is set as the incident is told, and not proposed.</param>
public sealed record ProposedHold(HoldKind Kind, string Target, string Reason, bool AtOnce);

/// <summary>What the holds are proposed from.</summary>
/// <param name="NeverStock">The material is one that no house allows.</param>
/// <param name="Person">Who ran it.</param>
public sealed record HoldFacts(
    Mishap What,
    Severity Severity,
    MachineId? MachineId,
    SheetTag? Tag,
    MaterialId? MaterialId,
    bool NeverStock,
    PersonId? Person
);

/// <summary>
/// Which holds follow from an incident. A flame and a failed interlock stop the machine, a choking smell shuts the room and holds the
/// sheet, as soon as they are told; the others are proposed with their reason and set with one press. Telling is never held against
/// anybody: only stock that no house allows leads to a word about conduct. Source: common practice.
/// </summary>
public static class IncidentHolds
{
    public const string Room = "room";

    public static IReadOnlyList<ProposedHold> Propose(HoldFacts facts)
    {
        var found = new List<ProposedHold>();
        void Add(HoldKind kind, string? target, string reason, bool atOnce = false)
        {
            if (target is not null && !found.Any(f => f.Kind == kind && f.Target == target))
                found.Add(new ProposedHold(kind, target, reason, atOnce));
        }

        var machine = facts.MachineId?.Value;
        if (Mishaps.StopsAtOnce(facts.What))
            Add(
                HoldKind.Machine,
                machine,
                facts.What == Mishap.InterlockFailed
                    ? "With a failed interlock it counts as class 4 until it is verified: a house for closed machines keeps it shut."
                    : "A flame or embers: until a steward has gone through its list.",
                atOnce: true
            );
        if (Mishaps.ShutsTheRoom(facts.What))
        {
            Add(HoldKind.Room, Room, "A choking smell: shut until it is aired and a steward says so.", atOnce: true);
            Add(HoldKind.Sheets, facts.Tag?.Value, "A choking smell: the sheet, its pieces and what came with it.", atOnce: true);
        }
        if (facts.NeverStock)
        {
            Add(HoldKind.Machine, machine, "Stock that is never allowed was in it: it is cleaned and looked at first.");
            Add(HoldKind.Sheets, facts.Tag?.Value, "Stock that is never allowed: the sheet, its pieces and what came with it.");
            Add(HoldKind.Optics, machine, "Its fume eats lenses, mirrors and rails: look at all of them.");
            Add(HoldKind.Conduct, facts.Person?.Value, "By the house’s rule on stock that is never allowed.");
        }
        if (facts.Severity >= Severity.DoctorOrFireService)
        {
            Add(HoldKind.Machine, machine, "Somebody was hurt, or the fire service put it out: until it is understood.");
            Add(HoldKind.Ruling, facts.MaterialId?.Value, "What the house says of this material, and its settings, are looked at again.");
        }
        if (facts.What == Mishap.HeadHit)
            Add(HoldKind.Machine, machine, "The laser head hit something: belt, rails and alignment are looked at first.");
        return found;
    }

    /// <summary>What it is, whether proposed, standing or ended.</summary>
    /// <param name="target">As people call it.</param>
    public static string Title(HoldKind kind, string target) =>
        kind switch
        {
            HoldKind.Machine => $"{target} out of service",
            HoldKind.Room => "The room shut",
            HoldKind.Sheets => $"Sheet {target} and its batch held",
            HoldKind.Ruling => $"The ruling on {target} looked at again",
            HoldKind.Optics => $"Optics of {target} looked at",
            _ => $"A word with {target}",
        };

    /// <summary>The words of the press that sets it.</summary>
    public static string Press(HoldKind kind, string target) =>
        kind switch
        {
            HoldKind.Machine => $"Stop {target}",
            HoldKind.Room => "Shut the room",
            HoldKind.Sheets => "Hold sheet and batch",
            HoldKind.Ruling => "Put the ruling under review",
            HoldKind.Optics => $"Stop {target} for its optics",
            _ => "Add the conduct entry",
        };

    /// <summary>What is gone through before a machine comes back after a flame. House practice.</summary>
    public static IReadOnlyList<(string Code, string Words)> MachineList { get; } =
    [
        ("bed", "Bed: no residue, flat, not burnt"),
        ("lens", "Lens and mirrors: clean, no cracks"),
        ("belt", "Belts and rails: run free, not singed"),
        ("hoses", "Hoses of air and water: whole"),
        ("wiring", "Wiring: no burnt cover"),
        ("filter", "Filter: opened cold, no ember"),
        ("duct", "Duct and outlet: clean, no ember"),
    ];

    /// <returns>Null when this person may end the hold now.</returns>
    public static Refusal? MayEnd(HoldKind kind, HoldEnder by, string? reason)
    {
        if (!by.Steward && !(by.Deputy && kind == HoldKind.Machine))
            return IncidentsProblems.HoldNotYours.Refuse();
        if (by.RanIt)
            return IncidentsProblems.Self.Refuse();
        if (by.WatchRuns && kind is HoldKind.Machine or HoldKind.Optics)
            return IncidentsProblems.WatchRunning.Refuse();
        if (kind == HoldKind.Machine && MachineList.FirstOrDefault(l => !by.Ticked.Contains(l.Code)) is { Code: not null } missing)
            return IncidentsProblems.HoldList.Refuse("checks", missing.Words);
        return WrittenReason.Wrong(reason);
    }
}

/// <summary>Whoever ends a hold, and what they have gone through.</summary>
/// <param name="Deputy">Not a steward, but holds the repair role for the machine today: the house’s dated deputy.</param>
/// <param name="RanIt">They ran it: somebody else says that all is well again.</param>
/// <param name="WatchRuns">The fire watch has looks to come.</param>
/// <param name="Ticked">Codes of the list; only a machine has one.</param>
public sealed record HoldEnder(bool Steward, bool Deputy, bool RanIt, bool WatchRuns, IReadOnlyCollection<string> Ticked);
