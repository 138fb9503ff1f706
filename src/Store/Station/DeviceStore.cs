using System.Security.Cryptography;
using System.Text;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Station;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Station;

/// <param name="Name">Such as “tablet at Heron”.</param>
public sealed record DeviceRow(Guid Id, MachineId MachineId, string Name, Instant EnrolledAt);

/// <summary>Screens that stand at a machine and belong to nobody: each has a secret of its own, which a keeper can revoke.</summary>
public sealed class DeviceStore(NpgsqlDataSource db)
{
    public async Task<IReadOnlyList<DeviceRow>> Enrolled(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<DeviceRow>(
                new CommandDefinition(
                    """
                    select id, machine_id, name, enrolled_at from station.device
                    where machine_id = @machine and revoked_at is null order by enrolled_at
                    """,
                    new { machine },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <param name="secret">Shown to the screen alone.</param>
    public Task<DeviceRow> Enrol(MachineId machine, string name, string secret, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var device = new DeviceRow(Guid.NewGuid(), machine, name, now);
                await connection.ExecuteAsync(
                    """
                    insert into station.device (id, machine_id, name, secret_hash, enrolled_at, enrolled_by)
                    values (@Id, @MachineId, @Name, @hash, @now, @by)
                    """,
                    new
                    {
                        device.Id,
                        device.MachineId,
                        device.Name,
                        hash = Hash(secret),
                        now,
                        by,
                    },
                    transaction
                );
                await Write(connection, transaction, RecordEvents.ScreenEnrolled, machine, by, now);
                return (device, true);
            },
            cancel
        );

    public Task<Result<bool>> Revoke(MachineId machine, Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var gone = await connection.ExecuteAsync(
                    """
                    update station.device set revoked_at = greatest(@now, enrolled_at)
                    where id = @id and machine_id = @machine and revoked_at is null
                    """,
                    new
                    {
                        id,
                        machine,
                        now,
                    },
                    transaction
                );
                if (gone == 0)
                    return ((Result<bool>)StationProblems.DeviceGone.Refuse(), false);
                await Write(connection, transaction, RecordEvents.ScreenRevoked, machine, by, now);
                return (true, true);
            },
            cancel
        );

    /// <returns>True where the screen stands at this machine and was not revoked.</returns>
    public async Task<bool> StandsAt(MachineId machine, Guid id, string secret, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var hash = await connection.QuerySingleOrDefaultAsync<string?>(
            new CommandDefinition(
                "select secret_hash from station.device where id = @id and machine_id = @machine and revoked_at is null",
                new { id, machine },
                cancellationToken: cancel
            )
        );
        return hash is not null
            && CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(hash), Encoding.ASCII.GetBytes(Hash(secret)));
    }

    private static string Hash(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));

    private static async Task Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        MachineId machine,
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
