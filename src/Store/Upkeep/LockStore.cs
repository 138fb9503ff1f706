using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>A lock that hangs on a machine.</summary>
/// <param name="HolderId">Who has its key.</param>
public sealed record LockRow(Guid Id, Guid StopId, MachineId MachineId, string WhereText, PersonId HolderId, Instant HungAt);

/// <summary>Locks on machines out of service, and who has their keys.</summary>
public sealed class LockStore(NpgsqlDataSource db)
{
    private const string Columns = "select id, stop_id, machine_id, where_text, holder_id, hung_at from upkeep.lock";

    public async Task<IReadOnlyList<LockRow>> All(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<LockRow>(
                new CommandDefinition($"{Columns} where off_at is null order by hung_at, id", cancellationToken: cancel)
            ),
        ];
    }

    /// <summary>Writes down that a lock hangs on a machine out of service, and that whoever says so has its key.</summary>
    public Task<Result<Guid>> Hang(MachineId machine, string? where, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await UpkeepStore.Spec(connection, transaction, machine) is null)
                    return ((Result<Guid>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                await Lock(connection, transaction, machine);
                var stop = await connection.QuerySingleOrDefaultAsync<Guid?>(
                    "select id from house.stop where machine_id = @machine and held @> @now and upper_inf(recorded) order by lower(held) "
                        + "limit 1",
                    new { machine, now },
                    transaction
                );
                var hands = await UpkeepCounting.Hands(connection, transaction, by, machine, now);
                var hanging = await Hanging(connection, transaction, machine);
                var twice = hanging.Contains(where?.Trim() ?? "", StringComparer.OrdinalIgnoreCase);
                if (LockOut.Wrong(where, stop is not null, twice, hands) is { } refusal)
                    return (refusal, false);
                var id = await connection.ExecuteScalarAsync<Guid>(
                    """
                    insert into upkeep.lock (id, stop_id, machine_id, where_text, holder_id, hung_at, hung_by)
                    values (gen_random_uuid(), @stop, @machine, @where, @by, @now, @by) returning id
                    """,
                    new
                    {
                        stop,
                        machine,
                        by,
                        now,
                        where = where!.Trim(),
                    },
                    transaction
                );
                await Tell(connection, transaction, RecordEvents.MachineLocked, machine, id, by, now);
                return (id, true);
            },
            cancel
        );

    /// <summary>Writes down that it was taken off.</summary>
    /// <param name="why">Where whoever takes it off does not have its key.</param>
    public Task<Result<bool>> TakeOff(Guid id, string? why, PersonId by, bool steward, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var hangs = await connection.QuerySingleOrDefaultAsync<LockRow>(
                    $"{Columns} where id = @id and off_at is null for update",
                    new { id },
                    transaction
                );
                if (hangs is null)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "lock that hangs"), false);
                if (LockOut.WrongOff(hangs.HolderId == by, steward, why) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "update upkeep.lock set off_at = greatest(@now, hung_at), off_by = @by, off_why = @why where id = @id",
                    new
                    {
                        id,
                        by,
                        now,
                        why = string.IsNullOrWhiteSpace(why) ? null : why.Trim(),
                    },
                    transaction
                );
                await Tell(connection, transaction, RecordEvents.MachineUnlocked, hangs.MachineId, id, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>Where locks hang on a machine.</summary>
    internal static async Task<IReadOnlyCollection<string>> Hanging(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine
    ) =>
        [
            .. await connection.QueryAsync<string>(
                "select where_text from upkeep.lock where machine_id = @machine and off_at is null order by hung_at, id",
                new { machine },
                transaction
            ),
        ];

    /// <summary>Hanging a lock and returning a machine come one after the other.</summary>
    internal static Task Lock(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine) =>
        connection.ExecuteAsync("select pg_advisory_xact_lock(730044, hashtext(@machine))", new { machine }, transaction);

    private static async Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent what,
        MachineId machine,
        Guid id,
        PersonId by,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            what,
            new
            {
                machine,
                hung = id,
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
}
