using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.StandIns.Machines;
using VelvetGate.Store.Run;
using VelvetGate.Store.Station;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Twenty machines that read once a second, each with a beam on, while five pages of Watch are open: how soon STOP takes a beam and a press
/// lengthens a lease, seen at the machine; what server and broker take; and that no event is lost or doubled.
/// </summary>
internal static class StationBench
{
    private const int Pages = 5;
    private const double WantedMs = 250;
    private const double WantedCore = 0.40;

    public static async Task Run(Server server, Process broker, Uri brokerAt, StationKeys keys, NpgsqlDataSource owner, TimeSpan time)
    {
        var set = await Enrol(owner, keys);
        await Sessions(owner);
        await using var machines = new StandInMachines(
            set.Select(s => new StandInMachine(s, TimeProvider.System, () => 1)),
            brokerAt,
            TimeProvider.System
        );
        // Nobody presses at the machine itself: a press that crosses one that is measured would hide it.
        foreach (var machine in machines.All)
            machine.Turn(d => d with { AirflowM3PerHour = machine.SetUp.AirflowM3PerHour });
        await Until(() => machines.All.All(m => m.State.Beam), "every beam is on");

        var clock = Stopwatch.StartNew();
        var before = server.Cpu + broker.TotalProcessorTime;
        var watching = Server.Load(_ => server.Http.GetAsync("/api/watch"), Pages, time, every: TimeSpan.FromSeconds(5));
        var (stops, presses) = (new List<double>(), new List<double>());
        var random = new Random(20170);
        // Leases are whole seconds: a press right after another would move the deadline by less than can be seen.
        var rested = new Queue<StandInMachine>(machines.All.OrderBy(_ => random.Next()));
        while (clock.Elapsed < time)
        {
            var machine = rested.Dequeue();
            rested.Enqueue(machine);
            if (random.Next(3) == 0)
                stops.Add(await Stop(server, owner, machine));
            else
                presses.Add(await Press(server, machine));
            await Task.Delay(200);
        }
        broker.Refresh();
        var core = (server.Cpu + broker.TotalProcessorTime - before).TotalSeconds / clock.Elapsed.TotalSeconds;
        await watching;
        stops.Sort();
        presses.Sort();
        Say(
            $"station: {Prepared.Machines} machines for {time.TotalSeconds:0} s, {Pages} pages of Watch: STOP to beam off, "
                + $"{stops.Count} times, p50 {Percentile(stops, 0.5):0} ms, p99 {Percentile(stops, 0.99):0} ms; "
                + $"press to new deadline, {presses.Count} times, p50 {Percentile(presses, 0.5):0} ms, "
                + $"p99 {Percentile(presses, 0.99):0} ms; wanted at most {WantedMs:0} ms"
        );
        Say(
            string.Create(
                CultureInfo.InvariantCulture,
                $"station: server and broker took {core:0.00} of a core; wanted at most {WantedCore:0.00}"
            )
        );
        await Compare(owner);
    }

    /// <summary>Every machine bound to a controller.</summary>
    private static async Task<List<MachineSetUp>> Enrol(NpgsqlDataSource owner, StationKeys keys)
    {
        var store = new ControllerStore(owner, new StationStore(owner, new RunStore(owner)));
        var now = SystemClock.Instance.GetCurrentInstant();
        await using var connection = await owner.OpenConnectionAsync();
        var keeper = await connection.ExecuteScalarAsync<string>(
            "select id from people.person where sign_in_name = @SignIn",
            new { Prepared.SignIn }
        );
        var set = new List<MachineSetUp>();
        for (var m = 0; m < Prepared.Machines; m++)
        {
            var (serial, salt) = ($"bench-{m}", Convert.ToBase64String(RandomNumberGenerator.GetBytes(16)));
            var enrolled = await store.Enrol(serial, $"laser-{m}", salt, keeper!, now, default);
            if (enrolled.Refusal is { } refusal)
                throw new InvalidOperationException(refusal.Text);
            set.Add(
                new MachineSetUp(
                    Machine: $"laser-{m}",
                    Name: $"Laser {m}",
                    Serial: serial,
                    Key: Convert.ToBase64String(keys.Controller(serial, salt)),
                    AirflowM3PerHour: 650,
                    WaterCooled: true
                )
            );
        }
        return set;
    }

    /// <summary>A run that was started at each machine.</summary>
    private static async Task Sessions(NpgsqlDataSource owner)
    {
        var now = SystemClock.Instance.GetCurrentInstant();
        await using var connection = await owner.OpenConnectionAsync();
        for (var m = 0; m < Prepared.Machines; m++)
        {
            var (booking, person) = await connection.QueryFirstAsync<(Guid, string)>(
                "select id, person_id from booking.booking where machine_id = @machine limit 1",
                new { machine = $"laser-{m}" }
            );
            var session = new StationSession
            {
                Id = Guid.NewGuid(),
                MachineId = $"laser-{m}",
                Person = person,
                Booking = booking,
                TappedIn = now,
                Until = now + Duration.FromHours(2),
                Items = [new GateItem("mat-board", 1.4m, [Operation.Cut], RunMinutes: 60)],
                Places = [],
                Controlled = true,
            };
            await connection.ExecuteAsync(
                """
                insert into station.session (id, machine_id, person_id, booking_id, at, whole, body)
                values (@Id, @machine, @person, @booking, @now, true, @body::jsonb)
                """,
                new
                {
                    session.Id,
                    machine = $"laser-{m}",
                    person,
                    booking,
                    now,
                    body = GateJson.Write(Started(session, now)),
                }
            );
        }
    }

