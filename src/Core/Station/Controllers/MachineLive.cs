using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>What a controller says of its machine, as the house knows it.</summary>
/// <param name="HeardAt">Of the last message; null before the first.</param>
/// <param name="Sensors">As last read; null before the first reading.</param>
/// <param name="ReadAt">When they were read, by the controller’s own clock.</param>
/// <param name="AirSince">Since when the airflow is above the limit at which the gate is shut; null while it is not.</param>
/// <param name="Beam">Its relay lets the beam on, as it said last.</param>
/// <param name="RelayAt">When that changed; null before the first change.</param>
/// <param name="ClockApartSeconds">Its clock less the house’s; null without a clock.</param>
public sealed record MachineLive(
    string Serial,
    Instant? HeardAt = null,
    Sensors? Sensors = null,
    Instant? ReadAt = null,
    Instant? AirSince = null,
    bool Beam = false,
    Instant? RelayAt = null,
    int? ClockApartSeconds = null
)
{
    /// <summary>Silent for so long, it is shown as silent. House practice.</summary>
    public static readonly Duration SilentAfter = Duration.FromSeconds(10);

    /// <summary>Silent for so long, nothing starts. House practice.</summary>
    public static readonly Duration LostAfter = Duration.FromMilliseconds(ControllerBox.SilentMs);

    public bool IsSilent(Instant now) => ReadAt is not { } at || now - at > SilentAfter;

    public bool IsLost(Instant now) => ReadAt is not { } at || now - at > LostAfter;

    /// <summary>Its readings, where they are fresh enough to decide by.</summary>
    public Sensors? Fresh(Instant now) => IsLost(now) ? null : Sensors;

    /// <summary>m³/h below which the gate is shut.</summary>
    public static decimal AirflowLimit(MachineSpec machine) => machine.AirflowM3PerHour * ReadingRules.ShutPart;

    /// <summary>With one more reading.</summary>
    public MachineLive With(Readings reading, MachineSpec machine, Instant at, Instant now)
    {
        var draws = reading.Sensors.AirflowM3PerHour >= AirflowLimit(machine) && machine.AirflowM3PerHour > 0;
        // After a gap nobody knows whether it drew meanwhile.
        var gap = ReadAt is not { } last || at - last > SilentAfter;
        return this with
        {
            HeardAt = now,
            Sensors = reading.Sensors,
            ReadAt = at,
            AirSince =
                !draws ? null
                : gap ? at
                : AirSince ?? at,
            Beam = reading.Beam,
            RelayAt = reading.Beam == Beam ? RelayAt : at,
        };
    }
}

/// <summary>Which instant a controller’s own milliseconds are.</summary>
/// <param name="Zero">Instant of its boot, as the quickest message so far shows it.</param>
/// <param name="Late">Readings in a row that came much too late.</param>
public sealed record BootClock(Instant Zero, int Late = 0)
{
    private static readonly Duration MuchTooLate = Duration.FromSeconds(5);
    private const int Enough = 10;

    public Instant At(long ms) => Zero + Duration.FromMilliseconds(ms);

    /// <summary>
    /// Delay makes a message late and never early, so the quickest one is the best. Where all are much too late, a clock was set: it is
    /// taken anew, and until then what was measured counts as old.
    /// </summary>
    public static BootClock Heard(BootClock? before, long ms, Instant now)
    {
        var zero = now - Duration.FromMilliseconds(ms);
        if (before is null || zero <= before.Zero)
            return new BootClock(zero);
        var late = zero - before.Zero > MuchTooLate ? before.Late + 1 : 0;
        return late >= Enough ? new BootClock(zero) : before with { Late = late };
    }
}
