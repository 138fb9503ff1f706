using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

public enum CertificateHoldKind
{
    /// <summary>Looked at again: the gate asks.</summary>
    Review,

    /// <summary>Does not count until reinstated: the gate is shut.</summary>
    Suspended,
}

/// <summary>What has to be done before a suspended certificate counts again.</summary>
/// <param name="SupervisedRuns">Runs with a trainer of the machine; while any are wanted, such runs stay possible.</param>
/// <param name="Quiz">The quiz is passed anew.</param>
public sealed record HoldConditions(int SupervisedRuns = 0, bool Quiz = false);

/// <param name="Authority">What the certificate is for.</param>
public sealed record CertificateHold(string Authority, CertificateHoldKind Kind, Span Held, HoldConditions? Conditions = null);

/// <summary>Suspending, reviewing and reinstating. Source: house practice; nobody decides about themselves (common practice).</summary>
public static class CertificateHolds
{
    public const int MostRuns = 20;

    /// <summary>What stands against a hold as written.</summary>
    public static IReadOnlyList<Refusal> Wrong(CertificateHoldKind kind, HoldConditions conditions)
    {
        var found = new List<Refusal>();
        if (conditions.SupervisedRuns is < 0 or > MostRuns)
            found.Add(TrainingProblems.HoldRuns.Refuse("supervisedRuns", MostRuns));
        if (kind == CertificateHoldKind.Review && conditions != new HoldConditions())
            found.Add(TrainingProblems.HoldConditions.Refuse("kind"));
        return found;
    }

    /// <summary>Conditions that are not met yet, in words; empty when it may be reinstated.</summary>
    /// <param name="runs">Supervised runs on the machine since it was suspended.</param>
    /// <param name="quiz">The quiz was passed since.</param>
    public static IReadOnlyList<string> Unmet(HoldConditions conditions, int runs, bool quiz)
    {
        var open = new List<string>();
        if (runs < conditions.SupervisedRuns)
            open.Add($"{runs} of {conditions.SupervisedRuns} supervised runs are logged");
        if (conditions.Quiz && !quiz)
            open.Add("the quiz has not been passed since");
        return open;
    }

    /// <returns>Null when this steward may hold or give back the certificate.</returns>
    public static Refusal? MayDecide(PersonId personId, PersonId by) =>
        personId == by ? HouseProblems.HoldSelfDecided.Refuse("personId") : null;
}
