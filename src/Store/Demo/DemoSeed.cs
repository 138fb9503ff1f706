using Dapper;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Run;
using VelvetGate.Store.Training;

namespace VelvetGate.Store.Demo;

/// <summary>
/// Fills an empty house with the demo: eight weeks of history and three weeks ahead, relative to the start clock, from a fixed seed.
/// Everything with a rule goes through the same code as in use: each booking was decided, each sign-off checked.
/// </summary>
public sealed class DemoSeed(NpgsqlDataSource db, Instant now)
{
    private const int Seed = 20170;
    private const int WeeksBack = 8;
    private const int DaysAhead = 21;

    private readonly Random _random = new(Seed);
    private readonly HouseRules _rules = Packs.Start(Packs.StaffedWorkshop, DemoHouse.Name, DemoHouse.ZoneId);
    private readonly Instant _founded = now - Duration.FromDays(430);

    private LocalDate Today => _rules.Clock.DateOf(now);

    /// <returns>False when the house is not empty: nothing is changed.</returns>
    public async Task<bool> Run(CancellationToken cancel)
    {
        await using (var connection = await db.OpenConnectionAsync(cancel))
        {
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            if (await connection.ExecuteScalarAsync<bool>("select exists (select from people.person) or exists (select from house.machine)", transaction: transaction)) return false;
            await WriteHouse(connection, transaction);
            await StartingShelf.Write(connection, transaction, _founded);
            await WritePeople(connection, transaction);
            await WriteSheets(connection, transaction);
            await WriteRota(connection, transaction);
            await transaction.CommitAsync(cancel);
        }
        foreach (var step in Story().OrderBy(s => s.At)) await step.Do();
        return true;
    }

    private async Task WriteHouse(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        var from = _founded;
        await connection.ExecuteAsync(
            "insert into house.rules (id, held, recorded, body, reason) values (gen_random_uuid(), tstzrange(@from, null), tstzrange(@from, null), @body::jsonb, 'Staffed workshop pack')",
            new { from, body = GateJson.Write(_rules) }, transaction);
        foreach (var (machine, position) in DemoHouse.Machines.Select((m, i) => (m, i)))
        {
            await connection.ExecuteAsync(
                "insert into house.machine (id, name, position, spec) values (@Id, @Name, @position, @spec::jsonb)",
                new { machine.Id, machine.Name, position, spec = GateJson.Write(machine) }, transaction);
            foreach (var fixture in machine.Fixtures)
                await connection.ExecuteAsync("insert into house.fixture (id, machine_id) values (@fixture, @Id)", new { fixture, machine.Id }, transaction);
        }
        await connection.ExecuteAsync(
            """
            insert into house.fire_kit (id, name, in_date_until, held, recorded) values
                ('co2', 'CO2 extinguisher by the door', @inAYear, tstzrange(@from, null), tstzrange(@from, null)),
                ('blanket', 'fire blanket', null, tstzrange(@from, null), tstzrange(@from, null)),
                ('alarm', 'smoke alarm', @inHalf, tstzrange(@from, null), tstzrange(@from, null));
            insert into house.eyewear (id, name, min_nm, max_nm, optical_density, damage_rated, count, held, recorded) values
                ('blue', 'blue-beam glasses', 190, 534, 6.0, true, 4, tstzrange(@from, null), tstzrange(@from, null));
            insert into upkeep.task (id, machine_id, name, overdue_from, held, recorded) values
                ('kestrel-mirrors', 'kestrel', 'Mirror clean', @twoDaysAgo, tstzrange(@from, null), tstzrange(@from, null)),
                ('heron-mirrors', 'heron', 'Mirror clean', @inFive, tstzrange(@from, null), tstzrange(@from, null)),
                ('wren-coolant', 'wren', 'Coolant change', @inAYear, tstzrange(@from, null), tstzrange(@from, null));
            """,
            new
            {
                from, inAYear = now + Duration.FromDays(300), inHalf = now + Duration.FromDays(160),
                twoDaysAgo = now - Duration.FromDays(2), inFive = now + Duration.FromDays(45),
            }, transaction);
    }

