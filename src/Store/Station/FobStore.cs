using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Station;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Station;

/// <param name="Name">What it looks like.</param>
public sealed record FobRow(Guid Id, PersonId PersonId, string Name, Instant LearntAt);

/// <summary>A reader that waits for somebody’s fob.</summary>
public sealed record Learning(MachineId MachineId, PersonId PersonId, string Name, PersonId By, Instant Until);

/// <param name="Person">Whose the fob is now; null where the reader waits for nobody, or another server was first.</param>
public sealed record LearntFor(PersonId? Person);

/// <summary>Fobs and tap-in codes: kept as seals whose key stands outside the database.</summary>
public sealed class FobStore(NpgsqlDataSource db)
{
    /// <summary>Those in use.</summary>
    /// <param name="person">Null for everybody’s.</param>
    public async Task<IReadOnlyList<FobRow>> InUse(PersonId? person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<FobRow>(
                new CommandDefinition(
                    """
                    select id, person_id, name, learnt_at from station.fob
                    where revoked_at is null and (@person::text is null or person_id = @person) order by learnt_at
                    """,
                    new { person },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <param name="hash">As <see cref="Core.Station.Controllers.StationKeys.Fob"/> keeps it.</param>
    /// <returns>Whose it is; null where nobody has it, it was revoked, or the account is over.</returns>
    public async Task<PersonId?> Holder(string hash, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<PersonId?>(
            new CommandDefinition(
                """
                select f.person_id from station.fob f join people.person p on p.id = f.person_id
                where f.hash = @hash and f.revoked_at is null and not p.erased
                    and exists (select from people.account where person_id = p.id and held @> @now and upper_inf(recorded))
                """,
                new { hash, now },
                cancellationToken: cancel
            )
        );
    }

    public Task<Result<Guid>> Learn(PersonId person, string name, string hash, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var learnt = await Learn(connection, transaction, person, name, hash, by, now);
                return (learnt, learnt.Refusal is null);
            },
            cancel
        );

    private static async Task<Result<Guid>> Learn(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId person,
        string name,
        string hash,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync("select pg_advisory_xact_lock(730032)", transaction: transaction);
        var known = await connection.ExecuteScalarAsync<bool>(
            "select exists (select from station.fob where hash = @hash and revoked_at is null)",
            new { hash },
            transaction
        );
        if (Fobs.MayLearn(name, known) is { } not)
            return not;
        var id = Guid.NewGuid();
        await connection.ExecuteAsync(
            "insert into station.fob (id, person_id, hash, name, learnt_at, learnt_by) values (@id, @person, @hash, @name, @now, @by)",
            new
            {
                id,
                person,
                hash,
                name,
                now,
                by,
            },
            transaction
        );
        await Write(connection, transaction, RecordEvents.FobLearnt, person, by, now);
        return id;
    }

    /// <summary>Lost, or given back: a run that is on comes to its end, and it starts nothing more.</summary>
    public Task<Result<bool>> Revoke(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var person = await connection.QuerySingleOrDefaultAsync<PersonId?>(
                    """
                    update station.fob set revoked_at = greatest(@now, learnt_at), revoked_by = @by
                    where id = @id and revoked_at is null returning person_id
                    """,
                    new
                    {
                        id,
                        now,
                        by,
                    },
                    transaction
                );
                if (person is not { } of)
                    return ((Result<bool>)StationProblems.FobGone.Refuse(), false);
                await Write(connection, transaction, RecordEvents.FobRevoked, of, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>The next fob at this reader is that person’s; a reader waits for one at a time.</summary>
    public async Task Await(Learning learning, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                """
                insert into station.learning (machine_id, person_id, name, by, until) values (@MachineId, @PersonId, @Name, @By, @Until)
                on conflict (machine_id) do update set person_id = @PersonId, name = @Name, by = @By, until = @Until
                """,
                learning,
                cancellationToken: cancel
            )
        );
    }

    /// <returns>Null where the reader waits for nobody.</returns>
    public async Task<Learning?> Awaited(MachineId machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<Learning?>(
            new CommandDefinition(
                "select machine_id, person_id, name, by, until from station.learning where machine_id = @machine and until > @now",
                new { machine, now },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>A fob was held at a reader that waited for one: learnt once, by one server.</summary>
    public Task<Result<LearntFor>> LearnAwaited(MachineId machine, string hash, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var waits = await connection.QuerySingleOrDefaultAsync<Learning?>(
                    """
                    delete from station.learning where machine_id = @machine and until > @now
                    returning machine_id, person_id, name, by, until
                    """,
                    new { machine, now },
                    transaction
                );
                if (waits is null)
                    return ((Result<LearntFor>)new LearntFor(null), false);
                var learnt = await Learn(connection, transaction, waits.PersonId, waits.Name, hash, waits.By, now);
                return (learnt.Refusal is { } not ? not : new LearntFor(waits.PersonId), learnt.Refusal is null);
            },
            cancel
        );

    /// <summary>A tap-in code for a phone; the one before is good no longer.</summary>
    /// <returns>False where somebody else has the same now: another is taken.</returns>
    public Task<bool> Show(PersonId person, string hash, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var shown = await connection.ExecuteAsync(
                    """
                    delete from station.tap_code where until <= @now or person_id = @person;
                    insert into station.tap_code (hash, person_id, until) values (@hash, @person, @until) on conflict do nothing;
                    """,
                    new
                    {
                        person,
                        hash,
                        now,
                        until = now + Fobs.CodeFor,
                    },
                    transaction
                );
                var kept = await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from station.tap_code where hash = @hash and person_id = @person)",
                    new { hash, person },
                    transaction
                );
                return (kept, shown > 0);
            },
            cancel
        );

    /// <returns>Whose it is, once; null where it is nobody’s, or no longer.</returns>
    public async Task<PersonId?> Take(string hash, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<PersonId?>(
            new CommandDefinition(
                "delete from station.tap_code where hash = @hash and until > @now returning person_id",
                new { hash, now },
                cancellationToken: cancel
            )
        );
    }

    private static async Task Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        PersonId person,
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
                person = await LedgerStore.Number(connection, transaction, person),
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
}
