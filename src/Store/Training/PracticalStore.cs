using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <summary>A practical that is or was watched.</summary>
/// <param name="Outcome">Null while it is open.</param>
public sealed record Observation(
    Guid Id,
    PersonId PersonId,
    string Authority,
    PersonId TrainerId,
    Instant Started,
    Instant? TrainerAgreedAt,
    Instant? MemberAgreedAt,
    Instant? Ended,
    string? Outcome,
    Guid? CertificateId,
    PracticalSheet Sheet,
    IReadOnlyList<PracticalMark> Marks
);

/// <summary>Practical sign-offs: begun, marked step by step, and ended when both say so.</summary>
public sealed class PracticalStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        string Authority,
        PersonId TrainerId,
        Instant Started,
        Instant? TrainerAgreedAt,
        Instant? MemberAgreedAt,
        Instant? Ended,
        string? Outcome,
        Guid? CertificateId,
        string PracticalId,
        int Version,
        string Title,
        string Steps
    );

    private sealed record MarkRow(Guid Id, string StepId, string Mark, string? Note, Instant At, PersonId By);

    /// <summary>Opens the sheet of an authority for a person, or gives the one that is open.</summary>
    public Task<Result<Guid>> Begin(
        PersonId memberId,
        string authority,
        PersonId trainer,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (!await TrainingStore.Known(connection, transaction, memberId))
                    return ((Result<Guid>)PeopleProblems.PersonUnknownId.Refuse("memberId", memberId), false);
                var paths = await PathStore.All(connection, transaction, rules, now);
                if (paths.FirstOrDefault(p => p.Path.Authority == authority)?.Path is not { } path)
                    return (TrainingProblems.SignOffUnknownAuthority.Refuse("authority", authority), false);
                if (
                    SignOffs.MaySign(
                        trainer,
                        memberId,
                        authority,
                        await TrainingStore.Trains(connection, transaction, trainer, authority, now),
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                var form = Practicals.FormOf(path);
                if (form.Refusal is { } none)
                    return (none, false);
                var sheet = form.Value;
                var left = await TrainingStore.Open(connection, transaction, path, paths, memberId, rules, now);
                if (SignOffs.MayPass(path, left, true, rules) is { } wait)
                    return (wait, false);
                await connection.ExecuteAsync(
                    """
                    insert into training.observation (id, person_id, authority, practical_id, version, trainer_id, started)
                    values (@id, @memberId, @authority, @sheet, (select max(version) from training.practical
                        where id = @sheet), @trainer, @now)
                    on conflict (person_id, authority) where ended is null do nothing
                    """,
                    new
                    {
                        id = Guid.NewGuid(),
                        memberId,
                        authority,
                        sheet,
                        trainer,
                        now,
                    },
                    transaction
                );
                var open = await connection.QuerySingleAsync<(Guid Id, Instant Started)>(
                    "select id, started from training.observation where person_id = @memberId and authority = @authority and ended is null",
                    new { memberId, authority },
                    transaction
                );
                if (open.Started == now)
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.PracticalBegun,
                        new
                        {
                            observation = open.Id,
                            person = await LedgerStore.Number(connection, transaction, memberId),
                            by = await LedgerStore.Number(connection, transaction, trainer),
                            authority,
                        }
                    );
                return (open.Id, true);
            },
            cancel
        );

    public async Task<Observation?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Find(connection, null, id);
    }

    /// <summary>Observations of a person, newest first.</summary>
    public async Task<IReadOnlyList<Observation>> Of(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var ids = (
            await connection.QueryAsync<Guid>(
                new CommandDefinition(
                    "select id from training.observation where person_id = @personId order by started desc",
                    new { personId },
                    cancellationToken: cancel
                )
            )
        ).ToList();
        var found = new List<Observation>();
        foreach (var id in ids)
            found.Add((await Find(connection, null, id))!);
        return found;
    }

    /// <summary>Puts marks on a sheet. Sent twice they are one; whoever had agreed before agrees again.</summary>
    /// <returns>Refused when there is no such sheet.</returns>
    public Task<Result<Observation>> Mark(
        Guid id,
        IReadOnlyList<PracticalMark> marks,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } seen)
                    return ((Result<Observation>)CommonProblems.NotFound.Refuse(null, "practical"), false);
                var fresh = marks.Where(m => seen.Marks.All(k => k.Id != m.Id)).DistinctBy(m => m.Id).ToList();
                if (fresh.Count == 0)
                    return (seen, false);
                if (seen.Ended is not null)
                    return (TrainingProblems.PracticalEnded.Refuse(), false);
                if (
                    SignOffs.MaySign(
                        by,
                        seen.PersonId,
                        seen.Authority,
                        await TrainingStore.Trains(connection, transaction, by, seen.Authority, now),
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                if (Practicals.MayAdd(seen.Marks.Count, fresh.Count) is { } full)
                    return (full, false);
                foreach (var mark in fresh)
                {
                    if (Practicals.MayMark(seen.Sheet, mark.StepId, mark.Note) is { } wrong)
                        return (wrong, false);
                    Guid? text = string.IsNullOrWhiteSpace(mark.Note)
                        ? null
                        : (await LedgerStore.Keep(connection, transaction, mark.Note.Trim(), seen.PersonId)).Id;
                    // A tablet's clock may be wrong: a mark lies between the begin and now.
                    var at = Instant.Max(seen.Started, Instant.Min(mark.At, now));
                    await connection.ExecuteAsync(
                        "insert into training.mark (id, observation_id, step_id, mark, text_id, at, received, by) values (@Id, "
                            + "@sheet, @StepId, @word, @text, @at, @now, @by) on conflict do nothing",
                        new
                        {
                            mark.Id,
                            sheet = id,
                            mark.StepId,
                            word = Word(mark.Mark),
                            text,
                            at,
                            now,
                            by,
                        },
                        transaction
                    );
                }
                await connection.ExecuteAsync(
                    "update training.observation set trainer_agreed_at = null, member_agreed_at = null where id = @id",
                    new { id },
                    transaction
                );
                return ((await Find(connection, transaction, id))!, true);
            },
            cancel
        );

    /// <summary>
    /// One of the two agrees to what stands there. When both have, the rule speaks: signed, to be repeated, or not signed.
    /// </summary>
    /// <param name="marks">How many marks the one who agrees saw: others may have come meanwhile.</param>
    /// <returns>Refused when there is no such sheet.</returns>
    public Task<Result<Observation>> Agree(Guid id, int marks, PersonId by, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } seen)
                    return ((Result<Observation>)CommonProblems.NotFound.Refuse(null, "practical"), false);
                if (seen.Ended is not null)
                    return (seen, false);
                var verdict = Practicals.Judge(seen.Sheet, seen.Marks, rules);
                if (Practicals.MayAgree(by == seen.TrainerId || by == seen.PersonId, seen.Marks.Count, marks, verdict) is { } against)
                    return (against, false);
                if (
                    by == seen.TrainerId
                    && SignOffs.MaySign(
                        by,
                        seen.PersonId,
                        seen.Authority,
                        await TrainingStore.Trains(connection, transaction, by, seen.Authority, now),
                        now
                    )
                        is { } refusal
                )
                    return (refusal, false);
                var trainer = by == seen.TrainerId ? seen.TrainerAgreedAt ?? now : seen.TrainerAgreedAt;
                var member = by == seen.PersonId ? seen.MemberAgreedAt ?? now : seen.MemberAgreedAt;
                await connection.ExecuteAsync(
                    "update training.observation set trainer_agreed_at = @trainer, member_agreed_at = @member where id = @id",
                    new
                    {
                        id,
                        trainer,
                        member,
                    },
                    transaction
                );
                if (trainer is null || member is null)
                {
                    var (who, title) =
                        by == seen.TrainerId
                            ? (seen.PersonId, "Look at what your trainer saw, and agree")
                            : (seen.TrainerId, "The practical is agreed to: agree too");
                    await MessageStore.Tell(
                        connection,
                        transaction,
                        who,
                        $"practical.{id}.{marks}:{who}",
                        title,
                        verdict.Why,
                        $"/training/practical/{id}",
                        now
                    );
                }
                else if (await End(connection, transaction, seen, verdict, rules, now) is { } late)
                    return (late, false);
                return ((await Find(connection, transaction, id))!, true);
            },
            cancel
        );

    /// <summary>Leaves a sheet without a verdict: the machine broke, the day was over.</summary>
    /// <returns>Refused when there is no such sheet.</returns>
    public Task<Result<Observation>> Drop(Guid id, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } seen)
                    return ((Result<Observation>)CommonProblems.NotFound.Refuse(null, "practical"), false);
                if (seen.Ended is not null)
                    return (seen, false);
                if (
                    SignOffs.MaySign(
                        by,
                        seen.PersonId,
                        seen.Authority,
                        await TrainingStore.Trains(connection, transaction, by, seen.Authority, now),
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "update training.observation set ended = @now, outcome = 'dropped' where id = @id",
                    new { id, now },
                    transaction
                );
                await Record(connection, transaction, seen, "dropped", by, reason, now);
                return ((await Find(connection, transaction, id))!, true);
            },
            cancel
        );

    /// <returns>Why it cannot be signed now; null when it ended.</returns>
    private static async Task<Refusal?> End(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Observation seen,
        PracticalVerdict verdict,
        HouseRules rules,
        Instant now
    )
    {
        Guid? certificate = null;
        if (verdict.Outcome == PracticalOutcome.Signed)
        {
            var note =
                $"{seen.Sheet.Title}, version {seen.Sheet.Version}: {seen.Sheet.Steps.Count} steps, {verdict.Prompted} prompted, "
                + $"{verdict.Missed} missed, no critical one.";
            var signed = await TrainingStore.Sign(
                connection,
                transaction,
                seen.PersonId,
                seen.Authority,
                note,
                seen.TrainerId,
                true,
                rules,
                now
            );
            if (signed.Refusal is { } refusal)
                return refusal;
            certificate = signed.Value.Certificate.Id;
        }
        var word = Word(verdict.Outcome);
        await connection.ExecuteAsync(
            "update training.observation set ended = @now, outcome = @word, certificate_id = @certificate where id = @Id",
            new
            {
                seen.Id,
                now,
                word,
                certificate,
            },
            transaction
        );
        await Record(connection, transaction, seen, word, seen.TrainerId, verdict.Why, now);
        return null;
    }

    private static async Task Record(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Observation seen,
        string outcome,
        PersonId by,
        string why,
        Instant now
    )
    {
        var text = await LedgerStore.Keep(connection, transaction, why, seen.PersonId);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PracticalEnded,
            new
            {
                observation = seen.Id,
                person = await LedgerStore.Number(connection, transaction, seen.PersonId),
                by = await LedgerStore.Number(connection, transaction, by),
                authority = seen.Authority,
                outcome,
                marks = Practicals
                    .Counting(seen.Marks)
                    .Values.OrderBy(m => m.StepId, StringComparer.Ordinal)
                    .Select(m => $"{m.StepId}:{Word(m.Mark)}")
                    .ToArray(),
                why = text.InChain,
            }
        );
    }

    private static async Task<Observation?> Locked(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        await connection.ExecuteAsync("select 1 from training.observation where id = @id for update", new { id }, transaction);
        return await Find(connection, transaction, id);
    }

    private static async Task<Observation?> Find(NpgsqlConnection connection, NpgsqlTransaction? transaction, Guid id)
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select o.id, o.person_id, o.authority, o.trainer_id, o.started, o.trainer_agreed_at, o.member_agreed_at, o.ended, o.outcome,
                o.certificate_id, o.practical_id, o.version, p.title, p.steps::text
            from training.observation o join training.practical p on p.id = o.practical_id and p.version = o.version where o.id = @id;
            select m.id, m.step_id, m.mark, t.body as note, m.at, m.by from training.mark m left join ledger.text t on t.id = m.text_id
                where m.observation_id = @id order by m.at, m.received;
            """,
            new { id },
            transaction
        );
        if (await rows.ReadSingleOrDefaultAsync<Row>() is not { } row)
            return null;
        var marks = (await rows.ReadAsync<MarkRow>())
            .Select(m => new PracticalMark(m.Id, m.StepId, Enum.Parse<StepMark>(m.Mark, true), m.Note, m.At, m.By))
            .ToList();
        return new Observation(
            Id: row.Id,
            PersonId: row.PersonId,
            Authority: row.Authority,
            TrainerId: row.TrainerId,
            Started: row.Started,
            TrainerAgreedAt: row.TrainerAgreedAt,
            MemberAgreedAt: row.MemberAgreedAt,
            Ended: row.Ended,
            Outcome: row.Outcome,
            CertificateId: row.CertificateId,
            Sheet: new PracticalSheet(row.PracticalId, row.Title, row.Version, GateJson.Read<List<PracticalStep>>(row.Steps)),
            Marks: marks
        );
    }

    private static string Word<T>(T value)
        where T : struct, Enum => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
