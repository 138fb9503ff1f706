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
        string? machineId,
        string to,
        string by,
        bool byKeeper,
        bool byTrainerThere,
        Instant? until,
        Instant now
    )
    {
        if (to == by)
            return new Refusal("role.self", "Nobody gives a role to themselves. Ask another keeper.", "personId");
        if (role is Role.Trainer or Role.Repair && machineId is null)
            return new Refusal("role.machine", "Trainer and repair authority are for one machine: name it.", "machineId");
        if (role is not (Role.Trainer or Role.Repair) && machineId is not null)
            return new Refusal("role.machine", "This role is for the whole house: leave the machine out.", "machineId");
        if (until <= now)
            return new Refusal("role.until", "The end lies in the future. Leave it empty for no end.", "until");
        if (role == Role.Trainer)
            return byTrainerThere
                ? null
                : new Refusal(
                    "role.trainer",
                    "A trainer for that machine passes the authority on. The first one is a founding sign-off.",
                    "role"
                );
        return byKeeper ? null : new Refusal("role.keeper", "A keeper gives this role.", "role");
    }
}
