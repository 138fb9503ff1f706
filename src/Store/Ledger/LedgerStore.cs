using System.Security.Cryptography;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;

namespace VelvetGate.Store.Ledger;

/// <summary>The record in PostgreSQL. Appending is the last statement before a commit, in the transaction of the change itself.</summary>
public sealed class LedgerStore(NpgsqlDataSource db)
{
    private const string EntriesSql = """
        select seq, at, kind, body, prev, hash from ledger.entry
        where seq > @after order by seq limit @limit
        """;

    /// <summary>Appends one entry.</summary>
    /// <param name="kind">Of the catalogue: nothing is chained that nobody can read.</param>
    /// <param name="body">Numbers, codes, instants and salted hashes; no names, no free text.</param>
    /// <returns>Its number.</returns>
    public static Task<long> Append(NpgsqlConnection connection, NpgsqlTransaction transaction, Instant at, RecordEvent kind, object body)
    {
        var canonical = CanonicalJson.Normalise(JsonSerializer.Serialize(body));
        return connection.ExecuteScalarAsync<long>(
            "select ledger.append(@at, @kind, @canonical)",
            new
            {
                at = Chain.Instant(at),
                kind = kind.Kind,
                canonical,
            },
            transaction
        );
    }

    /// <summary>Appends several entries, in their order.</summary>
    public static Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Instant at,
        IReadOnlyList<(RecordEvent Kind, object Body)> entries
    ) =>
        connection.ExecuteAsync(
            "select ledger.append(@at, e.kind, e.body) from unnest(@kinds, @bodies) with ordinality e (kind, body, n) order by e.n",
            new
            {
                at = Chain.Instant(at),
                kinds = entries.Select(e => e.Kind.Kind).ToArray(),
                bodies = entries.Select(e => CanonicalJson.Normalise(JsonSerializer.Serialize(e.Body))).ToArray(),
            },
            transaction
        );

    /// <summary>Keeps free text beside the chain and gives what the chain may say of it.</summary>
    /// <param name="about">The person it concerns, so that erasing them erases it; null for a machine or the house.</param>
    public static async Task<TextLink> Keep(NpgsqlConnection connection, NpgsqlTransaction transaction, string text, PersonId? about)
    {
        var id = Guid.NewGuid();
        var salt = RandomNumberGenerator.GetBytes(16);
        await connection.ExecuteAsync(
            "insert into ledger.text (id, salt, body, about) values (@id, @salt, @text, @about)",
            new
            {
                id,
                salt,
                text,
                about,
            },
            transaction
        );
        return new TextLink(id, Chain.SaltedHash(salt, text));
    }

    public async Task<IReadOnlyList<LedgerEntry>> Entries(long after, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<LedgerEntry>(new CommandDefinition(EntriesSql, new { after, limit }, cancellationToken: cancel)),
        ];
    }

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<LedgerEntry>> EntriesBefore(long before, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<LedgerEntry>(
                new CommandDefinition(
                    "select seq, at, kind, body, prev, hash from ledger.entry where seq < @before order by seq desc limit @limit",
                    new { before, limit },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Entries that a reader of the record has not read yet.</summary>
    public async Task<long> Lag(string cursor, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<long>(
            new CommandDefinition(
                "select (select seq from ledger.head) - coalesce((select seq from ledger.worker_cursor where name = @cursor), 0)",
                new { cursor },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>The last number written before an instant; 0 when none was.</summary>
    public async Task<long> LastBefore(Instant at, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<long?>(
            new CommandDefinition(
                "select seq from ledger.entry where at < @at order by seq desc limit 1",
                new { at = Chain.Instant(at) },
                cancellationToken: cancel
            )
        ) ?? 0;
    }

    public async Task<long> LastSeq(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<long>(new CommandDefinition("select seq from ledger.head", cancellationToken: cancel));
    }

    internal static Task<int> Number(NpgsqlConnection connection, NpgsqlTransaction transaction, PersonId personId) =>
        connection.QuerySingleAsync<int>("select number from people.person where id = @personId", new { personId }, transaction);
}

/// <summary>A text kept beside the chain.</summary>
public sealed record TextLink(Guid Id, string Hash)
{
    /// <summary>What the chain says of it.</summary>
    public object InChain => new { text = Id.ToString(), hash = Hash };
}
