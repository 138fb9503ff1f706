using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Station;

namespace VelvetGate.Web.Station;

/// <param name="Why">Why the person cannot tap in now; null where they can.</param>
public sealed record StationBooking(Guid Id, Instant Start, Instant End, string? Why);

/// <param name="Name">As the one who looks may see it.</param>
public sealed record StationNext(string Name, Instant Start);

/// <param name="Open">Still to be looked at.</param>
public sealed record StationPlace(string Id, string Title, IReadOnlyList<string> Lines, bool Open, string? Wrong);

/// <param name="Places">In how many places it is measured.</param>
public sealed record StationSheet(
    SheetTag? Tag,
    MaterialId MaterialId,
    string Material,
    decimal TagMm,
    int Places,
    IReadOnlyList<decimal> Measured
);

public sealed record StationSettings(Guid? Id, decimal PowerPercent, decimal SpeedMmPerS, int Passes);

/// <summary>Box round the work, as the drawing says; null without one.</summary>
public sealed record StationBox(decimal WidthMm, decimal HeightMm);

/// <param name="Deadline">Pressed by then, or attention lapses.</param>
public sealed record StationRun(
    Instant Start,
    double LowSeconds,
    double HighSeconds,
    Instant Deadline,
    int WarnSeconds,
    bool Extra,
    int Lapses
)
{
    /// <summary>Paused, and it may go on until then; null while it is not.</summary>
    public Instant? PausedUntil { get; init; }

    /// <summary>The controller has let the beam on; null without one.</summary>
    public bool? On { get; init; }
}

/// <summary>What a machine’s controller says.</summary>
/// <param name="Silent">Nothing was read for ten seconds: what is shown is old.</param>
/// <param name="Lost">Nothing was read for half a minute: nothing starts.</param>
/// <param name="Beam">Its relay lets the beam on.</param>
/// <param name="RelayAt">Since when the relay is as it is.</param>
public sealed record StationLive(
    bool Silent,
    bool Lost,
    Instant? ReadAt,
    bool Beam,
    Instant? RelayAt,
    bool? LidShut,
    bool KeyOut,
    IReadOnlyList<StationReading> Readings
);

/// <summary>One thing that is measured.</summary>
/// <param name="Code">Of the gate’s rule that it meets; null where it is good.</param>
/// <param name="GoodFrom">Good from here; null for an open side. So <paramref name="GoodTo"/>.</param>
/// <param name="ShutFrom">Below this nothing runs; null for none. So <paramref name="ShutTo"/>, above.</param>
public sealed record StationReading(
    string What,
    string Unit,
    decimal? Value,
    string? Code,
    decimal? GoodFrom,
    decimal? GoodTo,
    decimal? ShutFrom,
    decimal? ShutTo,
    string Says
);

/// <param name="Until">When the lid may be opened at the earliest; null where a steward says.</param>
/// <param name="Open">Its contact says that it is open.</param>
/// <param name="SeenOff">The controller’s own word that the beam is off; null before it, and without a controller.</param>
/// <param name="BeamUnknown">Neither the controller nor anybody at the machine has said that the beam is off.</param>
/// <param name="AsksWhy">Stopped, and nobody has said why.</param>
public sealed record StationLid(Instant From, Instant? Until, string Why, bool Open, Instant? SeenOff, bool BeamUnknown, bool AsksWhy);

public sealed record StationTold(int Item, Instant Start, Instant End, Core.Run.Outcome Outcome, bool Extra);

/// <param name="WarnSeconds">Seen and heard so long before.</param>
public sealed record StationAttend(Instant Until, int WarnSeconds);

public sealed record StationClose(string Id, string Title, IReadOnlyList<string> Lines, bool Done);

/// <param name="Code">Of the gate.</param>
public sealed record StationReason(string Code, string Text, string? Remedy);

/// <param name="LeadUntil">When the extraction has run long enough for a beam; null while nobody has seen it run.</param>
/// <param name="Open">What the gate has against the sheet as it is measured and set.</param>
/// <param name="Found">What the session before left undone.</param>
/// <param name="Extra">The next start is the one extra pass.</param>
/// <param name="MayExtra">The one extra pass over what is not through.</param>
public sealed record StationSessionResponse(
    Guid Id,
    int Version,
    StationStep Step,
    string Name,
    bool Mine,
    Instant TappedIn,
    Instant Until,
    int Item,
    int Items,
    IReadOnlyList<Operation> Operations,
    IReadOnlyList<StationPlace> Places,
    StationSheet Sheet,
    IReadOnlyList<string> FocusMethods,
    StationSettings? Set,
    IReadOnlyList<Guid> Booked,
    StationBox? Box,
    bool AsksAssist,
    Instant? LeadUntil,
    bool Confirmed,
    bool Extra,
    StationRun? Run,
    StationLid? Lid,
    IReadOnlyList<StationTold> Runs,
    IReadOnlyList<StationClose> Closing,
    IReadOnlyList<StationReason> Open,
    bool MayExtra,
    string? Held,
    bool Controlled,
    IReadOnlyList<string> Found
)
{
    /// <summary>What is watched for once the beam is on.</summary>
    public IReadOnlyList<string> Watch { get; init; } = [];

    /// <summary>Until when somebody who prepares says that they are here; null where attention counts from the beam.</summary>
    public StationAttend? Attend { get; init; }

    /// <summary>The code at the machine is to be scanned before the next start.</summary>
    public bool HereDue { get; init; }

    /// <summary>What is to be minded, and keeps nobody from starting.</summary>
    public IReadOnlyList<StationReason> Mind { get; init; } = [];

    /// <summary>The run may be paused.</summary>
    public bool MayPause { get; init; }

    /// <summary>A supervisor has to tap before the next start.</summary>
    public bool SupervisorDue { get; init; }

    /// <summary>The fixture that is put back at the end; null for a flat bed.</summary>
    public string? Fixture { get; init; }

    /// <summary>Who tapped to stand by a short while ago; null for nobody.</summary>
    public string? Beside { get; init; }
}

