using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Materials;

/// <summary>What shall hold for some cells of one material from an instant on.</summary>
/// <param name="Ranges">The ranges of each cell, whole; a cell with none loses its rulings.</param>
public sealed record RulingChange(
    MaterialId MaterialId,
    IReadOnlyList<RulingCell> Cells,
    IReadOnlyList<Ruling> Ranges,
    string Practice,
    LocalDate ReviewBy
)
{
    public IReadOnlyList<Ruling> Of(RulingCell cell) => [.. Ranges.Where(r => RulingCell.Of(r) == cell)];
}

/// <summary>A change of one cell, before and after.</summary>
public sealed record CellChange(RulingCell Cell, IReadOnlyList<Ruling> Before, IReadOnlyList<Ruling> After, RulingDirection Direction);

/// <summary>What a change touches.</summary>
/// <param name="Bookings">Standing bookings with this material on such a machine.</param>
/// <param name="Sheets">Tags of sheets cleared now.</param>
/// <param name="Settings">Machines on which a test piece of it was cut.</param>
public sealed record RulingHits(IReadOnlyList<Guid> Bookings, IReadOnlyList<SheetTag> Sheets, IReadOnlyList<string> Settings);

public sealed record RulingPreview(IReadOnlyList<CellChange> Cells, RulingDirection Direction, RulingHits Hits);

/// <summary>One version of one cell's range, with who set it and why; what nobody changed stood there from the beginning.</summary>
/// <param name="Until">When it stopped holding; null while it holds.</param>
public sealed record RulingVersion(
    Ruling Ruling,
    string Practice,
    LocalDate? ReviewBy,
    Instant From,
    Instant? Until,
    PersonId? ChangedBy,
    string? Why
);

public sealed record RulingProposal(
    Guid Id,
    MaterialId MaterialId,
    RulingChange Change,
    Instant HoldsFrom,
    PersonId ProposedBy,
    string? Why,
    Instant At
);

/// <summary>Rulings as a house changes them. What held stays on record.</summary>
public sealed class RulingStore(NpgsqlDataSource db)
{
    private sealed record Row(
        MaterialId MaterialId,
        string Kind,
        string Operation,
        decimal MinMm,
        decimal? MaxMm,
        string Standing,
        string Evidence,
        string[] Reasons,
        string Hazard,
        string Handling,
        bool FilteredNeedsArrangement,
        string Practice,
        LocalDate? ReviewBy,
        Instant From,
        Instant? Until,
        PersonId? ChangedBy,
        string? Why
    )
    {
        public Ruling Ruling =>
            new(
                MaterialId: MaterialId,
                Kind: Enum.Parse<LaserKind>(Kind, true),
                Operation: Enum.Parse<Operation>(Operation, true),
                MinMm: MinMm,
                MaxMm: MaxMm,
                Standing: Enum.Parse<RulingStatus>(Standing, true),
                Evidence: Enum.Parse<Evidence>(Evidence, true),
                Reasons: Reasons,
                Hazard: Hazard,
                Handling: Handling,
                FilteredNeedsArrangement: FilteredNeedsArrangement
            );
    }

    private const string Columns = """
        select r.material_id, r.kind, r.operation, r.min_mm, r.max_mm, r.standing, r.evidence, r.reasons, r.hazard, r.handling,
            r.filtered_needs_arrangement,
            r.practice, r.review_by, lower(r.held) as "from", upper(r.held) as until, r.changed_by, t.body as why
        from materials.ruling r left join ledger.text t on t.id = r.text_id
        """;

