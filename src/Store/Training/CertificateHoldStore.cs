using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <param name="Reason">Gone once erased.</param>
/// <param name="Unmet">Conditions that are open.</param>
public sealed record CertificateHoldNow(
    Guid Id,
    PersonId PersonId,
    string Authority,
    CertificateHoldKind Kind,
    PersonId SetBy,
    Instant Since,
    HoldConditions Conditions,
    string? Reason,
    IReadOnlyList<string> Unmet
);

/// <summary>Certificates under review or suspended.</summary>
public sealed class CertificateHoldStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        string Authority,
        string Kind,
        PersonId SetBy,
        Guid TextId,
        Instant Since,
        string Conditions,
        string? Reason,
        bool Quiz
    );

    private sealed record RunRow(PersonId PersonId, MachineId MachineId, Instant Start, string Outcome, bool Confirmed);

    private const string Columns = """
        select h.id, h.person_id, h.authority, h.kind, h.set_by, h.text_id, lower(h.held) as since, h.conditions::text, t.body as reason,
            exists (select from training.attempt a where a.person_id = h.person_id and a.passed and a.started >= lower(h.held)) as quiz
        from training.certificate_hold h left join ledger.text t on t.id = h.text_id where upper_inf(h.recorded) and h.held @> @now
        """;

    /// <summary>What holds now: of one person, or of everybody.</summary>
    public async Task<IReadOnlyList<CertificateHoldNow>> Now(PersonId? personId, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = (
            await connection.QueryAsync<Row>(
                new CommandDefinition(
                    $"{Columns} and (@personId::text is null or h.person_id = @personId) order by since, h.id",
                    new { personId, now },
                    cancellationToken: cancel
                )
            )
        ).ToList();
        return await Read(connection, null, rows);
    }

    /// <summary>With what is still open of their conditions.</summary>
    private static async Task<IReadOnlyList<CertificateHoldNow>> Read(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IReadOnlyList<Row> rows
    )
    {
        var holds = rows.Select(r => (Row: r, Conditions: GateJson.Read<HoldConditions>(r.Conditions))).ToList();
        var people = holds.Where(h => h.Conditions.SupervisedRuns > 0).Select(h => h.Row.PersonId).Distinct().ToArray();
        var runs =
            people.Length == 0
                ? []
                : (
                    await connection.QueryAsync<RunRow>(
                        "select person_id, machine_id, lower(during) as start, outcome, confirmed_at is not null as confirmed from "
                            + "run.log where supervisor_id is not null and person_id = any(@people)",
                        new { people },
                        transaction
                    )
                )
                    .Where(r => RunLog.CountsAsSupervised(Enum.Parse<Outcome>(r.Outcome, true), r.Confirmed))
                    .ToList();
        return
        [
            .. holds.Select(h => new CertificateHoldNow(
                Id: h.Row.Id,
                PersonId: h.Row.PersonId,
                Authority: h.Row.Authority,
                Kind: Enum.Parse<CertificateHoldKind>(h.Row.Kind, true),
                SetBy: h.Row.SetBy,
                Since: h.Row.Since,
                Conditions: h.Conditions,
                Reason: h.Row.Reason,
                Unmet: CertificateHolds.Unmet(
                    h.Conditions,
                    runs.Count(r =>
                        r.PersonId == h.Row.PersonId && r.MachineId == SignOffs.MachineOf(h.Row.Authority) && r.Start >= h.Row.Since
                    ),
                    h.Row.Quiz
                )
            )),
        ];
    }

    /// <summary>Suspends one certificate, or puts it under review.</summary>
    public Task<Result<Guid>> Set(
        PersonId personId,
        string authority,
        CertificateHoldKind kind,
        HoldConditions conditions,
        string reason,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (CertificateHolds.MayDecide(personId, by) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                if (
                    !await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from training.certificate where person_id = @personId and authority = @authority "
                            + "and upper_inf(recorded) and held @> @now)",
                        new
                        {
                            personId,
                            authority,
                            now,
                        },
                        transaction
                    )
                )
                    return (TrainingProblems.HoldNone.Refuse("authority"), false);
                return (await Save(connection, transaction, personId, authority, kind, conditions, reason, by, now), true);
            },
            cancel
        );

    /// <summary>Everything one signer signed between two days: put under review in one action.</summary>
    /// <param name="store">False looks only.</param>
    /// <returns>Whose certificates, and for what; those of the one who asks are left out.</returns>
    public Task<IReadOnlyList<(PersonId PersonId, string Authority)>> Review(
        PersonId signer,
        Instant from,
        Instant until,
        string reason,
        bool store,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                IReadOnlyList<(PersonId, string)> hit =
                [
                    .. await connection.QueryAsync<(PersonId, string)>(
                        """
                        select distinct c.person_id, c.authority from training.certificate c
                        where c.signed_by = @signer and c.person_id <> @by and upper_inf(c.recorded) and c.held @> @now
                            and lower(c.held) >= @from and lower(c.held) < @until
                          and not exists (select from training.certificate_hold h where h.person_id = c.person_id
                              and h.authority = c.authority and upper_inf(h.recorded) and h.held @> @now)
                        order by 1, 2
                        """,
                        new
                        {
                            signer,
                            from,
                            until,
                            by,
                            now,
                        },
                        transaction
                    ),
                ];
                if (!store)
                    return (hit, false);
                foreach (var (person, authority) in hit)
                    await Save(
                        connection,
                        transaction,
                        person,
                        authority,
                        CertificateHoldKind.Review,
                        new HoldConditions(),
                        reason,
                        by,
                        now
                    );
                return (hit, true);
            },
            cancel
        );

    /// <summary>Ends a hold now, or notes the first of the two words that it needs.</summary>
    /// <returns>Refused when it has ended already or never was.</returns>
    public Task<Result<HoldEnding>> End(Guid id, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select 1 from training.certificate_hold where id = @id for update", new { id }, transaction);
                if (
                    await connection.QuerySingleOrDefaultAsync<Row>($"{Columns} and h.id = @id", new { id, now }, transaction)
                    is not { } row
                )
                    return ((Result<HoldEnding>)CommonProblems.NotFound.Refuse(null, "hold that is still on"), false);
                var hold = (await Read(connection, transaction, [row]))[0];
                if (hold.Unmet.Count > 0)
                    return (TrainingProblems.HoldConditionsUnmet.Refuse(null, string.Join("; ", hold.Unmet)), false);
                var ending = await HoldEndings.End(
                    connection,
                    transaction,
                    id,
                    RecordEvents.TrainingHoldAgreed,
                    hold.PersonId,
                    hold.SetBy,
                    by,
                    reason,
                    now
                );
                if (ending.Refusal is not null || ending.Value == HoldEnding.NeedsAnother)
                    return (ending, ending.IsOk);
                var text = await LedgerStore.Keep(connection, transaction, reason, hold.PersonId);
                var end = Instant.Max(now, hold.Since + Duration.FromMilliseconds(1));
                await connection.ExecuteAsync(
                    """
                    update training.certificate_hold set recorded = tstzrange(lower(recorded), greatest(@end, lower(recorded)))
                        where id = @id and upper_inf(recorded);
                    insert into training.certificate_hold (id, person_id, authority, kind, set_by, text_id, conditions, held, recorded)
                    values (@id, @PersonId, @Authority, @kind, @SetBy, @textId, @conditions::jsonb, tstzrange(@Since, @end),
                        tstzrange(@end, null))
                    """,
                    new
                    {
                        id,
                        hold.PersonId,
                        hold.Authority,
                        kind = row.Kind,
                        hold.SetBy,
                        textId = row.TextId,
                        conditions = row.Conditions,
                        hold.Since,
                        end,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TrainingReinstated,
                    new
                    {
                        hold = id,
                        person = await LedgerStore.Number(connection, transaction, hold.PersonId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        authority = hold.Authority,
                        why = text.InChain,
                    }
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    hold.PersonId,
                    $"hold.{id}.ended:{hold.PersonId}",
                    "Your certificate counts again",
                    reason,
                    "/training",
                    now
                );
                return (ending, true);
            },
            cancel
        );

    private static async Task<Guid> Save(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        string authority,
        CertificateHoldKind kind,
        HoldConditions conditions,
        string reason,
        PersonId by,
        Instant now
    )
    {
        var id = Guid.NewGuid();
        var text = await LedgerStore.Keep(connection, transaction, reason, personId);
        var word = kind == CertificateHoldKind.Review ? "review" : "suspended";
        await connection.ExecuteAsync(
            """
            insert into training.certificate_hold (id, person_id, authority, kind, set_by, text_id, conditions, held, recorded)
            values (@id, @personId, @authority, @word, @by, @text, @conditions::jsonb, tstzrange(@now, null), tstzrange(@now, null))
            """,
            new
            {
                id,
                personId,
                authority,
                word,
                by,
                text = text.Id,
                conditions = GateJson.Write(conditions),
                now,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind == CertificateHoldKind.Review ? RecordEvents.TrainingReview : RecordEvents.TrainingSuspended,
            new
            {
                hold = id,
                person = await LedgerStore.Number(connection, transaction, personId),
                by = await LedgerStore.Number(connection, transaction, by),
                authority,
                why = text.InChain,
            }
        );
        await MessageStore.Tell(
            connection,
            transaction,
            personId,
            $"hold.{id}:{personId}",
            kind == CertificateHoldKind.Review ? "A certificate of yours is looked at again" : "A certificate of yours is suspended",
            reason,
            "/training",
            now
        );
        return id;
    }
}
