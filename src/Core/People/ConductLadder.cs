using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.People;

/// <summary>What happened. The first three are the ones that strict houses answer with a pause at once (common practice).</summary>
public enum ConductMatter
{
    LeftRunning,
    InterlockBypassed,
    NeverStock,
    Other,
}

/// <summary>The rungs, in their order.</summary>
public enum ConductStep
{
    Note,
    Warning,
    LastWarning,
    Pause,
}

/// <summary>One entry about a person.</summary>
/// <param name="Lifted">An appeal took it back: it does not count.</param>
public sealed record ConductEntry(ConductMatter Matter, ConductStep Step, Instant At, bool Lifted);

/// <summary>
/// What follows a breach. Houses differ: a warning ladder, or a pause at once for the three grave ones; which is a house rule. Source:
/// common practice.
/// </summary>
public static class ConductLadder
{
    /// <summary>Entries older than this no longer raise the next one. House practice.</summary>
    public const int CountsMonths = 12;

    /// <summary>The step that follows by rule. A steward may take a milder or a harder one, and says why.</summary>
    /// <param name="earlier">Entries about the same person.</param>
    public static ConductStep Next(ConductMatter matter, IEnumerable<ConductEntry> earlier, HouseRules rules, Instant now)
    {
        var grave = matter != ConductMatter.Other;
        if (grave && rules.Conduct != Conduct.WarningLadder)
            return ConductStep.Pause;
        var since = rules.Clock.Day(rules.Clock.DateOf(now).PlusMonths(-CountsMonths)).Start;
        var counting = earlier.Where(e => !e.Lifted && e.At >= since).ToList();
        var highest = counting.Count == 0 ? -1 : (int)counting.Max(e => e.Step);
        var next = Math.Min(highest + 1, (int)ConductStep.Pause);
        // A grave matter never begins with a mere note.
        return (ConductStep)Math.Max(next, grave ? (int)ConductStep.Warning : (int)ConductStep.Note);
    }

    /// <summary>Nobody writes about themselves.</summary>
    public static Refusal? MayWrite(PersonId personId, PersonId by) =>
        personId == by ? PeopleProblems.ConductSelf.Refuse("personId") : null;

    /// <summary>
    /// An appeal is heard by a steward or the countersigner who was not involved: neither whose it is nor who wrote the entry.
    /// </summary>
    public static Refusal? MayHear(PersonId personId, PersonId writtenBy, PersonId by) =>
        by == personId || by == writtenBy ? PeopleProblems.AppealInvolved.Refuse() : null;
}
