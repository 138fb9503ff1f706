using Dapper;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Store.Demo;
using VelvetGate.Store.Founding;
using VelvetGate.Store.House;

namespace VelvetGate.Bench;

/// <summary>
/// A big invented house: 5,000 people, 20 machines, 200,000 past bookings with their claims, and a rota for a year ahead.
/// </summary>
internal static class Prepared
{
    public const string SignIn = "bench";
    public const string Password = "bench password";
    public const int People = 5000;
    public const int Machines = 20;
    public const int PastBookings = 200_000;

    public static async Task Fill(NpgsqlDataSource owner, Instant now)
    {
        // A house that is there already is measured as it is.
        await using var people = owner.CreateCommand("select exists (select from people.person)");
        if ((bool)(await people.ExecuteScalarAsync())!)
            return;
        var rules = Packs.Start(Packs.StaffedWorkshop, "Bench House", "Europe/London") with
        {
            HoursPerPersonDay = 24,
            HoursPerPersonWeek = 168,
            OpenBookingsPerPerson = 100,
            IdleLapseDays = 900,
            BookAheadDays = 120,
        };
        var keeper = (
            await new FoundingOfHouse(owner).Found(
                rules,
                new(
                    GivenName: "Bench",
                    FamilyName: "Keeper",
                    BirthDate: null,
                    Band: null,
                    Email: null,
                    SignInName: SignIn,
                    AccountEnds: null
                ),
                new PasswordHasher<string>().HashPassword("", Password),
                true,
                now - Duration.FromDays(900),
                default
            )
        ).Value;
        var sheets = new SheetStore(owner);
        for (var m = 0; m < Machines; m++)
            await sheets.AddMachine(
                DemoHouse.Machines[0] with
                {
                    Id = $"laser-{m}",
                    Name = $"Laser {m}",
                },
                keeper,
                now - Duration.FromDays(900),
                default
            );
        await sheets.SetKit(new KitItem("co2", "CO2 extinguisher", null), keeper, now - Duration.FromDays(900), default);
        await using var connection = await owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into people.person (id, given_name, family_name) select 'p' || n, 'Given' || n, 'Family' || n
                from generate_series(0, @People - 1) n;
            insert into people.account (person_id, held, recorded) select 'p' || n, tstzrange(@from, null), tstzrange(@from, null)
                from generate_series(0, @People - 1) n;
            insert into people.agreement (person_id, held, recorded) select 'p' || n, tstzrange(@from, null), tstzrange(@from, null)
                from generate_series(0, @People - 1) n;
            insert into people.role (person_id, role, held, recorded) select 'p' || n, 'member', tstzrange(@from, null),
                tstzrange(@from, null) from generate_series(0, @People - 1) n;
            insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded)
                select gen_random_uuid(), 'p' || n, 'laser-' || ((n + k * 7) % @Machines), @keeper, gen_random_uuid(),
                    tstzrange(@now - interval '30 days', @later), tstzrange(@from, null) from generate_series(0, @People - 1) n,
                    generate_series(0, 5) k;
            insert into training.done (person_id, module_id, version, at) select 'p' || n, m.id, m.version, @now - interval '40 days'
                from generate_series(0, @People - 1) n, training.module m;
            insert into house.duty (person_id, during, recorded) select @keeper,
                tstzrange(@now + d * interval '1 day' - interval '12 hours', @now + d * interval '1 day' + interval '12 hours'),
                tstzrange(@from, null) from generate_series(0, 365) d;
            insert into booking.resource (id) select 'machine:laser-' || m from generate_series(0, @Machines - 1) m union all
                select 'attend:p' || n from generate_series(0, @People - 1) n;
            insert into gate.decision (id, at, rules_version, ask, facts, outcome, hash)
                values ('00000000-0000-4000-8000-000000000001', @from, 1, '{}', '{}', '{}', 'past');
            """,
            new
            {
                People,
                Machines,
                keeper,
                now,
                from = now - Duration.FromDays(900),
                later = now + Duration.FromDays(400),
            },
            commandTimeout: 600
        );
        await connection.ExecuteAsync(
            """
            create temporary table past as select gen_random_uuid() as id, 'p' || ((k * 20 + m) % @People) as person,
                'laser-' || m as machine,
                tstzrange(@now - (k + 1) * interval '85 minutes', @now - (k + 1) * interval '85 minutes' + interval '75 minutes') as during
                from generate_series(0, @PastBookings / @Machines - 1) k, generate_series(0, @Machines - 1) m;
            insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at)
                select id, person, machine, during, 75, '[]', '{}', '00000000-0000-4000-8000-000000000001', person, lower(during) from past;
            insert into booking.claim (booking_id, resource, during, recorded) select id, 'machine:' || machine, during,
                tstzrange(lower(during), null) from past
                union all select id, 'attend:' || person, during, tstzrange(lower(during), null) from past;
            """,
            new
            {
                People,
                Machines,
                PastBookings,
                now,
            },
            commandTimeout: 1800
        );
        await SetUp(connection, keeper, now);
        await connection.ExecuteAsync("analyze;", commandTimeout: 600);
    }

    /// <summary>As in a house that is in use: each machine gone through, its interlocks tried, and something run on it lately.</summary>
    private static Task SetUp(NpgsqlConnection connection, PersonId keeper, Instant now)
    {
        var on = LocalDate.FromDateOnly(DateOnly.FromDateTime((now - Duration.FromDays(60)).ToDateTimeUtc()));
        var sheet = new CommissioningSheet(
            On: on,
            By: "the keeper",
            Wiring: "by an electrician",
            InterlocksOn: on,
            MakersGone: true,
            RelayGone: true,
            WiredBy: "the fitter",
            Consent: "the maker’s",
            ClassAnew: "1",
            WindowNm: 10600,
            WindowOd: 6,
            AirflowHow: "vane meter",
            InwardMS: 0.6m,
            Route: "4 m of steel duct",
            Stages: [new("fan", "20,000 h")],
            Level: true
        );
        return connection.ExecuteAsync(
            """
            insert into house.commissioning (machine_id, sheet, set_by, held, recorded)
                select id, @sheet::jsonb, @keeper, tstzrange(@at, null), tstzrange(@at, null) from house.machine;
            insert into upkeep.interlock_trial (id, machine_id, at, by) select gen_random_uuid(), id, @at, @keeper from house.machine;
            insert into upkeep.after_break (id, machine_id, at, by, checks)
                select gen_random_uuid(), id, @now - interval '1 day', @keeper, '{}' from house.machine;
            """,
            new
            {
                sheet = GateJson.Write(sheet),
                keeper,
                now,
                at = now - Duration.FromDays(60),
            }
        );
    }
}
