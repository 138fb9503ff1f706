namespace VelvetGate.Core.Station.Controllers;

/// <summary>A message to send.</summary>
/// <param name="AtLeastOnce">Sent again until the broker has it.</param>
public sealed record Outgoing(string Topic, byte[] Payload, bool AtLeastOnce);

/// <summary>
/// The box at a machine: a relay in series with the maker’s enable input, which can only take the beam away. Pure: time comes
/// from outside, as milliseconds of a clock that nobody sets. The relay is on only while a lease runs that the house granted for a question
/// of this boot, the lid is shut and the readings are fresh. It switches nothing but the beam.
/// </summary>
/// <remarks>Times are house practice; <c>docs/controller-protocol.md</c> says them for whoever builds one.</remarks>
/// <param name="boot">One more than at the boot before.</param>
/// <param name="kept">The limits of the last grant that counted, kept over a power cut; null before the first.</param>
/// <param name="challenge">Makes a text that nobody can guess, at least 16 random bytes.</param>
public sealed class ControllerBox(string machine, string serial, byte[] key, int boot, Func<string> challenge, Grant? kept = null)
{
    public const int ReadEveryMs = 1_000;

    /// <summary>A grant that took longer is none.</summary>
    public const int GrantWithinMs = 5_000;

    /// <summary>A sensor that is silent so long takes the beam away.</summary>
    public const int SilentMs = 30_000;

    /// <summary>A reading out of its limit for so long takes the beam away.</summary>
    public const int OutMs = 3_000;
    public const int StuckMs = 1_000;

    /// <summary>Presses at the machine that count while the house does not answer.</summary>
    public const int PressesAlone = 3;

    /// <summary>The paper key counts once the house has said nothing for so long.</summary>
    public const int PaperAfterMs = 600_000;
    private const int AskAgainMs = 2_000;
    private const int Asks = 3;
    private const int TellAgainMs = 2_000;

    private sealed record Lease(long FromMs, long UntilMs, long EndMs, long AttentionMs, Grant Limits, bool Paper = false);

    private readonly Dictionary<string, long> _heard = [];
    private readonly Dictionary<string, long> _outSince = [];
    private readonly List<MachineEvent> _unseen = [];
    private Sensors _sensors = new();
    private Lease? _lease;
    private (string Challenge, long Ms)? _open;
    private int _asksLeft;
    private long _readAt = long.MinValue;
    private long _toldAt = long.MinValue;
    private long _readings;
    private long _events;
    private long? _offAt = 0;
    private bool _toldStuck;
    private int _alone;
    private bool _notYours;
    private long _houseAt;

    /// <summary>Of the last grant that counted: kept for days without the house.</summary>
    public Grant? Limits { get; private set; } = kept;

    /// <summary>The beam is let on.</summary>
    public bool Relay { get; private set; }

    /// <summary>The beam is on though the relay is off: a siren, and the sentence at the machine.</summary>
    public bool Siren { get; private set; }

    public int Boot => boot;

    /// <summary>Milliseconds until the relay goes off by itself; null while it is off.</summary>
    public long? LeftMs(long ms) => Relay && _lease is { } lease ? Math.Max(0, Math.Min(lease.UntilMs, lease.EndMs) - ms) : null;

    /// <summary>A connection to the broker was made: who is here, and what nobody has seen yet.</summary>
    public IReadOnlyList<Outgoing> Connected(long ms, string? clock = null)
    {
        _notYours = false;
        return [Out(WireKind.Hello, new Hello(boot, ms, clock)), .. Untold(ms)];
    }

    /// <summary>Called ten times a second or oftener, with what the sensors say now.</summary>
    public IReadOnlyList<Outgoing> Step(long ms, Sensors sensors)
    {
        var before = _sensors;
        _sensors = sensors;
        Hear("lid", sensors.LidShut is not null, ms);
        Hear("airflow", sensors.AirflowM3PerHour is not null, ms);
        Hear("coolant", sensors.CoolantC is not null, ms);
        if (sensors.LidShut is { } shut && before.LidShut != shut)
            Tell(shut ? EventKind.LidShut : EventKind.LidOpened, ms);
        if (sensors.KeyOut != before.KeyOut)
            Tell(sensors.KeyOut ? EventKind.KeyOut : EventKind.KeyBack, ms);
        if (Relay && WhyOff(ms) is { } why)
            Off(why, ms);
        LookForBeam(ms);
        var send = new List<Outgoing>();
        if (_readAt == long.MinValue || ms - _readAt >= ReadEveryMs)
        {
            _readAt = ms;
            send.Add(Out(WireKind.Readings, new Readings(boot, ++_readings, ms, Relay, sensors), atLeastOnce: false));
        }
        if (_asksLeft > 0 && (_open is not { } open || ms - open.Ms >= AskAgainMs))
            send.Add(Ask(ms));
        if (_unseen.Count > 0 && (_toldAt == long.MinValue || ms - _toldAt >= TellAgainMs))
            send.AddRange(Untold(ms));
        return send;
    }

