using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

/// <summary>What people are called for the one who looks.</summary>
internal static class PeopleNames
{
    /// <param name="whole">Whole names, for staff; else a first name and initial.</param>
    public static async Task<Dictionary<PersonId, string>> All(PeopleStore people, bool whole, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        return (await people.All(now, cancel)).ToDictionary(
            p => p.Id,
            p => PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole)
        );
    }

    /// <summary>Of these alone: for what is asked often.</summary>
    public static async Task<Dictionary<PersonId, string>> Of(
        IEnumerable<PersonId> ids,
        PeopleStore people,
        bool whole,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        return (await people.Names([.. ids.Distinct()], cancel)).ToDictionary(
            p => p.Id,
            p => PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole)
        );
    }

    /// <returns>Null for somebody who is not known here.</returns>
    public static async Task<string?> Of(PersonId id, PeopleStore people, bool whole, IClock clock, CancellationToken cancel) =>
        (await Of([id], people, whole, clock, cancel)).GetValueOrDefault(id);
}
