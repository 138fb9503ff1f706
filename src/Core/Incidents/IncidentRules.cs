using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Incidents;

/// <summary>What somebody tells of an incident.</summary>
/// <param name="MachineId">Null for the room.</param>
/// <param name="Seen">What was seen, in the teller’s words.</param>
/// <param name="Cost">In the money of the house.</param>
/// <param name="FireService">It was called to be safe: that alone raises nothing.</param>
/// <param name="Marked">Anything burnt, marked or scrapped.</param>
public sealed record ToldIncident(
    MachineId? MachineId,
    Instant At,
    Mishap What,
    Severity Severity,
    Guid? RunId,
    string Seen,
    string? Damage,
    decimal? Cost,
    bool FireService,
    bool? Marked,
    bool Hurt,
    string? Injury,
    string? PutOut,
    SheetTag? Tag,
    ToldFacts Facts,
    IReadOnlyList<PersonId> There
);

/// <summary>What an incident has to be like. Source: house practice.</summary>
public static class IncidentRules
{
    public const int TextLongest = 4000;
    public const int OldestYears = 30;
    public const int MostPhotos = 12;

    public const decimal LargestCost = 10_000_000;

    /// <param name="machine">Null for the room.</param>
    public static IEnumerable<Refusal> Check(ToldIncident told, MachineSpec? machine, HouseClock clock, Instant now)
    {
        if (told.At > now)
            yield return IncidentsProblems.Future.Refuse("at");
        else if (told.At < now - Duration.FromDays(366 * OldestYears))
            yield return IncidentsProblems.TooOld.Refuse("at", OldestYears);
        else if (machine is not null && !machine.IsHere(told.At, told.At + Duration.FromMilliseconds(1), clock))
            yield return IncidentsProblems.NotHereYet.Refuse("at", machine.Name);
        if (told.Hurt && told.Severity < Severity.DamageOrFirstAid)
            yield return IncidentsProblems.SeverityLow.Refuse("severity");
    }

    /// <summary>Who may read one incident and add words to it.</summary>
    public static Refusal? MayRead(bool staff, bool involved) => staff || involved ? null : IncidentsProblems.NotYours.Refuse();

    /// <summary>
    /// Anyone who was there, or staff, begins the watch: waiting for a steward is worse than anybody’s eyes. Staff name others.
    /// </summary>
    public static Refusal? MayNameWatcher(bool staff, bool another) => another && !staff ? IncidentsProblems.NotYours.Refuse() : null;

    /// <returns>Null where these words may stand.</returns>
    /// <param name="seenAt">When it was seen; null where nobody knows.</param>
    public static Refusal? MayAddWords(bool mayRead, bool closed, Instant? seenAt, Instant now) =>
        !mayRead ? IncidentsProblems.NotYours.Refuse()
        : closed ? IncidentsProblems.Closed.Refuse()
        : seenAt > now ? IncidentsProblems.Future.Refuse("at")
        : null;

    /// <param name="have">Photos there are already.</param>
    public static Refusal? MayAddPhoto(bool mayRead, bool closed, int have) =>
        MayAddWords(mayRead, closed, null, default) ?? (have >= MostPhotos ? MachinesProblems.PhotoMany.Refuse(null, have) : null);

    /// <returns>Null where it may be said anew how bad it was.</returns>
    public static Refusal? MayRate(bool hurt, Severity? severity) =>
        hurt && severity < Severity.DamageOrFirstAid ? IncidentsProblems.SeverityLow.Refuse("severity") : null;

    /// <summary>Nobody writes the teaching case of what they were part of.</summary>
    public static Refusal? MayTeach(bool involved) => involved ? IncidentsProblems.Self.Refuse() : null;

    /// <summary>Nobody sets a hold on themselves: another steward has that word with them.</summary>
    public static Refusal? MaySetHold(HoldKind kind, string target, PersonId by) =>
        kind == HoldKind.Conduct && target == by.Value ? IncidentsProblems.Self.Refuse() : null;

    /// <param name="today">On the clock of the house.</param>
    public static Refusal? MayAct(LocalDate due, LocalDate today) => due < today ? IncidentsProblems.ActionDay.Refuse("due") : null;

    /// <summary>Its owner says that an action is done, or given up, or a steward.</summary>
    public static Refusal? MayEndAction(PersonId owner, PersonId by, bool steward, bool ended) =>
        owner != by && !steward ? IncidentsProblems.NotYours.Refuse()
        : ended ? IncidentsProblems.ActionDone.Refuse()
        : null;

    /// <summary>Two days in order.</summary>
    public static Refusal? Ordered(LocalDate first, LocalDate last) => last < first ? IncidentsProblems.RatePeriod.Refuse("to") : null;

    /// <returns>Null where this person may investigate: nobody does so of what they were part of.</returns>
    public static Refusal? MayInvestigate(bool involved, bool closed) =>
        closed ? IncidentsProblems.Closed.Refuse()
        : involved ? IncidentsProblems.Self.Refuse()
        : null;
}

