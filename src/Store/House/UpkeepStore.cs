using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.House;

/// <summary>A task of upkeep as it stands now.</summary>
/// <param name="OverdueFrom">From then on the gate asks.</param>
public sealed record UpkeepTask(string Id, MachineId MachineId, string Name, Instant OverdueFrom);

/// <summary>Upkeep of the machines: what is due when, and that it was done.</summary>
public sealed class UpkeepStore(NpgsqlDataSource db)
{
    private const string Sql = "select id, machine_id, name, overdue_from from upkeep.task where held @> @now and upper_inf(recorded)";

    public async Task<IReadOnlyList<UpkeepTask>> All(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<UpkeepTask>(
                new CommandDefinition(Sql + " order by overdue_from, id", new { now }, cancellationToken: cancel)
            ),
        ];
    }

    /// <summary>Writes down that a task was done: it is due again at <paramref name="next"/>.</summary>
    /// <returns>Refused when there is no such task.</returns>
    public Task<Result<UpkeepTask>> Done(string id, PersonId by, string what, Instant next, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var task = await connection.QuerySingleOrDefaultAsync<UpkeepTask>(
                    Sql + " and id = @id for update",
                    new { id, now },
                    transaction
                );
                if (task is null)
                    return ((Result<UpkeepTask>)CommonProblems.NotFound.Refuse(null, "task of upkeep"), false);
                if (UpkeepDone.Wrong(next, now) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    $"""
                    update upkeep.task set {Dated.Closed} where id = @id
                        and upper_inf(recorded);
                    insert into upkeep.task (id, machine_id, name, overdue_from, held, recorded)
                        values (@id, @MachineId, @Name, @next, tstzrange(@now, null), tstzrange(@now, null));
                    """,
                    new
                    {
                        id,
                        task.MachineId,
                        task.Name,
                        next,
                        now,
                    },
                    transaction
                );
                var text = await LedgerStore.Keep(connection, transaction, what, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.MachineUpkeepDone,
                    new
                    {
                        machine = task.MachineId,
                        task = id,
                        by = await LedgerStore.Number(connection, transaction, by),
                        what = text.InChain,
                        next = Core.Ledger.Chain.Instant(next),
                    }
                );
                return ((Result<UpkeepTask>)(task with { OverdueFrom = next }), true);
            },
            cancel
        );
}
