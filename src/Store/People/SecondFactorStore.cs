using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <param name="Secret">Sealed; only the web server opens it.</param>
/// <param name="LastStep">Of the last code taken.</param>
public sealed record KeptFactor(byte[] Secret, Instant? Confirmed, long LastStep, int Spare);

/// <summary>Second factors as kept. Instants are real ones, as the phone counts.</summary>
public sealed class SecondFactorStore(NpgsqlDataSource db)
{
    public async Task<KeptFactor?> Of(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<KeptFactor>(
            new CommandDefinition(
                "select secret, confirmed, last_step, cardinality(spare) as spare from people.second_factor where person_id = @personId",
                new { personId },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>A new secret, not confirmed yet; it takes the place of another that nobody confirmed.</summary>
    /// <returns>False when there is a confirmed one: that is taken off first.</returns>
    public async Task<bool> Begin(PersonId personId, byte[] secret, Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    """
                    insert into people.second_factor (person_id, secret, begun) values (@personId, @secret, @real)
                    on conflict (person_id) do update set secret = @secret, begun = @real, last_step = 0
                        where second_factor.confirmed is null
                    """,
                    new
                    {
                        personId,
                        secret,
                        real,
                    },
                    cancellationToken: cancel
                )
            ) > 0;
    }

    /// <summary>The first code was right: from now on it is asked, and this session owes nothing more.</summary>
    public async Task<bool> Confirm(
        PersonId personId,
        long step,
        IReadOnlyList<string> spareHashes,
        Guid session,
        Instant real,
        Instant now,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (
            await connection.ExecuteAsync(
                "update people.second_factor set confirmed = @real, last_step = @step, spare = @spare where person_id = @personId "
                    + "and confirmed is null and begun > @oldest",
                new
                {
                    personId,
                    real,
                    step,
                    spare = spareHashes.ToArray(),
                    oldest = real - SecondFactor.Unconfirmed,
                },
                transaction
            ) == 0
        )
            return false;
        await connection.ExecuteAsync("update people.session set factor_owed = false where id = @session", new { session }, transaction);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonSecondFactorSet,
            new { person = await LedgerStore.Number(connection, transaction, personId) }
        );
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Takes a code, if none of its half minute or later was taken before.</summary>
    public async Task<bool> Take(PersonId personId, long step, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update people.second_factor set last_step = @step where person_id = @personId and confirmed is not null and "
                        + "last_step < @step",
                    new { personId, step },
                    cancellationToken: cancel
                )
            ) > 0;
    }

    /// <summary>Takes a spare code, which is then gone.</summary>
    public async Task<bool> TakeSpare(PersonId personId, string hash, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update people.second_factor set spare = array_remove(spare, @hash) where person_id = @personId and confirmed "
                        + "is not null and @hash = any(spare)",
                    new { personId, hash },
                    cancellationToken: cancel
                )
            ) > 0;
    }

    /// <param name="by">Who takes it off: the person, or a keeper for them.</param>
    /// <param name="owed">The house asks it of them: nothing but setting one up anew stays open in their sessions.</param>
    public async Task<bool> Remove(PersonId personId, PersonId by, bool owed, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (
            await connection.ExecuteAsync("delete from people.second_factor where person_id = @personId", new { personId }, transaction)
            == 0
        )
            return false;
        if (owed)
            await connection.ExecuteAsync(
                "update people.session set factor_owed = true where person_id = @personId and ended is null",
                new { personId },
                transaction
            );
        if (by != personId)
            await MessageStore.Tell(
                connection,
                transaction,
                personId,
                $"secondFactor:{now.ToUnixTimeMilliseconds()}",
                "Your code from a phone was taken off",
                "A keeper took it off your account. If you did not ask for that, tell another keeper at once.",
                "/me",
                now
            );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonSecondFactorRemoved,
            new
            {
                person = await LedgerStore.Number(connection, transaction, personId),
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
        await transaction.CommitAsync(cancel);
        return true;
    }
}
