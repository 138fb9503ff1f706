using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <param name="Code">Shown once; only its hash is kept.</param>
/// <param name="Waits">Somebody else has to agree before it serves.</param>
public sealed record InviteMade(Guid Id, string Code, Instant Expires, bool Waits);

/// <param name="MadeByName">Whole name: staff see it only.</param>
public sealed record InviteWaiting(Guid Id, PersonId PersonId, string Name, PersonId MadeBy, string MadeByName, Instant At);

/// <summary>Links that let people set a password, once.</summary>
public sealed class InviteStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        long Number,
        PersonId PersonId,
        PersonId MadeBy,
        Instant At,
        Instant Expires,
        bool NeedsAgreement,
        Instant? AgreedAt,
        Instant? UsedAt
    );

    /// <summary>Makes a link; links made before for the same person no longer serve.</summary>
    /// <returns>Null when there is no open account with a sign-in name.</returns>
    public Task<InviteMade?> Make(PersonId personId, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(db, async (connection, transaction) => (await Make(connection, transaction, personId, by, now), true), cancel);

    internal static async Task<InviteMade?> Make(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        PersonId by,
        Instant now
    )
    {
        var (known, acts) = await connection.QuerySingleAsync<(bool, bool)>(
            """
            select exists (select from people.person p where id = @personId and not erased and sign_in_name is not null),
                exists (select from people.acting where person_id = @personId and role in ('keeper', 'steward') and upper_inf(recorded)
                    and held @> @now)
            """,
            new { personId, now },
            transaction
        );
        if (!known)
            return null;
        var made = new InviteMade(Guid.NewGuid(), Invites.NewCode(), now + Invites.Lasts, acts);
        await connection.ExecuteAsync(
            """
            insert into people.invite (id, person_id, code_hash, made_by, at, expires, needs_agreement)
            values (@Id, @personId, @hash, @by, @now, @Expires, @Waits)
            """,
            new
            {
                made.Id,
                personId,
                hash = Invites.Hash(made.Code),
                by,
                now,
                made.Expires,
                made.Waits,
            },
            transaction
        );
        await MessageStore.Tell(
            connection,
            transaction,
            personId,
            $"invite:{made.Id}",
            "A link to set your password was made",
            "If you did not ask for it, tell another keeper now.",
            "/me",
            now
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonInvited,
            new
            {
                invite = made.Id,
                person = await LedgerStore.Number(connection, transaction, personId),
                by = await LedgerStore.Number(connection, transaction, by),
                agreementNeeded = made.Waits,
            }
        );
        return made;
    }

    /// <summary>A second pair of eyes agrees that a keeper's or steward's password may be set anew.</summary>
    /// <returns>Refused when there is no such link that waits; or why not.</returns>
    public Task<Result<bool>> Agree(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<Row>(
                    "select id, number, person_id, made_by, at, expires, needs_agreement, agreed_at, used_at from people.invite "
                        + "where id = @id for update",
                    new { id },
                    transaction
                );
                if (
                    row is null
                    || !row.NeedsAgreement
                    || row.AgreedAt is not null
                    || row.Expires <= now
                    || !await IsNewest(connection, transaction, row)
                )
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "link that waits"), false);
                var (keepers, countersigners) = await connection.QuerySingleAsync<(int, int)>(
                    """
                    select (select count(distinct person_id)::int from people.acting where role = 'keeper'
                        and person_id not in (@PersonId, @MadeBy) and upper_inf(recorded) and held @> @now),
                        (select count(distinct person_id)::int from people.acting where role = 'countersigner'
                            and person_id not in (@PersonId, @MadeBy) and upper_inf(recorded) and held @> @now)
                    """,
                    new
                    {
                        row.PersonId,
                        row.MadeBy,
                        now,
                    },
                    transaction
                );
                if (Invites.MayAgree(row.PersonId, row.MadeBy, by, keepers, countersigners, row.At, now) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "update people.invite set agreed_by = @by, agreed_at = @now where id = @id",
                    new
                    {
                        id,
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.PersonInviteAgreed,
                    new
                    {
                        invite = id,
                        person = await LedgerStore.Number(connection, transaction, row.PersonId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        singleHanded = by == row.MadeBy,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Sets the password of whom a code is for; every session of before ends.</summary>
    /// <returns>Null when it was set; else why not.</returns>
    public Task<Refusal?> Use(string code, string passwordHash, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<Row>(
                    "select id, number, person_id, made_by, at, expires, needs_agreement, agreed_at, used_at from people.invite "
                        + "where code_hash = @hash for update",
                    new { hash = Invites.Hash(code) },
                    transaction
                );
                var good = row is not null && row.UsedAt is null && row.Expires > now && await IsNewest(connection, transaction, row);
                if (Invites.MayUse(good, row is { NeedsAgreement: true, AgreedAt: null }) is { } refusal)
                    return ((Refusal?)refusal, false);
                var set = await connection.ExecuteAsync(
                    """
                    update people.person p set password_hash = @passwordHash, security_stamp = gen_random_uuid()::text
                        where id = @PersonId and not erased and sign_in_name is not null
                        and exists (select from people.account where person_id = p.id and upper_inf(recorded) and held @> @now)
                    """,
                    new
                    {
                        row!.PersonId,
                        passwordHash,
                        now,
                    },
                    transaction
                );
                if (set == 0)
                    return (PeopleProblems.InviteOfClosedAccount.Refuse("code"), false);
                await connection.ExecuteAsync("update people.invite set used_at = @now where id = @Id", new { row!.Id, now }, transaction);
                await MessageStore.Tell(
                    connection,
                    transaction,
                    row.PersonId,
                    $"invite.used:{row.Id}",
                    "Your password was set",
                    "If it was not you, tell a keeper now: they make a new link.",
                    "/me",
                    now
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.PersonPasswordSet,
                    new { invite = row.Id, person = await LedgerStore.Number(connection, transaction, row.PersonId) }
                );
                return (null, true);
            },
            cancel
        );

    /// <summary>What whoever a code is for is called: no password should be that.</summary>
    public async Task<string?[]> Names(string code, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var found = await connection.QuerySingleOrDefaultAsync<(string? Given, string? Family, string? SignIn, string? Email)>(
            new CommandDefinition(
                "select p.given_name, p.family_name, p.sign_in_name, p.email from people.invite i join people.person p on p.id = "
                    + "i.person_id where i.code_hash = @hash",
                new { hash = Invites.Hash(code) },
                cancellationToken: cancel
            )
        );
        return [found.Given, found.Family, found.SignIn, found.Email];
    }

    /// <summary>Links that wait for a second pair of eyes.</summary>
    public async Task<IReadOnlyList<InviteWaiting>> Waiting(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<InviteWaiting>(
                new CommandDefinition(
                    """
                    select i.id, i.person_id, p.given_name || ' ' || p.family_name as name, i.made_by,
                        m.given_name || ' ' || m.family_name as made_by_name, i.at
                    from people.invite i join people.person p on p.id = i.person_id join people.person m on m.id = i.made_by
                    where i.needs_agreement and i.agreed_at is null and i.expires > @now
                      and not exists (select from people.invite n where n.person_id = i.person_id and n.number > i.number) order by i.at
                    """,
                    new { now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private static Task<bool> IsNewest(NpgsqlConnection connection, NpgsqlTransaction transaction, Row row) =>
        connection.ExecuteScalarAsync<bool>(
            "select not exists (select from people.invite where person_id = @PersonId and number > @Number)",
            new { row.PersonId, row.Number },
            transaction
        );
}
