using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>Pausing a person: they may not run anything until it ends. Source: house rule.</summary>
public static class Pauses
{
    /// <param name="until">Null until somebody releases them.</param>
    /// <returns>Null when this person may be paused so.</returns>
    public static Refusal? MayPause(PersonId personId, PersonId by, Instant? until, Instant now) =>
        personId == by ? PeopleProblems.PauseSelf.Refuse("id")
        : until <= now ? PeopleProblems.PauseUntil.Refuse("until")
        : null;
}
