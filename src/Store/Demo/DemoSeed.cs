using Dapper;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;

namespace VelvetGate.Store.Demo;

/// <summary>
/// Fills an empty house with the demo: eight weeks of history and three weeks ahead, relative to the start clock, from a fixed seed.
/// Everything with a rule goes through the same code as in use: each booking was decided, each sign-off checked.
/// </summary>
public sealed partial class DemoSeed(NpgsqlDataSource db, Instant now)
{
    private const int Seed = 20170;
    private const int WeeksBack = 8;
    private const int DaysAhead = 21;

    /// <summary>People who come first and have a sign-in: all but the trustee, who comes last.</summary>
    private static int Firsts => DemoHouse.SignIns.Count - 1;
    private static int TrusteeNumber => DemoHouse.People.Length;

    private readonly Random _random = new(Seed);
    private readonly HouseRules _rules = DemoHouse.Rules;
    private readonly Instant _founded = now - Duration.FromDays(430);

    private LocalDate Today => _rules.Clock.DateOf(now);

    /// <returns>False when the house is not empty: nothing is changed.</returns>
    public async Task<bool> Run(CancellationToken cancel)
    {
        await using (var connection = await db.OpenConnectionAsync(cancel))
        {
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            if (
                await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from people.person) or exists (select from house.machine)",
                    transaction: transaction
                )
            )
                return false;
            await WriteHouse(connection, transaction);
            await StartingShelf.Write(connection, transaction, _founded, now.InUtc().Date.PlusMonths(5));
            await connection.ExecuteAsync(
                "update materials.ruling set review_by = @day where material_id = 'foam-eva'",
                new { day = now.InUtc().Date.PlusDays(-6) },
                transaction
            );
            await WritePeople(connection, transaction);
            await WriteSetUps(connection, transaction);
            await WriteSheets(connection, transaction);
            await WriteConsents(connection, transaction);
            await LedgerStore.Append(connection, transaction, _founded, RecordEvents.LedgerBaseline, new { });
            await transaction.CommitAsync(cancel);
        }
        await WriteRota();
        foreach (var step in Story().OrderBy(s => s.At))
            await step.Do();
        await WriteUpkeep();
        return true;
    }

    private async Task WriteHouse(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        var from = _founded;
        await connection.ExecuteAsync(
            "insert into house.room (body, held, recorded) values (@body::jsonb, tstzrange(@from, null), tstzrange(@from, null))",
            new { from, body = GateJson.Write(DemoHouse.Room) },
            transaction
        );
        await connection.ExecuteAsync(
            "insert into house.rules (id, held, recorded, body, reason) values (gen_random_uuid(), tstzrange(@from, null), "
                + "tstzrange(@from, null), @body::jsonb, 'Staffed workshop pack')",
            new { from, body = GateJson.Write(_rules) },
            transaction
        );
        foreach (var (machine, position) in DemoHouse.Machines.Select((m, i) => (m, i)))
        {
            await connection.ExecuteAsync(
                "insert into house.machine (id, name, position, spec) values (@Id, @Name, @position, @spec::jsonb)",
                new
                {
                    machine.Id,
                    machine.Name,
                    position,
                    spec = GateJson.Write(machine),
                },
                transaction
            );
            foreach (var fixture in machine.Fixtures)
                await connection.ExecuteAsync(
                    "insert into house.fixture (id, machine_id) values (@fixture, @Id)",
                    new { fixture, machine.Id },
                    transaction
                );
        }
        await connection.ExecuteAsync(
            """
            insert into house.fire_kit (id, name, in_date_until, held, recorded) values
                ('co2', 'CO2 extinguisher by the door', @inAYear, tstzrange(@from, null), tstzrange(@from, null)),
                ('blanket', 'fire blanket', null, tstzrange(@from, null), tstzrange(@from, null)),
                ('alarm', 'smoke alarm', @inHalf, tstzrange(@from, null), tstzrange(@from, null));
            insert into house.eyewear (id, name, min_nm, max_nm, optical_density, damage_rated, count, held, recorded) values
                ('blue', 'blue-beam glasses', 190, 534, 6.0, true, 4, tstzrange(@from, null), tstzrange(@from, null));
            -- Known from the beginning, so that nobody books beyond it; how far it is, is told once there are runs.
            insert into upkeep.task (id, machine_id, name, plan, since, due_from, overdue_from, held, recorded) values
                ('kestrel-mirrors', 'kestrel', @mirrors, @plan::jsonb, @from, @twoDaysAgo, @twoDaysAgo, tstzrange(@from, null),
                    tstzrange(@from, null));
            """,
            new
            {
                from,
                inAYear = now + Duration.FromDays(300),
                inHalf = now + Duration.FromDays(160),
                mirrors = UpkeepMethods.Mirrors.Name,
                plan = GateJson.Write(UpkeepMethods.Mirrors),
                twoDaysAgo = now - Duration.FromDays(2),
            },
            transaction
        );
    }

    private async Task WritePeople(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        // The demo's password is public: many rounds would keep nothing safe.
        var hash = new PasswordHasher<string>(
            Microsoft.Extensions.Options.Options.Create(new PasswordHasherOptions { IterationCount = 1_000 })
        ).HashPassword("", DemoHouse.Password);
        for (var i = 0; i < DemoHouse.People.Length; i++)
        {
            var joined = i == 4 ? now - Duration.FromDays(5) : _founded + Duration.FromDays(_random.Next(40));
            await Write(i, DemoHouse.People[i], Firsts > i ? DemoHouse.SignIns[i] : null, joined, _random.Next(1, 300));
        }
        await Write(TrusteeNumber, DemoHouse.Trustee, DemoHouse.TrusteeSignIn, _founded, 100);
        foreach (var (person, role, machine) in Roles())
        {
            await connection.ExecuteAsync(
                "insert into people.role (person_id, role, machine_id, held, recorded) values (@person, @role, @machine, "
                    + "tstzrange(@founded, null), tstzrange(@founded, null))",
                new
                {
                    person,
                    role,
                    machine,
                    founded = _founded,
                },
                transaction
            );
        }

        Task Write(int number, (string Given, string Family, int Age) who, string? signIn, Instant joined, int daysOlder) =>
            connection.ExecuteAsync(
                """
                insert into people.person (id, given_name, family_name, birth_date, sign_in_name, password_hash, email)
                    values (@id, @given, @family, @born, @signIn, @hash, @signIn || '@ropewalk.example');
                insert into people.account (person_id, held, recorded) values (@id, tstzrange(@joined, null), tstzrange(@joined, null));
                insert into people.agreement (person_id, held, recorded) values (@id, tstzrange(@joined, null), tstzrange(@joined, null));
                insert into people.role (person_id, role, held, recorded)
                    values (@id, 'member', tstzrange(@joined, null), tstzrange(@joined, null));
                """,
                new
                {
                    id = Id(number),
                    given = who.Given,
                    family = who.Family,
                    born = Today.PlusYears(-who.Age).PlusDays(-daysOlder),
                    signIn,
                    hash = signIn is null ? null : hash,
                    joined,
                },
                transaction
            );
    }

    private static IEnumerable<(string Person, string Role, string? Machine)> Roles()
    {
        yield return (Id(0), "keeper", null);
        yield return (Id(TrusteeNumber), "countersigner", null);
        foreach (var steward in (int[])[1, 5, 6, 7])
            yield return (Id(steward), "steward", null);
        foreach (
            var (trainer, machines) in ((int, string)[])
                [
                    (2, "heron wren"),
                    (8, "heron wren swift"),
                    (9, "heron kestrel"),
                    (10, "wren swift"),
                    (11, "kestrel"),
                    (12, "swift kestrel"),
                ]
        )
        {
            foreach (var machine in machines.Split(' '))
                yield return (Id(trainer), "trainer", machine);
        }
        foreach (var machine in (string[])["heron", "wren", "kestrel"])
            yield return (Id(2), "repair", machine);
    }

    /// <summary>The youth company: each has a guardian's consent, two of them for single machines.</summary>
    private async Task WriteConsents(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        foreach (var (minor, i) in Minors().Select((m, i) => (m, i)))
        {
            var text = await LedgerStore.Keep(connection, transaction, "Guardian’s form, signed at the start of the season.", Id(minor));
            await connection.ExecuteAsync(
                """
                insert into people.consent (id, person_id, machine_ids, set_by, text_id, held, recorded)
                values (gen_random_uuid(), @person, @machines, @by, @text, tstzrange(@from, @until), tstzrange(@from, null))
                """,
                new
                {
                    person = Id(minor),
                    machines = i < 2 ? new[] { "wren" } : [],
                    by = Id(0),
                    text = text.Id,
                    from = now - Duration.FromDays(80),
                    until = now + Duration.FromDays(240),
                },
                transaction
            );
        }
    }

    private static IEnumerable<int> Minors() => Enumerable.Range(0, DemoHouse.People.Length).Where(i => DemoHouse.People[i].Age < 18);

    private async Task WriteSheets(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        (string Tag, string Material, decimal Mm, int Width, int Height, string Source, bool Cleared)[] sheets =
        [
            ("S-0097", "birch-ply-laser", 3, 600, 400, "house stock, batch of ten", true),
            ("S-0098", "birch-ply-laser", 6, 600, 400, "house stock", true),
            ("S-0101", "acrylic-clear", 3, 600, 400, "supplier’s data sheet", true),
            ("S-0102", "acrylic-opaque", 5, 600, 400, "supplier’s data sheet", true),
            ("S-0104", "leather-veg", 2.4m, 900, 400, "tannery’s statement", true),
            ("S-0105", "mdf", 3, 600, 400, "low-formaldehyde label", true),
            ("S-0106", "acrylic-clear", 4, 300, 300, "marketplace page", true),
            ("S-0109", "felt-wool", 3, 900, 450, "mill’s label", true),
            ("S-0112", "rubber-stamp", 2.3m, 297, 210, "maker’s sheet", true),
            ("S-0118", "birch-ply-laser", 3, 600, 300, "brought in, glue not stated", false),
            ("S-0121", "poplar-ply-laser", 4, 800, 400, "brought in", false),
        ];
        var from = now - Duration.FromDays(70);
        foreach (var sheet in sheets)
        {
            await connection.ExecuteAsync(
                """
                insert into materials.sheet (tag, material_id, thickness_mm, width_mm, height_mm, source, state, brought_by,
                    registered_at, supplier, batch)
                values (@Tag, @Material, @Mm, @Width, @Height, @Source, case when @Cleared then 'cleared' else 'waiting' end, case
                    when @Cleared then null else @bringer end, @from,
                    case when @Cleared then 'Harbour Sheet Supply' else '' end, case when @Tag in ('S-0097', 'S-0098') then 'spring order'
                        else '' end)
                """,
                new
                {
                    sheet.Tag,
                    sheet.Material,
                    sheet.Mm,
                    sheet.Width,
                    sheet.Height,
                    sheet.Source,
                    sheet.Cleared,
                    bringer = Id(sheet.Tag == "S-0118" ? 4 : 8),
                    from,
                },
                transaction
            );
            if (!sheet.Cleared)
                continue;
            await connection.ExecuteAsync(
                """
                insert into materials.clearance (tag, operations, machine_ids, held, recorded)
                values (@Tag, '{cut,score,engrave}', '{}', tstzrange(@from, @until), tstzrange(@from, null))
                """,
                new
                {
                    sheet.Tag,
                    from,
                    until = now + Duration.FromDays(120),
                },
                transaction
            );
        }
        await connection.ExecuteAsync(
            "insert into materials.quarantine (tag, held, recorded) values ('S-0106', tstzrange(@since, null), tstzrange(@since, null))",
            new { since = now - Duration.FromDays(3) },
            transaction
        );
        await connection.ExecuteAsync(
            "insert into bench.test_result (machine_id, material_id, thickness_mm, operation, at) select m, s, t, o, @from from "
                + "unnest(@machines, @materials, @sizes) as x(m, s, t), unnest(array['cut', 'score', 'engrave']) o",
            new
            {
                from,
                machines = new[] { "heron", "heron", "heron", "heron", "wren", "wren", "wren", "swift", "swift", "heron" },
                materials = new[]
                {
                    "birch-ply-laser",
                    "birch-ply-laser",
                    "acrylic-clear",
                    "mat-board",
                    "birch-ply-laser",
                    "mat-board",
                    "acrylic-opaque",
                    "birch-ply-laser",
                    "mat-board",
                    "leather-veg",
                },
                sizes = new[] { 3m, 6m, 3m, 1.4m, 3m, 1.4m, 5m, 3m, 1.4m, 2.4m },
            },
            transaction
        );
    }
}
