namespace VelvetGate.Core.People;

/// <summary>Opening and ending accounts.</summary>
public static class Accounts
{
    /// <param name="ends">Whether the account gets a last day; taking one away is nobody's harm.</param>
    /// <returns>Null when this keeper may do it.</returns>
    public static Refusal? MayEnd(PersonId personId, PersonId by, bool ends) =>
        ends && personId == by ? PeopleProblems.AccountSelf.Refuse("lastDay") : null;
}
