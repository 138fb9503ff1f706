using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>What a step of a path is.</summary>
public enum ModuleKind
{
    /// <summary>A page to read, acknowledged by a question on what it says.</summary>
    Reading,
    Quiz,

    /// <summary>A certificate of another house or an institution, recorded by a steward.</summary>
    Outside,

    /// <summary>Another authority of this house that comes first.</summary>
    Authority,

    /// <summary>A session with a trainer at the machine, with places and a roll call.</summary>
    Induction,

    /// <summary>Runs made with somebody who trains on the machine.</summary>
    SupervisedRuns,

    /// <summary>A trainer's signature: the certificate.</summary>
    SignOff,
}

/// <summary>From this version on the ones before no longer count, once the day is over.</summary>
/// <param name="By">The last house day on which they still do.</param>
public sealed record Repeat(int Version, LocalDate By);

/// <summary>A module of the house in its newest version.</summary>
/// <param name="Topic">Topic of the question bank that a reading teaches; empty for others, and for pages that a house wrote
/// itself.</param>
public sealed record TrainingModule(string Id, ModuleKind Kind, string Title, string Topic, int Version, IReadOnlyList<Repeat> Repeats);

/// <summary>What a person did of a module.</summary>
/// <param name="Version">Which version of it.</param>
public sealed record ModuleDone(string ModuleId, int Version, Instant At);

/// <summary>Modules that a person does alone: what counts, and until when.</summary>
public static class ModuleRules
{
    /// <summary>The quiz on laser safety.</summary>
    public const string SafetyQuiz = "laser-safety";

    /// <summary>
    /// Readings of the course, which the quiz asks about, that are still to be done, or to be done again because their day is over.
    /// </summary>
    public static IReadOnlyList<TrainingModule> Unread(
        IReadOnlyList<TrainingModule> modules,
        IReadOnlyList<ModuleDone> done,
        LocalDate today
    ) => [.. modules.Where(m => m.Kind == ModuleKind.Reading && m.Topic.Length > 0 && !IsDone(m, done, today))];

    /// <summary>Whether what a person did of a module counts on a house day.</summary>
    public static bool IsDone(TrainingModule module, IEnumerable<ModuleDone> done, LocalDate today) =>
        done.Any(d => d.ModuleId == module.Id && !module.Repeats.Any(r => r.Version > d.Version && today > r.By));

    /// <summary>The last day on which what a person did still counts; null when no day is set, or it does not count any more.</summary>
    public static LocalDate? DueBy(TrainingModule module, IReadOnlyList<ModuleDone> done, LocalDate today)
    {
        if (!IsDone(module, done, today))
            return null;
        var newest = done.Where(d => d.ModuleId == module.Id).Max(d => d.Version);
        var ahead = module.Repeats.Where(r => r.Version > newest).ToList();
        return ahead.Count == 0 ? null : ahead.Min(r => r.By);
    }

    /// <summary>May this person begin an attempt at the quiz now?</summary>
    /// <param name="failedAt">When the last attempt failed; null when there is none, or it passed.</param>
    public static Refusal? MayBegin(IReadOnlyList<TrainingModule> unread, Instant? failedAt, House.HouseRules rules, Instant now)
    {
        if (unread.Count > 0)
            return TrainingProblems.QuizUnread.Refuse(null, string.Join(", ", unread.Select(m => m.Title)));
        if (failedAt is { } failed && QuizMarking.NextTry(failed, rules) is var next && now < next)
            return TrainingProblems.QuizCoolDown.Refuse(null, HouseDates.Moment(next, rules));
        return null;
    }

    /// <param name="read">The version that the person read.</param>
    /// <returns>Null when the page counts as read: as it is now, and its question answered.</returns>
    public static Refusal? MayTick(int version, int read, string right, string? answer) =>
        read != version ? TrainingProblems.ReadingStale.Refuse("version")
        : answer != right ? TrainingProblems.ReadingWrong.Refuse("answer")
        : null;
}
