using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.House;

/// <summary>A paper that an inspector asks for.</summary>
/// <param name="Next">Its next day; null where only a change brings it.</param>
public sealed record HousePaper(
    Guid Id,
    PaperKind Kind,
    MachineId? MachineId,
    LocalDate On,
    LocalDate? Next,
    string By,
    string Says,
    Instant RecordedAt,
    PersonId RecordedBy
);

/// <summary>Papers that inspectors and insurers ask for: none is overwritten, the newest of a kind counts.</summary>
public sealed class PaperStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        string Kind,
        MachineId? MachineId,
        LocalDate OnDay,
        LocalDate? NextDay,
        string By,
        string Says,
        Instant RecordedAt,
        PersonId RecordedBy
    );

    /// <summary>All of them, the newest of each kind first.</summary>
    public async Task<IReadOnlyList<HousePaper>> All(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                "select id, kind, machine_id, on_day, next_day, by, says, recorded_at, recorded_by from house.paper "
                    + "order by kind, machine_id, on_day desc, recorded_at desc",
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r => new HousePaper(
                Id: r.Id,
                Kind: Enum.Parse<PaperKind>(r.Kind, true),
                MachineId: r.MachineId,
                On: r.OnDay,
                Next: r.NextDay,
                By: r.By,
                Says: r.Says,
                RecordedAt: r.RecordedAt,
                RecordedBy: r.RecordedBy
            )),
        ];
    }

    public Task<Guid> Add(HousePaper paper, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var kind = System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(paper.Kind.ToString());
                await connection.ExecuteAsync(
                    """
                    insert into house.paper (id, kind, machine_id, on_day, next_day, by, says, recorded_at, recorded_by)
                    values (@Id, @kind, @MachineId, @On, @Next::date, @By, @Says, @RecordedAt, @RecordedBy)
                    """,
                    new
                    {
                        paper.Id,
                        kind,
                        paper.MachineId,
                        paper.On,
                        paper.Next,
                        paper.By,
                        paper.Says,
                        paper.RecordedAt,
                        paper.RecordedBy,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    paper.RecordedAt,
                    RecordEvents.HousePaperKept,
                    new
                    {
                        paper = paper.Id,
                        kind,
                        machine = paper.MachineId,
                        by = await LedgerStore.Number(connection, transaction, paper.RecordedBy),
                    }
                );
                return (paper.Id, true);
            },
            cancel
        );
}
