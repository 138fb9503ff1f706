using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>What was looked at on a machine that stood for long.</summary>
/// <param name="Interlocks">Lid opened a finger, a hand, half: the beam gone at once each time; the stops stop.</param>
/// <param name="Outlet">The duct’s outlet is free of nests, leaves and ice; for filtered air, the filter’s.</param>
/// <param name="Kit">The fire kit is there, in date and whole.</param>
public sealed record BreakCheck(
    bool Interlocks = false,
    bool Outlet = false,
    bool Kit = false,
    decimal? AirflowM3PerHour = null,
    decimal? CoolantC = null
);

/// <summary>
/// A machine that stood for long is looked at before its first run: water stands, seals dry, animals nest in ducts, kit goes missing.
/// Source: common practice; the maker’s manual comes first.
/// </summary>
public static class AfterBreak
{
    /// <param name="last">When somebody last looked at it so.</param>
    public static Refusal? Wrong(BreakCheck check, MachineSpec machine, UpkeepHands hands, Instant? last, Instant now)
    {
        if (!UpkeepDone.MayDo(UpkeepWho.Trainer, hands))
            return UpkeepProblems.NotYours.Refuse(null, UpkeepDone.Says(UpkeepWho.Trainer));
        // Two windows, or two people, at the same moment.
        if (now - last < UpkeepDone.Twice)
            return UpkeepProblems.DoneJustNow.Refuse();
        var missing = new (string Field, string Says, bool Is)[]
        {
            ("interlocks", "interlocks tried", !check.Interlocks),
            ("airflowM3PerHour", "airflow read", check.AirflowM3PerHour is null),
            ("coolantC", "coolant read", machine.WaterCooled && check.CoolantC is null),
            ("outlet", "the outlet looked at", !check.Outlet),
            ("kit", "the fire kit looked at", !check.Kit),
        }
            .Where(m => m.Is)
            .ToList();
        return missing.Count > 0
            ? UpkeepProblems.BreakIncomplete.Refuse(missing[0].Field, string.Join(", ", missing.Select(m => m.Says)))
            : ReturnToService.OutOfRange(check.AirflowM3PerHour, check.CoolantC, machine, "");
    }
}
