using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>
/// Who may give somebody a role. A keeper has no safety powers by that alone, and nobody gives a role to themselves. Source: house
/// practice.
/// </summary>
public static class RoleGrants
{
    /// <param name="byKeeper">The giver is a keeper now.</param>
    /// <param name="byTrainerThere">The giver holds trainer authority for that machine now.</param>
    /// <returns>Null when the role may be given.</returns>
    public static Refusal? May(
        Role role,
        MachineId? machineId,
        PersonId to,
        PersonId by,
        bool byKeeper,
        bool byTrainerThere,
        Instant? until,
        Instant now
    )
    {
        if (to == by)
            return PeopleProblems.RoleSelf.Refuse("personId");
        if (role is Role.Trainer or Role.Repair && machineId is null)
            return PeopleProblems.RoleMachine.Refuse("machineId");
        if (role is not (Role.Trainer or Role.Repair) && machineId is not null)
            return new Refusal(PeopleProblems.RoleMachine, "This role is for the whole house: leave the machine out.", "machineId");
        if (until <= now)
            return PeopleProblems.RoleUntil.Refuse("until");
        if (role == Role.Trainer)
            return byTrainerThere ? null : PeopleProblems.RoleTrainer.Refuse("role");
        return byKeeper ? null : PeopleProblems.RoleKeeper.Refuse("role");
    }
}
