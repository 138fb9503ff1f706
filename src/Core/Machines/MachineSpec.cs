using System.Text.Json.Serialization;
using NodaTime;

namespace VelvetGate.Core.Machines;

/// <summary>Kinds of laser by source: about 10.6 µm, 450 nm and 1064 nm.</summary>
public enum LaserKind
{
    [JsonStringEnumMemberName("co2")]
    Co2,
    Diode,
    Fibre,
}

public enum Extraction
{
    /// <summary>Outdoors through a duct.</summary>
    Ducted,

    /// <summary>Filtered and back into the room: a filter removes no carbon monoxide.</summary>
    Filtered,
    Both,
}

/// <summary>What a machine is. Times in seconds, lengths in mm, power in W, airflow in m3/h, volume in m3.</summary>
/// <param name="LaserClass">Class in use, read from label and manual: an open frame or an unverified interlock is 4.</param>
/// <param name="MarginMm">Edge that cannot be used, each side; 0 allowed.</param>
/// <param name="MaxCutMm">Greatest thickness this machine cuts; 0 for one that never cuts.</param>
/// <param name="KerfMm">Width the beam takes away; never 0 for a cutter.</param>
/// <param name="CarriesEyewear">Id of the eyewear set that this machine needs in its present class; null when none is needed.</param>
/// <param name="HereFrom">First day in this house; null where nobody wrote it down.</param>
/// <param name="HereUntil">Last day in this house: sold, scrapped or lent away; null while it stays.</param>
/// <param name="Motion">How its head moves, beyond acceleration and top speed; null where nobody wrote it down.</param>
/// <param name="WidestLineMm">Widest line that its driver takes for a cut; null where the width does not matter.</param>
/// <param name="TimeFactors">How its own runs compare with their estimates, as a steward accepted it; one an operation.</param>
/// <param name="Station">The machine as it stands in its place; null in facts of before it was kept.</param>
public sealed record MachineSpec(
    MachineId Id,
    string Name,
    LaserKind Kind,
    int WavelengthNm,
    decimal PowerW,
    decimal BedWidthMm,
    decimal BedHeightMm,
    decimal MarginMm,
    decimal MaxCutMm,
    decimal MaxHeightMm,
    decimal KerfMm,
    decimal AccelerationMmS2,
    decimal TopSpeedMmS,
    Extraction Extraction,
    int ExtractionLeadSeconds,
    decimal EnclosureM3,
    decimal AirflowM3PerHour,
    bool WaterCooled,
    string LaserClass,
    string HomeCorner,
    string ExtractionPower,
    string StopCuts,
    IReadOnlyList<string> Fixtures,
    string? CarriesEyewear = null,
    MachineStation? Station = null,
    LocalDate? HereFrom = null,
    LocalDate? HereUntil = null,
    MachineMotion? Motion = null,
    IReadOnlyList<TimeFactor>? TimeFactors = null,
    decimal? WidestLineMm = null
)
{
    /// <summary>Whether the machine stands in this house for the whole time: not before it came, nor after its last day here.</summary>
    public bool IsHere(Instant start, Instant end, HouseClock clock) =>
        (HereFrom is not { } from || start >= clock.Day(from).Start) && (HereUntil is not { } last || end <= new LastDay(last).End(clock));

    /// <summary>Whether its last day in this house is over.</summary>
    public bool IsGone(Instant now, HouseClock clock) => HereUntil is { } last && now >= new LastDay(last).End(clock);

    public decimal UsableWidthMm => BedWidthMm - 2 * MarginMm;

    public decimal UsableHeightMm => BedHeightMm - 2 * MarginMm;

    /// <summary>
    /// True when class or enclosure lets the beam reach a person: 3B or 4 (IEC 60825-1 classes), or anything but a closed machine.
    /// </summary>
    public bool BeamCanReachPeople =>
        LaserClass is "3B" or "4"
        || Station?.EnclosureKind is EnclosureKind.PassThrough or EnclosureKind.Unverified or EnclosureKind.OpenFrame;
}