    private async Task WritePeople(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        var hash = new PasswordHasher<string>().HashPassword("", DemoHouse.Password);
        for (var i = 0; i < DemoHouse.People.Length; i++)
        {
            var (given, family, age) = DemoHouse.People[i];
            var signIn = i < DemoHouse.SignIns.Count ? DemoHouse.SignIns[i] : null;
            var joined = i == 4 ? now - Duration.FromDays(5) : _founded + Duration.FromDays(_random.Next(40));
            await connection.ExecuteAsync(
                """
                insert into people.person (id, given_name, family_name, birth_date, sign_in_name, password_hash) values (@id, @given, @family, @born, @signIn, @hash);
                insert into people.account (person_id, held, recorded) values (@id, tstzrange(@joined, null), tstzrange(@joined, null));
                insert into people.agreement (person_id, held, recorded) values (@id, tstzrange(@joined, null), tstzrange(@joined, null));
                insert into people.role (person_id, role, held, recorded) values (@id, 'member', tstzrange(@joined, null), tstzrange(@joined, null));
                """,
                new { id = Id(i), given, family, born = Today.PlusYears(-age).PlusDays(-_random.Next(1, 300)), signIn, hash = signIn is null ? null : hash, joined }, transaction);
        }
        foreach (var (person, role, machine) in Roles())
        {
            await connection.ExecuteAsync(
                "insert into people.role (person_id, role, machine_id, held, recorded) values (@person, @role, @machine, tstzrange(@founded, null), tstzrange(@founded, null))",
                new { person, role, machine, founded = _founded }, transaction);
        }
    }

    private static IEnumerable<(string Person, string Role, string? Machine)> Roles()
    {
        yield return (Id(0), "keeper", null);
        foreach (var steward in (int[])[1, 5, 6, 7]) yield return (Id(steward), "steward", null);
        foreach (var (trainer, machines) in ((int, string)[])[(2, "heron wren"), (8, "heron wren swift"), (9, "heron kestrel"), (10, "wren swift"), (11, "kestrel"), (12, "swift kestrel")])
        {
            foreach (var machine in machines.Split(' ')) yield return (Id(trainer), "trainer", machine);
        }
    }

    private async Task WriteSheets(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        (string Tag, string Material, decimal Mm, int Width, int Height, string Source, bool Cleared)[] sheets =
        [
            ("S-0097", "birch-ply-laser", 3, 600, 400, "house stock, batch of ten", true), ("S-0098", "birch-ply-laser", 6, 600, 400, "house stock", true),
            ("S-0101", "acrylic-clear", 3, 600, 400, "supplier’s data sheet", true), ("S-0102", "acrylic-opaque", 5, 600, 400, "supplier’s data sheet", true),
            ("S-0104", "leather-veg", 2.4m, 900, 400, "tannery’s statement", true), ("S-0105", "mdf", 3, 600, 400, "low-formaldehyde label", true),
            ("S-0106", "acrylic-clear", 4, 300, 300, "marketplace page", true), ("S-0109", "felt-wool", 3, 900, 450, "mill’s label", true),
            ("S-0112", "rubber-stamp", 2.3m, 297, 210, "maker’s sheet", true), ("S-0118", "birch-ply-laser", 3, 600, 300, "brought in, glue not stated", false),
            ("S-0121", "poplar-ply-laser", 4, 800, 400, "brought in", false),
        ];
        var from = now - Duration.FromDays(70);
        foreach (var sheet in sheets)
        {
            await connection.ExecuteAsync(
                "insert into materials.sheet (tag, material_id, thickness_mm, width_mm, height_mm, source) values (@Tag, @Material, @Mm, @Width, @Height, @Source)", sheet.ToParameters(), transaction);
            if (!sheet.Cleared) continue;
            await connection.ExecuteAsync(
                """
                insert into materials.clearance (tag, operations, machine_ids, held, recorded)
                values (@Tag, '{cut,score,engrave}', '{}', tstzrange(@from, @until), tstzrange(@from, null))
                """,
                new { sheet.Tag, from, until = now + Duration.FromDays(120) }, transaction);
        }
        await connection.ExecuteAsync(
            "insert into materials.quarantine (tag, held, recorded) values ('S-0106', tstzrange(@since, null), tstzrange(@since, null))",
            new { since = now - Duration.FromDays(3) }, transaction);
        await connection.ExecuteAsync(
            "insert into bench.test_result (machine_id, material_id, thickness_mm, at) select m, s, t, @from from unnest(@machines, @materials, @sizes) as x(m, s, t)",
            new
            {
                from,
                machines = new[] { "heron", "heron", "heron", "heron", "wren", "wren", "wren", "swift", "swift", "heron" },
                materials = new[] { "birch-ply-laser", "birch-ply-laser", "acrylic-clear", "mat-board", "birch-ply-laser", "mat-board", "acrylic-opaque", "birch-ply-laser", "mat-board", "leather-veg" },
                sizes = new[] { 3m, 6m, 3m, 1.4m, 3m, 1.4m, 5m, 3m, 1.4m, 2.4m },
            }, transaction);
    }

