namespace VelvetGate.Core.House;

public enum FireAgent
{
    Co2,
    CleanAgent,
    DryPowder,
    Water,
    Foam,
    Other,
}

/// <summary>The room the machines stand in, and the way out of it. Volume in m3, temperature in °C.</summary>
/// <param name="Discharge">Whether and by whom discharge outdoors is permitted.</param>
/// <param name="FreshAir">How the room gets fresh air: filters that blow back into it remove no carbon monoxide.</param>
/// <param name="CoAlarm">A carbon-monoxide alarm hangs in the room.</param>
/// <param name="Extinguisher">What the house has chosen to fight a small flame with.</param>
/// <param name="WaterAllowed">Water is in this house's kit; never offered by default, and kept away from high voltage.</param>
/// <param name="KeyTimes">When the key or fob opens the room, in words.</param>
/// <param name="EmergencyCall">The number of the fire service, as one dials it here.</param>
public sealed record RoomSpec(
    string Name,
    string Address,
    decimal? VolumeM3,
    string Discharge,
    string FreshAir,
    bool CoAlarm,
    string ExtinguisherWhere,
    FireAgent Extinguisher,
    bool WaterAllowed,
    string AlarmPoint,
    string WayOut,
    string MeetingPoint,
    string EmergencyCall,
    string WhoToTell,
    string FirstAid,
    string KeyTimes,
    string Computers,
    string CleaningKit,
    string Toolbox,
    string Stock
)
{
    public const int UsualLabelColumns = 3;
    public const int UsualLabelRows = 8;

    /// <summary>Labels across a page of A4.</summary>
    public int? LabelColumns { get; init; }

    /// <summary>Labels down a page of A4.</summary>
    public int? LabelRows { get; init; }
}
