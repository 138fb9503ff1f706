using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Web.Upkeep;

/// <summary>Days on which upkeep is due, for calendars elsewhere. Of a machine that has left the house nothing is due.</summary>
public sealed class UpkeepDays(UpkeepStore upkeep, HouseStore house)
{
    public async Task<IReadOnlyList<FeedEntry>> Of(HouseRules rules, Instant now, CancellationToken cancel)
    {
        var here = (await house.MachinesHere(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        var tasks = await upkeep.All(null, rules, now, cancel);
        return UpkeepCalendar.Entries(
            tasks
                .Where(t => t.MachineId is null || here.ContainsKey(t.MachineId.Value))
                .Select(t => new DueTask(
                    Id: t.Id,
                    Of: t.MachineId is { } id ? here[id] : "Room",
                    Plan: t.Plan,
                    Who: t.Who,
                    Since: t.Since,
                    Stand: t.Stand
                )),
            rules.HouseName,
            rules.Clock,
            now
        );
    }
}
