using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>Kinds of messages, as the last part of a topic says them.</summary>
public static class WireKind
{
    public const string Hello = "hello";
    public const string Readings = "readings";
    public const string Want = "want";
    public const string Event = "event";

    /// <summary>Kept by the broker, with a last will. It decides nothing.</summary>
    public const string Presence = "presence";

    public const string Ask = "ask";
    public const string Grant = "grant";
    public const string Drop = "drop";
    public const string Seen = "seen";
    public const string NotYours = "notYours";
}

/// <summary>After each connection.</summary>
/// <param name="Boot">Counts the boots, kept over a power cut.</param>
/// <param name="Ms">The controller’s clock since this boot, which nobody sets.</param>
/// <param name="Clock">What it takes the time to be, ISO 8601; null without a clock. It decides nothing.</param>
public sealed record Hello(int Boot, long Ms, string? Clock = null);

/// <summary>What is measured; null for what is silent or not there.</summary>
/// <param name="CoolantLPerMin">0 where it does not flow.</param>
/// <param name="TubeOn">Current in the tube, or a contact, shows a beam.</param>
/// <param name="KeyOut">The service key has taken the controller out of the circuit.</param>
/// <param name="PaperKey">A steward has turned the key for days without the house.</param>
public sealed record Sensors(
    decimal? AirflowM3PerHour = null,
    decimal? CoolantC = null,
    decimal? CoolantLPerMin = null,
    decimal? RoomC = null,
    decimal? HumidityPercent = null,
    bool? LidShut = null,
    bool? TubeOn = null,
    bool KeyOut = false,
    bool PaperKey = false
)
{
    /// <summary>As the gate reads it.</summary>
    public LiveReadings Read(bool fanOn) => new(fanOn, AirflowM3PerHour, CoolantC, CoolantLPerMin, RoomC, HumidityPercent);
}

/// <summary>Once a second.</summary>
/// <param name="Number">Counts the readings of this boot: what is missing was lost.</param>
/// <param name="Beam">The relay lets the beam on.</param>
public sealed record Readings(int Boot, long Number, long Ms, bool Beam, Sensors Sensors);

/// <summary>Asks for leave to let the beam on.</summary>
/// <param name="Challenge">Made for this question alone.</param>
public sealed record Want(int Boot, long Ms, string Challenge);

/// <summary>Something happened: told again until it is seen.</summary>
/// <param name="Number">Counts the events of this boot, from 1, without a gap.</param>
/// <param name="Kind">One of <see cref="EventKind"/>.</param>
/// <param name="Value">Why the relay went off, or the code of a fob.</param>
public sealed record MachineEvent(int Boot, long Number, long Ms, string Kind, string? Value = null);

/// <summary>What happens at a machine.</summary>
public static class EventKind
{
    /// <summary>Its value is <see cref="Paper"/> where a press let the beam on, on a day without the house.</summary>
    public const string RelayOn = "relayOn";
    public const string Paper = "paper";
    public const string RelayOff = "relayOff";
    public const string LidOpened = "lidOpened";
    public const string LidShut = "lidShut";

    /// <summary>“I’m here, watching”, on the button at the machine.</summary>
    public const string Press = "press";
    public const string Fob = "fob";
    public const string KeyOut = "keyOut";
    public const string KeyBack = "keyBack";

    /// <summary>The relay is off, and something still shows a beam.</summary>
    public const string Stuck = "stuck";
}

/// <summary>Why the relay went off.</summary>
public static class OffWhy
{
    public const string Lid = "beam.lid";
    public const string Readings = "beam.readings";
    public const string Lapsed = "attention.lapsed";
    public const string Over = "permit.over";
    public const string Key = "service.key";
    public const string PaperKey = "paper.key";
    public const string Dropped = "dropped";

    /// <summary>Paused: it may come back.</summary>
    public const string Pause = "pause";

    /// <summary>Somebody pressed STOP: the reason is asked once the beam is off.</summary>
    public const string Stop = "stop";
}

/// <summary>The house would like to be asked: the controller answers with a <see cref="Want"/>. It lets nothing on by itself.</summary>
public sealed record Ask(string Id);

/// <summary>Leave to let the beam on. All seconds count from the moment the question was sent, so that delay only shortens.</summary>
/// <param name="Challenge">Of the question that this answers.</param>
/// <param name="Seconds">Until somebody has to press.</param>
/// <param name="AttentionSeconds">What a press at the machine adds, from the press on.</param>
/// <param name="EndSeconds">No press goes beyond this.</param>
/// <param name="AirflowAtLeast">m³/h; the beam goes off below it.</param>
public sealed record Grant(
    string Challenge,
    decimal Seconds,
    decimal AttentionSeconds,
    decimal EndSeconds,
    decimal AirflowAtLeast,
    decimal? CoolantAtMostC = null,
    decimal? CoolantAtLeastC = null
);

/// <summary>The beam goes off.</summary>
public sealed record Drop(string Why);

/// <summary>Events up to this number are kept by the house.</summary>
public sealed record Seen(int Boot, long Number);

/// <summary>The machine is bound to another controller.</summary>
public sealed record NotYours();
