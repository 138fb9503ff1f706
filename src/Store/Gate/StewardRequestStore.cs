using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Gate;

/// <summary>A question to the stewards.</summary>
/// <param name="State">waiting, lifted, refused, takenBack, withdrawn or expired.</param>
/// <param name="Answer">The steward's written reason; gone once erased.</param>
/// <param name="Booked">True once a booking uses the lift.</param>
public sealed record StewardRequest(
    Guid Id,
    PersonId PersonId,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    MachineId MachineId,
    Instant Start,
    Instant End,
    Instant At,
    string? Note,
    string Ask,
    string Outcome,
    string State,
    Instant? AnsweredAt,
    string? Answer,
    bool Booked
);

/// <summary>Questions that the gate answered with “ask a steward”.</summary>
public sealed class StewardRequestStore(NpgsqlDataSource db)
{
    private const string Columns = """
        select a.id, a.person_id, p.given_name, p.family_name, p.birth_date, a.machine_id, lower(a.during) as start,
            upper(a.during) as "end", a.at,
            t.body as note, d.ask, d.outcome, a.state, a.answered_at, r.body as answer, a.booking_id is not null as booked
        from gate.ask a join people.person p on p.id = a.person_id join gate.decision d on d.id = a.decision_id
            left join ledger.text t on t.id = a.text_id left join ledger.text r on r.id = a.answer_text_id
        """;

