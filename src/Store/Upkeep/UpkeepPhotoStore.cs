using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>A photo of a fault or of work, without its bytes.</summary>
/// <param name="Subject">The fault, or what was done.</param>
public sealed record UpkeepPhoto(Guid Id, Guid Subject, int Width, int Height, PersonId By);

/// <summary>Photos of faults, and of what was done in tasks.</summary>
public sealed class UpkeepPhotoStore(NpgsqlDataSource db)
{
    public async Task<ILookup<Guid, UpkeepPhoto>> Of(IEnumerable<Guid> subjects, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<UpkeepPhoto>(
            new CommandDefinition(
                "select id, subject, width, height, by from upkeep.photo where subject = any(@subjects) order by at, id",
                new { subjects = subjects.ToArray() },
                cancellationToken: cancel
            )
        );
        return rows.ToLookup(p => p.Subject);
    }

    /// <summary>Adds a photo to a fault that was told, or to what was done in a task.</summary>
    public Task<Result<Guid>> Add(Guid subject, CleanPhoto photo, PersonId by, bool staff, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    "select pg_advisory_xact_lock(730046, hashtext(@subject::text))",
                    new { subject },
                    transaction
                );
                var of = await connection.QuerySingleOrDefaultAsync<(PersonId By, MachineId? Machine)?>(
                    "select reported_by, machine_id from upkeep.fault where id = @subject "
                        + "union all select by, machine_id from upkeep.done where id = @subject",
                    new { subject },
                    transaction
                );
                if (of is not var (owner, machine))
                    return ((Result<Guid>)CommonProblems.NotFound.Refuse(null, "fault or work"), false);
                var have = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from upkeep.photo where subject = @subject",
                    new { subject },
                    transaction
                );
                var hands = await UpkeepCounting.Hands(connection, transaction, by, machine, now);
                if (UpkeepPhotos.MayAdd(staff || hands.Repairs || hands.Trains, owner == by, have) is { } refusal)
                    return (refusal, false);
                var id = Guid.NewGuid();
                await connection.ExecuteAsync(
                    """
                    insert into upkeep.photo (id, subject, media_type, bytes, width, height, by, at)
                    values (@id, @subject, @MediaType, @Bytes, @Width, @Height, @by, @now)
                    """,
                    new
                    {
                        id,
                        subject,
                        photo.MediaType,
                        photo.Bytes,
                        photo.Width,
                        photo.Height,
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.UpkeepPhoto,
                    new
                    {
                        photo = id,
                        of = subject,
                        by = await LedgerStore.Number(connection, transaction, by),
                        hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(photo.Bytes)),
                    }
                );
                return (id, true);
            },
            cancel
        );

    public async Task<(PersonId By, string MediaType, byte[] Bytes)?> Find(Guid photo, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(PersonId, string, byte[])?>(
            new CommandDefinition(
                "select by, media_type, bytes from upkeep.photo where id = @photo",
                new { photo },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Whoever added it takes it off again, or a steward.</summary>
    public Task<bool> Remove(Guid photo, PersonId by, bool steward, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var gone = await connection.ExecuteAsync(
                    "delete from upkeep.photo where id = @photo and (@steward or by = @by)",
                    new
                    {
                        photo,
                        by,
                        steward,
                    },
                    transaction
                );
                if (gone == 0)
                    return (false, false);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.UpkeepPhotoOff,
                    new { photo, by = await LedgerStore.Number(connection, transaction, by) }
                );
                return (true, true);
            },
            cancel
        );
}
