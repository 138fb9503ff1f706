using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>Stock that upkeep uses up, as it stands.</summary>
/// <param name="Stock">There by the record, in its unit.</param>
/// <param name="Batch">Of what came in last; null where nobody said.</param>
/// <param name="LastIn">When something last came in.</param>
public sealed record StockItem(Guid Id, int Version, Consumable What, decimal Stock, string? Batch, Instant? LastIn);

/// <summary>What came in or went of it. <see cref="StockKind"/> says which.</summary>
public enum StockKind
{
    CameIn,
    UsedUp,
    Counted,
}

/// <summary>Used up in a task.</summary>
public sealed record StockUsed(Guid Id, decimal? Amount);

/// <summary>Lenses, carbon, distilled water and what else upkeep uses up.</summary>
public sealed class ConsumableStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        int Version,
        string Name,
        string Unit,
        string? Part,
        MachineId? MachineId,
        string Place,
        string Supplier,
        decimal Reorder,
        string Waste,
        decimal Stock,
        string? Batch,
        Instant? LastIn
    )
    {
        public StockItem ToItem() =>
            new(
                Id: Id,
                Version: Version,
                What: new Consumable(
                    Name: Name,
                    Unit: Unit,
                    Part: Part is null ? null : Enum.Parse<UpkeepPart>(Part, true),
                    MachineId: MachineId,
                    Place: Place,
                    Supplier: Supplier,
                    Reorder: Reorder,
                    Waste: Waste
                ),
                Stock: Stock,
                Batch: Batch,
                LastIn: LastIn
            );
    }

    private const string Rows = """
        select c.id, c.version, c.name, c.unit, c.part, c.machine_id, c.place, c.supplier, c.reorder, c.waste,
            coalesce((select sum(change) from upkeep.stock s where s.consumable_id = c.id), 0) as stock, l.batch, l.at as last_in
        from upkeep.consumable c left join lateral (select batch, at from upkeep.stock s
            where s.consumable_id = c.id and s.change > 0 and not s.counted order by at desc limit 1) l on true
        where c.ended_at is null
        """;

    public async Task<IReadOnlyList<StockItem>> All(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition($"{Rows} order by lower(c.name), c.id", cancellationToken: cancel)
        );
        return [.. rows.Select(r => r.ToItem())];
    }

    /// <summary>Adds something, or describes it anew.</summary>
    /// <param name="id">Null adds it.</param>
    /// <param name="version">As whoever changes it has read it.</param>
    public Task<Result<Guid>> Put(Guid? id, int version, Consumable what, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730045)", transaction: transaction);
                if (id is { } known)
                {
                    if (await Find(connection, transaction, known) is not { } old)
                        return ((Result<Guid>)CommonProblems.NotFound.Refuse(null, "stock of this house"), false);
                    if (old.Version != version)
                        return (UpkeepProblems.StockChanged.Refuse(), false);
                }
                if (what.Wrong().FirstOrDefault() is { } refusal)
                    return (refusal, false);
                var values = new
                {
                    id = id ?? Guid.NewGuid(),
                    what.Name,
                    what.Unit,
                    part = what.Part is { } part ? UpkeepCounting.Word(part) : null,
                    what.MachineId,
                    what.Place,
                    what.Supplier,
                    what.Reorder,
                    what.Waste,
                };
                var taken = await connection.ExecuteScalarAsync<bool>(
                    """
                    select exists (select from upkeep.consumable where lower(name) = lower(@Name) and ended_at is null and id <> @id
                        and machine_id is not distinct from @MachineId)
                    """,
                    values,
                    transaction
                );
                if (Consumable.Twice(taken) is { } twice)
                    return (twice, false);
                await connection.ExecuteAsync(
                    """
                    insert into upkeep.consumable (id, name, unit, part, machine_id, place, supplier, reorder, waste)
                    values (@id, @Name, @Unit, @part, @MachineId, @Place, @Supplier, @Reorder, @Waste)
                    on conflict (id) do update set name = @Name, unit = @Unit, part = @part, machine_id = @MachineId, place = @Place,
                        supplier = @Supplier, reorder = @Reorder, waste = @Waste, version = consumable.version + 1
                    """,
                    values,
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.StockPlanned,
                    new
                    {
                        stock = values.id,
                        name = what.Name,
                        by = await LedgerStore.Number(connection, transaction, by),
                        on = true,
                    }
                );
                return (values.id, true);
            },
            cancel
        );

    /// <summary>The house keeps it no longer; what was used of it stays on record.</summary>
    public Task<Result<bool>> End(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, id) is not { } item)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "stock of this house"), false);
                await connection.ExecuteAsync("update upkeep.consumable set ended_at = @now where id = @id", new { id, now }, transaction);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.StockPlanned,
                    new
                    {
                        stock = id,
                        name = item.What.Name,
                        by = await LedgerStore.Number(connection, transaction, by),
                        on = false,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Something came in, was used up outside a task, or was counted on the shelf.</summary>
    /// <param name="amount">In its unit; counted, what is there.</param>
    /// <param name="batch">As on the package, for what came in.</param>
    public Task<Result<bool>> Change(
        Guid id,
        StockKind kind,
        decimal? amount,
        string? batch,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, id) is not { } item)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "stock of this house"), false);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, item.What.MachineId, now);
                var refusal = Consumable.MayChange(hands)
                    ?? (
                        kind == StockKind.Counted
                            ? Consumable.WrongCount(amount, item.Stock)
                            : Consumable.WrongChange(amount, item.Stock, kind == StockKind.UsedUp)
                    );
                if (refusal is not null)
                    return (refusal, false);
                var change = kind switch
                {
                    StockKind.Counted => amount!.Value - item.Stock,
                    StockKind.UsedUp => -amount!.Value,
                    _ => amount!.Value,
                };
                await Write(connection, transaction, new Moved(id, change, batch, null, kind == StockKind.Counted), by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>What a task used up goes from the shelf.</summary>
    internal static async Task<Refusal?> Use(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<StockUsed> used,
        string task,
        PersonId by,
        Instant now
    )
    {
        // Always in the same order: two tasks that use the same things do not wait for each other in a circle.
        foreach (var some in used.OrderBy(u => u.Id))
        {
            if (await Find(connection, transaction, some.Id) is not { } item)
                return CommonProblems.NotFound.Refuse("used", "stock of this house");
            if (Consumable.WrongChange(some.Amount, item.Stock, true) is { } refusal)
                return refusal with { Field = "used" };
            await Write(connection, transaction, new Moved(some.Id, -some.Amount!.Value, null, task, false), by, now);
        }
        return null;
    }

    private sealed record Moved(Guid Id, decimal Change, string? Batch, string? Task, bool Counted);

    private static async Task<StockItem?> Find(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        await connection.ExecuteAsync("select from upkeep.consumable where id = @id for update", new { id }, transaction);
        return (await connection.QuerySingleOrDefaultAsync<Row>($"{Rows} and c.id = @id", new { id }, transaction))?.ToItem();
    }

    private static async Task Write(NpgsqlConnection connection, NpgsqlTransaction transaction, Moved moved, PersonId by, Instant now)
    {
        await connection.ExecuteAsync(
            """
            insert into upkeep.stock (id, consumable_id, at, by, change, batch, task_id, counted)
            values (gen_random_uuid(), @Id, @now, @by, @Change, @batch, @Task, @Counted)
            """,
            new
            {
                moved.Id,
                now,
                by,
                moved.Change,
                batch = string.IsNullOrWhiteSpace(moved.Batch) ? null : moved.Batch.Trim(),
                moved.Task,
                moved.Counted,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.StockChanged,
            new
            {
                stock = moved.Id,
                by = await LedgerStore.Number(connection, transaction, by),
                change = Chain.Number(moved.Change),
                task = moved.Task,
                counted = moved.Counted,
            }
        );
    }
}
