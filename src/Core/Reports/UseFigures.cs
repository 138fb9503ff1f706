using MathNet.Numerics.Statistics;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Reports;

/// <summary>A booking as the figures need it.</summary>
/// <param name="AskedAt">When the person asked: for a time from the waiting list, when they began to wait.</param>
/// <param name="Cancelled">Given back, or released.</param>
/// <param name="At">When the person was at the machine, where a screen there saw it.</param>
public sealed record UsedTime(
    PersonId PersonId,
    MachineId MachineId,
    Instant Start,
    Instant End,
    Instant AskedAt,
    bool Cancelled,
    bool NoShow,
    Interval? At
);

/// <param name="MachineIds">None closes the house.</param>
public sealed record ClosedTime(Interval During, IReadOnlyList<MachineId> MachineIds);

/// <summary>An hour of the week, over all machines.</summary>
/// <param name="OpenMinutes">In which machines could have been booked.</param>
public sealed record HourOfWeek(IsoDayOfWeek Day, int Hour, double BookedMinutes, double OpenMinutes);

public sealed record MachineUse(
    MachineId MachineId,
    int Bookings,
    double BookedHours,
    double OpenHours,
    double AtMachineHours,
    int NoShows,
    int Cancelled
);

/// <summary>Middle and quarters of a ratio or a time.</summary>
public sealed record Spread(int Count, double Median, double Low, double High)
{
    /// <returns>Null of nothing.</returns>
    public static Spread? Of(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted.Length == 0
            ? null
            : new Spread(
                sorted.Length,
                SortedArrayStatistics.Median(sorted),
                SortedArrayStatistics.LowerQuartile(sorted),
                SortedArrayStatistics.UpperQuartile(sorted)
            );
    }
}

/// <param name="People">Who booked at all.</param>
/// <param name="TopShare">Of the ten who have most, 0 to 1.</param>
public sealed record FairnessFigures(int People, double Hours, double? Gini, double? TopShare);

/// <summary>How machine time was used from one day to another.</summary>
/// <param name="BookedToNeeded">Booked over the time at the machine.</param>
/// <param name="WaitHours">From asking to the start.</param>
public sealed record UseFigures(
    IReadOnlyList<HourOfWeek> Hours,
    IReadOnlyList<MachineUse> Machines,
    int Bookings,
    int NoShows,
    int Cancelled,
    Spread? BookedToNeeded,
    Spread? WaitHours,
    FairnessFigures Fairness
)
{
    /// <param name="bookings">Those that begin from <paramref name="first"/> to <paramref name="last"/>, both included.</param>
    /// <param name="rules">Opening hours and zone as they are now.</param>
    public static UseFigures Of(
        IReadOnlyList<UsedTime> bookings,
        IReadOnlyList<MachineId> machines,
        IReadOnlyList<ClosedTime> closed,
        LocalDate first,
        LocalDate last,
        HouseRules rules
    )
    {
        var kept = bookings.Where(b => !b.Cancelled).ToList();
        var open = machines.ToDictionary(m => m, m => Open(m, closed, first, last, rules));
        var hours = kept.GroupBy(b => b.PersonId).Select(g => g.Sum(Hours_)).ToList();
        return new UseFigures(
            Hours: ByHour(kept, open.Values.SelectMany(o => o), rules.Clock),
            Machines: [.. machines.Select(m => Machine(m, [.. bookings.Where(b => b.MachineId == m)], open[m]))],
            Bookings: kept.Count,
            NoShows: bookings.Count(b => b.NoShow),
            Cancelled: bookings.Count(b => b is { Cancelled: true, NoShow: false }),
            BookedToNeeded: Spread.Of(
                kept.Where(b => b.At is { } at && at.Duration >= Duration.FromMinutes(1))
                    .Select(b => (b.End - b.Start) / b.At!.Value.Duration)
            ),
            WaitHours: Spread.Of(kept.Where(b => b.AskedAt <= b.Start).Select(b => (b.Start - b.AskedAt).TotalHours)),
            Fairness: new FairnessFigures(hours.Count, hours.Sum(), Reports.Fairness.Gini(hours), Reports.Fairness.TopShare(hours))
        );
    }

    private static double Hours_(UsedTime b) => (b.End - b.Start).TotalHours;

    private static MachineUse Machine(MachineId id, IReadOnlyList<UsedTime> all, IReadOnlyList<Interval> open) =>
        new(
            MachineId: id,
            Bookings: all.Count(b => !b.Cancelled),
            BookedHours: all.Where(b => !b.Cancelled).Sum(Hours_),
            OpenHours: open.Sum(o => o.Duration.TotalHours),
            AtMachineHours: all.Sum(b => b.At?.Duration.TotalHours ?? 0),
            NoShows: all.Count(b => b.NoShow),
            Cancelled: all.Count(b => b is { Cancelled: true, NoShow: false })
        );

    private static List<HourOfWeek> ByHour(IEnumerable<UsedTime> kept, IEnumerable<Interval> open, HouseClock clock)
    {
        var cells = new Dictionary<(IsoDayOfWeek, int), (double Booked, double Open)>();
        foreach (var b in kept)
            Add(new Interval(b.Start, b.End), (cell, minutes) => (cell.Booked + minutes, cell.Open));
        foreach (var o in open)
            Add(o, (cell, minutes) => (cell.Booked, cell.Open + minutes));
        return
        [
            .. cells
                .Select(c => new HourOfWeek(c.Key.Item1, c.Key.Item2, c.Value.Booked, c.Value.Open))
                .OrderBy(c => c.Day)
                .ThenBy(c => c.Hour),
        ];

        void Add(Interval time, Func<(double Booked, double Open), double, (double, double)> more)
        {
            for (var at = time.Start; at < time.End; )
            {
                var local = clock.At(at);
                var next = Instant.Min(time.End, at + Duration.FromMinutes(60 - local.Minute) - Duration.FromSeconds(local.Second));
                var key = (local.DayOfWeek, local.Hour);
                cells[key] = more(cells.GetValueOrDefault(key), (next - at).TotalMinutes);
                at = next;
            }
        }
    }

    /// <summary>Opening hours of a machine, less what was closed.</summary>
    private static List<Interval> Open(
        MachineId machine,
        IReadOnlyList<ClosedTime> closed,
        LocalDate first,
        LocalDate last,
        HouseRules rules
    )
    {
        var shut = closed.Where(c => c.MachineIds.Count == 0 || c.MachineIds.Contains(machine)).OrderBy(c => c.During.Start).ToList();
        var open = new List<Interval>();
        for (var day = first; day <= last; day = day.PlusDays(1))
        {
            if (rules.OpenOn(day) is not { } hours)
                continue;
            var from = hours.Start;
            foreach (var c in shut.Where(c => c.During.Start < hours.End && c.During.End > hours.Start))
            {
                if (c.During.Start > from)
                    open.Add(new Interval(from, c.During.Start));
                from = Instant.Max(from, Instant.Min(c.During.End, hours.End));
            }
            if (from < hours.End)
                open.Add(new Interval(from, hours.End));
        }
        return open;
    }
}