    /// <param name="retained">Kept by the broker: nobody says it now.</param>
    public IReadOnlyList<Outgoing> Receive(long ms, string topic, ReadOnlySpan<byte> payload, bool retained = false)
    {
        if (retained || WireTopic.Read(topic) is not { Up: false } to || to.Machine != machine || to.Serial != serial)
            return [];
        if (Wire.Read<object>(key, to, payload) is not null)
            _houseAt = ms;
        switch (to.What)
        {
            case WireKind.Ask when Wire.Read<Ask>(key, to, payload) is not null && !_notYours:
                _asksLeft = Asks;
                return [Ask(ms)];
            case WireKind.Grant when Wire.Read<Grant>(key, to, payload) is { } grant:
                Take(grant, ms);
                return Untold(ms);
            case WireKind.Drop when Wire.Read<Drop>(key, to, payload) is { } drop:
                Off(drop.Why is { Length: > 0 and < 40 } why ? why : OffWhy.Dropped, ms);
                return Untold(ms);
            case WireKind.Seen when Wire.Read<Seen>(key, to, payload) is { } seen && seen.Boot == boot:
                _unseen.RemoveAll(e => e.Number <= seen.Number);
                _alone = 0;
                return [];
            case WireKind.NotYours when Wire.Read<NotYours>(key, to, payload) is not null:
                _notYours = true;
                Off(OffWhy.Dropped, ms);
                return [];
            default:
                return [];
        }
    }

    /// <summary>“I’m here, watching.” It lengthens a lease that runs, and never brings one back.</summary>
    public IReadOnlyList<Outgoing> Press(long ms)
    {
        if (Relay && WhyOff(ms) is { } why)
            Off(why, ms);
        Tell(EventKind.Press, ms);
        if (IsPaperDay(ms))
            PressOnPaper(ms);
        else if (Relay && _lease is { Paper: false } lease && _alone < PressesAlone)
        {
            _alone++;
            _lease = lease with { UntilMs = Math.Min(ms + lease.AttentionMs, lease.EndMs) };
        }
        return Untold(ms);
    }

    /// <summary>A steward has turned the key, and the house has been away for long.</summary>
    private bool IsPaperDay(long ms) => _sensors.PaperKey && Limits is not null && ms - _houseAt >= PaperAfterMs;

    /// <summary>On such a day the button itself lets the beam on, for one attention at a time; lid and readings count as ever.</summary>
    private void PressOnPaper(long ms)
    {
        var until = ms + Ms(Limits!.AttentionSeconds);
        var was = _lease;
        _lease = new Lease(FromMs: ms, UntilMs: until, EndMs: long.MaxValue, AttentionMs: Ms(Limits.AttentionSeconds), Limits, Paper: true);
        if (Relay)
            return;
        _outSince.Clear();
        if (WhyOff(ms) is not null)
            _lease = was;
        else
            On(ms, EventKind.Paper);
    }

    private void On(long ms, string? value = null)
    {
        Relay = true;
        _offAt = null;
        Siren = _toldStuck = false;
        Tell(EventKind.RelayOn, ms, value);
    }

    public IReadOnlyList<Outgoing> Fob(long ms, string code)
    {
        Tell(EventKind.Fob, ms, code);
        return Untold(ms);
    }