    private async Task WriteRota(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        string[] stewards = [Id(1), Id(5), Id(6), Id(7)];
        for (var day = -WeeksBack * 7; day <= DaysAhead; day++)
        {
            var date = Today.PlusDays(day);
            var change = new LocalTime(15, 30);
            foreach (var (shift, who) in new[] { (_rules.Clock.Between(date, new LocalTime(10, 0), change), (day + 400) % 4), (_rules.Clock.Between(date, change, new LocalTime(21, 0)), (day + 402) % 4) })
            {
                await connection.ExecuteAsync(
                    "insert into house.duty (person_id, during, recorded) values (@person, tstzrange(@Start, @End), tstzrange(@founded, null))",
                    new { person = stewards[who], shift.Start, shift.End, founded = _founded }, transaction);
            }
        }
    }

    /// <summary>What happened, each step at its own time.</summary>
    private List<(Instant At, Func<Task> Do)> Story()
    {
        var steps = new List<(Instant, Func<Task>)>();
        var certified = SignEveryoneOff(steps);
        AddBookings(steps, certified);
        steps.Add((now - Duration.FromDays(16), () => new PeopleStore(db).Pause(Id(33), Id(1), "Left Wren running to answer the phone. We talk on Tuesday.", null, now - Duration.FromDays(16), default)));
        steps.Add((now - Duration.FromDays(30), async () =>
        {
            var house = new HouseStore(db);
            var stop = await house.Stop("wren", Id(13), "Lid switch clicks twice.", now - Duration.FromDays(30), default);
            await house.Return(stop, Id(5), "Switch replaced and tested with the lid at three heights.", now - Duration.FromDays(30) + Duration.FromHours(3), default);
        }
        ));
        steps.Add((now - Duration.FromMinutes(95), () => new HouseStore(db).Stop("kestrel", Id(12), "Smoke from the lens barrel.", now - Duration.FromMinutes(95), default)));
        steps.Add((now - Duration.FromMinutes(40), () => AskAbout(Id(14), "heron", new AskItem("mdf", 3, [Operation.Cut], RunMinutes: 12), "Low-formaldehyde board for the harbour model; label in the rack.")));
        steps.Add((now - Duration.FromMinutes(25), () => AskAbout(Id(16), "wren", new AskItem("leather-veg", 2.4m, [Operation.Cut, Operation.Engrave], "S-0104", RunMinutes: 20), "Masks for Saturday; the tannery’s statement is in the folder.", supervisor: false)));
        return steps;
    }

    private async Task AskAbout(string person, string machine, AskItem item, string note, bool supervisor = true)
    {
        var day = Today.PlusDays(supervisor ? 2 : 3);
        var at = now - Duration.FromMinutes(supervisor ? 40 : 25);
        var ask = new Ask(person, machine, [item], null, null, _rules.Clock.Between(day, new LocalTime(18, 0), new LocalTime(19, 30)).Start, 90);
        var facts = await new FactLoader(db).Load(ask, at, null, person, default);
        await new AskStore(db).Add(ask, facts.Value, note, at, default);
    }

