using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Drawings;

/// <param name="Summary">With its own colours.</param>
public sealed record KeptDrawing(
    Guid Id,
    PersonId PersonId,
    string Name,
    string Sha256,
    DrawingSummary Summary,
    Instant At,
    IReadOnlyList<Clamp> Clamps
);

/// <summary>Drawings and their files.</summary>
public sealed class DrawingStore(NpgsqlDataSource db)
{
    /// <summary>A drawing's summary with its own colours in it, as <see cref="DrawingSummary"/> is read.</summary>
    internal const string WholeSummary =
        "(case when colours = '{}' then summary else summary || jsonb_build_object('own', jsonb_build_object('strokes', colours)) "
        + "end)::text";

    private const string Columns =
        $"select id, person_id, name, sha256, {WholeSummary} as summary, at, clamps::text as clamps from bench.drawing";

    private const string NamedAhead = """
        select exists (select from booking.booking b where b.cancelled_at is null and upper(b.during) > @now
            and position(@id::text in b.ask::text) > 0)
            or exists (select from gate.ask a join gate.decision d on d.id = a.decision_id where a.state = 'waiting'
                and upper(a.during) > @now and position(@id::text in d.ask) > 0)
        """;

    private sealed record Row(Guid Id, PersonId PersonId, string Name, string Sha256, string Summary, Instant At, string Clamps)
    {
        public KeptDrawing ToDrawing() =>
            new(
                Id: Id,
                PersonId: PersonId,
                Name: Name,
                Sha256: Sha256,
                Summary: GateJson.Read<DrawingSummary>(Summary),
                At: At,
                Clamps: GateJson.Read<IReadOnlyList<Clamp>>(Clamps)
            );
    }

