using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <param name="MachineIds">Empty: every machine.</param>
/// <param name="Text">Who gave it and how; gone once erased.</param>
public sealed record ConsentNow(Guid Id, Instant Since, Instant? Until, MachineId[] MachineIds, string? Text);

/// <summary>An account as a keeper sees it.</summary>
/// <param name="Ends">Null while it has no end.</param>
/// <param name="SecondFactorSince">Since when a code from a phone is asked at sign-in; null while none is set up.</param>
/// <param name="SignInName">Null for somebody who never signs in.</param>
public sealed record Account(
    PersonId Id,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    string? AgeBand,
    string? Email,
    string? SignInName,
    Instant? Since,
    Instant? Ends,
    Instant? AgreementSince,
    bool LegalHold,
    Instant? SecondFactorSince,
    IReadOnlyList<RoleNow> Roles,
    IReadOnlyList<ConsentNow> Consents
);

public sealed record RoleNow(long RowId, Role Role, MachineId? MachineId, Instant Since, Instant? Until);

/// <summary>Accounts, with their roles, consents and ends. All dated; corrections close what was recorded and write anew.</summary>
public sealed class AccountStore(NpgsqlDataSource db)
{
    private sealed record AccountRow(
        PersonId Id,
        string GivenName,
        string FamilyName,
        LocalDate? BirthDate,
        string? AgeBand,
        string? Email,
        string? SignInName,
        Instant? Since,
        Instant? Ends,
        Instant? AgreementSince,
        bool LegalHold,
        Instant? SecondFactorSince
    );

    private sealed record RoleRow(long RowId, string Role, MachineId? MachineId, Instant Since, Instant? Until);

