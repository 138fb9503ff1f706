using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>What somebody read off gauges at a machine.</summary>
/// <param name="AirflowM3PerHour">Extraction on, lid shut, bed empty: as at commissioning.</param>
public sealed record HandReading(decimal? AirflowM3PerHour, decimal? CoolantC, decimal? RoomC);

/// <summary>
/// Values that no gauge shows are another unit, or a slip of the pen: they are asked again, never kept. Ranges are house practice.
/// </summary>
public static class HandReadings
{
    /// <summary>More than so many times the commissioning value is no airflow of that machine.</summary>
    public const decimal AirflowMost = 2;

    public static IEnumerable<Refusal> Wrong(MachineSpec machine, HandReading reading)
    {
        if (reading is { AirflowM3PerHour: null, CoolantC: null, RoomC: null })
            yield return UpkeepProblems.NothingRead.Refuse("airflowM3PerHour");
        if (Airflow(machine, reading.AirflowM3PerHour, "airflowM3PerHour") is { } airflow)
            yield return airflow;
        if (reading.CoolantC is not null && !machine.WaterCooled)
            yield return UpkeepProblems.NotCooled.Refuse("coolantC", machine.Name);
        else if (reading.CoolantC is < -5 or > 60)
            yield return UpkeepProblems.CoolantOdd.Refuse("coolantC");
        if (reading.RoomC is < -30 or > 50)
            yield return UpkeepProblems.RoomOdd.Refuse("roomC");
    }

    public static Refusal? Airflow(MachineSpec machine, decimal? airflow, string field) =>
        airflow is null ? null
        : airflow < 0 ? UpkeepProblems.AirflowNegative.Refuse(field)
        : machine.AirflowM3PerHour <= 0 ? UpkeepProblems.AirflowUnknown.Refuse(field, machine.Name)
        : airflow > machine.AirflowM3PerHour * AirflowMost ? UpkeepProblems.AirflowOdd.Refuse(field, machine.AirflowM3PerHour, machine.Name)
        : null;
}