/// <param name="Session">Null where nobody is tapped in, and for whom it is no concern.</param>
/// <param name="Busy">Who is at the machine, for those who may not see the session.</param>
/// <param name="Step">“idle” where nobody is tapped in.</param>
/// <param name="Beam">The relay lets the beam on, as the controller said last.</param>
/// <param name="SecondsLeft">To press; null while no beam runs.</param>
/// <param name="WaitSecondsLeft">Until the lid may be opened; null while nobody waits, and where a steward says.</param>
/// <param name="Live">Null without a controller.</param>
/// <param name="Stops">How the beam is taken away: the machine’s own, since no screen can.</param>
public sealed record StationResponse(
    MachineId MachineId,
    string MachineName,
    string Step,
    int Version,
    bool Beam,
    double? SecondsLeft,
    double? WaitSecondsLeft,
    StationLive? Live,
    string HomeCorner,
    Core.Machines.Framing? Framing,
    StationSessionResponse? Session,
    StationNext? Busy,
    StationBooking? Booking,
    StationNext? Next,
    IReadOnlyList<Core.Machines.KeptAt> Stops,
    IReadOnlyList<Core.Machines.KeptAt> KeptAt,
    string Safety
)
{
    /// <summary>This is a screen that stands at the machine, which nobody is signed in on.</summary>
    public bool Screen { get; init; }

    /// <summary>Null where nobody tapped a short while ago.</summary>
    public StationTap? Tap { get; init; }

    /// <summary>Whom the supervisor who tapped here may choose; empty where nobody supervises.</summary>
    public IReadOnlyList<StationLearner> Learners { get; init; } = [];

    /// <summary>What holds while the service key is out; null while it is in.</summary>
    public IReadOnlyList<string>? Service { get; init; }

    /// <summary>Somebody without a booking may book at the machine, to begin at once.</summary>
    public bool WalkUp { get; init; }

    /// <summary>A tap of the one who looks would be the second of a hand-over.</summary>
    public bool TakesOver { get; init; }
}

/// <param name="Id">Client-made: the same again answers with the session there is.</param>
/// <param name="Fob">Its code, at a screen of the machine with a reader of its own. So <paramref name="Code"/>, a tap-in code.</param>
/// <param name="Pin">That goes with the fob given or held there a moment ago, where the house asks for one.</param>
/// <param name="Booking">Of a learner, chosen while their supervisor stands there.</param>
public sealed record TapRequest(string? Id = null, string? Fob = null, string? Code = null, string? Booking = null, string? Pin = null);

/// <summary>Somebody whose supervisor stands at the machine: they are chosen without a fob.</summary>
public sealed record StationLearner(Guid Booking, string Name, Instant Start);

/// <summary>What the last tap at the machine was.</summary>
/// <param name="Code">Of the problem; null where it went well.</param>
public sealed record StationTap(Instant At, string? Code, string Says);

public sealed record StationValues(decimal? PowerPercent = null, decimal? SpeedMmPerS = null, int? Passes = null);

/// <summary>One act. Each reads its own fields and leaves the others out.</summary>
/// <param name="Act">check, sheet, focus, settings, frame, air, confirm, start, press, pause, resume, look, stop, call, ownStop,
/// lidOpened, stillSmoke, outcome, next, close, tapOut.</param>
/// <param name="Why">Of a stop: ended, sheetMoved, wrongSettings, byMistake, flame, smell, misbehaves, alarm; left out, the beam goes
/// off now and the reason is sent after.</param>
/// <param name="Id">Client-made: the same again changes nothing.</param>
/// <param name="Version">Of the session that was on the screen.</param>
/// <param name="Thickness">As typed, each with its unit.</param>
public sealed record ActRequest(
    string? Act = null,
    string? Id = null,
    string? Session = null,
    int? Version = null,
    string? Item = null,
    bool? Ok = null,
    string? Note = null,
    string? Tag = null,
    IReadOnlyList<string>? Thickness = null,
    string? Unit = null,
    string? Method = null,
    bool? GaugeBack = null,
    string? SettingId = null,
    StationValues? Values = null,
    bool? Seen = null,
    bool? Assist = null,
    bool? LidShut = null,
    bool? Height = null,
    bool? Material = null,
    bool? Stay = null,
    string? Why = null,
    string? Result = null,
    bool? Moved = null,
    string? What = null,
    string? Code = null
);

/// <summary>Takes the beam away. Nobody has to be signed in for it.</summary>
/// <param name="Id">Client-made: the same again changes nothing.</param>
public sealed record StopRequest(string? Id = null);

/// <param name="SeenOff">When the controller saw the beam off; null where it has not answered: press the machine’s own stop.</param>
public sealed record StoppedResponse(Instant? SeenOff, string Says);
