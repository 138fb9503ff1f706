using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

public sealed record OutsideNow(Guid Id, PersonId PersonId, string Title, string Issuer, Instant Since, Instant? Until, string? Evidence);

/// <summary>Outside certificates, with what was shown and when they end.</summary>
public sealed class OutsideStore(NpgsqlDataSource db)
{
    public async Task<IReadOnlyList<OutsideNow>> Of(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<OutsideNow>(
                new CommandDefinition(
                    """
                    select o.id, o.person_id, o.title, o.issuer, lower(o.held) as since, upper(o.held) as until, t.body as evidence
                    from training.outside o left join ledger.text t on t.id = o.text_id where o.person_id = @personId
                        and upper_inf(o.recorded) order by lower(o.held) desc, o.id
                    """,
                    new { personId },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    public Task<Result<Guid>> Record(
        PersonId personId,
        string title,
        string issuer,
        Instant from,
        Instant? until,
        string evidence,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (!await TrainingStore.Known(connection, transaction, personId))
                    return ((Result<Guid>)PeopleProblems.PersonUnknownId.Refuse("personId", personId), false);
                var id = Guid.NewGuid();
                var text = await LedgerStore.Keep(connection, transaction, evidence, personId);
                await connection.ExecuteAsync(
                    """
                    insert into training.outside (id, person_id, title, issuer, set_by, text_id, held, recorded)
                    values (@id, @personId, @title, @issuer, @by, @text, tstzrange(@from, @until), tstzrange(@now, null))
                    """,
                    new
                    {
                        id,
                        personId,
                        title,
                        issuer,
                        by,
                        text = text.Id,
                        from,
                        until,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.OutsideRecorded,
                    new
                    {
                        paper = id,
                        person = await LedgerStore.Number(connection, transaction, personId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        start = Core.Ledger.Chain.Instant(from),
                        end = until is { } u ? Core.Ledger.Chain.Instant(u) : null,
                        what = text.InChain,
                    }
                );
                return (id, true);
            },
            cancel
        );
}
