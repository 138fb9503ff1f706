using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <param name="MachineId">Set for roles that are per machine.</param>
public sealed record HeldRole(Role Role, MachineId? MachineId);

public sealed record PersonNow(
    PersonId Id,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    IReadOnlyList<HeldRole> Roles,
    PauseNow? Pause
);

/// <param name="Reason">Shown to the person and stewards only.</param>
public sealed record PauseNow(Guid Id, PersonId PersonId, Instant Since, Instant? Until, string? Reason);

/// <summary>What a cookie says of a session.</summary>
/// <param name="Stamp">Changes with the password.</param>
public sealed record SessionKey(PersonId PersonId, Guid Session, string Stamp);

/// <param name="Proved">When the password was last given.</param>
/// <param name="FactorOwed">The house asks a code from a phone of this person, and they have set none up.</param>
public sealed record SessionPerson(PersonNow Person, Instant Proved, bool FactorOwed);

public sealed record SignIn(PersonId PersonId, string PasswordHash, string SecurityStamp);

/// <summary>People, their roles and pauses.</summary>
public sealed class PeopleStore(NpgsqlDataSource db)
{
    private sealed record PersonRow(
        PersonId Id,
        string GivenName,
        string FamilyName,
        LocalDate? BirthDate,
        string SecurityStamp,
        Instant? Proved,
        bool FactorOwed
    );

    private sealed record RoleRow(PersonId PersonId, string Role, MachineId? MachineId);

    private const string PeopleSql =
        "select id, given_name, family_name, birth_date, security_stamp, null::timestamptz as proved, false as factor_owed from "
        + "people.person where not erased order by family_name, given_name, id;";

    // One person is asked for at every request: a plan of its own, by key.
    private const string PersonSql =
        "select id, given_name, family_name, birth_date, security_stamp, null::timestamptz as proved, false as factor_owed from "
        + "people.person where not erased and id = @id;";

    /// <summary>The person of a session that holds, as long as the account does, and a note each minute that it is used.</summary>
    private const string SessionSql = $"""
        select p.id, p.given_name, p.family_name, p.birth_date, p.security_stamp, s.proved, s.factor_owed from people.person p
            join people.session s on s.person_id = p.id
            where not p.erased and p.id = @id and s.id = @session and {SessionStore.Holds}
            and exists (select from people.account where person_id = p.id and held @> @now and upper_inf(recorded));
        """;

    private const string SeenSql =
        "update people.session s set seen = @real where s.id = @session and s.seen < @real - interval '1 minute' and "
        + $"{SessionStore.Holds};";

    private const string RolesSql = "select person_id, role, machine_id from people.acting where held @> @now and upper_inf(recorded);";

    private const string PausesSql = """
        select u.id, u.person_id, lower(u.held) as since, upper(u.held) as until, t.body as reason
        from people.pause u left join ledger.text t on t.id = u.text_id
        where upper_inf(u.recorded) and u.held @> @now order by lower(u.held);
        """;

    private static string OneOf(string sql, string column) =>
        sql.Replace("@> @now", $"@> @now and {column} = @id", StringComparison.Ordinal);

    public async Task<IReadOnlyList<PersonNow>> All(Instant now, CancellationToken cancel) =>
        [.. (await Load(null, now, cancel)).Select(p => p.Person)];

    /// <returns>Null when there is no such person.</returns>
    public async Task<PersonNow?> Find(PersonId id, Instant now, CancellationToken cancel) =>
        (await Load(id, now, cancel)).SingleOrDefault().Person;

    /// <summary>
    /// The person of a session that holds, if its stamp is still theirs: a new password, a sign-out or a closed account ends it. One round
    /// trip, at every request.
    /// </summary>
    /// <param name="real">Real time, by which sessions last.</param>
    public async Task<SessionPerson?> OfSession(SessionKey key, Instant now, Instant real, CancellationToken cancel) =>
        (await Load(key.PersonId, now, cancel, SessionSql, key.Session, real)).SingleOrDefault()
            is { Person: { } person, Stamp: var held, Proved: { } proved, FactorOwed: var owed }
        && held == key.Stamp
            ? new SessionPerson(person, proved, owed)
            : null;

