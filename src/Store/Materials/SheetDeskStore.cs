using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Materials;

/// <summary>Sheets from the door to the bin.</summary>
public sealed class SheetDeskStore(NpgsqlDataSource db)
{
    private const string Columns = """
        select s.tag, s.material_id, m.name as material_name, s.thickness_mm, s.width_mm, s.height_mm, s.supplier, s.batch, s.source,
            s.parent_tag, s.brought_by, s.state,
            exists (select from materials.quarantine q where q.tag = s.tag and coalesce(upper(q.held) > @now, true)
                and upper_inf(q.recorded)) as quarantined,
            t.body as note, s.state_at, s.state_by, s.registered_at, coalesce(c.operations, '{}') as operations,
                coalesce(c.machine_ids, '{}') as machine_ids,
            lower(c.held) as cleared_from, upper(c.held) as cleared_until, s.version
        from materials.sheet s join materials.material m on m.id = s.material_id
            left join ledger.text t on t.id = s.state_text_id
            left join materials.clearance c on c.tag = s.tag and c.held @> @now and upper_inf(c.recorded)
        """;

    public async Task<IReadOnlyList<SheetCard>> All(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<SheetCard>(
                new CommandDefinition($"{Columns} order by s.tag", new { now }, cancellationToken: cancel)
            ),
        ];
    }

    /// <returns>Null when there is no such sheet.</returns>
    public async Task<SheetCard?> Find(SheetTag tag, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Find(connection, null, tag, now, lockIt: false);
    }

    /// <summary>Tags of the same sheet and batch, its own left out.</summary>
    public async Task<IReadOnlyList<SheetTag>> Family(SheetTag tag, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<SheetTag>(new CommandDefinition(SheetRows.FamilySql, new { tag }, cancellationToken: cancel))
            ).Where(t => t != tag),
        ];
    }

    /// <summary>Registers sheets, each with a tag of its own, all or none.</summary>
    /// <returns>Their tags, or why not.</returns>
    public Task<Result<IReadOnlyList<SheetTag>>> Register(
        IReadOnlyList<NewSheet> sheets,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var made = await Register(connection, transaction, sheets, by, now);
                return (made, made.Refusal is null);
            },
            cancel
        );

    internal static async Task<Result<IReadOnlyList<SheetTag>>> Register(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<NewSheet> sheets,
        PersonId by,
        Instant now
    )
    {
        var materials = sheets.Select(s => s.MaterialId).Distinct().ToArray();
        if (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from materials.material where id = any(@materials)",
                new { materials },
                transaction
            ) != materials.Length
        )
            return MaterialsProblems.SheetMaterial.Refuse("materialId");
        var all = new List<SheetTag>();
        foreach (var sheet in sheets)
        {
            var tags = (
                await connection.QueryAsync<long>(
                    "select nextval('materials.tag_number') from generate_series(1, @Count)",
                    new { sheet.Count },
                    transaction
                )
            )
                .Select(SheetTags.Of)
                .ToArray();
            await connection.ExecuteAsync(
                """
                insert into materials.sheet (tag, material_id, thickness_mm, width_mm, height_mm, source, supplier, batch, brought_by,
                    registered_by, registered_at)
                select t, @MaterialId, @ThicknessMm, @WidthMm, @HeightMm, '', @Supplier, @Batch, @BroughtBy, @by, @now from unnest(@tags) t
                """,
                new
                {
                    tags,
                    sheet.MaterialId,
                    sheet.ThicknessMm,
                    sheet.WidthMm,
                    sheet.HeightMm,
                    sheet.Supplier,
                    sheet.Batch,
                    sheet.BroughtBy,
                    by,
                    now,
                },
                transaction
            );
            all.AddRange(tags);
        }
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.SheetRegistered,
            new
            {
                tags = all,
                materials,
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
        return all;
    }

    /// <summary>Adds a file of evidence; the same file twice is one.</summary>
    /// <returns>Its id; null when there is no such sheet; or why not.</returns>
    public Task<Result<Guid>> AddEvidence(
        SheetTag tag,
        string name,
        string mediaType,
        byte[] bytes,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, tag, now, lockIt: true) is null)
                    return ((Result<Guid>)CommonProblems.NotFound.Refuse(null, "sheet"), false);
                var sha256 = Convert.ToHexStringLower(SHA256.HashData(bytes));
                var have = (
                    await connection.QueryAsync<(Guid Id, string Sha256)>(
                        "select id, sha256 from materials.evidence where tag = @tag",
                        new { tag },
                        transaction
                    )
                ).ToList();
                if (have.FirstOrDefault(h => h.Sha256 == sha256) is { Sha256: not null } same)
                    return (same.Id, false);
                if (SheetDesk.MayKeepFile(have.Count) is { } full)
                    return (full, false);
                var id = Guid.NewGuid();
                await connection.ExecuteAsync(
                    """
                    insert into bench.file (sha256, media_type, length, bytes) values (@sha256, @mediaType, @length, @bytes)
                        on conflict do nothing;
                    insert into materials.evidence (id, tag, name, sha256, added_by, at) values (@id, @tag, @name, @sha256, @by, @now);
                    """,
                    new
                    {
                        sha256,
                        mediaType,
                        length = bytes.LongLength,
                        bytes,
                        id,
                        tag,
                        name,
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.SheetEvidence,
                    new
                    {
                        tag,
                        sha256,
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (id, true);
            },
            cancel
        );

    public async Task<IReadOnlyList<EvidenceFile>> Evidence(SheetTag tag, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<EvidenceFile>(
                new CommandDefinition(
                    "select e.id, e.name, f.media_type, f.length, e.added_by, e.at from materials.evidence e join bench.file f on "
                        + "f.sha256 = e.sha256 where e.tag = @tag order by e.at",
                    new { tag },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <returns>Null when the sheet has no such file.</returns>
    public async Task<(string Name, string MediaType, byte[] Bytes)?> EvidenceBytes(SheetTag tag, Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(string, string, byte[])?>(
            new CommandDefinition(
                "select e.name, f.media_type, f.bytes from materials.evidence e join bench.file f on f.sha256 = e.sha256 where "
                    + "e.tag = @tag and e.id = @id",
                new { tag, id },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Clears a sheet, or all of its batch that wait, on what a steward saw.</summary>
    /// <returns>Tags cleared; null when there is no such sheet; or why not.</returns>
    public Task<Result<IReadOnlyList<SheetTag>>> Clear(
        SheetTag tag,
        Clearing clearing,
        bool wholeBatch,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var cleared = await Clear(connection, transaction, tag, clearing, wholeBatch, by, now);
                return (cleared, cleared is { Refusal: null });
            },
            cancel
        );

    internal static async Task<Result<IReadOnlyList<SheetTag>>> Clear(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        SheetTag tag,
        Clearing clearing,
        bool wholeBatch,
        PersonId by,
        Instant now
    )
    {
        if (wholeBatch)
            await connection.ExecuteAsync(
                "select 1 from materials.sheet s join materials.sheet own on own.tag = @tag and own.batch <> '' where s.batch = "
                    + "own.batch and s.material_id = own.material_id order by s.tag for update of s",
                new { tag },
                transaction
            );
        if (await Find(connection, transaction, tag, now, lockIt: true) is not { } sheet)
            return CommonProblems.NotFound.Refuse(null, "sheet");
        var (operations, machineIds, until, seen) = clearing;
        var standings = await Standings(connection, transaction, sheet, operations, machineIds, now);
        if (SheetDesk.MayClear(sheet.BroughtBy, by, Enum.Parse<SheetState>(sheet.State, true), sheet.Quarantined, standings) is { } refusal)
            return refusal;
        var tags = wholeBatch && sheet.Batch.Length > 0 ? (
                    await connection.QueryAsync<SheetTag>(
                        """
                        select tag from materials.sheet s where material_id = @MaterialId and batch = @Batch
                            and thickness_mm = @ThicknessMm and state in ('waiting', 'moreWanted', 'recheck')
                            and brought_by is not distinct from @BroughtBy
                            and not exists (select from materials.quarantine q where q.tag = s.tag
                                and coalesce(upper(q.held) > @now, true) and upper_inf(q.recorded)) order by tag
                        """,
                        new
                        {
                            sheet.MaterialId,
                            sheet.Batch,
                            sheet.ThicknessMm,
                            sheet.BroughtBy,
                            now,
                        },
                        transaction
                    )
                ).Append(tag).Distinct().OrderBy(t => t.Value, StringComparer.Ordinal).ToArray() : [tag];
        var text = await LedgerStore.Keep(connection, transaction, seen, sheet.BroughtBy);
        await SheetRows.EndClearances(connection, transaction, tags, now);
        await connection.ExecuteAsync(
            """
            insert into materials.clearance (tag, operations, machine_ids, held, recorded, cleared_by, text_id)
            select t, @operations, @machines, tstzrange(@now, @until), tstzrange(@now, null), @by, @text from unnest(@tags) t;
            update materials.sheet set state = 'cleared', state_by = @by, state_at = @now, state_text_id = @text, version = version + 1
                where tag = any(@tags);
            """,
            new
            {
                tags,
                operations = operations.Select(GateWords.Of).ToArray(),
                machines = machineIds.ToArray(),
                now,
                until,
                by,
                text = text.Id,
            },
            transaction
        );
        await Tell(connection, transaction, sheet, "cleared", $"Sheet {tag} is cleared", seen, now);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.SheetCleared,
            new
            {
                tags,
                operations = operations.Select(GateWords.Of),
                machines = machineIds,
                until = Core.Ledger.Chain.Instant(until),
                by = await LedgerStore.Number(connection, transaction, by),
                seen = text.InChain,
            }
        );
        return tags;
    }

    /// <summary>Asks for more, refuses into quarantine, ends a quarantine, or retires a sheet that is used up.</summary>
    /// <returns>Refused when there is no such sheet; or why not.</returns>
    public Task<Result<bool>> Move(SheetTag tag, SheetState state, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, tag, now, lockIt: true) is not { } sheet)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "sheet"), false);
                var has = sheet.State == "retired" ? SheetState.Retired : SheetState.Waiting;
                if (SheetDesk.MayMove(sheet.BroughtBy, by, has, state) is { } refusal)
                    return (refusal, false);
                if (state == SheetState.Waiting && await SheetRows.HeldBy(connection, transaction, tag, now) is { } incident)
                    return (MaterialsProblems.SheetIncident.Refuse(null, incident), false);
                var text = await LedgerStore.Keep(connection, transaction, reason, sheet.BroughtBy);
                SheetTag[] tags = [tag];
                if (state == SheetState.Waiting)
                    await SheetRows.EndQuarantine(connection, transaction, tag, now);
                else
                    await SheetRows.EndClearances(connection, transaction, tags, now);
                if (state == SheetState.Refused)
                    await SheetRows.Quarantine(connection, transaction, tags, by, text, now);
                await connection.ExecuteAsync(
                    "update materials.sheet set state = @state, state_by = @by, state_at = @now, state_text_id = @text, version = "
                        + "version + 1 where tag = @tag",
                    new
                    {
                        tag,
                        state = GateWords.Of(state),
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                var (kind, title) = state switch
                {
                    SheetState.MoreWanted => (RecordEvents.SheetMoreWanted, $"More is wanted to clear sheet {tag}"),
                    SheetState.Refused => (RecordEvents.SheetRefused, $"Sheet {tag} is refused"),
                    SheetState.Waiting => (RecordEvents.SheetReleased, $"The quarantine of sheet {tag} ended"),
                    _ => (RecordEvents.SheetRetired, ""),
                };
                if (state != SheetState.Retired)
                    await Tell(connection, transaction, sheet, GateWords.Of(state), title, reason, now);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    kind,
                    new
                    {
                        tags,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>An offcut inherits tag, material and clearance, with its own size.</summary>
    /// <returns>Its tag; null when there is no such sheet; or why not.</returns>
    public Task<Result<SheetTag>> CutOff(
        SheetTag tag,
        decimal widthMm,
        decimal heightMm,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, tag, now, lockIt: true) is not { } sheet)
                    return ((Result<SheetTag>)CommonProblems.NotFound.Refuse(null, "sheet"), false);
                if (
                    SheetDesk.MayCutOff(
                        Enum.Parse<SheetState>(sheet.State, true),
                        sheet.Quarantined,
                        sheet.WidthMm,
                        sheet.HeightMm,
                        widthMm,
                        heightMm
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                var root = SheetTags.Root(tag);
                // The whole sheet's row is the counter of its pieces: two offcuts at once get two numbers.
                await connection.ExecuteAsync("select 1 from materials.sheet where tag = @root for update", new { root }, transaction);
                var next =
                    1
                    + await connection.ExecuteScalarAsync<int>(
                        "select coalesce(max(split_part(tag, '-', 3)::int), 0) from materials.sheet where tag like @root || '-%'",
                        new { root },
                        transaction
                    );
                SheetTag piece = $"{root}-{next}";
                await connection.ExecuteAsync(
                    """
                    insert into materials.sheet (tag, material_id, thickness_mm, width_mm, height_mm, source, supplier, batch, parent_tag,
                        brought_by, registered_by, registered_at, state, state_by, state_at, state_text_id)
                    select @piece, material_id, thickness_mm, @widthMm, @heightMm, source, supplier, batch, @tag, brought_by, @by, @now,
                        state, state_by, state_at, state_text_id from materials.sheet where tag = @tag;
                    insert into materials.clearance (tag, operations, machine_ids, held, recorded, cleared_by, text_id)
                    select @piece, operations, machine_ids, held * tstzrange(@now, null), tstzrange(@now, null), cleared_by, text_id
                        from materials.clearance
                        where tag = @tag and upper_inf(recorded) and held && tstzrange(@now, null);
                    """,
                    new
                    {
                        piece,
                        tag,
                        widthMm,
                        heightMm,
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.SheetOffcut,
                    new
                    {
                        tag = piece,
                        parent = tag,
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (piece, true);
            },
            cancel
        );

    /// <summary>Anyone may report a sheet: all that may be the same stuff is put away at once.</summary>
    /// <returns>Refused when there is no such sheet.</returns>
    public Task<Result<ReportHits>> Report(SheetTag tag, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, tag, now, lockIt: true) is not { } sheet)
                    return ((Result<ReportHits>)CommonProblems.NotFound.Refuse(null, "sheet"), false);
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730022, hashtext(@by))", new { by }, transaction);
                var (standing, today) = await connection.QuerySingleAsync<(bool Standing, int Today)>(
                    """
                    select exists (select from materials.quarantine where tag = @tag and set_by = @by and upper_inf(recorded)
                        and held @> @now),
                        (select count(distinct text_id)::int from materials.quarantine where set_by = @by and lower(held) > @since)
                    """,
                    new
                    {
                        tag,
                        by,
                        now,
                        since = now - Duration.FromDays(1),
                    },
                    transaction
                );
                if (StopLimits.MayReport(standing, today) is { } refusal)
                    return ((Result<ReportHits>)refusal, false);
                var family = (await connection.QueryAsync<SheetTag>(SheetRows.FamilySql, new { tag }, transaction)).ToArray();
                await connection.ExecuteAsync(
                    "select 1 from materials.sheet where tag = any(@family) order by tag for update",
                    new { family },
                    transaction
                );
                var recheck = (
                    await connection.QueryAsync<SheetTag>(
                        """
                        select distinct s.tag from materials.sheet s join materials.clearance c on c.tag = s.tag
                            join materials.evidence e on e.tag = s.tag
                        where e.sha256 in (select sha256 from materials.evidence where tag = any(@family)) and s.tag <> all(@family)
                            and c.held @> @now and upper_inf(c.recorded) order by 1
                        """,
                        new { family, now },
                        transaction
                    )
                ).ToArray();
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await SheetRows.EndClearances(connection, transaction, [.. family, .. recheck], now);
                await SheetRows.Quarantine(connection, transaction, family, by, text, now);
                await connection.ExecuteAsync(
                    """
                    update materials.sheet set state = 'recheck', state_by = @by, state_at = @now, state_text_id = @text,
                        version = version + 1
                    where tag = any(@all) and state not in ('retired', 'refused')
                    """,
                    new
                    {
                        all = family.Concat(recheck).ToArray(),
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                var hits = await SheetRows.Hits(connection, transaction, family, recheck, now);
                await Tell(connection, transaction, sheet, "reported", $"Sheet {tag} was reported and put away", reason, now);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.SheetReported,
                    new
                    {
                        tag,
                        tags = family,
                        recheck,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                await HouseStore.TellStewards(
                    connection,
                    transaction,
                    by,
                    $"sheet.reported:{text.Id}",
                    $"Sheet {tag} was reported",
                    reason,
                    $"/sheets/{tag}",
                    now
                );
                return ((Result<ReportHits>)hits, true);
            },
            cancel
        );

    private static async Task<SheetCard?> Find(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        SheetTag tag,
        Instant now,
        bool lockIt
    )
    {
        // Locked by a statement of its own: the one that reads begins after the lock, and so sees what the holder before did to other
        // tables.
        if (lockIt)
            await connection.ExecuteAsync("select 1 from materials.sheet where tag = @tag for update", new { tag }, transaction);
        return await connection.QuerySingleOrDefaultAsync<SheetCard?>($"{Columns} where s.tag = @tag", new { tag, now }, transaction);
    }

    private static async Task<List<RulingStatus>> Standings(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        SheetCard sheet,
        IReadOnlyList<Operation> operations,
        IReadOnlyList<MachineId> machineIds,
        Instant now
    ) =>
        [
            .. (
                await connection.QueryAsync<string>(
                    """
                    select distinct r.standing from materials.ruling r
                    where r.material_id = @MaterialId and r.operation = any(@operations) and r.held @> @now and upper_inf(r.recorded)
                        and @ThicknessMm >= r.min_mm and (r.max_mm is null or @ThicknessMm <= r.max_mm)
                        and r.kind in (select spec ->> 'kind' from house.machine where cardinality(@machines) = 0 or id = any(@machines))
                    """,
                    new
                    {
                        sheet.MaterialId,
                        sheet.ThicknessMm,
                        operations = operations.Select(GateWords.Of).ToArray(),
                        machines = machineIds.ToArray(),
                        now,
                    },
                    transaction
                )
            ).Select(s => Enum.Parse<RulingStatus>(s, true)),
        ];

    private static async Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        SheetCard sheet,
        string what,
        string title,
        string body,
        Instant now
    )
    {
        if (sheet.BroughtBy is { } person)
            await MessageStore.Tell(
                connection,
                transaction,
                person,
                $"sheet.{what}:{sheet.Tag}:{Core.Ledger.Chain.Instant(now)}",
                title,
                body,
                $"/sheets/{sheet.Tag}",
                now
            );
    }
}
