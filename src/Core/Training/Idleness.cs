using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>
/// A certificate lapses when nothing was run for so many days (house rule). The clock stands still while the machine is out: nobody can
/// keep in practice on it then. It stands still over a long closure of the house, too.
/// </summary>
public static class Idleness
{
    /// <param name="last">Last time at the machine: sign-off, or end of a run.</param>
    /// <param name="stops">When the machine was, is or will be out, and long closures; they may overlap.</param>
    /// <returns>The last instant at which it counts; null while the machine is out without an end.</returns>
    public static Instant? LapsesAt(Instant last, IEnumerable<Span> stops, int days)
    {
        var lapses = last + Duration.FromDays(days);
        var reached = last;
        foreach (var stop in stops.OrderBy(s => s.Start))
        {
            if (stop.Start > lapses)
                break;
            if (stop.End is not { } end)
                return null;
            var from = Instant.Max(stop.Start, reached);
            if (end > from)
                lapses += end - from;
            reached = Instant.Max(reached, end);
        }
        return lapses;
    }
}

public enum LapseCause
{
    Date,
    Idle,
}

/// <summary>When a certificate ceases to count, and by what.</summary>
public sealed record Lapse(Instant At, LapseCause Cause);

public static class Lapses
{
    /// <summary>The sooner of its last day and idleness; null when neither is in sight.</summary>
    /// <param name="end">End of the certificate; null without end.</param>
    /// <param name="last">Last time at the machine; null is not counted.</param>
    public static Lapse? Ahead(Instant? end, Instant? last, IEnumerable<Span> stops, HouseRules rules)
    {
        var idle = last is { } l ? Idleness.LapsesAt(l, stops, rules.IdleLapseDays) : null;
        if (end is null && idle is null)
            return null;
        return idle is null || end <= idle ? new Lapse(end!.Value, LapseCause.Date) : new Lapse(idle.Value, LapseCause.Idle);
    }
}
