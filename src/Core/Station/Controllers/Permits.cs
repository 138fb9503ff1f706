using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>What a controller is granted, and when its beam is taken away.</summary>
public static class Permits
{
    /// <summary>
    /// The answer to a controller’s question: only while a run was started, nobody has let it lapse, and its end is not there. Seconds
    /// are counted from now, and the controller counts them from its question: delay only shortens.
    /// </summary>
    /// <param name="challenge">Of the question.</param>
    /// <returns>Null where nothing is granted.</returns>
    public static Grant? For(StationSession? session, StationFacts facts, bool stopped, string challenge, Instant now)
    {
        if (
            session is not { Beam: true, Run: { OffAt: null, PausedAt: null } run }
            || stopped
            || now >= run.Deadline
            || now >= run.FixedEnd
        )
            return null;
        var attention = Attention.Minutes(facts.Machine, facts.Rules) * 60;
        var cooled = facts.Machine.WaterCooled ? facts.Machine.Station : null;
        return new Grant(
            Challenge: challenge,
            Seconds: Floor(Instant.Min(run.Deadline, run.FixedEnd) - now),
            AttentionSeconds: attention,
            EndSeconds: Floor(run.FixedEnd - now),
            AirflowAtLeast: MachineLive.AirflowLimit(facts.Machine),
            CoolantAtMostC: cooled?.CoolantShutC,
            CoolantAtLeastC: cooled?.CoolantColdC
        );
    }

    /// <summary>Tenths of a second, rounded down.</summary>
    private static decimal Floor(Duration left) => Math.Floor((decimal)left.TotalMilliseconds / 100) / 10;

    /// <summary>A beam that is off although it may be on: the house asks again, for a message may have been lost.</summary>
    public static bool AskWanted(StationSession? session, bool stopped, Instant now) =>
        !stopped
        && session is { Beam: true, Controlled: true, Run: { OffAt: null, PausedAt: null } run }
        && now < run.Deadline
        && now < run.FixedEnd;

    /// <returns>Why a beam that is on has to go off; null while it may stay.</returns>
    public static string? DropWanted(StationSession? session, bool stopped) =>
        session is not { Beam: true } ? "session"
        : stopped ? "machine.stopped"
        : session.Run is { PausedAt: not null } ? OffWhy.Pause
        : null;

    /// <summary>
    /// When a run ends at the latest, whoever presses: closing time, the certificate, duty where the house needs it, and the
    /// house’s longest booking. The end of the booking itself drops no beam.
    /// </summary>
    public static Instant FixedEnd(GateFacts facts, Instant now)
    {
        var rules = facts.Rules;
        var ends = new List<Instant> { now + Duration.FromMinutes(rules.LongestBookingMinutes) };
        if (rules.OpenOn(rules.Clock.DateOf(now)) is { } open)
            ends.Add(open.End);
        if (facts.Training.Certificates.IsKnown)
            ends.AddRange(Last(facts.Training.Certificates.Value.Select(c => c.Held), now));
        if (rules.Supervision == Supervision.StewardOnDuty && facts.Room.OnDuty.IsKnown)
            ends.AddRange(Last(facts.Room.OnDuty.Value, now));
        return Instant.Max(now, ends.Min());
    }

    /// <summary>The end of the longest of those that hold now; nothing where one has none, or none holds.</summary>
    private static IEnumerable<Instant> Last(IEnumerable<Span> spans, Instant now)
    {
        var held = spans.Where(s => s.Start <= now && (s.End is null || s.End > now)).ToList();
        return held.Count == 0 || held.Any(s => s.End is null) ? [] : [held.Max(s => s.End!.Value)];
    }
}