    private void Take(Grant grant, long ms)
    {
        if (_open is not { } open || open.Challenge != grant.Challenge || ms - open.Ms > GrantWithinMs || _notYours)
            return;
        _open = null;
        _asksLeft = 0;
        var lease = new Lease(
            FromMs: open.Ms,
            UntilMs: open.Ms + Ms(Math.Min(grant.Seconds, grant.EndSeconds)),
            EndMs: open.Ms + Ms(grant.EndSeconds),
            AttentionMs: Ms(grant.AttentionSeconds),
            Limits: grant
        );
        if (!Relay)
            _outSince.Clear();
        var kept = _lease;
        _lease = lease;
        if (WhyOff(ms) is { } why)
        {
            if (Relay)
                Off(why, ms);
            else
                _lease = kept;
            return;
        }
        _alone = 0;
        Limits = grant;
        if (!Relay)
            On(ms);
    }

    private static long Ms(decimal seconds) => (long)(Math.Clamp(seconds, 0, 86_400) * 1_000);

    /// <returns>Null while everything speaks for the beam.</returns>
    private string? WhyOff(long ms) =>
        _sensors.KeyOut ? OffWhy.Key
        : _lease is not { } lease ? OffWhy.Dropped
        : lease.Paper && !_sensors.PaperKey ? OffWhy.PaperKey
        : ms >= lease.EndMs ? OffWhy.Over
        : ms >= lease.UntilMs ? OffWhy.Lapsed
        : (Relay ? _sensors.LidShut == false : _sensors.LidShut != true) || Silent("lid", ms) ? OffWhy.Lid
        : Silent("airflow", ms) || Out("airflow", IsAirflowOut(lease.Limits), ms) ? OffWhy.Readings
        : Cooled(lease.Limits) && (Silent("coolant", ms) || Out("coolant", IsCoolantOut(lease.Limits), ms)) ? OffWhy.Readings
        : null;

    private static bool Cooled(Grant limits) => limits.CoolantAtMostC is not null || limits.CoolantAtLeastC is not null;

    private bool? IsAirflowOut(Grant limits) => _sensors.AirflowM3PerHour is { } flow ? flow < limits.AirflowAtLeast : null;

    private bool? IsCoolantOut(Grant limits) =>
        _sensors.CoolantC is null
            ? null
            : _sensors.CoolantLPerMin <= 0 || _sensors.CoolantC > limits.CoolantAtMostC || _sensors.CoolantC < limits.CoolantAtLeastC;

    private void Hear(string sensor, bool speaks, long ms)
    {
        if (speaks)
            _heard[sensor] = ms;
    }

    private bool Silent(string sensor, long ms) => !_heard.TryGetValue(sensor, out var at) || ms - at >= SilentMs;

    /// <summary>For three seconds in a row; before the beam is on, at once.</summary>
    /// <param name="isOut">Null while it is not read: that is never good, and ends no row.</param>
    private bool Out(string sensor, bool? isOut, long ms)
    {
        if (!Relay)
            return isOut != false;
        if (isOut == false)
            _outSince.Remove(sensor);
        if (isOut == true)
            _outSince.TryAdd(sensor, ms);
        return _outSince.TryGetValue(sensor, out var since) && ms - since >= OutMs;
    }

    private void Off(string why, long ms)
    {
        // What was asked before the beam went off brings it back no more.
        _open = null;
        _asksLeft = 0;
        _lease = null;
        if (!Relay)
            return;
        Relay = false;
        _offAt = ms;
        Tell(EventKind.RelayOff, ms, why);
    }

    private void LookForBeam(long ms)
    {
        if (_sensors.TubeOn != true || Relay || _sensors.KeyOut)
        {
            Siren = false;
            return;
        }
        if (_offAt is not { } off || ms - off < StuckMs)
            return;
        Siren = true;
        if (!_toldStuck)
            Tell(EventKind.Stuck, ms);
        _toldStuck = true;
    }

    private Outgoing Ask(long ms)
    {
        _asksLeft--;
        _open = (challenge(), ms);
        return Out(WireKind.Want, new Want(boot, ms, _open.Value.Challenge));
    }

    private void Tell(string kind, long ms, string? value = null)
    {
        _unseen.Add(new MachineEvent(boot, ++_events, ms, kind, value));
        _toldAt = long.MinValue;
    }

    private List<Outgoing> Untold(long ms)
    {
        _toldAt = ms;
        return [.. _unseen.Select(e => Out(WireKind.Event, e))];
    }

    private Outgoing Out<T>(string what, T message, bool atLeastOnce = true)
    {
        var topic = new WireTopic(machine, serial, true, what);
        return new Outgoing(topic.ToString(), Wire.Write(key, topic, message), atLeastOnce);
    }
}
