using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A session as it is planned.</summary>
public sealed record Induction(string MachineId, string TrainerId, Interval During, int Places);

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
            found.Add(new Refusal("induction.past", "It begins in the past. Choose a time to come.", "start"));
        if (minutes is < ShortestMinutes or > LongestMinutes)
            found.Add(new Refusal("induction.minutes", $"Between {ShortestMinutes} minutes and {LongestMinutes / 60} hours.", "minutes"));
        if (places < 1 || places > rules.LearnersPerTrainer)
            found.Add(new Refusal("induction.places", $"One trainer takes 1 to {rules.LearnersPerTrainer} learners here.", "places"));
        var day = rules.Clock.DateOf(start);
        if (
            found.Count == 0
            && (rules.OpenOn(day) is not { } open || !open.Contains(start) || start + Duration.FromMinutes(minutes) > open.End)
        )
            found.Add(new Refusal("induction.closed", "The house is not open for all of that time.", "start"));
        return found;
    }

    /// <summary>Whoever teaches holds trainer authority for the machine over the whole session.</summary>
    public static Refusal? MayTeach(Induction wanted, IReadOnlyList<Span> trains) =>
        Span.Cover(trains, wanted.During.Start, wanted.During.End)
            ? null
            : new Refusal("induction.authority", "Only a trainer of this machine gives an induction on it.", "trainerId");

    public static Refusal? MayTake(bool cancelled, Instant start, int free, bool trainer, Instant now) =>
        cancelled ? new Refusal("induction.off", "This session is called off.")
        : start <= now ? new Refusal("induction.begun", "This session has begun.")
        : trainer ? new Refusal("induction.self", "You give this session.")
        : free <= 0 ? new Refusal("induction.full", "The last place is taken. Look at the next session.")
        : null;

    /// <summary>The roll is called once it has begun, by its trainer or a steward, of those with a place, and never for oneself.</summary>
    public static Refusal? MayCall(
        bool cancelled,
        Instant start,
        bool mayCall,
        IEnumerable<string> called,
        IReadOnlyCollection<string> places,
        string by,
        Instant now
    ) =>
        !mayCall ? new Refusal("induction.notYours", "This is for its trainer and for stewards.")
        : cancelled ? new Refusal("induction.off", "This session is called off.")
        : start > now ? new Refusal("induction.early", "The roll is called once the session has begun.")
        : called.Contains(by) ? new Refusal("induction.selfCall", "Nobody calls the roll for themselves.")
        : called.Any(c => !places.Contains(c)) ? new Refusal("induction.noPlace", "Somebody named has no place in this session.")
        : null;
}