    /// <returns>For each machine, who holds a certificate by when.</returns>
    private Dictionary<string, List<string>> SignEveryoneOff(List<(Instant, Func<Task>)> steps)
    {
        var certified = DemoHouse.Machines.ToDictionary(m => m.Id, _ => new List<string>());
        var trainers = Roles().Where(r => r.Role == "trainer").ToLookup(r => r.Machine!, r => r.Person);
        for (var i = 0; i < DemoHouse.People.Length; i++)
        {
            if (i is 0 or 4) continue;
            foreach (var machine in DemoHouse.Machines.Select(m => m.Id))
            {
                if (!Holds(i, machine)) continue;
                var at = LapsesToday(i, machine) ? _rules.Clock.At(now).LocalDateTime.PlusYears(-1).InZoneLeniently(_rules.Clock.Zone).ToInstant()
                    : now - Duration.FromDays(SignedDaysAgo(i)) - Duration.FromMinutes(_random.Next(600));
                Add(i, machine, at);
                // Only who is not idle and may run alone books; the others would be refused.
                if (now - at < Duration.FromDays(88) && DemoHouse.People[i].Age > _rules.AloneFromAge) certified[machine].Add(Id(i));
            }
        }
        Add(8, "heron/rotary", now - Duration.FromDays(200));
        return certified;

        void Add(int person, string authority, Instant at)
        {
            var signer = trainers[SignOffs.MachineOf(authority)].First(t => t != Id(person));
            steps.Add((at, () => new TrainingStore(db).SignOff(Id(person), authority, "Practical seen from start to finish: no critical step missed.", signer, _rules, at, default)));
        }
    }

    /// <summary>Most were signed off this term; some long ago and have not been back, so that idleness shows too.</summary>
    private int SignedDaysAgo(int person) => person is 2 or 3 ? 45 : _random.Next(5) == 0 ? _random.Next(100, 350) : _random.Next(48, 86);

    private bool Holds(int person, string machine)
    {
        if (Roles().Any(r => r.Person == Id(person) && r.Role == "trainer" && r.Machine == machine)) return true;
        if (person == 3) return machine is "heron" or "wren";
        if (person is 9 or 14 or 16 && machine is "heron" or "wren") return true;
        var chance = machine switch { "heron" => 0.6, "wren" => 0.7, "swift" => 0.4, _ => 0.2 };
        return _random.NextDouble() < chance && person < 54;
    }

    private static bool LapsesToday(int person, string machine) => (person, machine) is (9, "heron") or (14, "wren");

    private void AddBookings(List<(Instant, Func<Task>)> steps, Dictionary<string, List<string>> certified)
    {
        for (var day = -WeeksBack * 7; day <= DaysAhead; day++)
        {
            foreach (var machine in DemoHouse.Machines.Select(m => m.Id)) AddDay(steps, certified[machine], machine, Today.PlusDays(day), day);
        }
        var seen = _rules.Clock.Between(Today.PlusDays(-20), new LocalTime(16, 0), new LocalTime(17, 0)).Start;
        var last = NextId();
        steps.Add((seen - Duration.FromDays(2), () => Book(last, Id(3), "heron", seen, seen - Duration.FromDays(2), ("birch-ply-laser", 3m, "S-0097"), 9)));
        steps.Add((seen + Duration.FromMinutes(40), () => LogRun(last, seen, seen + Duration.FromMinutes(40), Outcome.Clean)));
    }

