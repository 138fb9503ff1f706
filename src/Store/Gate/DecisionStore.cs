using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;

namespace VelvetGate.Store.Gate;

/// <summary>Decisions that were acted on, with the facts they rested on.</summary>
public sealed class DecisionStore(NpgsqlDataSource db)
{
    private sealed record Row(int RulesVersion, string Ask, string Facts, string Outcome, string Hash);

    /// <returns>The decision's id, and the hash that the chain keeps of it.</returns>
    public static async Task<(Guid Id, string Hash)> Save(NpgsqlConnection connection, NpgsqlTransaction transaction, Ask ask, GateFacts facts, Instant now)
    {
        var stored = StoredDecision.Of(ask, facts);
        var id = Guid.NewGuid();
        var hash = stored.Hash;
        await connection.ExecuteAsync(
            """
            insert into gate.decision (id, at, rules_version, ask, facts, outcome, hash)
            values (@id, @now, @RulesVersion, @Ask, @Facts, @Outcome, @hash)
            """,
            new { id, now, stored.RulesVersion, stored.Ask, stored.Facts, stored.Outcome, hash }, transaction);
        return (id, hash);
    }

    /// <summary>A decision by its own id or by the id of its booking; null when there is none.</summary>
    public async Task<(StoredDecision Decision, bool HashHolds)?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var row = await connection.QuerySingleOrDefaultAsync<Row>(new CommandDefinition(
            """
            select rules_version, ask, facts, outcome, hash from gate.decision
            where id = @id or id = (select decision_id from booking.booking where booking.id = @id)
            """,
            new { id }, cancellationToken: cancel));
        if (row is null) return null;
        var decision = new StoredDecision(row.RulesVersion, row.Ask, row.Facts, row.Outcome);
        return (decision, decision.Hash == row.Hash);
    }
}
