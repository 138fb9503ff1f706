namespace VelvetGate.Core.Station;

/// <summary>What somebody does at the machine, one press each.</summary>
public enum Deed
{
    Check,
    Sheet,
    Focus,
    Settings,
    Frame,
    Air,
    Confirm,
    Start,

    /// <summary>“I’m here, watching.”</summary>
    Press,

    /// <summary>The machine was paused at its panel: the beam goes off, and may come back.</summary>
    Pause,
    Resume,

    /// <summary>After attention lapsed: looked, no flame, no glow.</summary>
    Look,

    /// <summary>The beam is off: it came to its end, or the machine’s own stop was pressed.</summary>
    Stop,

    /// <summary>The controller does not answer: the machine’s own stop was pressed.</summary>
    OwnStop,

    /// <summary>No smoke to be seen, the lid is opened.</summary>
    LidOpened,

    /// <summary>The code at the machine was scanned.</summary>
    Here,

    /// <summary>Somebody is to come.</summary>
    Call,

    /// <summary>Smoke is still to be seen.</summary>
    StillSmoke,
    Outcome,
    Next,
    Close,
    TapOut,
}

/// <summary>Why the beam went off.</summary>
public enum StopWhy
{
    /// <summary>It came to its end.</summary>
    Ended,
    SheetMoved,
    WrongSettings,
    ByMistake,
    Flame,
    Smell,
    Misbehaves,

    /// <summary>The building’s alarm: everybody left, and the work was left hot.</summary>
    Alarm,
}

public enum PartResult
{
    Through,
    NotThrough,
    Charred,
    Flame,
    Smell,
}

public enum NextWhat
{
    /// <summary>The one extra pass over the lines that are not through.</summary>
    Extra,

    /// <summary>Another piece on the same clamped sheet.</summary>
    Piece,

    /// <summary>Another sheet of the same job.</summary>
    Sheet,

    /// <summary>The next job of the booking.</summary>
    Job,
    Finish,
}

/// <summary>One act with what it says; a field that the deed does not read is left out.</summary>
public sealed record StationAct(Deed Deed)
{
    public string? Item { get; init; }
    public bool Ok { get; init; }
    public string? Note { get; init; }
    public SheetTag? Tag { get; init; }
    public IReadOnlyList<decimal> ThicknessMm { get; init; } = [];
    public string? Method { get; init; }
    public bool GaugeBack { get; init; }
    public SetTo? Set { get; init; }
    public bool Seen { get; init; }
    public bool Assist { get; init; }
    public bool LidShut { get; init; }
    public bool Height { get; init; }
    public bool Material { get; init; }
    public bool Stay { get; init; }

    /// <summary>Null: the beam goes off now, the reason is said after.</summary>
    public StopWhy? Why { get; init; }

    /// <summary>Of the machine, as scanned or typed.</summary>
    public string Code { get; init; } = "";

    /// <summary>Done at a screen that is enrolled at the machine.</summary>
    public bool AtScreen { get; init; }

    /// <summary>A steward does it.</summary>
    public bool Steward { get; init; }
    public PartResult Result { get; init; }
    public bool Moved { get; init; }
    public NextWhat Next { get; init; }

    /// <summary>Of the run that is told: client-made, the same again changes nothing.</summary>
    public Guid RunId { get; init; }
}
