using VelvetGate.Core.Station.Controllers;

namespace VelvetGate.StandIns.Machines;

/// <summary>A machine that is simulated, with its controller.</summary>
/// <param name="Key">Of the controller, base 64.</param>
/// <param name="AirflowM3PerHour">With the extraction on.</param>
/// <param name="Attended">Somebody runs it: the extraction is on at the start, and for a quarter of an hour its button is pressed.</param>
public sealed record MachineSetUp(
    string Machine,
    string Name,
    string Serial,
    string Key,
    decimal AirflowM3PerHour,
    bool WaterCooled,
    bool Attended = false
);

/// <summary>What it is set to; null for a sensor that is silent.</summary>
public sealed record Dials
{
    public decimal? AirflowM3PerHour { get; init; }
    public decimal? CoolantC { get; init; }

    /// <summary>l/min.</summary>
    public decimal? CoolantFlow { get; init; }
    public decimal? RoomC { get; init; }
    public decimal? Humidity { get; init; }
    public bool? LidClosed { get; init; }
    public bool Network { get; init; }
    public bool Power { get; init; }
    public bool ServiceKey { get; init; }
    public bool PaperKey { get; init; }

    /// <summary>The tube stays on whatever the relay does: a fault.</summary>
    public bool BeamStuck { get; init; }
}

/// <summary>
/// One simulated machine: its dials, and the controller on it. The beam hangs on the relay; the extraction and the cooling hang on their
/// dials alone. Safe to use from several threads.
/// </summary>
public sealed class StandInMachine
{
    private readonly Lock _lock = new();
    private readonly MachineSetUp _setUp;
    private readonly TimeProvider _time;
    private readonly Func<int> _nextBoot;
    private ControllerBox? _box;
    private Grant? _kept;
    private long _bootedAt;
    private Dials _dials;

    /// <param name="nextBoot">Counts boots over power cuts and restarts.</param>
    public StandInMachine(MachineSetUp setUp, TimeProvider time, Func<int> nextBoot)
    {
        _setUp = setUp;
        _time = time;
        _nextBoot = nextBoot;
        _dials = new Dials
        {
            AirflowM3PerHour = setUp.Attended ? setUp.AirflowM3PerHour : 0,
            CoolantC = setUp.WaterCooled ? 21 : null,
            CoolantFlow = setUp.WaterCooled ? 2.4m : null,
            RoomC = 20,
            Humidity = 45,
            LidClosed = true,
            Network = true,
            Power = true,
        };
        Boot();
    }

    public MachineSetUp SetUp => _setUp;

    public Dials Dials
    {
        get
        {
            lock (_lock)
                return _dials;
        }
    }

    /// <summary>The beam may come on; and whether it is on although it may not.</summary>
    public (bool Beam, bool Siren, long? LeftMs, int? Boot) State
    {
        get
        {
            lock (_lock)
                return (_box is { Relay: true }, _box is { Siren: true }, _box?.LeftMs(Ms), _box?.Boot);
        }
    }

    /// <summary>Turns the dials. Without power the controller is off; power that comes back boots it.</summary>
    public void Turn(Func<Dials, Dials> turn)
    {
        lock (_lock)
        {
            var before = _dials;
            _dials = turn(before);
            if (before.Power && !_dials.Power)
            {
                _kept = _box?.Limits ?? _kept;
                _box = null;
            }
            if (!before.Power && _dials.Power)
                Boot();
        }
    }

    /// <summary>Whatever the controller does goes through here, one thing at a time; nothing while it has no power.</summary>
    public IReadOnlyList<Outgoing> With(Func<ControllerBox, long, IReadOnlyList<Outgoing>> act)
    {
        lock (_lock)
            return _box is { } box ? act(box, Ms) : [];
    }

    /// <summary>Ten times a second.</summary>
    public IReadOnlyList<Outgoing> Step() => With((box, ms) => box.Step(ms, Sensors(box)));

    private Sensors Sensors(ControllerBox box) =>
        new(
            AirflowM3PerHour: _dials.AirflowM3PerHour,
            CoolantC: _dials.CoolantC,
            CoolantLPerMin: _dials.CoolantFlow,
            RoomC: _dials.RoomC,
            HumidityPercent: _dials.Humidity,
            LidShut: _dials.LidClosed,
            TubeOn: box.Relay || _dials.BeamStuck,
            KeyOut: _dials.ServiceKey,
            PaperKey: _dials.PaperKey
        );

    private long Ms => (long)_time.GetElapsedTime(_bootedAt).TotalMilliseconds;

    private void Boot()
    {
        _bootedAt = _time.GetTimestamp();
        _box = new ControllerBox(
            machine: _setUp.Machine,
            serial: _setUp.Serial,
            key: Convert.FromBase64String(_setUp.Key),
            boot: _nextBoot(),
            challenge: () => Convert.ToHexStringLower(System.Security.Cryptography.RandomNumberGenerator.GetBytes(16)),
            kept: _kept
        );
    }
}
