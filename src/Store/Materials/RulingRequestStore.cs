using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Materials;

/// <param name="State">waiting, known, added, cleared, refused or withdrawn.</param>
/// <param name="SheetTag">The one sheet that was cleared.</param>
/// <param name="Note">What the person wrote; gone once erased.</param>
public sealed record RulingRequest(
    Guid Id,
    PersonId PersonId,
    string Name,
    string Supplier,
    string Link,
    string? Note,
    string? FileName,
    Instant At,
    string State,
    MaterialId? MaterialId,
    SheetTag? SheetTag,
    Instant? AnsweredAt,
    string? Answer
);

/// <summary>A new material as a steward answers with it.</summary>
public sealed record NewMaterial(
    string Name,
    string Family,
    RulingStatus Standing,
    IReadOnlyList<string> Reasons,
    string Hazard,
    LocalDate ReviewBy
);

/// <summary>An answer to a request.</summary>
/// <param name="KnownAs">For <see cref="RequestAnswer.Known"/>: the material it is.</param>
/// <param name="Added">For <see cref="RequestAnswer.Added"/>: shut at once, or by arrangement before another pair of eyes.</param>
/// <param name="Sheet">For <see cref="RequestAnswer.Cleared"/>: the sheet, and what it is cleared for.</param>
/// <param name="Reason">What the person is told.</param>
public sealed record AnswerToRequest(
    RequestAnswer Kind,
    string Reason,
    MaterialId? KnownAs = null,
    NewMaterial? Added = null,
    (NewSheet Sheet, Clearing For)? Sheet = null
);

/// <summary>Requests for rulings on what is not on the list.</summary>
public sealed class RulingRequestStore(NpgsqlDataSource db)
{
    private const string Columns = """
        select r.id, r.person_id, r.name, r.supplier, r.link, n.body as note, r.file_name, r.at, r.state, r.material_id, r.sheet_tag,
            r.answered_at, a.body as answer
        from materials.request r left join ledger.text n on n.id = r.text_id left join ledger.text a on a.id = r.answer_text_id
        """;

