namespace VelvetGate.Core.People;

/// <summary>A guardian's consent for a minor, written down by a keeper. Source: common practice.</summary>
public static class Consents
{
    /// <returns>Null when this person may write it down.</returns>
    public static Refusal? MayWrite(PersonId personId, PersonId by) => personId == by ? PeopleProblems.ConsentSelf.Refuse("id") : null;
}
