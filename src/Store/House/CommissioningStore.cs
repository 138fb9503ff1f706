using Dapper;
using NodaTime;
using NodaTime.Text;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.House;

/// <summary>One version of a commissioning sheet.</summary>
/// <param name="Version">Pass it back with a change.</param>
/// <param name="From">When it was written.</param>
/// <param name="Until">When another took its place; null for the last.</param>
public sealed record CommissioningVersion(long Version, CommissioningSheet Sheet, PersonId SetBy, Instant From, Instant? Until);

/// <summary>How each machine was set up: dated sheets, none of them overwritten.</summary>
public sealed class CommissioningStore(NpgsqlDataSource db)
{
    private sealed record Row(long Version, string Sheet, PersonId SetBy, Instant From, Instant? Until);

    private sealed record TriedRow(MachineId MachineId, string? Sheet, bool Controller, Instant? Tried);

    private const string Columns = "machine_id, sheet, set_by";

    // One row a machine: its last sheet, whether a controller is wired in, and when its interlocks were last tried since.
    private const string SetUpSql = """
        select m.id as machine_id, (select c.sheet::text from house.commissioning c where c.machine_id = m.id and c.held @> @now
                and upper_inf(c.recorded)) as sheet,
            exists (select from station.controller k where k.machine_id = m.id and k.enrolled_at <= @now
                and (k.revoked_at is null or k.revoked_at > @now)) as controller,
            (select max(t.at) from upkeep.interlock_trial t where t.machine_id = m.id and t.at <= @now) as tried
        from house.machine m order by m.position, m.id
        """;

    /// <summary>What is known of how each machine was set up.</summary>
    /// <param name="machines">Those that are wanted.</param>
    internal static async Task<IReadOnlyDictionary<MachineId, SetUpFacts>> SetUps(
        NpgsqlConnection connection,
        IEnumerable<MachineSpec> machines,
        HouseRules rules,
        Instant now
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            SetUpSql + "; select body::text from house.room where held @> @now and upper_inf(recorded)",
            new { now }
        );
        var tried = (await rows.ReadAsync<TriedRow>()).ToDictionary(r => r.MachineId);
        var room = await rows.ReadSingleOrDefaultAsync<string?>() is { } body ? GateJson.Read<RoomSpec>(body) : null;
        return machines.ToDictionary(
            m => m.Id,
            m =>
            {
                var row = tried.GetValueOrDefault(m.Id);
                return SetUpFacts.Of(
                    machine: m,
                    sheet: row?.Sheet is { } sheet ? GateJson.Read<CommissioningSheet>(sheet) : null,
                    room: room,
                    controller: row?.Controller ?? false,
                    tried: row?.Tried,
                    clock: rules.Clock
                );
            }
        );
    }

    /// <inheritdoc cref="SetUps(NpgsqlConnection, IEnumerable{MachineSpec}, HouseRules, Instant)"/>
    public async Task<IReadOnlyDictionary<MachineId, SetUpFacts>> SetUps(
        IEnumerable<MachineSpec> machines,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await SetUps(connection, machines, rules, now);
    }

    /// <summary>Every version that is on record, newest first.</summary>
    public async Task<IReadOnlyList<CommissioningVersion>> Versions(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        """
                        select row_id as version, sheet::text, set_by, lower(held) as "from", upper(held) as until
                        from house.commissioning where machine_id = @machine and upper_inf(recorded) order by lower(held) desc
                        """,
                        new { machine },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => new CommissioningVersion(r.Version, GateJson.Read<CommissioningSheet>(r.Sheet), r.SetBy, r.From, r.Until)),
        ];
    }

    /// <summary>Puts a sheet in the place of the one that was read.</summary>
    /// <param name="version">0 where there was none.</param>
    public Task<Result<long>> Put(
        MachineId machine,
        CommissioningSheet sheet,
        long version,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var name = await connection.ExecuteScalarAsync<string?>(
                    "select name from house.machine where id = @machine for update",
                    new { machine },
                    transaction
                );
                if (name is null)
                    return ((Result<long>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                if (await Last(connection, transaction, machine) != version)
                    return (CommonProblems.Stale.Refuse(null, $"The commissioning sheet of {name}"), false);
                await connection.ExecuteAsync(
                    Dated.Replace("house.commissioning", Columns, "machine_id = @machine", "@machine, @body::jsonb, @by"),
                    new
                    {
                        machine,
                        body = GateJson.Write(sheet),
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.MachineSetUp,
                    new
                    {
                        machine,
                        by = await LedgerStore.Number(connection, transaction, by),
                        on = LocalDatePattern.Iso.Format(sheet.On),
                        interlocks = sheet.InterlocksOn is { } tried ? LocalDatePattern.Iso.Format(tried) : null,
                        makers = sheet.MakersGone,
                        relay = sheet.RelayGone,
                    }
                );
                return (await Last(connection, transaction, machine), true);
            },
            cancel
        );

    private static Task<long> Last(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine) =>
        connection.ExecuteScalarAsync<long>(
            "select coalesce(max(row_id), 0) from house.commissioning where machine_id = @machine and upper_inf(held) "
                + "and upper_inf(recorded)",
            new { machine },
            transaction
        );
}