    private async Task<IReadOnlyList<(PersonNow Person, string Stamp, Instant? Proved, bool FactorOwed)>> Load(
        PersonId? id,
        Instant now,
        CancellationToken cancel,
        string personSql = PersonSql,
        Guid? session = null,
        Instant real = default
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                id is null
                    ? PeopleSql + RolesSql + PausesSql
                    : personSql + OneOf(RolesSql, "person_id") + OneOf(PausesSql, "u.person_id") + (session is null ? "" : SeenSql),
                new
                {
                    id,
                    now,
                    session,
                    real,
                },
                cancellationToken: cancel
            )
        );
        var people = (await rows.ReadAsync<PersonRow>()).ToList();
        var roles = (await rows.ReadAsync<RoleRow>()).ToLookup(r => r.PersonId);
        var pauses = (await rows.ReadAsync<PauseNow>()).ToLookup(p => p.PersonId);
        return
        [
            .. people.Select(p =>
                (
                    new PersonNow(
                        p.Id,
                        p.GivenName,
                        p.FamilyName,
                        p.BirthDate,
                        [.. roles[p.Id].Select(r => new HeldRole(Enum.Parse<Role>(r.Role, ignoreCase: true), r.MachineId))],
                        pauses[p.Id].FirstOrDefault()
                    ),
                    p.SecurityStamp,
                    p.Proved,
                    p.FactorOwed
                )
            ),
        ];
    }

    /// <summary>Names alone, of some people; who was erased has none.</summary>
    public async Task<IReadOnlyList<(PersonId Id, string GivenName, string FamilyName, LocalDate? BirthDate)>> Names(
        IReadOnlyCollection<PersonId> ids,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<(PersonId, string, string, LocalDate?)>(
                new CommandDefinition(
                    "select id, given_name, family_name, birth_date from people.person where id = any(@ids) and not erased",
                    new { ids = ids.ToArray() },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Who the numbers of the record are; somebody erased has no name.</summary>
    public async Task<IReadOnlyList<(int Number, PersonId Id, string? Name)>> Numbered(
        IReadOnlyCollection<int> numbers,
        CancellationToken cancel
    )
    {
        if (numbers.Count == 0)
            return [];
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<(int, string, string?)>(
                new CommandDefinition(
                    "select number, id, case when erased then null else given_name || ' ' || family_name end from people.person "
                        + "where number = any(@numbers) order by number",
                    new { numbers = numbers.ToArray() },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Whoever may sign in by this name now: the account is open.</summary>
    public async Task<SignIn?> FindSignIn(string name, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<SignIn>(
            new CommandDefinition(
                """
                select id as person_id, password_hash, security_stamp from people.person p
                where sign_in_name = @name and password_hash is not null and not erased and exists (select from people.account
                    where person_id = p.id and held @> @now and upper_inf(recorded))
                """,
                new { name, now },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Pauses a person from now.</summary>
    /// <param name="until">Null pauses until released.</param>
    public Task<Result<Guid>> Pause(PersonId personId, PersonId by, string reason, Instant? until, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (Pauses.MayPause(personId, by, until, now) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                if (
                    !await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from people.person where id = @personId and not erased)",
                        new { personId },
                        transaction
                    )
                )
                    return (PeopleProblems.PersonUnknownId.Refuse("id", personId), false);
                return (await Pause(connection, transaction, personId, by, reason, until, now), true);
            },
            cancel
        );

    internal static async Task<Guid> Pause(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        PersonId by,
        string reason,
        Instant? until,
        Instant now
    )
    {
        var id = Guid.NewGuid();
        var text = await LedgerStore.Keep(connection, transaction, reason, personId);
        await connection.ExecuteAsync(
            """
            insert into people.pause (id, person_id, set_by, text_id, held, recorded)
            values (@id, @personId, @by, @text, tstzrange(@now, @until), tstzrange(@now, null))
            """,
            new
            {
                id,
                personId,
                by,
                text = text.Id,
                now,
                until,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonPaused,
            new
            {
                pause = id,
                person = await LedgerStore.Number(connection, transaction, personId),
                by = await LedgerStore.Number(connection, transaction, by),
                start = Core.Ledger.Chain.Instant(now),
                end = until is { } u ? Core.Ledger.Chain.Instant(u) : null,
                why = text.InChain,
            }
        );
        return id;
    }

    /// <summary>Ends a pause now, or notes the first of the two words that it needs.</summary>
    /// <returns>Refused when it has ended already or never was.</returns>
    public Task<Result<HoldEnding>> Release(Guid pauseId, PersonId by, string reason, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Pausing(connection, transaction, pauseId, now) is not { } pause)
                    return ((Result<HoldEnding>)CommonProblems.NotFound.Refuse(null, "pause that holds"), false);
                var ending = await HoldEndings.End(
                    connection,
                    transaction,
                    pauseId,
                    RecordEvents.PersonReleaseAgreed,
                    pause.Person,
                    pause.SetBy,
                    by,
                    reason,
                    now
                );
                if (ending.Refusal is not null || ending.Value == HoldEnding.NeedsAnother)
                    return (ending, ending.IsOk);
                await EndPause(connection, transaction, pauseId, by, reason, now);
                return (ending, true);
            },
            cancel
        );

    private static Task<(PersonId Person, PersonId SetBy, Guid Text, Instant Since)?> Pausing(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid pauseId,
        Instant now
    ) =>
        connection.QuerySingleOrDefaultAsync<(PersonId Person, PersonId SetBy, Guid Text, Instant Since)?>(
            "select person_id, set_by, text_id, lower(held) from people.pause where id = @pauseId and upper_inf(recorded) and held "
                + "@> @now for update",
            new { pauseId, now },
            transaction
        );

    /// <summary>Ends a pause that still holds; one that is over stays as it is.</summary>
    internal static async Task EndPause(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid pauseId,
        PersonId by,
        string reason,
        Instant now
    )
    {
        if (await Pausing(connection, transaction, pauseId, now) is not { } pause)
            return;
        var text = await LedgerStore.Keep(connection, transaction, reason, pause.Person);
        var end = Instant.Max(now, pause.Since + Duration.FromMilliseconds(1));
        await connection.ExecuteAsync(
            """
            update people.pause set recorded = tstzrange(lower(recorded), @end) where id = @pauseId and upper_inf(recorded);
            insert into people.pause (id, person_id, set_by, text_id, held, recorded)
            values (@pauseId, @Person, @SetBy, @pauseText, tstzrange(@Since, @end), tstzrange(@end, null))
            """,
            new
            {
                pauseId,
                pause.Person,
                pause.SetBy,
                pauseText = pause.Text,
                pause.Since,
                end,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonReleased,
            new
            {
                pause = pauseId,
                person = await LedgerStore.Number(connection, transaction, pause.Person),
                by = await LedgerStore.Number(connection, transaction, pause.SetBy),
                releasedBy = await LedgerStore.Number(connection, transaction, by),
                start = Core.Ledger.Chain.Instant(pause.Since),
                end = Core.Ledger.Chain.Instant(end),
                why = text.InChain,
            }
        );
    }
}
