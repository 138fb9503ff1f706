using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A session as it is planned.</summary>
public sealed record Induction(MachineId MachineId, PersonId TrainerId, Interval During, int Places);

/// <summary>Induction sessions: small groups with a trainer of the machine (common practice); how many learners is a house rule.</summary>
public static class Inductions
{
    public const int LongestMinutes = 480;
    public const int ShortestMinutes = 15;

    /// <summary>What stands against a session as written.</summary>
    public static IReadOnlyList<Refusal> Wrong(Instant start, int minutes, int places, HouseRules rules, Instant now)
    {
        var found = new List<Refusal>();
        if (start <= now)
            found.Add(TrainingProblems.InductionPast.Refuse("start"));
        if (minutes is < ShortestMinutes or > LongestMinutes)
            found.Add(TrainingProblems.InductionMinutes.Refuse("minutes", ShortestMinutes, LongestMinutes / 60));
        if (places < 1 || places > rules.LearnersPerTrainer)
            found.Add(TrainingProblems.InductionPlaces.Refuse("places", rules.LearnersPerTrainer));
        var day = rules.Clock.DateOf(start);
        if (
            found.Count == 0
            && (rules.OpenOn(day) is not { } open || !open.Contains(start) || start + Duration.FromMinutes(minutes) > open.End)
        )
            found.Add(TrainingProblems.InductionClosed.Refuse("start"));
        return found;
    }

    /// <summary>Whoever teaches holds trainer authority for the machine over the whole session.</summary>
    public static Refusal? MayTeach(Induction wanted, IReadOnlyList<Span> trains) =>
        Span.Cover(trains, wanted.During.Start, wanted.During.End) ? null : TrainingProblems.InductionAuthority.Refuse("trainerId");

    public static Refusal? MayTake(bool cancelled, Instant start, int free, bool trainer, Instant now) =>
        cancelled ? TrainingProblems.InductionOff.Refuse()
        : start <= now ? TrainingProblems.InductionBegun.Refuse()
        : trainer ? TrainingProblems.InductionSelf.Refuse()
        : free <= 0 ? TrainingProblems.InductionFull.Refuse()
        : null;

    /// <summary>The roll is called once it has begun, by its trainer or a steward, of those with a place, and never for oneself.</summary>
    public static Refusal? MayCall(
        bool cancelled,
        Instant start,
        bool mayCall,
        IEnumerable<PersonId> called,
        IReadOnlyCollection<PersonId> places,
        PersonId by,
        Instant now
    ) =>
        !mayCall ? TrainingProblems.InductionNotYours.Refuse()
        : cancelled ? TrainingProblems.InductionOff.Refuse()
        : start > now ? TrainingProblems.InductionEarly.Refuse()
        : called.Contains(by) ? TrainingProblems.InductionSelfCall.Refuse()
        : called.Any(c => !places.Contains(c)) ? TrainingProblems.InductionNoPlace.Refuse()
        : null;

    /// <returns>Null when this person may call the session off.</returns>
    public static Refusal? MayCallOff(bool trainer, bool steward, Instant start, Instant now) =>
        !trainer && !steward ? TrainingProblems.InductionNotYours.Refuse()
        : start <= now ? TrainingProblems.InductionBegunToCall.Refuse()
        : null;

    /// <returns>Null when this person may plan a session that the trainer gives.</returns>
    public static Refusal? MayPlanFor(PersonId trainerId, PersonId by, bool steward) =>
        trainerId != by && !steward ? TrainingProblems.InductionForOthers.Refuse() : null;
}