    public Task<Guid> Add(GateQuestion ask, GateFacts facts, string? note, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var id = Guid.NewGuid();
                var (decision, hash) = await DecisionStore.Save(connection, transaction, ask, facts, now);
                var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note, ask.MemberId);
                await connection.ExecuteAsync(
                    """
                    insert into gate.ask (id, person_id, machine_id, during, decision_id, text_id, at)
                    values (@id, @MemberId, @MachineId, tstzrange(@Start, @End), @decision, @text, @now)
                    """,
                    new
                    {
                        id,
                        ask.MemberId,
                        ask.MachineId,
                        ask.Start,
                        ask.End,
                        decision,
                        text = text?.Id,
                        now,
                    },
                    transaction
                );
                var number = await connection.ExecuteScalarAsync<int>(
                    "select number from people.person where id = @MemberId",
                    new { ask.MemberId },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.GateAsked,
                    new
                    {
                        ask = id,
                        person = number,
                        machine = ask.MachineId,
                        decision,
                        decisionHash = hash,
                        note = text?.InChain,
                    }
                );
                return (id, true);
            },
            cancel
        );

    /// <returns>False when it is not the person's own, or no longer waiting.</returns>
    public Task<bool> Withdraw(Guid id, PersonId personId, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var done =
                    await connection.ExecuteAsync(
                        "update gate.ask set state = 'withdrawn', version = version + 1 where id = @id and person_id = @personId "
                            + "and state = 'waiting'",
                        new { id, personId },
                        transaction
                    ) == 1;
                if (done)
                    await LedgerStore.Append(connection, transaction, now, RecordEvents.GateWithdrawn, new { ask = id });
                return (done, done);
            },
            cancel
        );

    /// <summary>Asks that wait and can still be answered, soonest first.</summary>
    public Task<IReadOnlyList<StewardRequest>> Waiting(Instant now, CancellationToken cancel) =>
        Read(
            "where a.state = 'waiting' and lower(a.during) > @until order by lower(a.during), a.at",
            new { until = now + StewardRequests.AnswerBefore },
            cancel
        );

    /// <summary>A person's asks whose time is not over, newest first.</summary>
    public Task<IReadOnlyList<StewardRequest>> Of(PersonId personId, Instant now, CancellationToken cancel) =>
        Read("where a.person_id = @personId and upper(a.during) > @now order by a.at desc", new { personId, now }, cancel);

    /// <returns>Null when there is no such ask.</returns>
    public async Task<StewardRequest?> Find(Guid id, CancellationToken cancel) =>
        (await Read("where a.id = @id", new { id }, cancel)).SingleOrDefault();

    private async Task<IReadOnlyList<StewardRequest>> Read(string where, object parameters, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<StewardRequest>(
                new CommandDefinition($"{Columns} {where}", parameters, cancellationToken: cancel)
            ),
        ];
    }

    /// <summary>Lifts, refuses or takes a lift back, with a written reason, and tells the person.</summary>
    /// <returns>The new state; null when there is no such ask; or why it stays as it was.</returns>
    public Task<Result<string>> Answer(
        Guid id,
        StewardReply kind,
        PersonId by,
        bool steward,
        bool countersigner,
        string? reason,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<ReplyRow>(
                    """
                    select a.person_id, a.machine_id, a.state, a.booking_id, lower(a.during) as start, upper(a.during) as "end", d.ask,
                        m.name as machine_name,
                        (select count(distinct r.person_id)::int from people.acting r
                            where r.role = 'steward' and r.person_id <> a.person_id and upper_inf(r.recorded)
                                and r.held @> @now) as other_stewards,
                        (select count(distinct r.person_id)::int from people.acting r
                            where r.role = 'countersigner' and r.person_id <> a.person_id and upper_inf(r.recorded)
                                and r.held @> @now) as other_countersigners, a.at
                    from gate.ask a join gate.decision d on d.id = a.decision_id join house.machine m on m.id = a.machine_id
                        where a.id = @id for update of a
                    """,
                    new { id, now },
                    transaction
                );
                if (row is null)
                    return ((Result<string>)CommonProblems.NotFound.Refuse(null, "request"), false);
                if (
                    StewardRequests.MayAnswer(
                        kind,
                        row.PersonId,
                        by,
                        steward,
                        countersigner,
                        row.OtherStewards,
                        row.OtherCountersigners,
                        row.Start,
                        row.At,
                        now,
                        reason
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                var wanted = kind == StewardReply.TakeBack ? "lifted" : "waiting";
                if (row.State != wanted)
                    return (
                        kind == StewardReply.TakeBack
                            ? GateProblems.AskLiftOver.Refuse()
                            : GateProblems.AskAnswered.Refuse(null, Words(row.State)),
                        false
                    );
                var (done, told) = kind switch
                {
                    StewardReply.Lift => ("lifted", RecordEvents.GateLifted),
                    StewardReply.Refuse => ("refused", RecordEvents.GateRefused),
                    _ => ("takenBack", RecordEvents.GateTakenBack),
                };
                string? decisionHash = null;
                if (kind == StewardReply.Lift)
                {
                    var lifted = await SaveLift(connection, transaction, id, row, now, cancel);
                    if (lifted.Refusal is { } against)
                        return (against, false);
                    decisionHash = lifted.Value;
                }
                if (kind == StewardReply.TakeBack)
                    await connection.ExecuteAsync(
                        $"update gate.lift set {Dated.Closed} where id = " + "@id and upper_inf(recorded)",
                        new { id, now },
                        transaction
                    );
                var text = await LedgerStore.Keep(connection, transaction, reason!.Trim(), row.PersonId);
                await connection.ExecuteAsync(
                    "update gate.ask set state = @done, answered_by = @by, answered_at = @now, answer_text_id = @text, "
                        + "single_handed = (person_id = @by), version = version + 1 where id = @id",
                    new
                    {
                        id,
                        done,
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    row.PersonId,
                    $"ask.{done}:{id}",
                    Title(done, row.MachineName),
                    reason.Trim(),
                    $"/ask?asked={id}",
                    now
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    told,
                    new
                    {
                        ask = id,
                        person = await LedgerStore.Number(connection, transaction, row.PersonId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        machine = row.MachineId,
                        booking = row.BookingId,
                        decisionHash,
                        why = text.InChain,
                        singleHanded = row.PersonId == by ? true : (bool?)null,
                    }
                );
                return (done, true);
            },
            cancel
        );

    /// <summary>Refuses what nobody answered in time, and tells the people. Safe to run at once from several instances.</summary>
    /// <returns>How many.</returns>
    public Task<int> Expire(Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var late = (
                    await connection.QueryAsync<(Guid Id, PersonId Person, int Number, MachineId Machine)>(
                        """
                        update gate.ask a set state = 'expired', answered_at = @now, version = a.version + 1
                        from people.person p, house.machine m
                        where a.id in (select id from gate.ask where state = 'waiting' and lower(during) <= @until for update skip locked)
                            and p.id = a.person_id and m.id = a.machine_id
                        returning a.id, a.person_id, p.number, m.name
                        """,
                        new { now, until = now + StewardRequests.AnswerBefore },
                        transaction
                    )
                ).ToList();
                foreach (var ask in late)
                {
                    await MessageStore.Tell(
                        connection,
                        transaction,
                        ask.Person,
                        $"ask.expired:{ask.Id}",
                        Title("expired", ask.Machine.Value),
                        $"No steward answered {StewardRequests.AnswerBefore.TotalMinutes:0} minutes before its start, so it counts as "
                            + "refused.",
                        $"/ask?asked={ask.Id}",
                        now
                    );
                }
                foreach (var ask in late)
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.GateExpired,
                        new { ask = ask.Id, person = ask.Number }
                    );
                return (late.Count, late.Count > 0);
            },
            cancel
        );

    private sealed record ReplyRow(
        PersonId PersonId,
        MachineId MachineId,
        string State,
        Guid? BookingId,
        Instant Start,
        Instant End,
        string Ask,
        string MachineName,
        int OtherStewards,
        int OtherCountersigners,
        Instant At
    );

    /// <summary>Decides once more, and lifts what reads <em>ask</em> now.</summary>
    /// <returns>The hash of the decision the lift rests on.</returns>
    private async Task<Result<string>> SaveLift(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        ReplyRow row,
        Instant now,
        CancellationToken cancel
    )
    {
        var ask = GateJson.Read<GateQuestion>(row.Ask);
        var facts = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, null, cancel);
        if (facts.Refusal is { } missing)
            return missing;
        var reasons = StewardRequests.ToLift(Core.Gating.Gate.Decide(ask, facts.Value));
        if (reasons.Refusal is { } refusal)
            return refusal;
        var (decisionId, hash) = await DecisionStore.Save(connection, transaction, ask, facts.Value, now);
        await connection.ExecuteAsync(
            """
            insert into gate.lift (id, person_id, machine_id, items, reasons, decision_id, held, recorded)
            values (@id, @PersonId, @MachineId, @items::jsonb, @reasons::jsonb, @decisionId, tstzrange(@Start, @End), tstzrange(@now, null))
            """,
            new
            {
                id,
                row.PersonId,
                row.MachineId,
                row.Start,
                row.End,
                now,
                decisionId,
                items = GateJson.Write(ask.Items),
                reasons = GateJson.Write(reasons.Value),
            },
            transaction
        );
        return hash;
    }

    private static string Title(string state, string machine) =>
        state switch
        {
            "lifted" => $"A steward let your request through for {machine}: book it",
            "refused" => $"A steward refused your request about {machine}",
            "takenBack" => $"A steward took the lift for {machine} back",
            _ => $"Your request about {machine} was not answered in time",
        };

    private static string Words(string state) =>
        state switch
        {
            "takenBack" => "lifted and taken back",
            "expired" => "refused, because nobody answered in time",
            "waiting" => "still waiting",
            _ => state,
        };
}
