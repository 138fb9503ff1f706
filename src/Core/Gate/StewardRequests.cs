using NodaTime;

namespace VelvetGate.Core.Gating;

/// <summary>How a steward's answer may change an ask.</summary>
public enum StewardReply
{
    Lift,
    Refuse,
    TakeBack,
}

/// <summary>Rules of answering an ask. Source: house practice; a countersigner stands in where a house has no second steward.</summary>
public static class StewardRequests
{
    /// <summary>An ask not answered this long before its start is refused.</summary>
    public static readonly Duration AnswerBefore = Duration.FromMinutes(30);

    /// <summary>
    /// In a house with one steward and no countersigner, a steward's own ask waits this long, and is marked single-handed.
    /// </summary>
    public static readonly Duration SingleHandedWait = Duration.FromHours(24);

    public static Instant Deadline(Instant start) => start - AnswerBefore;

    /// <param name="otherStewards">Stewards there are now besides the person who asked.</param>
    /// <param name="otherCountersigners">Countersigners besides that person.</param>
    /// <param name="askedAt">When the ask was made.</param>
    /// <returns>Null when this person may answer.</returns>
    public static Refusal? MayAnswer(
        StewardReply kind,
        PersonId askedBy,
        PersonId by,
        bool steward,
        bool countersigner,
        int otherStewards,
        int otherCountersigners,
        Instant start,
        Instant askedAt,
        Instant now,
        string? reason
    )
    {
        if (askedBy == by)
        {
            if (!steward || otherStewards > 0 || otherCountersigners > 0)
                return GateProblems.AskSelf.Refuse();
            if (now < askedAt + SingleHandedWait)
                return GateProblems.AskSingleHanded.Refuse(null, SingleHandedWait.TotalHours);
        }
        if (!steward && !(countersigner && otherStewards == 0))
            return GateProblems.AskNotYours.Refuse();
        if (WrittenReason.Wrong(reason) is { } wrong)
            return wrong;
        return kind != StewardReply.TakeBack && now >= Deadline(start)
            ? GateProblems.AskTooLate.Refuse(null, AnswerBefore.TotalMinutes)
            : null;
    }

    /// <summary>What a lift would cover: every reason that now reads <em>ask</em> and that a steward may lift.</summary>
    /// <returns>Or why there is nothing to lift.</returns>
    public static Result<IReadOnlyList<LiftedReason>> ToLift(Decision decision)
    {
        var shut = decision.Reasons.FirstOrDefault(r => r.Standing == Standing.Shut);
        if (shut is not null)
            return GateProblems.AskShut.Refuse(null, shut.Text);
        var asking = decision.Reasons.Where(r => r.Standing == Standing.Ask).ToList();
        var fixedOnes = asking.FirstOrDefault(r => Codes.Of(r.Code).LiftedBy != LiftedBy.Steward);
        if (fixedOnes is not null)
            return GateProblems.AskCannotLift.Refuse(null, fixedOnes.Text);
        if (asking.Count == 0)
            return new Refusal(GateProblems.AskNotNeeded, "The gate is open without a lift: the person can book.");
        return asking.Select(r => new LiftedReason(r.Code, r.Item)).ToList();
    }

    /// <param name="staff">Stewards and trainers ask for others.</param>
    /// <returns>Null when this person may put the question.</returns>
    public static Refusal? MayAskFor(PersonId memberId, PersonId by, bool staff) =>
        memberId != by && !staff ? GateProblems.AskForOthers.Refuse() : null;
}
