namespace VelvetGate.Core.House;

/// <summary>What a steward's word to end a stop or a pause comes to.</summary>
public enum HoldEnding
{
    /// <summary>It ends now.</summary>
    Ends,

    /// <summary>It is noted, and another steward has to say so too.</summary>
    NeedsAnother,
}

/// <summary>
/// Stopping is everyone's, restarting is few's. What a steward set, its setter ends, or two others together; what anybody else set, any
/// steward
/// ends. Each hold ends by itself: of two on one machine or person the stricter still holds. Source: house practice.
/// </summary>
public static class Holds
{
    /// <param name="concerned">The person it keeps out; null for a machine.</param>
    /// <param name="setterIsSteward">True when the setter holds that role now: nobody overrules a steward alone.</param>
    /// <param name="agreed">Others than the setter who said so before.</param>
    public static Result<HoldEnding> End(
        PersonId? concerned,
        PersonId setBy,
        bool setterIsSteward,
        PersonId by,
        IReadOnlyCollection<PersonId> agreed
    )
    {
        if (concerned == by)
            return HouseProblems.HoldSelf.Refuse();
        if (by == setBy || !setterIsSteward)
            return HoldEnding.Ends;
        return agreed.Any(a => a != by) ? HoldEnding.Ends : HoldEnding.NeedsAnother;
    }
}
