using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>How a session goes on by what its machine tells.</summary>
public static class SessionEvents
{
    /// <param name="at">When it happened, by the controller’s clock.</param>
    /// <returns>The same session where the event changes nothing.</returns>
    public static StationSession Heard(this StationSession s, string kind, string? value, StationFacts facts, Instant at)
    {
        var after = kind switch
        {
            EventKind.RelayOn when s.Beam => s with { Run = s.Run! with { OnAt = s.Run.OnAt ?? at, OffAt = null } },
            EventKind.RelayOff when s.Beam && s.Run!.PausedAt is not null && value == OffWhy.Pause => s with
            {
                Run = s.Run with { OffAt = at },
            },
            EventKind.RelayOff when s.Beam => value == OffWhy.Lapsed ? Lapsed(s, at) : Off(s, value ?? OffWhy.Dropped, facts, at),
            EventKind.RelayOff when s is { Step: StationStep.Wait, Run: { SeenOffAt: null } } => SeenOff(s, at),
            EventKind.Press when s is { Beam: true, Run: { OffAt: null, PausedAt: null } run } && at <= run.Deadline => s with
            {
                Run = run with
                {
                    Deadline = Instant.Max(run.Deadline, at + Duration.FromMinutes(Attention.Minutes(facts.Machine, facts.Rules))),
                },
            },
            EventKind.LidOpened when s is { Step: StationStep.Wait, Lid: { } lid } => lid.Until is null
                ? s with
                {
                    Lid = lid with { Open = true },
                }
            : at < lid.Until ? s with { Lid = lid with { Open = true, Early = true } }
            : s with { Step = StationStep.Unload },
            EventKind.LidShut when s is { Step: StationStep.Wait, Lid: { Open: true } lid } => s with
            {
                Lid = lid with { Open = false, From = at, Until = lid.Seconds is { } seconds ? at + Duration.FromSeconds(seconds) : null },
            },
            EventKind.Stuck => s with { Held = s.Held ?? "The beam stayed on after it was taken away" },
            EventKind.KeyOut when s.Held is null && s.Step != StationStep.Close => s with { Held = "The service key is out" },
            _ => s,
        };
        return ReferenceEquals(after, s) ? s : after with { Version = s.Version + 1 };
    }

    private static StationSession SeenOff(StationSession s, Instant at)
    {
        var off = s.Run!.SaidOffAt is null ? s.OffFrom(at) : s;
        return off with { Run = off.Run! with { SeenOffAt = at } };
    }

    /// <summary>The controller has booted anew: the run is broken off, whatever the laser did meanwhile.</summary>
    public static StationSession PowerLost(this StationSession s, StationFacts facts, Instant at) =>
        s.Beam ? Off(s, PowerLostWhy, facts, at) with { Version = s.Version + 1 } : s;

    /// <summary>Less air than the wait was reckoned with makes it longer, from its beginning; more air makes it no shorter.</summary>
    /// <returns>The same session where the wait stays as it is.</returns>
    public static StationSession Reckoned(this StationSession s, MachineSpec machine, HouseRules rules, decimal? airflow)
    {
        if (s is not { Step: StationStep.Wait, Lid: { Seconds: { } seconds, Until: not null } lid })
            return s;
        var wait = LidWait.Of(machine, rules, airflow, lid.Left);
        return wait.Seconds is not { } longer || longer <= seconds
            ? s
            : s with
            {
                Version = s.Version + 1,
                Lid = lid with { Seconds = longer, Until = lid.From + Duration.FromSeconds(longer), Why = wait.Why },
            };
    }

    public const string PowerLostWhy = "power.lost";

    /// <summary>Still running to the person, without a beam: looked, and it goes on.</summary>
    private static StationSession Lapsed(StationSession s, Instant at) =>
        s with
        {
            Run = s.Run! with { OffAt = at, Deadline = Instant.Min(s.Run.Deadline, at) },
        };

    private static StationSession Off(StationSession s, string why, StationFacts facts, Instant at)
    {
        var left = why == PowerLostWhy ? BeamLeft.LeftHot : BeamLeft.Smoke;
        var wait = LidWait.Of(facts.Machine, facts.Rules, facts.Live?.Fresh(at)?.AirflowM3PerHour, left);
        return s with
        {
            Step = StationStep.Wait,
            LooksAgain = s.LooksAgain || why == PowerLostWhy,
            Run = s.Run! with { End = at, OffAt = at, SeenOffAt = at, BrokenOff = true, AsksWhy = why == OffWhy.Stop },
            Lid = new LidShut(at, wait.Seconds is { } seconds ? at + Duration.FromSeconds(seconds) : null, $"{Says(why)} {wait.Why}")
            {
                Seconds = wait.Seconds,
                Left = left,
                Open = why == OffWhy.Lid,
            },
        };
    }

    /// <summary>Why the beam went off, to whoever stands there.</summary>
    public static string Says(string why) =>
        why switch
        {
            OffWhy.Lid => "The lid was opened: shut it, and the wait begins.",
            OffWhy.Readings => "Airflow or coolant was out of range, or nobody could read it.",
            OffWhy.Over => "The time was over.",
            OffWhy.Lapsed => "Nobody pressed in time.",
            OffWhy.Stop => "Stopped.",
            OffWhy.Key => "The service key is out.",
            PowerLostWhy => "The power was gone. Look through the window first: a flame or a glow? Then the emergency card.",
            _ => "The house took the beam away.",
        };
}
