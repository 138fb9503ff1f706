using System.Security.Cryptography;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.House;
using VelvetGate.Store.Run;
using VelvetGate.Store.Station;

namespace VelvetGate.Store.Demo;

/// <param name="Key">Of the controller, base 64.</param>
/// <param name="Attended">Somebody runs it: the extraction is on, and its button is pressed.</param>
public sealed record DemoController(
    string Machine,
    string Name,
    string Serial,
    string Key,
    decimal AirflowM3PerHour,
    bool WaterCooled,
    bool Attended
);

/// <summary>Binds the demo's machines to simulated controllers, or lets them go.</summary>
public sealed class DemoControllers(NpgsqlDataSource db, Instant now)
{
    private static readonly PersonId Keeper = "m-1";
    private readonly ControllerStore _store = new(db, new StationStore(db, new RunStore(db)));

    /// <summary>Every machine that is here, with the key of its controller.</summary>
    /// <param name="attended">At which somebody runs something; null for none.</param>
    public async Task<IReadOnlyList<DemoController>> Bind(StationKeys keys, MachineId? attended, CancellationToken cancel)
    {
        var bound = (await _store.Enrolled(cancel)).ToDictionary(c => c.MachineId);
        var all = new List<DemoController>();
        foreach (var machine in (await new HouseStore(db).MachinesHere(now, cancel)).Select(m => m.Spec))
        {
            var (serial, salt) = bound.TryGetValue(machine.Id, out var row) ? (row.Serial, row.Salt) : await Enrol(machine.Id, cancel);
            all.Add(
                new DemoController(
                    Machine: machine.Id.Value,
                    Name: machine.Name,
                    Serial: serial,
                    Key: Convert.ToBase64String(keys.Controller(serial, salt)),
                    AirflowM3PerHour: machine.AirflowM3PerHour,
                    WaterCooled: machine.WaterCooled,
                    Attended: attended == machine.Id
                )
            );
        }
        return all;
    }

    /// <summary>Fobs of the demo’s people, for the readers of the simulated machines.</summary>
    private static readonly IReadOnlyList<(PersonId Person, string Code)> People =
    [
        ("m-4", "fob-member"),
        ("m-5", "fob-newcomer"),
        ("m-3", "fob-trainer"),
        ("m-2", "fob-steward"),
    ];

    public async Task Learn(StationKeys keys, CancellationToken cancel)
    {
        var fobs = new FobStore(db);
        foreach (var (person, code) in People)
            if (await fobs.Holder(keys.Fob(code), now, cancel) is null)
                await fobs.Learn(person, "red tag", keys.Fob(code), Keeper, now, cancel);
    }

    public async Task LetGo(CancellationToken cancel)
    {
        foreach (var controller in await _store.Enrolled(cancel))
            await _store.Revoke(controller.Serial, Keeper, now, cancel);
    }

    private async Task<(string Serial, string Salt)> Enrol(MachineId machine, CancellationToken cancel)
    {
        // A serial is used once: old messages must not count again.
        var serial = $"{machine.Value}-{Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(4))}";
        var salt = Convert.ToBase64String(RandomNumberGenerator.GetBytes(16));
        var enrolled = await _store.Enrol(serial, machine, salt, Keeper, now, cancel);
        return enrolled.Refusal is { } refusal ? throw new InvalidOperationException(refusal.Text) : (serial, salt);
    }
}
