using System.Globalization;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Station;

/// <summary>What the beam left behind when it went off.</summary>
public enum BeamLeft
{
    Smoke,

    /// <summary>A flame, or a glow.</summary>
    FlameOrGlow,

    /// <summary>Nobody saw what the bed did after: an alarm, or a power cut.</summary>
    LeftHot,

    /// <summary>A choking smell, or stock that is never allowed: nobody waits here.</summary>
    Choking,
}

/// <summary>How long the lid stays shut after the beam went off.</summary>
/// <param name="Seconds">At least; null where nobody waits: out, door shut, until a steward says.</param>
/// <param name="AirflowM3PerHour">What was reckoned with.</param>
/// <param name="Why">With the figures.</param>
public sealed record LidWait(int? Seconds, decimal AirflowM3PerHour, string Why)
{
    /// <summary>As often as smoke is still to be seen. Common practice.</summary>
    public const int StillSmokeSeconds = 30;

    /// <param name="airflow">Read at the machine, in m3/h; null takes the airflow at which the gate is shut: an unread flow shortens
    /// nothing.</param>
    public static LidWait Of(MachineSpec machine, HouseRules rules, decimal? airflow, BeamLeft left)
    {
        if (left == BeamLeft.Choking)
            return new(null, 0, "Choking smell: everybody out, door shut. The lid stays shut until a steward says.");
        var commissioned = machine.AirflowM3PerHour;
        var reckoned = airflow ?? commissioned * ReadingRules.ShutPart;
        if (reckoned <= 0 || machine.EnclosureM3 <= 0)
            return new(Math.Max(AirClearing.LongWaitSeconds, rules.AirClearingFloorSeconds), 0, "The airflow is not known: the long wait.");
        var seconds = AirClearing.Seconds(
            (double)machine.EnclosureM3,
            (double)reckoned,
            (double)rules.AirMixingFactor,
            (double)rules.AirResidual
        );
        var computed = (int)Math.Ceiling(Math.Max(seconds, rules.AirClearingFloorSeconds));
        var flow = string.Create(CultureInfo.InvariantCulture, $"{reckoned:0.#} m³/h");
        var figures = airflow is null
            ? $"nobody read the airflow, so {flow} is reckoned with"
            : $"{flow} through {machine.EnclosureM3:0.##} m³";
        return left is BeamLeft.FlameOrGlow or BeamLeft.LeftHot
            ? new(
                Math.Max(AirClearing.LongWaitSeconds, 3 * computed),
                reckoned,
                $"{(left == BeamLeft.LeftHot ? "The work was left hot" : "After a flame or a glow")}; {figures}."
            )
            : new(computed, reckoned, char.ToUpperInvariant(figures[0]) + figures[1..] + ".");
    }
}

/// <summary>How long a running beam goes without a press.</summary>
public static class Attention
{
    /// <summary>Seen and heard so many seconds before it ends. House practice.</summary>
    public const int WarnSeconds = 30;

    /// <summary>Minutes: the shorter of the house’s and the machine’s own.</summary>
    public static int Minutes(MachineSpec machine, HouseRules rules) =>
        Math.Min(rules.AttentionMinutes, machine.Station?.AttentionMinutes ?? rules.AttentionMinutes);
}
