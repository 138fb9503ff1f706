using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Web.House;

/// <summary>What a new house still lacks before its first induction, in the order it is best done.</summary>
public sealed class StillMissing(PeopleStore people, CalendarStore calendar, CommissioningStore commissioning)
{
    public async Task<IReadOnlyList<string>> Of(
        IReadOnlyList<MachineSheet> machines,
        RoomSpec? room,
        int kit,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var missing = new List<string>();
        var everyone = await people.All(now, cancel);
        if (machines.Count == 0)
            missing.Add("No machine is listed yet.");
        if (room is null)
            missing.Add("The room is not described: the emergency cards have gaps.");
        if (kit == 0)
            missing.Add("No fire kit is listed: the gate stays shut.");
        if (!everyone.Any(p => p.Roles.Any(r => r.Role == Role.Steward)))
            missing.Add("Nobody is a steward yet.");
        foreach (
            var machine in machines.Where(m => !everyone.Any(p => p.Roles.Any(r => r.Role == Role.Trainer && r.MachineId == m.Spec.Id)))
        )
            missing.Add($"Nobody trains on {machine.Spec.Name}: write down a founding sign-off.");
        if (rules.Supervision == Supervision.StewardOnDuty && !(await calendar.Coming(now, 1, cancel)).Any(p => p.Kind == PlanKind.Duty))
            missing.Add("The steward rota is empty: nobody is on duty.");
        foreach (var machine in machines.Where(m => m.Spec.Station is null))
            missing.Add($"{machine.Spec.Name}’s sheet lacks what its stops cut and how its extraction is powered.");
        var setUps = await commissioning.SetUps(machines.Select(m => m.Spec), rules, now, cancel);
        foreach (var machine in machines.Where(m => !m.Spec.IsGone(now, rules.Clock)))
            if (setUps[machine.Spec.Id].Missing is { Count: > 0 } gaps)
                missing.Add($"Not shown of {machine.Spec.Name}: {string.Join("; ", gaps)}.");
        return missing;
    }
}