    private void AddDay(List<(Instant, Func<Task>)> steps, List<string> people, string machine, LocalDate date, int day)
    {
        var busy = machine switch { "heron" => 0.8, "wren" => 0.75, "swift" => 0.5, _ => 0.2 } * (day > 0 ? Math.Max(0.12, 0.9 - day * 0.05) : 1);
        var open = _rules.OpenOn(date)!.Value;
        var at = open.Start + Duration.FromMinutes(15 * _random.Next(0, 4));
        while (at < open.End - Duration.FromMinutes(100))
        {
            var run = _random.Next(4, 32);
            var minutes = (int)Math.Ceiling((22 + 2 * (run + 4)) / 15.0) * 15;
            if (_random.NextDouble() < busy)
            {
                var person = people[_random.Next(people.Count)];
                var material = Materials(machine);
                var (start, made) = (at, Instant.Min(now - Duration.FromMinutes(30 + _random.Next(600)), at - Duration.FromHours(6 + _random.Next(120))));
                if (person != Id(3) && (person != Id(2) || day < 0)) Add(person, start, made, material, run, minutes);
            }
            at += Duration.FromMinutes(minutes + 15 * _random.Next(0, 5));
        }

        void Add(string person, Instant start, Instant made, (string, decimal, string?) material, int run, int minutes)
        {
            var id = NextId();
            var outcome = Outcomes[_random.Next(Outcomes.Length)];
            steps.Add((made, () => Book(id, person, machine, start, made, material, run)));
            var end = start + Duration.FromMinutes(minutes - 11);
            if (end < now) steps.Add((end, () => LogRun(id, start, end, outcome)));
        }
    }

    private (string Material, decimal Mm, string? Tag) Materials(string machine) => machine switch
    {
        "kestrel" => ("metal-plain", 1m, null),
        "swift" => _random.Next(2) == 0 ? ("mat-board", 1.4m, null) : ("birch-ply-laser", 3m, "S-0097"),
        _ => _random.Next(4) switch { 0 => ("mat-board", 1.4m, null), 1 => ("acrylic-clear", 3m, "S-0101"), _ => ("birch-ply-laser", 3m, "S-0097") },
    };

    /// <summary>Most runs come out clean.</summary>
    private static readonly Outcome[] Outcomes = [.. Enumerable.Repeat(Outcome.Clean, 16), Outcome.NotThrough, Outcome.NotThrough, Outcome.Charred, Outcome.Abandoned];

    /// <summary>Arrives and logs the run of a booking that was really made.</summary>
    private async Task LogRun(Guid booking, Instant start, Instant end, Outcome outcome)
    {
        var store = new BookingStore(db);
        var made = (await store.Between(start, end, null, default)).SingleOrDefault(b => b.Id == booking);
        if (made is null) return;
        await store.Arrive(booking, made.PersonId, false, start + Duration.FromMinutes(2), default);
        var item = made.Ask.Items[0];
        await new RunStore(db).Log(
            NextId(), booking, new LoggedRun(made.PersonId, made.MachineId, item.MaterialId, item.ThicknessMm, item.Operations, start + Duration.FromMinutes(12), end, outcome, null),
            made.PersonId, false, end, default);
    }

    private async Task Book(Guid id, string person, string machine, Instant start, Instant made, (string Material, decimal Mm, string? Tag) sheet, int run)
    {
        Operation[] operations = machine == "kestrel" ? [Operation.Engrave] : _random.Next(3) == 0 ? [Operation.Cut, Operation.Score] : [Operation.Cut];
        var minutes = (int)Math.Ceiling((decimal)(22 + 2 * (run + 4)) / 15) * 15;
        var ask = new Ask(person, machine, [new AskItem(sheet.Material, sheet.Mm, operations, sheet.Tag, null, run)], null, null, start, minutes);
        await new BookingStore(db).Book(id, ask, person, made, default);
    }

    private Guid NextId()
    {
        var bytes = new byte[16];
        _random.NextBytes(bytes);
        return new Guid(bytes);
    }

    private static string Id(int index) => $"m-{index + 1}";
}

internal static class Tuples
{
    /// <summary>Dapper reads members by name, which a tuple has only for the compiler.</summary>
    public static object ToParameters(this (string Tag, string Material, decimal Mm, int Width, int Height, string Source, bool Cleared) s) =>
        new { s.Tag, s.Material, s.Mm, s.Width, s.Height, s.Source };
}
