using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings;

/// <summary>How long the extraction must run before the lid is opened.</summary>
public static class AirClearing
{
    /// <summary>
    /// t = K · (V / Q) · ln(1 / r), in seconds. It clears the box, not the room, and assumes emission has stopped.
    /// </summary>
    /// <param name="volumeM3">Enclosure volume V in m3, above 0.</param>
    /// <param name="airflowM3PerHour">Airflow Q in m3/h, above 0: no airflow has no answer, the lid stays shut.</param>
    /// <param name="mixing">Mixing factor K, 1 (perfect) to 10.</param>
    /// <param name="residual">Part r that may remain, between 0 and 1.</param>
    /// <remarks>Source: dilution of a well-mixed box, as in CDC 2003, Guidelines for Environmental Infection Control, table B.1.</remarks>
    public static double Seconds(double volumeM3, double airflowM3PerHour, double mixing, double residual)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(volumeM3);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(airflowM3PerHour);
        ArgumentOutOfRangeException.ThrowIfLessThan(mixing, 1);
        if (residual is <= 0 or >= 1)
            throw new ArgumentOutOfRangeException(nameof(residual), residual, "Between 0 and 1.");
        return mixing * (volumeM3 / (airflowM3PerHour / 3600)) * Math.Log(1 / residual);
    }

    /// <summary>The least wait a house starts from, in seconds. House practice.</summary>
    public const int FloorSeconds = 30;

    /// <summary>The long wait, in seconds: after a flame or embers, and where the airflow is not known. Source: house practice.</summary>
    public const int LongWaitSeconds = 300;

    /// <summary>
    /// Minutes to plan for after each run, as people are told them, in whole seconds; the long wait where the airflow is not known.
    /// </summary>
    public static decimal Planned(MachineSpec machine, House.HouseRules rules) =>
        Shown((decimal)(Used(machine, rules) ?? Math.Max(LongWaitSeconds, rules.AirClearingFloorSeconds)) / 60m) / 60m;

    /// <summary>Seconds that the lid stays shut after each run, for people: rounded up to five.</summary>
    public static int Shown(decimal minutes) => (int)Math.Ceiling(Math.Round(minutes * 60 / 5, 3)) * 5;

    /// <summary>How often, and how long each time, such as “2 x 35 s”.</summary>
    public static string Says(decimal times, decimal minutes) =>
        string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{times:0.##} x {Shown(minutes)} s");

    /// <summary>The time used: the house minimum or the computed time, whichever is longer. Null without airflow.</summary>
    public static double? Used(MachineSpec machine, House.HouseRules rules) =>
        machine.AirflowM3PerHour <= 0 || machine.EnclosureM3 <= 0
            ? null
            : Math.Max(
                rules.AirClearingFloorSeconds,
                Seconds(
                    (double)machine.EnclosureM3,
                    (double)machine.AirflowM3PerHour,
                    (double)rules.AirMixingFactor,
                    (double)rules.AirResidual
                )
            );
}
