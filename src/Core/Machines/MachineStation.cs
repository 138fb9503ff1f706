namespace VelvetGate.Core.Machines;

/// <summary>
/// How the extraction of a machine gets its power: it decides what happens to the smoke when the machine is switched off.
/// </summary>
public enum ExtractionPower
{
    /// <summary>A switch of its own.</summary>
    OwnSwitch,

    /// <summary>Dies with the machine: switching the machine off stops it carrying smoke away.</summary>
    WithMachine,

    /// <summary>Runs always, or with the building.</summary>
    AlwaysOn,
}

public enum AirAssist
{
    None,
    Automatic,
    PumpSwitch,
    HandValve,
}

public enum Cooling
{
    None,
    Automatic,
    Chiller,
    Bucket,
}

/// <summary>What stands between the beam and people. Nobody guesses it from words.</summary>
public enum EnclosureKind
{
    /// <summary>Closed on all sides, its cover switches tested.</summary>
    Closed,

    /// <summary>A slot through which long stock passes.</summary>
    PassThrough,

    /// <summary>A panel is off, or a cover switch was not tested.</summary>
    Unverified,

    /// <summary>A frame over the bench, without a cover.</summary>
    OpenFrame,
}

/// <summary>How a job is framed on this machine before it runs.</summary>
public enum Framing
{
    /// <summary>Lid open, by the pointer alone.</summary>
    PointerLidOpen,

    /// <summary>Lid shut, by the pointer through the window.</summary>
    PointerLidShut,

    /// <summary>With high voltage off and the lid shut: after one discharge pulse.</summary>
    BeamOffLidShut,

    /// <summary>The machine has no pointer: by hand, head moved round the work with the beam off.</summary>
    ByHand,
}

/// <summary>How a built-in fire suppression is set off.</summary>
public enum SuppressionKind
{
    Button,

    /// <summary>By itself, in heat: there is nothing to press.</summary>
    HeatTriggered,
}

/// <summary>What one stop device really does.</summary>
/// <param name="Name">What it is called, such as “red button”.</param>
/// <param name="Where">Where it is.</param>
/// <param name="CutsTube">Takes the laser source its power; false when it only pauses.</param>
/// <param name="CutsExtraction">The fan stops with it.</param>
/// <param name="FinishesStroke">The head runs on to the end of its stroke before it stops.</param>
/// <param name="OpensLid">It works by opening the lid or door: never the way to stop in a fire.</param>
/// <param name="LosesJob">The job cannot go on from where it was.</param>
public sealed record StopDevice(
    string Name,
    string Where,
    bool CutsTube,
    bool CutsExtraction,
    bool FinishesStroke = false,
    bool LosesJob = true,
    bool OpensLid = false
)
{
    /// <summary>In words, for a list.</summary>
    public string Says() => $"{Does()}{(LosesJob ? "" : "; the job can go on")}";

    /// <summary>In words, for a card: what becomes of the job is nobody's care then.</summary>
    public string Does() =>
        (FinishesStroke ? "finishes the stroke, then stops" : "stops at once")
        + (CutsTube ? ", cuts the beam’s power" : ", the machine stays live")
        + (CutsExtraction ? ", extraction stops too" : ", extraction runs on");
}

/// <summary>Such as “red fan icon”: “the fan is off, or broken: listen”.</summary>
public sealed record PanelSign(string What, string Means);

/// <summary>Where something is that people look for: a switch, a gauge, a cloth.</summary>
public sealed record KeptAt(string What, string Where);

/// <summary>A machine as it stands in its place. Temperatures in °C, times in minutes.</summary>
/// <param name="ClassEvidence">How the laser class in use is known: label, manual, interlock test.</param>
/// <param name="Enclosure">A word on it: which window, where the slot is. What it is stands in <see cref="EnclosureKind"/>.</param>
/// <param name="CoolantCautionC">Caution above; ask and shut above the next two. The maker's manual overrides.</param>
/// <param name="CoolantColdC">Shut below.</param>
/// <param name="AttentionMinutes">The machine's own attention timer; null when it has none.</param>
/// <param name="Pulsed">Pulse data are wanted for a full eyewear check; average power only is said so.</param>
/// <param name="Suppression">A built-in suppression button or a heat-triggered device; empty for none.</param>
public sealed record MachineStation(
    string Place,
    string ClassEvidence,
    string Enclosure,
    ExtractionPower ExtractionPower,
    string ExtractionSwitch,
    AirAssist AirAssist,
    Cooling Cooling,
    decimal CoolantCautionC,
    decimal CoolantAskC,
    decimal CoolantShutC,
    decimal CoolantColdC,
    decimal? RoomMinimumC,
    int? AttentionMinutes,
    bool Pulsed,
    string Suppression,
    string Access,
    string Beds,
    IReadOnlyList<string> FocusMethods,
    IReadOnlyList<string> ServicedBy,
    IReadOnlyList<string> Documents,
    IReadOnlyList<StopDevice> StopDevices,
    IReadOnlyList<KeptAt> KeptAt
)
{
    /// <summary>Null while nobody has said: then the class is not shown.</summary>
    public EnclosureKind? EnclosureKind { get; init; }

    /// <summary>Null while nobody has said.</summary>
    public Framing? Framing { get; init; }

    /// <summary>How it is switched on, step by step, each with where; empty while nobody has said.</summary>
    public IReadOnlyList<KeptAt>? SwitchOn { get; init; }

    /// <summary>How it is switched off.</summary>
    public IReadOnlyList<KeptAt>? SwitchOff { get; init; }

    /// <summary>What its panel, lamps and driver show, and what that means; empty while nobody has said.</summary>
    public IReadOnlyList<PanelSign>? Signs { get; init; }

    /// <summary>What it takes from the wall while it runs, with cooling and extraction, in W; null while nobody has measured it.</summary>
    public decimal? WallW { get; init; }

    /// <summary>Narrowest that its rotary holds, in mm; null without a rotary, or while nobody has said.</summary>
    public decimal? RotaryFromMm { get; init; }

    /// <summary>Widest that its rotary holds, in mm; null without a rotary, or while nobody has said.</summary>
    public decimal? RotaryToMm { get; init; }

    /// <summary>Pause on its panel takes the beam away at once, and it goes on from the same place.</summary>
    public bool PauseStopsBeam { get; init; }

    /// <summary>The covers over its mirrors are marked free of voltage, with its power on.</summary>
    public bool MirrorCoversMarked { get; init; }

    /// <summary>Its attention timer counts from tapping in, also while somebody prepares; else from the beam permit.</summary>
    public bool AttentionFromTapIn { get; init; }

    /// <summary>Null without suppression, or while nobody has said.</summary>
    public SuppressionKind? SuppressionKind { get; init; }
}