    private static StationSession Started(StationSession session, Instant now) =>
        session with
        {
            Step = StationStep.Running,
            Lid = null,
            Version = session.Version + 1,
            Run = new BeamRun(now, 3000, 3600, now + Duration.FromMinutes(3)) { FixedEnd = now + Duration.FromHours(2) },
        };

    private static async Task<double> Press(Server server, StandInMachine machine)
    {
        var station = await server.Http.GetFromJsonAsync<Seen>($"/api/stations/{machine.SetUp.Machine}");
        // Some of the lease is gone, so that a new one is seen.
        await Task.Delay(50);
        var before = machine.State.LeftMs;
        var clock = Stopwatch.StartNew();
        var pressed = server.Http.PostAsJsonAsync(
            $"/api/stations/{machine.SetUp.Machine}/act",
            new
            {
                act = "press",
                id = Guid.NewGuid(),
                session = station!.Session!.Id,
                version = station.Session.Version,
            }
        );
        await Until(() => machine.State.LeftMs > before, "the press is seen at the machine");
        var ms = clock.Elapsed.TotalMilliseconds;
        (await pressed).EnsureSuccessStatusCode();
        return ms;
    }

    private sealed record Seen(SeenSession? Session);

    private sealed record SeenSession(Guid Id, int Version);

    private static async Task<double> Stop(Server server, NpgsqlDataSource owner, StandInMachine machine)
    {
        long offs;
        await using (var before = await owner.OpenConnectionAsync())
            offs = await Offs(before, machine);
        var clock = Stopwatch.StartNew();
        var stopped = server.Http.PostAsJsonAsync($"/api/stations/{machine.SetUp.Machine}/stop", new { id = Guid.NewGuid() });
        await Until(() => !machine.State.Beam, "the stop is seen at the machine");
        var ms = clock.Elapsed.TotalMilliseconds;
        (await stopped).EnsureSuccessStatusCode();
        await using var connection = await owner.OpenConnectionAsync();
        await Heard(connection, machine, offs + 1);
        // Started again, as the next run: the server asks by itself.
        await using var transaction = await connection.BeginTransactionAsync();
        var body = await connection.ExecuteScalarAsync<string>(
            "select body::text from station.session where machine_id = @Machine and ended_at is null for update",
            new { machine.SetUp.Machine },
            transaction
        );
        var again = Started(GateJson.Read<StationSession>(body!), SystemClock.Instance.GetCurrentInstant());
        await connection.ExecuteAsync(
            "update station.session set body = @body::jsonb, version = @Version where id = @Id",
            new
            {
                body = GateJson.Write(again),
                again.Version,
                again.Id,
            },
            transaction
        );
        await transaction.CommitAsync();
        await Until(() => machine.State.Beam, "the beam is on again");
        return ms;
    }

    private static Task<long> Offs(NpgsqlConnection connection, StandInMachine machine) =>
        connection.ExecuteScalarAsync<long>(
            "select count(*) from station.machine_event where serial = @Serial and kind = 'relayOff'",
            new { machine.SetUp.Serial }
        );

    /// <summary>The server has kept the word that the beam went off: in use the wait before the lid lies between.</summary>
    private static async Task Heard(NpgsqlConnection connection, StandInMachine machine, long offs)
    {
        for (var i = 0; i < 500 && await Offs(connection, machine) < offs; i++)
            await Task.Delay(20);
    }

    private static async Task Until(Func<bool> so, string what)
    {
        var clock = Stopwatch.StartNew();
        while (!so())
        {
            if (clock.Elapsed > TimeSpan.FromSeconds(30))
                throw new TimeoutException(what);
            await Task.Delay(1);
        }
    }

    /// <summary>Events of each controller stand once each and without a gap; readings that never came are counted.</summary>
    private static async Task Compare(NpgsqlDataSource owner)
    {
        await Task.Delay(3_000);
        await using var connection = await owner.OpenConnectionAsync();
        var (events, holes, readings, lost) = await connection.QuerySingleAsync<(long, long, long, long)>(
            """
            select (select count(*) from station.machine_event),
                (select coalesce(sum(n.last - n.kept), 0)::bigint from
                    (select serial, max(number) as last, count(*) as kept from station.machine_event group by serial) n),
                (select coalesce(sum(readings), 0)::bigint from station.reading),
                (select coalesce(sum(gaps), 0)::bigint from station.controller)
            """
        );
        if (holes != 0)
            throw new InvalidOperationException($"{holes} events are missing.");
        Say($"station: {events} events kept, none missing and none twice; {readings} readings, {lost} lost");
    }
}
