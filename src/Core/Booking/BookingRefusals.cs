using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Booking;

/// <summary>What a person reads when the gate does not give them a time.</summary>
public static class BookingRefusals
{
    /// <summary>People who come along with one booking.</summary>
    public const int MostCompanions = 20;

    private const int MostReasons = 4;

    /// <param name="staff">Stewards and trainers book for others.</param>
    /// <returns>Null when this person may book for that member.</returns>
    public static Refusal? MayBook(PersonId memberId, PersonId by, bool staff, int companions) =>
        memberId != by && !staff ? BookingProblems.BookingNotYours.Refuse()
        : companions is < 0 or > MostCompanions ? BookingProblems.BookingCompanions.Refuse("companions", MostCompanions)
        : null;

    /// <summary>The gate is shut, or needs a steward: the first of its reasons.</summary>
    public static Refusal Shut(Decision decision) =>
        BookingProblems.GateRefused.Refuse(null, string.Join(" ", Against(decision).Select(r => r.Text).Take(MostReasons)));

    /// <summary>The machine or the person has something else at that time.</summary>
    public static Refusal Taken(Decision decision)
    {
        var first = Against(decision).First();
        var problem =
            first.Code == BookingProblems.PersonElsewhere.Code ? BookingProblems.PersonElsewhere
            : first.Code == BookingProblems.BenchTaken.Code ? BookingProblems.BenchTakenBecause
            : BookingProblems.TimeTakenBecause;
        return problem.Refuse(null, first.Text);
    }

    private static IEnumerable<Reason> Against(Decision decision) => decision.Reasons.Where(r => r.Standing >= Standing.Ask);
}