    /// <returns>Null when there is no such account.</returns>
    public async Task<Account?> Find(PersonId id, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                """
                select p.id, p.given_name, p.family_name, p.birth_date, p.age_band, p.email, p.sign_in_name, lower(a.held) as since,
                    upper(a.held) as ends,
                    (select max(lower(held)) from people.agreement g where g.person_id = p.id and upper_inf(g.recorded)
                        and g.held @> @now) as agreement_since,
                    exists (select from people.legal_hold h where h.person_id = p.id and h.ended_at is null) as legal_hold,
                    (select confirmed from people.second_factor f where f.person_id = p.id) as second_factor_since
                from people.person p left join lateral (select held from people.account where person_id = p.id and upper_inf(recorded)
                    order by upper(held) desc limit 1) a on true
                where p.id = @id and not p.erased;
                select row_id, role, machine_id, lower(held) as since, upper(held) as until from people.role
                    where person_id = @id and upper_inf(recorded) and (upper_inf(held) or upper(held) > @now) order by role, machine_id;
                select c.id, lower(c.held) as since, upper(c.held) as until, c.machine_ids, t.body as text from people.consent c left
                    join ledger.text t on t.id = c.text_id
                    where c.person_id = @id and upper_inf(c.recorded) and (upper_inf(c.held) or upper(c.held) > @now)
                        order by lower(c.held);
                """,
                new { id, now },
                cancellationToken: cancel
            )
        );
        var row = await rows.ReadSingleOrDefaultAsync<AccountRow>();
        if (row is null)
            return null;
        var roles = (await rows.ReadAsync<RoleRow>())
            .Select(r => new RoleNow(r.RowId, Enum.Parse<Role>(r.Role, ignoreCase: true), r.MachineId, r.Since, r.Until))
            .ToList();
        return new Account(
            Id: row.Id,
            GivenName: row.GivenName,
            FamilyName: row.FamilyName,
            BirthDate: row.BirthDate,
            AgeBand: row.AgeBand,
            Email: row.Email,
            SignInName: row.SignInName,
            Since: row.Since,
            Ends: row.Ends,
            AgreementSince: row.AgreementSince,
            LegalHold: row.LegalHold,
            SecondFactorSince: row.SecondFactorSince,
            Roles: roles,
            Consents: [.. await rows.ReadAsync<ConsentNow>()]
        );
    }

    /// <summary>Adds people, all or none.</summary>
    /// <param name="passwordHash">For those with a sign-in name.</param>
    /// <returns>Their ids in order; or which of them stands against it.</returns>
    public async Task<Result<IReadOnlyList<PersonId>>> Add(
        IReadOnlyList<NewPerson> people,
        Func<NewPerson, string?> passwordHash,
        HouseRules rules,
        PersonId by,
        Instant now,
        CancellationToken cancel
    )
    {
        try
        {
            return await Transaction.Run(
                db,
                async (connection, transaction) =>
                {
                    var ids = new List<PersonId>();
                    foreach (var person in people)
                        ids.Add(await Add(connection, transaction, person, passwordHash(person), rules, now));
                    var numbers = (
                        await connection.QueryAsync<int>(
                            "select number from people.person where id = any(@ids) order by number",
                            new { ids = ids.ToArray() },
                            transaction
                        )
                    ).ToList();
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.PeopleAdded,
                        new { by = await LedgerStore.Number(connection, transaction, by), people = numbers }
                    );
                    return ((Result<IReadOnlyList<PersonId>>)ids, true);
                },
                cancel
            );
        }
        catch (PostgresException e) when (e is { SqlState: PostgresErrorCodes.UniqueViolation, ConstraintName: "person_sign_in_name_key" })
        {
            return PeopleProblems.PersonSignInTaken.Refuse("signInName");
        }
    }

    internal static async Task<PersonId> Add(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        NewPerson person,
        string? passwordHash,
        HouseRules rules,
        Instant now
    )
    {
        var id = $"p-{Guid.NewGuid():N}"[..14];
        Instant? ends = person.AccountEnds is { } last ? new LastDay(last).End(rules.Clock) : null;
        await connection.ExecuteAsync(
            """
            insert into people.person (id, given_name, family_name, birth_date, age_band, email, sign_in_name, password_hash)
            values (@id, @GivenName, @FamilyName, @BirthDate, @Band, @Email, @SignInName, @passwordHash);
            insert into people.account (person_id, held, recorded) values (@id, tstzrange(@now, @ends), tstzrange(@now, null));
            insert into people.role (person_id, role, held, recorded) values (@id, 'member', tstzrange(@now, null), tstzrange(@now, null));
            """,
            new
            {
                id,
                person.GivenName,
                person.FamilyName,
                person.BirthDate,
                person.Band,
                person.Email,
                person.SignInName,
                passwordHash,
                ends,
                now,
            },
            transaction
        );
        return id;
    }

    /// <summary>Names that are in the house already, of those given.</summary>
    public async Task<IReadOnlySet<(string Given, string Family)>> Known(IReadOnlyList<NewPerson> people, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (
            await connection.QueryAsync<(string, string)>(
                new CommandDefinition(
                    """
                    select n.given, n.family from unnest(@given, @family) as n(given, family)
                    where exists (select from people.person p where not p.erased and lower(p.given_name) = lower(n.given)
                        and lower(p.family_name) = lower(n.family))
                    """,
                    new { given = people.Select(p => p.GivenName).ToArray(), family = people.Select(p => p.FamilyName).ToArray() },
                    cancellationToken: cancel
                )
            )
        ).ToHashSet();
    }

    /// <summary>Sets the end of an account, earlier or later, or takes it away.</summary>
    /// <returns>Refused when there is no such account; true; or why not.</returns>
    public Task<Result<bool>> SetEnd(PersonId personId, Instant? ends, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await LockKeepers(connection, transaction);
                var row = await connection.QuerySingleOrDefaultAsync<(long Row, Instant Since)?>(
                    "select row_id, lower(held) from people.account where person_id = @personId and upper_inf(recorded) order by "
                        + "upper(held) desc limit 1 for update",
                    new { personId },
                    transaction
                );
                if (row is not { } held)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "account"), false);
                if (
                    ends is not null
                    && await IsKeeper(connection, transaction, personId, now)
                    && await IsLastKeeper(connection, transaction, personId, now)
                )
                    return (LastKeeper, false);
                var end = ends is { } e ? Instant.Max(e, held.Since + Duration.FromMilliseconds(1)) : (Instant?)null;
                await connection.ExecuteAsync(
                    $"""
                    update people.account set {Dated.Closed} where row_id = @Row;
                    insert into people.account (person_id, held, recorded)
                        values (@personId, tstzrange(@Since, @end), tstzrange(@now, null));
                    """,
                    new
                    {
                        personId,
                        held.Row,
                        held.Since,
                        end,
                        now,
                    },
                    transaction
                );
                if (end <= now)
                    await connection.ExecuteAsync(
                        "update people.person set security_stamp = gen_random_uuid()::text where id = @personId",
                        new { personId },
                        transaction
                    );
                await Append(
                    connection,
                    transaction,
                    RecordEvents.PersonAccountEnds,
                    personId,
                    by,
                    now,
                    new { end = end is { } at ? Core.Ledger.Chain.Instant(at) : null }
                );
                return (true, true);
            },
            cancel
        );

    private static Task<bool> IsKeeper(NpgsqlConnection connection, NpgsqlTransaction transaction, PersonId personId, Instant now) =>
        connection.ExecuteScalarAsync<bool>(
            "select exists (select from people.acting where person_id = @personId and role = 'keeper' and upper_inf(recorded) and "
                + "held @> @now)",
            new { personId, now },
            transaction
        );

    /// <summary>Signs the house agreement, as it reads now.</summary>
    public Task<bool> Sign(PersonId personId, string wordingDigest, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var signed = await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from people.agreement where person_id = @personId and upper_inf(recorded) and held @> @now)",
                    new { personId, now },
                    transaction
                );
                if (signed)
                    return (true, false);
                await connection.ExecuteAsync(
                    "insert into people.agreement (person_id, held, recorded) values (@personId, tstzrange(@now, null), "
                        + "tstzrange(@now, null))",
                    new { personId, now },
                    transaction
                );
                await Append(connection, transaction, RecordEvents.PersonAgreed, personId, personId, now, new { wording = wordingDigest });
                return (true, true);
            },
            cancel
        );

    /// <summary>Writes down a guardian's consent.</summary>
    public Task<Result<Guid>> Consent(
        PersonId personId,
        IReadOnlyList<MachineId> machineIds,
        string text,
        Instant? until,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (Consents.MayWrite(personId, by) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                var known = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from house.machine where id = any(@ids)",
                    new { ids = machineIds.ToArray() },
                    transaction
                );
                if (known != machineIds.Count)
                    return (PeopleProblems.ConsentMachine.Refuse("machineIds"), false);
                if (
                    !await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from people.person where id = @personId and not erased)",
                        new { personId },
                        transaction
                    )
                )
                    return (PeopleProblems.PersonUnknownId.Refuse("id", personId), false);
                var id = Guid.NewGuid();
                var kept = await LedgerStore.Keep(connection, transaction, text, personId);
                await connection.ExecuteAsync(
                    """
                    insert into people.consent (id, person_id, machine_ids, set_by, text_id, held, recorded)
                    values (@id, @personId, @machines, @by, @text, tstzrange(@now, @until), tstzrange(@now, null))
                    """,
                    new
                    {
                        id,
                        personId,
                        machines = machineIds.ToArray(),
                        by,
                        text = kept.Id,
                        until,
                        now,
                    },
                    transaction
                );
                await Append(
                    connection,
                    transaction,
                    RecordEvents.PersonConsented,
                    personId,
                    by,
                    now,
                    new
                    {
                        consent = id,
                        machines = machineIds,
                        end = until is { } u ? Core.Ledger.Chain.Instant(u) : null,
                        why = kept.InChain,
                    }
                );
                return (id, true);
            },
            cancel
        );

    /// <summary>Ends a consent now: a guardian has taken it back.</summary>
    public Task<bool> EndConsent(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var person = await connection.QuerySingleOrDefaultAsync<string>(
                    Dated.End(
                        "people.consent",
                        "id, person_id, machine_ids, set_by, text_id",
                        "id = @id and held @> @now and lower(held) < @now"
                    ) + " returning person_id",
                    new { id, now },
                    transaction
                );
                if (person is null)
                    return (false, false);
                await Append(connection, transaction, RecordEvents.PersonConsentEnded, person, by, now, new { consent = id });
                return (true, true);
            },
            cancel
        );

    /// <summary>Gives a role from now, if Core lets this person.</summary>
    public async Task<Result<bool>> Grant(
        PersonId personId,
        Role role,
        MachineId? machineId,
        Instant? until,
        PersonId by,
        Instant now,
        CancellationToken cancel
    )
    {
        try
        {
            return await Transaction.Run(
                db,
                async (connection, transaction) =>
                {
                    var (keeper, trainer, person, machine) = await connection.QuerySingleAsync<(bool, bool, bool, bool)>(
                        """
                        select exists (select from people.acting where person_id = @by and role = 'keeper' and upper_inf(recorded)
                            and held @> @now),
                            exists (select from people.acting where person_id = @by and role = 'trainer' and machine_id = @machineId
                                and upper_inf(recorded) and held @> @now),
                            exists (select from people.person where id = @personId and not erased), @machineId::text is null
                                or exists (select from house.machine where id = @machineId)
                        """,
                        new
                        {
                            personId,
                            machineId,
                            by,
                            now,
                        },
                        transaction
                    );
                    if (RoleGrants.May(role, machineId, personId, by, keeper, trainer, until, now) is { } refusal)
                        return ((Result<bool>)refusal, false);
                    if (!person)
                        return (PeopleProblems.PersonUnknownId.Refuse("personId", personId), false);
                    if (!machine)
                        return (PeopleProblems.RoleUnknownMachine.Refuse("machineId", machineId), false);
                    await GiveRole(connection, transaction, personId, role, machineId, until, now);
                    await Append(
                        connection,
                        transaction,
                        RecordEvents.PersonRoleGiven,
                        personId,
                        by,
                        now,
                        new
                        {
                            role = Word(role),
                            machine = machineId,
                            end = until is { } u ? Core.Ledger.Chain.Instant(u) : null,
                        }
                    );
                    return (true, true);
                },
                cancel
            );
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return PeopleProblems.RoleHeld.Refuse("role");
        }
    }

    internal static Task GiveRole(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        Role role,
        MachineId? machineId,
        Instant? until,
        Instant now
    ) =>
        connection.ExecuteAsync(
            "insert into people.role (person_id, role, machine_id, held, recorded) values (@personId, @role, @machineId, "
                + "tstzrange(@now, @until), tstzrange(@now, null))",
            new
            {
                personId,
                role = Word(role),
                machineId,
                until,
                now,
            },
            transaction
        );

    private static readonly Refusal LastKeeper = PeopleProblems.RoleLastKeeper.Refuse();

    /// <summary>Two keepers who end each other's role wait for each other here, and the second is refused.</summary>
    private static Task LockKeepers(NpgsqlConnection connection, NpgsqlTransaction transaction) =>
        connection.ExecuteAsync("select pg_advisory_xact_lock(hashtext('people.keepers'))", transaction: transaction);

    /// <summary>Nobody else keeps the house without an end, in role and account.</summary>
    private static Task<bool> IsLastKeeper(NpgsqlConnection connection, NpgsqlTransaction transaction, PersonId personId, Instant now) =>
        connection.ExecuteScalarAsync<bool>(
            "select not exists (select from people.acting where role = 'keeper' and person_id <> @personId and upper_inf(recorded) "
                + "and held @> @now and upper_inf(held))",
            new { personId, now },
            transaction
        );

    /// <summary>On the console of whoever runs the server: makes somebody a keeper, in the record.</summary>
    /// <returns>False when there is no such open account.</returns>
    public Task<bool> MakeKeeper(PersonId personId, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await LockKeepers(connection, transaction);
                var (open, keeps) = await connection.QuerySingleAsync<(bool, bool)>(
                    """
                    select exists (select from people.account a join people.person p on p.id = a.person_id where a.person_id = @personId
                        and not p.erased and upper_inf(a.recorded) and a.held @> @now),
                        exists (select from people.role where person_id = @personId and role = 'keeper' and upper_inf(recorded)
                            and held @> @now)
                    """,
                    new { personId, now },
                    transaction
                );
                if (!open)
                    return (false, false);
                if (keeps)
                    return (true, false);
                await GiveRole(connection, transaction, personId, Role.Keeper, null, null, now);
                var number = await LedgerStore.Number(connection, transaction, personId);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.PersonRoleGiven,
                    new
                    {
                        person = number,
                        by = number,
                        role = Word(Role.Keeper),
                        machine = (string?)null,
                        end = (string?)null,
                        console = true,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Ends a role now. A house keeps at least one keeper.</summary>
    /// <returns>Refused when no such role holds.</returns>
    public Task<Result<bool>> EndRole(long rowId, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await LockKeepers(connection, transaction);
                var row = await connection.QuerySingleOrDefaultAsync<(PersonId Person, string Role, MachineId? Machine, Instant Since)?>(
                    "select person_id, role, machine_id, lower(held) from people.role where row_id = @rowId and "
                        + "upper_inf(recorded) and held @> @now for update",
                    new { rowId, now },
                    transaction
                );
                if (row is not { } held)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "role that holds"), false);
                if (held.Role == "keeper" && await IsLastKeeper(connection, transaction, held.Person, now))
                    return (LastKeeper, false);
                await connection.ExecuteAsync(
                    $"""
                    update people.role set {Dated.Closed} where row_id = @rowId;
                    insert into people.role (person_id, role, machine_id, held, recorded)
                        select @Person, @Role, @Machine, tstzrange(@Since, @now), tstzrange(@now, null) where @Since < @now;
                    """,
                    new
                    {
                        rowId,
                        held.Person,
                        held.Role,
                        held.Machine,
                        held.Since,
                        now,
                    },
                    transaction
                );
                await Append(
                    connection,
                    transaction,
                    RecordEvents.PersonRoleEnded,
                    held.Person,
                    by,
                    now,
                    new { role = held.Role, machine = held.Machine }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Sets or takes away a hold that law or a claim puts on a person's details.</summary>
    public Task<bool> LegalHold(PersonId personId, bool hold, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    !await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from people.person where id = @personId and not erased)",
                        new { personId },
                        transaction
                    )
                )
                    return (false, false);
                var text = await LedgerStore.Keep(connection, transaction, reason, personId);
                if (hold)
                    await connection.ExecuteAsync(
                        "insert into people.legal_hold (id, person_id, set_by, text_id, at) values (gen_random_uuid(), @personId, "
                            + "@by, @text, @now)",
                        new
                        {
                            personId,
                            by,
                            text = text.Id,
                            now,
                        },
                        transaction
                    );
                else
                    await connection.ExecuteAsync(
                        "update people.legal_hold set ended_by = @by, ended_at = @now where person_id = @personId and ended_at is null",
                        new
                        {
                            personId,
                            by,
                            now,
                        },
                        transaction
                    );
                await Append(
                    connection,
                    transaction,
                    hold ? RecordEvents.PersonLegalHold : RecordEvents.PersonLegalHoldEnded,
                    personId,
                    by,
                    now,
                    new { why = text.InChain }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>A new password; every session of before ends.</summary>
    /// <summary>The same password kept more safely: no session ends.</summary>
    public async Task Rehash(PersonId personId, string was, string hash, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "update people.person set password_hash = @hash where id = @personId and password_hash = @was",
                new
                {
                    personId,
                    was,
                    hash,
                },
                cancellationToken: cancel
            )
        );
    }

    public async Task<bool> SetPassword(PersonId personId, string hash, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update people.person set password_hash = @hash, security_stamp = gen_random_uuid()::text where id = @personId "
                        + "and not erased and sign_in_name is not null",
                    new { personId, hash },
                    cancellationToken: cancel
                )
            ) == 1;
    }

    private static async Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        PersonId personId,
        PersonId by,
        Instant now,
        object more
    )
    {
        var body = new Dictionary<string, object?>
        {
            ["person"] = await LedgerStore.Number(connection, transaction, personId),
            ["by"] = await LedgerStore.Number(connection, transaction, by),
        };
        foreach (var property in more.GetType().GetProperties())
            body[property.Name] = property.GetValue(more);
        await LedgerStore.Append(connection, transaction, now, kind, body);
    }

    internal static string Word(Role role) => role.ToString().ToLowerInvariant();
}
