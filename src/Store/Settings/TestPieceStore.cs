using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;

namespace VelvetGate.Store.Settings;

/// <summary>Test pieces that were made, and what somebody told of each.</summary>
public sealed class TestPieceStore(NpgsqlDataSource db)
{
    private const int Shown = 50;

    private const string Listed = """
        select p.id, p.number, p.body::text as body, p.sheet_tag as tag, p.by, p.at,
            r.cells::text as told, r.setting_id, r.by as told_by, r.at as told_at
        from bench.test_piece p left join bench.test_piece_result r on r.piece_id = p.id
        """;

    /// <summary>The newest pieces, of one machine and material or of all.</summary>
    public async Task<IReadOnlyList<KeptPiece>> Newest(MachineId? machine, MaterialId? material, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                $"{Listed} where (@machine::text is null or p.machine_id = @machine) "
                    + $"and (@material::text is null or p.material_id = @material) order by p.number desc limit {Shown}",
                new { machine, material },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToPiece())];
    }

    public async Task<KeptPiece?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var row = await connection.QuerySingleOrDefaultAsync<Row>(
            new CommandDefinition($"{Listed} where p.id = @id", new { id }, cancellationToken: cancel)
        );
        return row?.ToPiece();
    }

    /// <summary>What the tag of a sheet says: material and size in mm.</summary>
    /// <returns>Null where there is no such sheet.</returns>
    public async Task<(MaterialId Material, string Name, decimal WidthMm, decimal HeightMm)?> Sheet(SheetTag tag, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(MaterialId, string, decimal, decimal)?>(
            new CommandDefinition(
                """
                select s.material_id, m.name, s.width_mm, s.height_mm
                    from materials.sheet s join materials.material m on m.id = s.material_id where s.tag = @tag
                """,
                new { tag },
                cancellationToken: cancel
            )
        );
    }

    /// <param name="id">Client-made: the same again changes nothing.</param>
    public Task<Result<Guid>> Add(Guid id, MadePiece made, SheetTag? tag, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var kind = GateWords.Of(made.Piece.Kind);
                var added = await connection.ExecuteAsync(
                    """
                    insert into bench.test_piece (id, kind, machine_id, material_id, thickness_mm, sheet_tag, body, by, at)
                    values (@id, @kind, @MachineId, @MaterialId, @ThicknessMm, @tag, @body::jsonb, @by, @now)
                    on conflict (id) do nothing
                    """,
                    new
                    {
                        id,
                        kind,
                        made.Around.MachineId,
                        made.Around.MaterialId,
                        made.Around.ThicknessMm,
                        tag,
                        body = GateJson.Write(made),
                        by,
                        now,
                    },
                    transaction
                );
                if (added == 0)
                    return ((Result<Guid>)id, false);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TestPieceMade,
                    new
                    {
                        piece = id,
                        kind,
                        machine = made.Around.MachineId,
                        material = made.Around.MaterialId,
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (id, true);
            },
            cancel
        );

    /// <summary>
    /// Keeps what was told, once. A setting worth keeping goes into the library with it, tested by this piece.
    /// </summary>
    /// <param name="kept">Null where none is worth keeping, or whoever tells may not add any.</param>
    /// <returns>The entry made; null where none was.</returns>
    public Task<Result<Guid?>> Tell(
        KeptPiece piece,
        PieceTold told,
        SettingValues? kept,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var setting = kept is null ? (Guid?)null : Guid.NewGuid();
                if (kept is not null)
                    await SettingStore.Insert(connection, transaction, setting!.Value, kept, by, now);
                var added = await connection.ExecuteAsync(
                    """
                    insert into bench.test_piece_result (piece_id, cells, setting_id, by, at)
                    values (@Id, @cells::jsonb, @setting, @by, @now) on conflict (piece_id) do nothing
                    """,
                    new
                    {
                        piece.Id,
                        cells = GateJson.Write(told),
                        setting,
                        by,
                        now,
                    },
                    transaction
                );
                if (added == 0)
                    return ((Result<Guid?>)SettingsProblems.TestTold.Refuse(), false);
                // A setting found so was seen to work: it is a test of this machine, material, thickness and operation.
                if (kept is not null)
                    await connection.ExecuteAsync(
                        """
                        insert into bench.test_result (machine_id, material_id, thickness_mm, operation, at)
                        values (@MachineId, @MaterialId, @ThicknessMm, @operation, @now)
                        on conflict (machine_id, material_id, thickness_mm, operation)
                            do update set at = greatest(test_result.at, excluded.at)
                        """,
                        new
                        {
                            kept.MachineId,
                            kept.MaterialId,
                            kept.ThicknessMm,
                            operation = GateWords.Of(kept.Operation),
                            now,
                        },
                        transaction
                    );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TestPieceTold,
                    new
                    {
                        piece = piece.Id,
                        machine = piece.Made.Around.MachineId,
                        setting,
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (setting, true);
            },
            cancel
        );

    private sealed record Row(
        Guid Id,
        int Number,
        string Body,
        SheetTag? Tag,
        PersonId By,
        Instant At,
        string? Told,
        Guid? SettingId,
        PersonId? ToldBy,
        Instant? ToldAt
    )
    {
        public KeptPiece ToPiece() =>
            new(
                Id: Id,
                Number: Number,
                Made: GateJson.Read<MadePiece>(Body),
                SheetTag: Tag,
                By: By,
                At: At,
                Told: Told is null ? null : GateJson.Read<PieceTold>(Told),
                SettingId: SettingId,
                ToldBy: ToldBy,
                ToldAt: ToldAt
            );
    }
}
