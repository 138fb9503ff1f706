using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Gate;

/// <summary>A question waiting for a steward.</summary>
public sealed record WaitingAsk(Guid Id, string PersonId, string GivenName, string FamilyName, LocalDate? BirthDate, string MachineId, Instant Start, Instant End, Instant At, string? Note, string Ask, string Outcome);

/// <summary>Questions that the gate answered with “ask a steward”.</summary>
public sealed class AskStore(NpgsqlDataSource db)
{
    private const string WaitingSql = """
        select a.id, a.person_id, p.given_name, p.family_name, p.birth_date, a.machine_id, lower(a.during) as start, upper(a.during) as "end", a.at,
            t.body as note, d.ask, d.outcome
        from gate.ask a join people.person p on p.id = a.person_id join gate.decision d on d.id = a.decision_id
            left join ledger.text t on t.id = a.text_id
        where a.state = 'waiting' and upper(a.during) > @now
        order by lower(a.during), a.at
        """;

    public Task<Guid> Add(Ask ask, GateFacts facts, string? note, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        var id = Guid.NewGuid();
        var (decision, hash) = await DecisionStore.Save(connection, transaction, ask, facts, now);
        var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note, ask.MemberId);
        await connection.ExecuteAsync(
            """
            insert into gate.ask (id, person_id, machine_id, during, decision_id, text_id, at)
            values (@id, @MemberId, @MachineId, tstzrange(@Start, @End), @decision, @text, @now)
            """,
            new { id, ask.MemberId, ask.MachineId, ask.Start, ask.End, decision, text = text?.Id, now }, transaction);
        var number = await connection.ExecuteScalarAsync<int>("select number from people.person where id = @MemberId", new { ask.MemberId }, transaction);
        await LedgerStore.Append(connection, transaction, now, "gate.asked", new { ask = id, person = number, machine = ask.MachineId, decision, decisionHash = hash, note = text?.InChain });
        return (id, true);
    }, cancel);

    /// <returns>False when it is not the person's own, or no longer waiting.</returns>
    public Task<bool> Withdraw(Guid id, string personId, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        var done = await connection.ExecuteAsync(
            "update gate.ask set state = 'withdrawn', version = version + 1 where id = @id and person_id = @personId and state = 'waiting'", new { id, personId }, transaction) == 1;
        if (done) await LedgerStore.Append(connection, transaction, now, "gate.withdrawn", new { ask = id });
        return (done, done);
    }, cancel);

    public async Task<IReadOnlyList<WaitingAsk>> Waiting(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<WaitingAsk>(new CommandDefinition(WaitingSql, new { now }, cancellationToken: cancel))];
    }
}
