using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station.Controllers;

namespace VelvetGate.Core.Station;

/// <summary>The gate at the machine: what is asked of it for a session, and what of its answer stands against a start.</summary>
public static class SessionGate
{
    /// <summary>The sheet on the bed, as measured and set, from now to the end of the booking.</summary>
    public static GateQuestion Ask(StationSession s, Instant now) =>
        new(
            MemberId: s.Person,
            MachineId: s.MachineId,
            Items: [Item(s)],
            Fixture: s.Fixture,
            SupervisorId: s.Supervisor,
            Start: now,
            Minutes: Minutes(now, s.Until),
            Phase: Phase.AtMachine
        )
        {
            Companions = s.Companions,
        };

    public static int Minutes(Instant now, Instant until) => Math.Max(1, (int)(until - now).TotalMinutes);

    /// <summary>Values of one’s own are an entry like any other, that nobody has a clean result of.</summary>
    private static GateItem Item(StationSession s) => s.Set is { Id: null } ? s.Measured with { SettingIds = [s.Id] } : s.Measured;

    /// <summary>Gauges are read in the looks at the machine, so they are no reason of their own here.</summary>
    public static GateFacts Looked(GateFacts facts) => facts with { Machine = facts.Machine with { Readings = Fact.Known(true) } };

    /// <summary>With what the machine is set to, where that is no entry of the library.</summary>
    /// <param name="live">What a controller reads; null without one. Its airflow is judged once the extraction is meant to run.</param>
    public static GateFacts Known(StationSession s, GateFacts facts, Sensors? live)
    {
        var known = Known(s, facts);
        return live is null ? known : known with { Machine = known.Machine with { Live = live.Read(s.FanMeant) } };
    }

    private static GateFacts Known(StationSession s, GateFacts facts) =>
        s.Set is not { Id: null } set
            ? Looked(facts)
            : Looked(facts) with
            {
                Settings = [.. facts.Settings ?? [], Own(s, set, facts.Machine.Spec)],
            };

    private static SettingFacts Own(StationSession s, SetTo set, MachineSpec machine) =>
        new(
            Id: s.Id,
            Number: 0,
            MachineId: s.MachineId,
            MaterialId: s.On.MaterialId,
            ThicknessMm: s.On.ThicknessMm,
            Operation: s.On.Operations.Contains(House.Operation.Cut) ? House.Operation.Cut : s.On.Operations[0],
            JPerMm: machine.PowerW * set.Dose / 100,
            SpeedMmS: set.SpeedMmPerS,
            Passes: set.Passes,
            PitchMm: null,
            Held: new Span(s.TappedIn),
            Flames: 0,
            Clean: []
        );

    /// <summary>
    /// What stands against a start: the thickest place by ruling and limit, the thinnest by the setting, which burns what is less than it
    /// is for. How long the booking was made for, and how far ahead, is settled; whether the run still fits is asked at each start.
    /// </summary>
    public static IReadOnlyList<Reason> Against(StationSession s, GateQuestion ask, GateFacts facts)
    {
        var thickest = Against(Gate.Decide(ask, facts));
        if (s.Sheet is not { } sheet || sheet.Thinnest == sheet.Thickest)
            return thickest;
        var thin = ask with { Items = [ask.Items[0] with { ThicknessMm = sheet.Thinnest }] };
        return
        [
            .. thickest,
            .. Against(Gate.Decide(thin, facts))
                .Where(r => r.Code.StartsWith("settings.", StringComparison.Ordinal) && thickest.All(t => t.Code != r.Code)),
        ];
    }

    /// <summary>
    /// What lets a run go on and is to be minded: what the gate calls a caution. The readings say theirs where they are shown.
    /// </summary>
    public static IReadOnlyList<Reason> Mind(Decision decision) =>
        [.. decision.Reasons.Where(r => r.Standing == Standing.Caution && !Read.Contains(r.Code))];

    private static readonly IReadOnlySet<string> Read = new[]
    {
        Codes.MachineReadings,
        Codes.MachineAirflowDue,
        Codes.MachineCoolantWarm,
        Codes.MachineRoomCold,
    }
        .Select(r => r.Code)
        .ToHashSet();

    public static IReadOnlyList<Reason> Against(Decision decision) =>
        [
            .. decision.Reasons.Where(r =>
                r.Standing >= Standing.Ask
                && r.Code != Codes.TimeTooShort.Code
                && r.Code != Codes.TimeUnknownRun.Code
                && r.Code != Codes.TimeLimit.Code
            ),
        ];
}