    /// <returns>Its id, or why not.</returns>
    public Task<Result<Guid>> Add(
        PersonId personId,
        string name,
        string supplier,
        string link,
        string? note,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // The person's row is the lock under which their open requests are counted.
                await connection.ExecuteAsync("select 1 from people.person where id = @personId for update", new { personId }, transaction);
                var open = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from materials.request where person_id = @personId and state = 'waiting'",
                    new { personId },
                    transaction
                );
                if (RulingRequests.MayAsk(open) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                var id = Guid.NewGuid();
                var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note, personId);
                await connection.ExecuteAsync(
                    "insert into materials.request (id, person_id, name, supplier, link, text_id, at) values (@id, @personId, "
                        + "@name, @supplier, @link, @text, @now)",
                    new
                    {
                        id,
                        personId,
                        name,
                        supplier,
                        link,
                        text = text?.Id,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.RulingRequested,
                    new { request = id, by = await LedgerStore.Number(connection, transaction, personId) }
                );
                return (id, true);
            },
            cancel
        );

    /// <summary>Keeps a data sheet with a request that waits.</summary>
    /// <returns>False when there is none of this person's.</returns>
    public Task<bool> Attach(Guid id, PersonId personId, string name, string mediaType, byte[] bytes, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var sha256 = Convert.ToHexStringLower(SHA256.HashData(bytes));
                await connection.ExecuteAsync(
                    "insert into bench.file (sha256, media_type, length, bytes) values (@sha256, @mediaType, @length, @bytes) on "
                        + "conflict do nothing",
                    new
                    {
                        sha256,
                        mediaType,
                        length = bytes.LongLength,
                        bytes,
                    },
                    transaction
                );
                var kept =
                    await connection.ExecuteAsync(
                        "update materials.request set file_name = @name, sha256 = @sha256 where id = @id and person_id = @personId "
                            + "and state = 'waiting'",
                        new
                        {
                            id,
                            personId,
                            name,
                            sha256,
                        },
                        transaction
                    ) == 1;
                return (kept, kept);
            },
            cancel
        );

    /// <returns>Null when the request has no file.</returns>
    public async Task<(string Name, string MediaType, byte[] Bytes)?> File(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(string, string, byte[])?>(
            new CommandDefinition(
                "select r.file_name, f.media_type, f.bytes from materials.request r join bench.file f on f.sha256 = r.sha256 where "
                    + "r.id = @id",
                new { id },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Those that wait, and this person's own, oldest first.</summary>
    /// <param name="everybodys">Stewards see whatever waits.</param>
    public async Task<IReadOnlyList<RulingRequest>> List(PersonId personId, bool everybodys, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<RulingRequest>(
                new CommandDefinition(
                    $"{Columns} where r.person_id = @personId or (@everybodys and r.state = 'waiting') order by r.state <> 'waiting', r.at",
                    new { personId, everybodys },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <returns>Null when there is no such request.</returns>
    public async Task<RulingRequest?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<RulingRequest>(
            new CommandDefinition($"{Columns} where r.id = @id", new { id }, cancellationToken: cancel)
        );
    }

    /// <returns>False when it is not the person's own, or no longer waits.</returns>
    public Task<bool> Withdraw(Guid id, PersonId personId, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var done =
                    await connection.ExecuteAsync(
                        "update materials.request set state = 'withdrawn' where id = @id and person_id = @personId and state = 'waiting'",
                        new { id, personId },
                        transaction
                    ) == 1;
                if (done)
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.RulingAnswered,
                        new
                        {
                            request = id,
                            state = "withdrawn",
                            by = await LedgerStore.Number(connection, transaction, personId),
                        }
                    );
                return (done, done);
            },
            cancel
        );

    /// <summary>Answers a request: it is a known material, it comes on the list, this one sheet may be used, or it stays out.</summary>
    /// <returns>The material, if any; null when nothing waits under that id; or why not.</returns>
    public Task<Result<MaterialId?>> Answer(Guid id, AnswerToRequest answer, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(PersonId Person, string Name)?>(
                    "select person_id, name from materials.request where id = @id and state = 'waiting' for update",
                    new { id },
                    transaction
                );
                if (row is not { } request)
                    return ((Result<MaterialId?>)CommonProblems.NotFound.Refuse(null, "request that waits"), false);
                if (RulingRequests.MayAnswer(request.Person, by) is { } self)
                    return (self, false);
                SheetTag? tag = null;
                Result<MaterialId?> done = answer.Kind switch
                {
                    RequestAnswer.Known => await NameKnown(connection, transaction, request.Name, answer.KnownAs!.Value),
                    RequestAnswer.Added => await AddMaterial(connection, transaction, answer.Added!, answer.Reason, by, now),
                    RequestAnswer.Cleared => answer.Sheet!.Value.Sheet.MaterialId,
                    _ => (MaterialId?)null,
                };
                if (answer.Kind == RequestAnswer.Cleared)
                {
                    var cleared = await ClearSheet(
                        connection,
                        transaction,
                        id,
                        answer.Sheet!.Value.Sheet with
                        {
                            BroughtBy = request.Person,
                        },
                        answer.Sheet.Value.For,
                        by,
                        now
                    );
                    if (cleared.Refusal is { } no)
                        return (no, false);
                    tag = cleared.Value;
                }
                if (done.Refusal is { } refusal)
                    return (refusal, false);
                var material = done.Value;
                var text = await LedgerStore.Keep(connection, transaction, answer.Reason, request.Person);
                var state = GateWords.Of(answer.Kind);
                await connection.ExecuteAsync(
                    "update materials.request set state = @state, material_id = @material, sheet_tag = @tag, answered_by = @by, "
                        + "answered_at = @now, answer_text_id = @text where id = @id",
                    new
                    {
                        id,
                        state,
                        material,
                        tag,
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                var title = answer.Kind switch
                {
                    RequestAnswer.Known => $"“{request.Name}” is on the list already",
                    RequestAnswer.Added => $"“{request.Name}” came on the list",
                    RequestAnswer.Cleared => $"“{request.Name}” may be used: sheet {tag}",
                    _ => $"“{request.Name}” stays out",
                };
                var link =
                    tag is not null ? $"/sheets/{tag}"
                    : material is not null ? $"/materials/{material}"
                    : "/materials/requests";
                await MessageStore.Tell(connection, transaction, request.Person, $"request.{state}:{id}", title, answer.Reason, link, now);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.RulingAnswered,
                    new
                    {
                        request = id,
                        state,
                        material,
                        tag,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (material, true);
            },
            cancel
        );

    private static async Task<Result<MaterialId?>> NameKnown(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string name,
        MaterialId knownAs
    )
    {
        var known = await connection.ExecuteAsync(
            "update materials.material set synonyms = array_append(synonyms, @name), version = version + 1 where id = @knownAs and "
                + "not (@name = any(synonyms)) and lower(material.name) <> lower(@name)",
            new { name, knownAs },
            transaction
        );
        if (
            known == 0
            && !await connection.ExecuteScalarAsync<bool>(
                "select exists (select from materials.material where id = @knownAs)",
                new { knownAs },
                transaction
            )
        )
            return MaterialsProblems.RequestMaterial.Refuse("materialId");
        return knownAs;
    }

    /// <summary>Gives what was asked for a tag and clears it, on the data sheet that came with the request.</summary>
    private static async Task<Result<SheetTag>> ClearSheet(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid request,
        NewSheet sheet,
        Clearing clearing,
        PersonId by,
        Instant now
    )
    {
        var made = await SheetDeskStore.Register(connection, transaction, [sheet], by, now);
        if (made.Refusal is { } refusal)
            return refusal;
        var tag = made.Value[0];
        await connection.ExecuteAsync(
            "insert into materials.evidence (id, tag, name, sha256, added_by, at) select gen_random_uuid(), @tag, file_name, "
                + "sha256, person_id, @now from materials.request where id = @request and sha256 is not null",
            new
            {
                tag,
                request,
                now,
            },
            transaction
        );
        var cleared = await SheetDeskStore.Clear(connection, transaction, tag, clearing, wholeBatch: false, by, now);
        return cleared is { Refusal: { } no } ? no : tag;
    }

    private static async Task<Result<MaterialId?>> AddMaterial(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        NewMaterial added,
        string reason,
        PersonId by,
        Instant now
    )
    {
        var named = RulingRequests.Named(added.Name);
        if (named.Refusal is { } nameless)
            return nameless;
        var id = named.Value;
        var made = await connection.ExecuteAsync(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
            values (@id, @Name, @Family, '{}', 1, false, (select coalesce(max(position), 0) + 1 from materials.material))
                on conflict do nothing
            """,
            new
            {
                id,
                added.Name,
                added.Family,
            },
            transaction
        );
        if (made == 0)
            return MaterialsProblems.RequestNameTaken.Refuse("name");
        var ranges = RulingRequests.Everywhere(id, added.Standing, added.Reasons, added.Hazard);
        var put = await RulingStore.Put(
            connection,
            transaction,
            new RulingChange(id, [.. ranges.Select(RulingCell.Of)], ranges, "", added.ReviewBy),
            now,
            reason,
            by,
            now
        );
        return put.Refusal is { } refusal ? refusal : id;
    }
}
