using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.House;

/// <param name="InDateUntil">Null for things that do not go out of date.</param>
public sealed record KitItem(string Id, string Name, Instant? InDateUntil);

/// <param name="MinNm">Wavelengths covered, in nm, ends included.</param>
public sealed record EyewearSet(string Id, string Name, int MinNm, int MaxNm, decimal OpticalDensity, bool DamageRated, int Count);

/// <summary>One version of the house rules.</summary>
/// <param name="Until">Null for the last.</param>
public sealed record RulesVersion(Guid Id, Instant From, Instant? Until, HouseRules Rules, string Reason);

/// <param name="Version">Pass it back with a change.</param>
public sealed record MachineSheet(MachineSpec Spec, int Version);

/// <summary>What a keeper writes down about the house: machines, room, fire kit, eyewear and the versions of its rules.</summary>
public sealed class SheetStore(NpgsqlDataSource db)
{
    private sealed record RulesRow(Guid Id, Instant From, Instant? Until, string Body, string Reason);

    /// <summary>Adds a machine after the others.</summary>
    public Task<Result<MachineId>> AddMachine(MachineSpec spec, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var added =
                    await connection.ExecuteAsync(
                        "insert into house.machine (id, name, position, spec) select @Id, @Name, coalesce(max(position) + 1, 0), "
                            + "@spec::jsonb from house.machine on conflict (id) do nothing",
                        new
                        {
                            spec.Id,
                            spec.Name,
                            spec = GateJson.Write(spec),
                        },
                        transaction
                    ) == 1;
                if (!added)
                    return (HouseProblems.MachineTaken.Refuse("id", spec.Id), false);
                await KeepFixtures(connection, transaction, spec);
                await Tell(connection, transaction, RecordEvents.MachineAdded, spec.Id, by, now);
                return ((Result<MachineId>)spec.Id, true);
            },
            cancel
        );

    /// <summary>Writes a machine's sheet over the version that was read.</summary>
    /// <returns>The new version; null when there is no such machine; or that it was changed meanwhile.</returns>
    public Task<Result<int>> ChangeMachine(MachineSpec spec, int version, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var held = await connection.QuerySingleOrDefaultAsync<int?>(
                    "select version from house.machine where id = @Id for update",
                    new { spec.Id },
                    transaction
                );
                if (held is null)
                    return ((Result<int>)CommonProblems.NotFound.Refuse(null, $"machine as “{spec.Id}”"), false);
                if (held != version)
                    return (CommonProblems.Stale.Refuse(null, spec.Name), false);
                await connection.ExecuteAsync(
                    // What its runs have shown stands in no form, and stays.
                    "update house.machine set name = @Name, version = version + 1, spec = @spec::jsonb || case when spec ? 'timeFactors' "
                        + "then jsonb_build_object('timeFactors', spec -> 'timeFactors') else '{}' end where id = @Id",
                    new
                    {
                        spec.Id,
                        spec.Name,
                        spec = GateJson.Write(spec),
                    },
                    transaction
                );
                await connection.ExecuteAsync(
                    "delete from house.fixture where machine_id = @Id and id <> all(@fixtures)",
                    new { spec.Id, fixtures = spec.Fixtures.ToArray() },
                    transaction
                );
                await KeepFixtures(connection, transaction, spec);
                await Tell(connection, transaction, RecordEvents.MachineChanged, spec.Id, by, now);
                return (version + 1, true);
            },
            cancel
        );

    public async Task<IReadOnlyList<MachineSheet>> Machines(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<(string Spec, int Version)>(
                    new CommandDefinition("select spec::text, version from house.machine order by position, id", cancellationToken: cancel)
                )
            ).Select(m => new MachineSheet(GateJson.Read<MachineSpec>(m.Spec), m.Version)),
        ];
    }

    /// <summary>The room as it is described at an instant; null while nobody has.</summary>
    public async Task<RoomSpec?> Room(Instant at, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var body = await connection.QuerySingleOrDefaultAsync<string>(
            new CommandDefinition(
                "select body::text from house.room where held @> @at and upper_inf(recorded)",
                new { at },
                cancellationToken: cancel
            )
        );
        return body is null ? null : GateJson.Read<RoomSpec>(body);
    }

    public Task<bool> SetRoom(RoomSpec room, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await Renew(
                    connection,
                    transaction,
                    "house.room",
                    "true",
                    "body",
                    "@body::jsonb",
                    new { body = GateJson.Write(room), now }
                );
                await Tell(connection, transaction, RecordEvents.HouseRoomChanged, null, by, now);
                return (true, true);
            },
            cancel
        );

    public async Task<IReadOnlyList<KitItem>> Kit(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<KitItem>(
                new CommandDefinition(
                    "select id, name, in_date_until from house.fire_kit where held @> @now and upper_inf(recorded) order by id",
                    new { now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>A new date mends nothing: what the last look found stays until somebody looks again.</summary>
    private static async Task RenewKit(NpgsqlConnection connection, NpgsqlTransaction transaction, KitItem item, Instant now)
    {
        await connection.ExecuteAsync("select pg_advisory_xact_lock(730011)", transaction: transaction);
        var (wrong, since) = await connection.QuerySingleOrDefaultAsync<(string[]?, Instant?)>(
            "select wrong, wrong_since from house.fire_kit where id = @Id and held @> @now and upper_inf(recorded)",
            new { item.Id, now },
            transaction
        );
        await WriteKit(connection, transaction, item, wrong ?? [], since, now);
    }

    internal static Task WriteKit(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        KitItem item,
        string[] wrong,
        Instant? since,
        Instant now
    ) =>
        Renew(
            connection,
            transaction,
            "house.fire_kit",
            "id = @Id",
            "id, name, in_date_until, wrong, wrong_since",
            "@Id, @Name, @InDateUntil, @wrong, @since::timestamptz",
            new
            {
                item.Id,
                item.Name,
                item.InDateUntil,
                wrong,
                since,
                now,
            }
        );

    /// <summary>Adds an item of fire kit, or writes its new date down.</summary>
    public Task<bool> SetKit(KitItem item, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await RenewKit(connection, transaction, item, now);
                await Tell(connection, transaction, RecordEvents.HouseKitChanged, null, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>The house has this item no longer; what was found of it stays on record.</summary>
    /// <returns>False when there is none.</returns>
    public Task<bool> EndKit(string id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730011)", transaction: transaction);
                var there = await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from house.fire_kit where id = @id and held @> @now and upper_inf(recorded))",
                    new { id, now },
                    transaction
                );
                if (!there)
                    return (false, false);
                await connection.ExecuteAsync(
                    Dated.End("house.fire_kit", "id, name, in_date_until, wrong, wrong_since", "id = @id and held @> @now"),
                    new { id, now },
                    transaction
                );
                await Tell(connection, transaction, RecordEvents.HouseKitChanged, null, by, now);
                return (true, true);
            },
            cancel
        );

    public async Task<IReadOnlyList<EyewearSet>> Eyewear(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<EyewearSet>(
                new CommandDefinition(
                    "select id, name, min_nm, max_nm, optical_density, damage_rated, count from house.eyewear where held @> @now "
                        + "and upper_inf(recorded) order by id",
                    new { now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    internal static Task WriteEyewear(NpgsqlConnection connection, NpgsqlTransaction transaction, EyewearSet set, Instant now) =>
        Renew(
            connection,
            transaction,
            "house.eyewear",
            "id = @Id",
            "id, name, min_nm, max_nm, optical_density, damage_rated, count",
            "@Id, @Name, @MinNm, @MaxNm, @OpticalDensity, @DamageRated, @Count",
            new
            {
                set.Id,
                set.Name,
                set.MinNm,
                set.MaxNm,
                set.OpticalDensity,
                set.DamageRated,
                set.Count,
                now,
            }
        );

    public Task<bool> SetEyewear(EyewearSet set, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await WriteEyewear(connection, transaction, set, now);
                await Tell(connection, transaction, RecordEvents.HouseEyewearChanged, null, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>Every version that is on record now, oldest first.</summary>
    public async Task<IReadOnlyList<RulesVersion>> Rules(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<RulesRow>(
                    new CommandDefinition(
                        "select id, lower(held) as \"from\", upper(held) as until, body::text, reason from house.rules where "
                            + "upper_inf(recorded) order by lower(held)",
                        cancellationToken: cancel
                    )
                )
            ).Select(r => new RulesVersion(r.Id, r.From, r.Until, GateJson.Read<HouseRules>(r.Body), r.Reason)),
        ];
    }

    /// <summary>Lets new rules hold from an instant on, until the next version that is scheduled already.</summary>
    /// <param name="from">Now or later: what held before is never rewritten.</param>
    public Task<Guid> ChangeRules(HouseRules rules, string reason, Instant from, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) => (await ChangeRules(connection, transaction, rules, reason, from, by, now), true),
            cancel
        );

    internal static async Task<Guid> ChangeRules(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        HouseRules rules,
        string reason,
        Instant from,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync("select pg_advisory_xact_lock(730010)", transaction: transaction);
        var rows = (
            await connection.QueryAsync<RulesRow>(
                "select id, lower(held) as \"from\", upper(held) as until, body::text, reason from house.rules where "
                    + "upper_inf(recorded) order by lower(held)",
                transaction: transaction
            )
        ).ToList();
        var start = Instant.Max(from, now);
        var before = rows.LastOrDefault(r => r.From < start && (r.Until is null || r.Until > start));
        var same = rows.FirstOrDefault(r => r.From == start);
        var end = same?.Until ?? before?.Until ?? rows.Where(r => r.From > start).Select(r => (Instant?)r.From).FirstOrDefault();
        foreach (var old in new[] { before, same }.OfType<RulesRow>())
            await connection.ExecuteAsync(
                $"update house.rules set {Dated.Closed} where id = @Id and " + "upper_inf(recorded)",
                new { old.Id, now },
                transaction
            );
        if (before is not null)
            await Insert(Guid.NewGuid(), before.From, start, before.Body, before.Reason);
        var id = Guid.NewGuid();
        await Insert(id, start, end, GateJson.Write(rules), reason);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.HouseRulesChanged,
            new
            {
                rules = id,
                by = await LedgerStore.Number(connection, transaction, by),
                start = Core.Ledger.Chain.Instant(start),
                end = end is { } e ? Core.Ledger.Chain.Instant(e) : null,
                digest = Convert.ToHexStringLower(
                    System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(GateJson.Write(rules)))
                ),
            }
        );
        return id;

        Task Insert(Guid key, Instant lower, Instant? upper, string body, string why) =>
            connection.ExecuteAsync(
                "insert into house.rules (id, held, recorded, body, reason) values (@key, tstzrange(@lower, @upper), "
                    + "tstzrange(@now, null), @body::jsonb, @why)",
                new
                {
                    key,
                    lower,
                    upper,
                    now,
                    body,
                    why,
                },
                transaction
            );
    }

    /// <summary>
    /// Closes what held until now and lets the new row hold from now. Written twice in one instant, the later word counts.
    /// </summary>
    private static Task Renew(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string table,
        string which,
        string columns,
        string values,
        object parameters
    ) =>
        connection.ExecuteAsync(
            $"select pg_advisory_xact_lock(730011); {Dated.Replace(table, columns, which, values)}",
            parameters,
            transaction
        );

    private static Task KeepFixtures(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineSpec spec) =>
        connection.ExecuteAsync(
            "insert into house.fixture (id, machine_id) select unnest(@fixtures), @Id on conflict do nothing",
            new { spec.Id, fixtures = spec.Fixtures.ToArray() },
            transaction
        );

    private static async Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        MachineId? machine,
        PersonId by,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new { machine, by = await LedgerStore.Number(connection, transaction, by) }
        );
}
