using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Station;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Station;

/// <param name="Length">Bytes.</param>
public sealed record MachinePaperRow(Guid Id, string Name, int Length, Instant AddedAt);

/// <summary>Papers of the machines as files.</summary>
public sealed class MachinePaperStore(NpgsqlDataSource db)
{
    public async Task<IReadOnlyList<MachinePaperRow>> Of(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<MachinePaperRow>(
                new CommandDefinition(
                    """
                    select id, name, length(bytes) as length, added_at from house.machine_paper
                    where machine_id = @machine order by name, id
                    """,
                    new { machine },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <returns>Null where the machine has no such paper.</returns>
    public async Task<(string Name, byte[] Bytes)?> File(MachineId machine, Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(string, byte[])?>(
            new CommandDefinition(
                "select name, bytes from house.machine_paper where machine_id = @machine and id = @id",
                new { machine, id },
                cancellationToken: cancel
            )
        );
    }

    public Task<Result<Guid>> Add(MachineId machine, string name, byte[] bytes, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // Two that add at once count each other.
                await connection.ExecuteAsync("select id from house.machine where id = @machine for update", new { machine }, transaction);
                var have = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from house.machine_paper where machine_id = @machine",
                    new { machine },
                    transaction
                );
                if (MachinePapers.MayAdd(have) is { } not)
                    return ((Result<Guid>)not, false);
                var id = Guid.NewGuid();
                await connection.ExecuteAsync(
                    """
                    insert into house.machine_paper (id, machine_id, name, bytes, added_at, added_by)
                    values (@id, @machine, @name, @bytes, @now, @by)
                    """,
                    new
                    {
                        id,
                        machine,
                        name,
                        bytes,
                        now,
                        by,
                    },
                    transaction
                );
                await Write(
                    connection,
                    transaction,
                    RecordEvents.PaperAdded,
                    machine,
                    name,
                    Convert.ToHexStringLower(SHA256.HashData(bytes)),
                    by,
                    now
                );
                return (id, true);
            },
            cancel
        );

    /// <returns>False where the machine has no such paper.</returns>
    public Task<bool> Remove(MachineId machine, Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var name = await connection.ExecuteScalarAsync<string?>(
                    "delete from house.machine_paper where machine_id = @machine and id = @id returning name",
                    new { machine, id },
                    transaction
                );
                if (name is not null)
                    await Write(connection, transaction, RecordEvents.PaperRemoved, machine, name, null, by, now);
                return (name is not null, name is not null);
            },
            cancel
        );

    private static async Task Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        MachineId machine,
        string name,
        string? hash,
        PersonId by,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                machine,
                name,
                hash,
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
}