/// <summary>Whoever closes an incident: a countersigner only where every steward was involved.</summary>
public sealed record Closer(bool Steward, bool Countersigner, bool Involved);

/// <summary>One thing that closes an incident, and whether it is done.</summary>
public sealed record ClosingStep(string Name, bool Done, string Says);

/// <summary>What an incident stands at, for closing it.</summary>
/// <param name="CausesTicked">How many causes somebody ticked, “not known yet” with words among them.</param>
/// <param name="OpenActions">Neither done nor given up with a reason.</param>
/// <param name="HoldsSet">That nobody ended.</param>
/// <param name="HoldsProposed">Neither set nor said to be not needed.</param>
/// <param name="LooksLeft">Of the fire watch; null where none was asked for.</param>
public sealed record ClosingFacts(
    int CausesTicked,
    int OpenActions,
    int HoldsSet,
    int HoldsProposed,
    int? LooksLeft,
    bool WatchWanted,
    IReadOnlyList<string> OtherStewards
);

/// <summary>Closing: only with causes, with actions done or reasoned, with holds ended, and by somebody who was not involved.</summary>
public static class IncidentClosing
{
    public static IReadOnlyList<ClosingStep> Steps(ClosingFacts f) =>
        [
            new("Causes", f.CausesTicked > 0, f.CausesTicked > 0 ? Many(f.CausesTicked, "ticked", "ticked") : "none ticked yet"),
            new("Actions", f.OpenActions == 0, f.OpenActions == 0 ? "all done, or given up with a reason" : $"{f.OpenActions} to be done"),
            new(
                "Holds",
                f is { HoldsSet: 0, HoldsProposed: 0 },
                (f.HoldsSet, f.HoldsProposed) switch
                {
                    (0, 0) => "all ended, or not needed",
                    (var set, 0) => $"{set} to be ended",
                    (0, var open) => $"{open} to decide",
                    var (set, open) => $"{set} to be ended, {open} to decide",
                }
            ),
            new(
                "Fire watch",
                !f.WatchWanted || f.LooksLeft == 0,
                !f.WatchWanted && f.LooksLeft is null ? "none is needed"
                    : f.LooksLeft is null ? "nobody has begun it"
                    : f.LooksLeft == 0 ? "over"
                    : $"{f.LooksLeft} {(f.LooksLeft == 1 ? "look" : "looks")} to come"
            ),
            new(
                "Another steward",
                f.OtherStewards.Count > 0,
                f.OtherStewards.Count == 0 ? "everybody was involved: the countersigner closes it"
                    : f.OtherStewards.Count == 1 ? $"{f.OtherStewards[0]} was not involved"
                    : $"{f.OtherStewards.Count} were not involved"
            ),
        ];

    /// <returns>Null where it may be closed.</returns>
    public static Refusal? MayClose(ClosingFacts facts, bool closed, Closer by)
    {
        if (closed)
            return IncidentsProblems.Closed.Refuse();
        if (by.Involved)
            return IncidentsProblems.Self.Refuse();
        if (!by.Steward && !(by.Countersigner && facts.OtherStewards.Count == 0))
            return IncidentsProblems.CloseNotYours.Refuse();
        var open = Steps(facts).Where(s => !s.Done && s.Name != "Another steward").ToList();
        return open.Count == 0
            ? null
            : IncidentsProblems.Open.Refuse(null, string.Join("; ", open.Select(s => $"{Lower(s.Name)}: {s.Says}")));
    }

    private static string Many(int n, string one, string many) => $"{n} {(n == 1 ? one : many)}";

    private static string Lower(string text) => char.ToLowerInvariant(text[0]) + text[1..];
}

/// <summary>What somebody found who investigates.</summary>
public static class CauseRules
{
    /// <returns>Null where these causes may stand.</returns>
    public static Refusal? Check(IReadOnlyCollection<string> codes, string? note)
    {
        if (codes.FirstOrDefault(c => Causes.Find(c) is null) is { } unknown)
            return IncidentsProblems.CauseUnknown.Refuse("codes", unknown);
        if (note?.Length > IncidentRules.TextLongest)
            return CommonProblems.ReasonLong.Refuse("note", IncidentRules.TextLongest);
        if (codes.Contains(Causes.Open.Code) && codes.Count > 1)
            return IncidentsProblems.CauseMixed.Refuse("codes");
        var wordless = string.IsNullOrWhiteSpace(note);
        return codes.Count == 0 || (wordless && codes.Any(c => c == Causes.Open.Code || c == Causes.Other.Code))
            ? IncidentsProblems.CauseOpen.Refuse("note")
            : null;
    }
}

/// <summary>Whether the law wants it reported, and what was done about it. Local law decides.</summary>
/// <param name="Wanted">Null: nobody has looked yet.</param>
/// <param name="To">To whom.</param>
/// <param name="By">By when.</param>
/// <param name="Number">What they called it.</param>
public sealed record LawReport(bool? Wanted = null, string To = "", LocalDate? By = null, string Number = "");
