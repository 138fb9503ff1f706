using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;

namespace VelvetGate.Store.Gate;

/// <summary>Decisions that were acted on, with the facts they rested on.</summary>
public sealed class DecisionStore(NpgsqlDataSource db)
{
    private sealed record Row(int RulesVersion, string Ask, string Facts, string Outcome, string? Words, string Hash);

    /// <returns>The decision's id, and the hash that the chain keeps of it.</returns>
    public static async Task<(Guid Id, string Hash)> Save(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        GateQuestion ask,
        GateFacts facts,
        Instant now
    ) => (await Save(connection, transaction, [(ask, facts)], now))[0];

    /// <returns>Ids and hashes, in the order of what was decided.</returns>
    public static async Task<IReadOnlyList<(Guid Id, string Hash)>> Save(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<(GateQuestion Ask, GateFacts Facts)> decided,
        Instant now
    )
    {
        var stored = decided.Select(d => StoredDecision.Of(d.Ask, d.Facts)).ToList();
        var saved = stored.Select(s => (Id: Guid.NewGuid(), s.Hash)).ToList();
        await connection.ExecuteAsync(
            """
            insert into gate.decision (id, at, rules_version, ask, facts, outcome, words, hash)
            select d.id, @now, d.rules_version, d.ask, d.facts, d.outcome, d.words, d.hash
            from unnest(@ids, @versions, @asks, @facts, @outcomes, @words, @hashes) d (id, rules_version, ask, facts, outcome, words, hash)
            """,
            new
            {
                now,
                ids = saved.Select(s => s.Id).ToArray(),
                versions = stored.Select(s => s.RulesVersion).ToArray(),
                asks = stored.Select(s => s.Ask).ToArray(),
                facts = stored.Select(s => s.Facts).ToArray(),
                outcomes = stored.Select(s => s.Outcome).ToArray(),
                words = stored.Select(s => s.Words).ToArray(),
                hashes = saved.Select(s => s.Hash).ToArray(),
            },
            transaction
        );
        return saved;
    }

    /// <summary>A decision by its own id or by the id of its booking; null when there is none.</summary>
    public async Task<(StoredDecision Decision, bool HashHolds)?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var row = await connection.QuerySingleOrDefaultAsync<Row>(
            new CommandDefinition(
                """
                select rules_version, ask, facts, outcome, words, hash from gate.decision
                where id = @id or id = (select decision_id from booking.booking where booking.id = @id)
                """,
                new { id },
                cancellationToken: cancel
            )
        );
        if (row is null)
            return null;
        var decision = new StoredDecision(row.RulesVersion, row.Ask, row.Facts, row.Outcome, row.Words);
        return (decision, decision.Hash == row.Hash);
    }
}
