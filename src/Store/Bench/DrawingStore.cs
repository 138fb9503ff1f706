using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Bench;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Bench;

public sealed record KeptDrawing(Guid Id, string PersonId, string Name, string Sha256, DrawingSummary Summary, Instant At, IReadOnlyList<Clamp> Clamps);

/// <summary>Drawings and their files.</summary>
public sealed class DrawingStore(NpgsqlDataSource db)
{
    private const string Columns = "select id, person_id, name, sha256, summary::text as summary, at, clamps::text as clamps from bench.drawing";

    private sealed record Row(Guid Id, string PersonId, string Name, string Sha256, string Summary, Instant At, string Clamps)
    {
        public KeptDrawing ToDrawing() => new(Id, PersonId, Name, Sha256, GateJson.Read<DrawingSummary>(Summary), At, GateJson.Read<IReadOnlyList<Clamp>>(Clamps));
    }

    public Task<KeptDrawing> Add(string personId, string name, byte[] bytes, string mediaType, DrawingSummary summary, Instant now, CancellationToken cancel) =>
        Work.Do(db, async (connection, transaction) =>
        {
            var sha256 = Convert.ToHexStringLower(SHA256.HashData(bytes));
            var drawing = new KeptDrawing(Guid.NewGuid(), personId, name, sha256, summary, now, []);
            await connection.ExecuteAsync(new CommandDefinition(
                """
                insert into bench.file (sha256, media_type, length, bytes) values (@sha256, @mediaType, @length, @bytes) on conflict do nothing;
                insert into bench.drawing (id, person_id, name, sha256, summary, at) values (@Id, @personId, @name, @sha256, @json::jsonb, @now);
                """,
                new { sha256, mediaType, length = bytes.LongLength, bytes, drawing.Id, personId, name, json = GateJson.Write(summary), now }, transaction, cancellationToken: cancel));
            return (drawing, true);
        }, cancel);

    /// <returns>Null when there is no such drawing.</returns>
    public async Task<KeptDrawing?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (await connection.QuerySingleOrDefaultAsync<Row>(new CommandDefinition(Columns + " where id = @id", new { id }, cancellationToken: cancel)))?.ToDrawing();
    }

    /// <param name="before">The clamps as they were seen; others mean that another window changed them.</param>
    /// <returns>False when they are others by now.</returns>
    public async Task<bool> Mark(Guid id, IReadOnlyList<Clamp> before, IReadOnlyList<Clamp> clamps, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(new CommandDefinition(
            "update bench.drawing set clamps = @after::jsonb where id = @id and clamps = @was::jsonb", new { id, was = GateJson.Write(before), after = GateJson.Write(clamps) }, cancellationToken: cancel)) == 1;
    }

    /// <summary>A person's drawings, newest first.</summary>
    public async Task<IReadOnlyList<KeptDrawing>> Of(string personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(new CommandDefinition(Columns + " where person_id = @personId order by at desc limit @limit", new { personId, limit }, cancellationToken: cancel));
        return [.. rows.Select(r => r.ToDrawing())];
    }

    public async Task<byte[]?> Bytes(string sha256, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<byte[]>(new CommandDefinition("select bytes from bench.file where sha256 = @sha256", new { sha256 }, cancellationToken: cancel));
    }
}