    /// <summary>Every version of a material's rulings that is still believed, oldest first within each cell.</summary>
    public async Task<IReadOnlyList<RulingVersion>> History(MaterialId materialId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        $"{Columns} where r.material_id = @materialId and upper_inf(r.recorded) order by r.kind, r.operation, "
                            + "lower(r.held), r.min_mm",
                        new { materialId },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => new RulingVersion(
                Ruling: r.Ruling,
                Practice: r.Practice,
                ReviewBy: r.ReviewBy,
                From: r.From,
                Until: r.Until,
                ChangedBy: r.ChangedBy,
                Why: r.Why
            )),
        ];
    }

    /// <summary>What a change would do, without doing it.</summary>
    /// <returns>Refused when there is no such material; or why it cannot be.</returns>
    public async Task<Result<RulingPreview>> Preview(RulingChange change, Instant from, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Read(connection, null, change, from, now);
    }

    /// <summary>Puts a change in place where it tightens, and before another pair of eyes where it loosens.</summary>
    /// <param name="version">The material's version that the change was written against.</param>
    /// <returns>The preview, and the proposal's id where one waits; null when there is no such material.</returns>
    public Task<Result<(RulingPreview Preview, Guid? Proposal)>> Change(
        RulingChange change,
        Instant from,
        int version,
        string reason,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var at = await connection.QuerySingleOrDefaultAsync<int?>(
                    "select version from materials.material where id = @MaterialId for update",
                    new { change.MaterialId },
                    transaction
                );
                if (at is null)
                    return ((Result<(RulingPreview Preview, Guid? Proposal)>)CommonProblems.NotFound.Refuse(null, "material"), false);
                if (at != version)
                    return (Stale, false);
                var made = await Put(connection, transaction, change, from, reason, by, now);
                return (made, made.IsOk);
            },
            cancel
        );

    /// <summary>Puts a change in place or before another pair of eyes; the caller holds the material's row locked.</summary>
    internal static async Task<Result<(RulingPreview Preview, Guid? Proposal)>> Put(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RulingChange change,
        Instant from,
        string reason,
        PersonId by,
        Instant now
    )
    {
        var preview = await Read(connection, transaction, change, from, now);
        if (preview.Refusal is { } refusal)
            return refusal;
        if (SameWords.Unchanged(preview.Value.Direction, preview.Value.Cells.Select(c => (c.Before, c.After))) is { } same)
            return same;
        var text = await LedgerStore.Keep(connection, transaction, reason, null);
        if (preview.Value.Direction != RulingDirection.Loosens)
        {
            await Apply(connection, transaction, change, preview.Value, from, by, text, null, now);
            return (preview.Value, (Guid?)null);
        }
        var id = Guid.NewGuid();
        await connection.ExecuteAsync(
            "insert into materials.proposal (id, material_id, change, holds_from, proposed_by, text_id, at) values (@id, "
                + "@MaterialId, @change::jsonb, @from, @by, @text, @now)",
            new
            {
                id,
                change.MaterialId,
                change = GateJson.Write(change),
                from,
                by,
                text = text.Id,
                now,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.RulingProposed,
            new
            {
                proposal = id,
                material = change.MaterialId,
                cells = Cells(change),
                start = Core.Ledger.Chain.Instant(from),
                by = await LedgerStore.Number(connection, transaction, by),
                why = text.InChain,
            }
        );
        return (preview.Value, (Guid?)id);
    }

    /// <summary>Several materials at once, all or none: stricter ones hold, milder ones wait.</summary>
    /// <param name="versions">The materials' versions that the changes were read against.</param>
    /// <param name="reason">Null looks only.</param>
    public Task<Result<IReadOnlyList<(MaterialId MaterialId, RulingPreview Preview)>>> Import(
        IReadOnlyList<RulingChange> changes,
        IReadOnlyDictionary<MaterialId, int> versions,
        string? reason,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                Result<IReadOnlyList<(MaterialId, RulingPreview)>> Refused(Refusal refusal) => refusal;
                var ids = changes.Select(c => c.MaterialId).ToArray();
                var at = (
                    await connection.QueryAsync<(MaterialId Id, int Version)>(
                        "select id, version from materials.material where id = any(@ids) order by id for update",
                        new { ids },
                        transaction
                    )
                ).ToDictionary(m => m.Id, m => m.Version);
                if (ids.Any(i => at.GetValueOrDefault(i) != versions.GetValueOrDefault(i)))
                    return (Refused(Stale), false);
                var made = new List<(MaterialId, RulingPreview)>();
                foreach (var change in changes)
                {
                    var preview = reason is null
                        ? await Read(connection, transaction, change, now, now)
                        : Shown(await Put(connection, transaction, change, now, reason, by, now));
                    if (preview.Refusal is { } refusal)
                        return (Refused(refusal with { Text = $"{change.MaterialId}: {refusal.Text}", Field = "file" }), false);
                    made.Add((change.MaterialId, preview.Value));
                }
                return (made, reason is not null);

                static Result<RulingPreview> Shown(Result<(RulingPreview Preview, Guid? Proposal)> put) =>
                    put.Refusal is { } no ? no : put.Value.Preview;
            },
            cancel
        );

    private static Refusal Stale => CommonProblems.StaleMaterial.Refuse("version");

    /// <summary>Proposals that wait for another pair of eyes, oldest first.</summary>
    public async Task<IReadOnlyList<RulingProposal>> Waiting(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<(
            Guid Id,
            MaterialId Material,
            string Change,
            Instant From,
            PersonId By,
            string? Why,
            Instant At
        )>(
            new CommandDefinition(
                """
                select p.id, p.material_id, p.change::text, p.holds_from, p.proposed_by, t.body, p.at
                from materials.proposal p left join ledger.text t on t.id = p.text_id where p.state = 'waiting' order by p.at
                """,
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r => new RulingProposal(
                Id: r.Id,
                MaterialId: r.Material,
                Change: GateJson.Read<RulingChange>(r.Change),
                HoldsFrom: r.From,
                ProposedBy: r.By,
                Why: r.Why,
                At: r.At
            )),
        ];
    }

    /// <summary>Agrees to, refuses or withdraws a proposal.</summary>
    /// <returns>The new state; null when nothing waits under that id; or why not.</returns>
    public Task<Result<string>> Answer(
        Guid id,
        bool agree,
        string reason,
        PersonId by,
        bool mayRule,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(string Change, Instant From, PersonId By)?>(
                    "select change::text, holds_from, proposed_by from materials.proposal where id = @id and state = 'waiting' for update",
                    new { id },
                    transaction
                );
                if (row is not { } waiting)
                    return ((Result<string>)CommonProblems.NotFound.Refuse(null, "proposal that waits"), false);
                if (agree && RulingChanges.MayAgree(waiting.By, by, mayRule) is { } refusal)
                    return (refusal, false);
                var change = GateJson.Read<RulingChange>(waiting.Change);
                var state =
                    agree ? "agreed"
                    : waiting.By == by ? "withdrawn"
                    : "refused";
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await connection.ExecuteAsync(
                    "update materials.proposal set state = @state, answered_by = @by, answered_at = @now, answer_text_id = @text "
                        + "where id = @id",
                    new
                    {
                        id,
                        state,
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                if (agree)
                {
                    await connection.ExecuteAsync(
                        "select 1 from materials.material where id = @MaterialId for update",
                        new { change.MaterialId },
                        transaction
                    );
                    // It holds from the day proposed, but never from before it was agreed to.
                    var from = Instant.Max(waiting.From, now);
                    var preview = await Read(connection, transaction, change, from, now);
                    if (preview.Refusal is { } no)
                        return (no, false);
                    await Apply(connection, transaction, change, preview.Value, from, waiting.By, text, id, now);
                }
                else
                {
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        state == "refused" ? RecordEvents.RulingRefused : RecordEvents.RulingWithdrawn,
                        new
                        {
                            proposal = id,
                            material = change.MaterialId,
                            by = await LedgerStore.Number(connection, transaction, by),
                            why = text.InChain,
                        }
                    );
                }
                await MessageStore.Tell(
                    connection,
                    transaction,
                    waiting.By,
                    $"ruling.{state}:{id}",
                    agree ? "Your ruling was agreed to" : $"Your ruling was {state}",
                    reason,
                    $"/materials?material={change.MaterialId}",
                    now
                );
                return (state, true);
            },
            cancel
        );

    /// <summary>Rulings whose day of review has come, one row a material.</summary>
    public async Task<IReadOnlyList<(MaterialId MaterialId, string Name, LocalDate ReviewBy)>> Overdue(
        LocalDate today,
        Instant now,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<(string, string, LocalDate)>(
                new CommandDefinition(
                    """
                    select m.id, m.name, min(r.review_by) from materials.ruling r join materials.material m on m.id = r.material_id
                    where r.review_by < @today and r.held @> @now and upper_inf(r.recorded) group by m.id, m.name, m.position order by 3,
                        m.position
                    """,
                    new { today, now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private static async Task<Result<RulingPreview>> Read(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        RulingChange change,
        Instant from,
        Instant now
    )
    {
        if (
            !await connection.ExecuteScalarAsync<bool>(
                "select exists (select from materials.material where id = @MaterialId)",
                new { change.MaterialId },
                transaction
            )
        )
            return CommonProblems.NotFound.Refuse(null, "material");
        var before = (
            await connection.QueryAsync<Row>(
                $"{Columns} where r.material_id = @MaterialId and r.held @> @from and upper_inf(r.recorded)",
                new { change.MaterialId, from },
                transaction
            )
        )
            .Select(r => r.Ruling)
            .ToLookup(RulingCell.Of);
        var cells = new List<CellChange>();
        foreach (var cell in change.Cells)
        {
            var (was, becomes) = ((IReadOnlyList<Ruling>)[.. before[cell]], change.Of(cell));
            if (RulingChanges.Check(becomes) is [{ } wrong, ..])
                return wrong;
            if (RulingChanges.Loosened(was, becomes) is { } never)
                return never;
            if (
                change.MaterialId == RulingChanges.PolycarbonateId
                && RulingChanges.Polycarbonate(change.MaterialId, becomes, await OffersPolycarbonate(connection, transaction, now))
                    is { } notOffered
            )
                return notOffered;
            cells.Add(new CellChange(cell, was, becomes, RulingChanges.Direction(was, becomes)));
        }
        return new RulingPreview(
            cells,
            RulingChanges.Together(cells.Select(c => c.Direction)),
            await Hits(connection, transaction, change, now)
        );
    }

    private static async Task<bool> OffersPolycarbonate(NpgsqlConnection connection, NpgsqlTransaction? transaction, Instant now)
    {
        var rules = await connection.QuerySingleOrDefaultAsync<string>(
            "select body::text from house.rules where held @> @now and upper_inf(recorded)",
            new { now },
            transaction
        );
        return rules is not null && GateJson.Read<Core.House.HouseRules>(rules).PolycarbonateOffered;
    }

    private static async Task<RulingHits> Hits(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        RulingChange change,
        Instant now
    )
    {
        var parameters = new
        {
            change.MaterialId,
            now,
            kinds = change.Cells.Select(c => GateWords.Of(c.Kind)).Distinct().ToArray(),
            item = $$"""[{"materialId":"{{change.MaterialId}}"}]""",
        };
        using var rows = await connection.QueryMultipleAsync(
            """
            select b.id from booking.booking b join house.machine m on m.id = b.machine_id
                where b.cancelled_at is null and upper(b.during) > @now and b.ask -> 'items' @> @item::jsonb
                    and m.spec ->> 'kind' = any(@kinds) order by lower(b.during);
            select distinct s.tag from materials.sheet s join materials.clearance c on c.tag = s.tag
                where s.material_id = @MaterialId and c.held @> @now and upper_inf(c.recorded) order by 1;
            select distinct t.machine_id from bench.test_result t join house.machine m on m.id = t.machine_id
                where t.material_id = @MaterialId and m.spec ->> 'kind' = any(@kinds) order by 1;
            """,
            parameters,
            transaction
        );
        return new RulingHits([.. await rows.ReadAsync<Guid>()], [.. await rows.ReadAsync<string>()], [.. await rows.ReadAsync<string>()]);
    }

    /// <summary>
    /// What held before the instant stays as it was; from it on the new ranges hold, and what was planned for later goes.
    /// </summary>
    private static async Task Apply(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RulingChange change,
        RulingPreview preview,
        Instant from,
        PersonId by,
        TextLink text,
        Guid? proposal,
        Instant now
    )
    {
        foreach (var cell in change.Cells)
        {
            var key = new
            {
                change.MaterialId,
                kind = GateWords.Of(cell.Kind),
                operation = GateWords.Of(cell.Operation),
                from,
                now,
            };
            await connection.ExecuteAsync(
                Dated.End(
                    "materials.ruling",
                    "material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling, "
                        + "filtered_needs_arrangement, practice, review_by, owner_id, changed_by, text_id",
                    "material_id = @MaterialId and kind = @kind and operation = @operation and held && tstzrange(@from, null)",
                    at: "@from"
                ),
                key,
                transaction
            );
            foreach (var r in change.Of(cell))
            {
                await connection.ExecuteAsync(
                    """
                    insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard,
                        handling, filtered_needs_arrangement,
                        practice, review_by, owner_id, changed_by, text_id, held, recorded)
                    values (@MaterialId, @kind, @operation, @MinMm, @MaxMm, @standing, @evidence, @reasons, @Hazard, @Handling,
                        @FilteredNeedsArrangement,
                        @Practice, @ReviewBy, @by, @by, @text, tstzrange(@from, null), tstzrange(@now, null))
                    """,
                    new
                    {
                        key.MaterialId,
                        key.kind,
                        key.operation,
                        r.MinMm,
                        r.MaxMm,
                        standing = GateWords.Of(r.Standing),
                        evidence = GateWords.Of(r.Evidence),
                        reasons = r.Reasons.ToArray(),
                        r.Hazard,
                        r.Handling,
                        r.FilteredNeedsArrangement,
                        change.Practice,
                        change.ReviewBy,
                        by,
                        text = text.Id,
                        from,
                        now,
                    },
                    transaction
                );
            }
        }
        await connection.ExecuteAsync(
            "update materials.material set version = version + 1 where id = @MaterialId",
            new { change.MaterialId },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.RulingChanged,
            new
            {
                material = change.MaterialId,
                cells = Cells(change),
                direction = GateWords.Of(preview.Direction),
                proposal,
                start = Core.Ledger.Chain.Instant(from),
                by = await LedgerStore.Number(connection, transaction, by),
                why = text.InChain,
            }
        );
    }

    private static IEnumerable<string> Cells(RulingChange change) =>
        change.Cells.Select(c => $"{GateWords.Of(c.Kind)}/{GateWords.Of(c.Operation)}");
}

/// <summary>Names of enum values as the database and the API write them.</summary>
internal static class GateWords
{
    public static string Of<T>(T value)
        where T : struct, Enum => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
