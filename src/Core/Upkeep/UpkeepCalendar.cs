using System.Globalization;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Calendars;

namespace VelvetGate.Core.Upkeep;

/// <summary>A task as a calendar elsewhere shows it.</summary>
/// <param name="Of">The machine, or the room.</param>
public sealed record DueTask(string Id, string Of, UpkeepPlan Plan, UpkeepWho Who, Instant Since, UpkeepStand Stand);

/// <summary>Days on which upkeep is due, for calendars elsewhere.</summary>
public static class UpkeepCalendar
{
    /// <summary>
    /// A whole day for each task: the one it is due on, or today for what is due already. A task that nobody can foresee has none.
    /// </summary>
    /// <param name="house">Where it is.</param>
    public static IReadOnlyList<FeedEntry> Entries(IEnumerable<DueTask> tasks, string house, HouseClock clock, Instant now) =>
        [
            .. tasks
                .Select(t => Entry(t, house, clock, now))
                .OfType<FeedEntry>()
                .OrderBy(e => e.Day)
                .ThenBy(e => e.Uid, StringComparer.Ordinal),
        ];

    private static FeedEntry? Entry(DueTask task, string house, HouseClock clock, Instant now)
    {
        var today = clock.DateOf(now);
        if (!task.Stand.Due && task.Stand.DueFrom is null)
            return null;
        var day = task.Stand.Due ? today : LocalDate.Max(today, clock.DateOf(task.Stand.DueFrom!.Value));
        // What goes by use moves with it, and what is due stays today: as of the day's beginning, so that it is the same all day.
        var changed = task.Stand.Due || task.Stand.IsForecast ? Instant.Max(task.Since, clock.Day(today).Start) : task.Since;
        return new FeedEntry(
            Uid: $"upkeep-{task.Id}-{task.Since.ToUnixTimeSeconds().ToString(CultureInfo.InvariantCulture)}@velvet-gate",
            Start: clock.Day(day).Start,
            End: clock.Day(day).End,
            Title: $"{task.Of}: {task.Plan.Name}{(task.Stand.Overdue ? " (overdue)" : task.Stand.Due ? " (due)" : "")}",
            Description: Describe(task, clock),
            Location: house,
            Cancelled: false,
            Sequence: (int)(changed - task.Since).TotalDays,
            ChangedAt: changed,
            Day: day
        );
    }

    private static string Describe(DueTask task, HouseClock clock)
    {
        var lines = new List<string> { $"By {UpkeepDone.Says(task.Who)}." };
        if (task.Stand is { Due: true, DueFrom: { } since })
            lines.Add($"Due since {HouseDates.Day(since, clock)}.");
        else if (task.Stand.IsForecast)
            lines.Add($"Foretold by the use of the last {UpkeepUse.ForecastDays} days; it moves with it.");
        if (task.Plan.Kit.Length > 0)
            lines.Add($"Needs: {task.Plan.Kit}.");
        return string.Join("\n", lines);
    }
}