    /// <summary>Keeps a drawing if there is room: two windows at once do not take more than one person's share.</summary>
    public Task<Result<KeptDrawing>> Add(
        PersonId personId,
        string name,
        byte[] bytes,
        string mediaType,
        DrawingSummary summary,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var sha256 = Convert.ToHexStringLower(SHA256.HashData(bytes));
                await connection.ExecuteAsync(
                    new CommandDefinition(
                        "select pg_advisory_xact_lock(730018, hashtext(@personId))",
                        new { personId },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                var (kept, drawings, house) = await connection.QuerySingleAsync<(long Kept, int Drawings, long House)>(
                    new CommandDefinition(
                        """
                        select coalesce(sum(f.length), 0)::bigint, count(*)::int, (select coalesce(sum(length), 0)::bigint from bench.file)
                        from bench.drawing d join bench.file f using (sha256) where d.person_id = @personId
                        """,
                        new { personId },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                await LockFile(connection, transaction, sha256);
                if (DrawingRoom.Refused(kept, drawings, house, bytes.LongLength) is { } refusal)
                    return ((Result<KeptDrawing>)refusal, false);
                var drawing = new KeptDrawing(
                    Id: Guid.NewGuid(),
                    PersonId: personId,
                    Name: name,
                    Sha256: sha256,
                    Summary: summary,
                    At: now,
                    Clamps: []
                );
                await connection.ExecuteAsync(
                    new CommandDefinition(
                        """
                        insert into bench.file (sha256, media_type, length, bytes) values (@sha256, @mediaType, @length, @bytes)
                            on conflict do nothing;
                        insert into bench.drawing (id, person_id, name, sha256, summary, colours, at)
                            values (@Id, @personId, @name, @sha256, @json::jsonb, @own::jsonb, @now);
                        """,
                        new
                        {
                            sha256,
                            mediaType,
                            length = bytes.LongLength,
                            bytes,
                            drawing.Id,
                            personId,
                            name,
                            json = GateJson.Write(summary with { Own = null }),
                            own = GateJson.Write((summary.Own ?? ColourMap.None).Strokes),
                            now,
                        },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                return ((Result<KeptDrawing>)drawing, true);
            },
            cancel
        );

    /// <returns>Null when there is no such drawing.</returns>
    public async Task<KeptDrawing?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (
            await connection.QuerySingleOrDefaultAsync<Row>(
                new CommandDefinition(Columns + " where id = @id", new { id }, cancellationToken: cancel)
            )
        )?.ToDrawing();
    }

    /// <param name="before">The clamps as they were seen; others mean that another window changed them.</param>
    /// <returns>False when they are others by now.</returns>
    public async Task<bool> Mark(Guid id, IReadOnlyList<Clamp> before, IReadOnlyList<Clamp> clamps, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update bench.drawing set clamps = @after::jsonb where id = @id and clamps = @was::jsonb",
                    new
                    {
                        id,
                        was = GateJson.Write(before),
                        after = GateJson.Write(clamps),
                    },
                    cancellationToken: cancel
                )
            ) == 1;
    }

    /// <summary>
    /// Says what one colour means in this drawing alone; null takes that back. Bookings that stand on it are looked at again.
    /// </summary>
    public Task Colour(KeptDrawing drawing, string colour, StrokeMeaning? meaning, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    new CommandDefinition(
                        meaning is null
                            ? "update bench.drawing set colours = colours - @colour where id = @Id"
                            : "update bench.drawing set colours = colours || jsonb_build_object(@colour, @operation) where id = @Id",
                        new
                        {
                            drawing.Id,
                            colour,
                            operation = meaning?.ToString().ToLowerInvariant(),
                        },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                var others = await connection.QueryAsync<int>(
                    """
                    select distinct p.number from booking.booking b join people.person p on p.id = b.person_id
                    where b.cancelled_at is null and upper(b.during) > @now and b.person_id <> @PersonId
                        and position(@drawing in b.ask::text) > 0 order by p.number
                    """,
                    new
                    {
                        now,
                        drawing.PersonId,
                        drawing = drawing.Id.ToString(),
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.DrawingColoured,
                    new
                    {
                        others,
                        person = await LedgerStore.Number(connection, transaction, drawing.PersonId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        drawing = drawing.Id,
                        colour,
                        operation = meaning?.ToString().ToLowerInvariant(),
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Deletes a drawing, and its file when nobody else keeps the same.</summary>
    /// <returns>A refusal while something ahead stands on it.</returns>
    public Task<Result<bool>> Delete(KeptDrawing drawing, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    await connection.ExecuteScalarAsync<bool>(
                        new CommandDefinition(NamedAhead, new { drawing.Id, now }, transaction, cancellationToken: cancel)
                    )
                )
                    return ((Result<bool>)DrawingsProblems.DrawingInUse.Refuse(), false);
                await connection.ExecuteAsync(
                    new CommandDefinition(
                        "delete from bench.drawing where id = @Id",
                        new { drawing.Id },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                await DeleteFile(connection, transaction, drawing.Sha256);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.DrawingDeleted,
                    new
                    {
                        person = await LedgerStore.Number(connection, transaction, drawing.PersonId),
                        drawing = drawing.Id,
                        sha256 = drawing.Sha256,
                    }
                );
                return ((Result<bool>)true, true);
            },
            cancel
        );

    /// <summary>
    /// A file is shared by all who keep the same: held until the work is done, so that nobody deletes what somebody else just took up.
    /// </summary>
    private static Task LockFile(NpgsqlConnection connection, NpgsqlTransaction transaction, string sha256) =>
        connection.ExecuteAsync("select pg_advisory_xact_lock(730019, hashtext(@sha256))", new { sha256 }, transaction);

    private static async Task DeleteFile(NpgsqlConnection connection, NpgsqlTransaction transaction, string sha256)
    {
        await LockFile(connection, transaction, sha256);
        await connection.ExecuteAsync(
            """
            delete from bench.file f where f.sha256 = @sha256 and not exists (select from bench.drawing d where d.sha256 = f.sha256)
                and not exists (select from materials.evidence e where e.sha256 = f.sha256) and not exists (select
                    from materials.request q where q.sha256 = f.sha256)
            """,
            new { sha256 },
            transaction
        );
    }

    /// <summary>Deletes what was put on the bench before <paramref name="before"/> and nothing ahead stands on.</summary>
    public Task DeleteOlder(Instant before, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var files = await connection.QueryAsync<string>(
                    new CommandDefinition(
                        """
                        with named as (
                            select ask::text as ask from booking.booking where cancelled_at is null and upper(during) > @now
                            union all select d.ask from gate.ask a join gate.decision d on d.id = a.decision_id where a.state = 'waiting'
                                and upper(a.during) > @now)
                        delete from bench.drawing w where w.at < @before and not exists (select from named n
                            where position(w.id::text in n.ask) > 0) returning w.sha256
                        """,
                        new { before, now },
                        transaction,
                        cancellationToken: cancel
                    )
                );
                foreach (var sha256 in files.Distinct().Order(StringComparer.Ordinal))
                    await DeleteFile(connection, transaction, sha256);
                return (true, true);
            },
            cancel
        );

    /// <summary>
    /// True when this drawing is before the stewards or trainers: in a question that waits, or in a booking not over for longer than
    /// <paramref name="days"/> days.
    /// </summary>
    public async Task<bool> Shown(Guid id, Instant now, int days, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<bool>(
            new CommandDefinition(NamedAhead, new { id, now = now - Duration.FromDays(days) }, cancellationToken: cancel)
        );
    }

    /// <summary>A person's drawings, newest first.</summary>
    public async Task<IReadOnlyList<KeptDrawing>> Of(PersonId personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                Columns + " where person_id = @personId order by at desc limit @limit",
                new { personId, limit },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToDrawing())];
    }

    /// <summary>Bytes of all files that drawings keep.</summary>
    internal static readonly Query<long> BytesKept = new("select coalesce(sum(length), 0)::bigint from bench.file");

    public async Task<byte[]?> Bytes(string sha256, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<byte[]>(
            new CommandDefinition("select bytes from bench.file where sha256 = @sha256", new { sha256 }, cancellationToken: cancel)
        );
    }
}
