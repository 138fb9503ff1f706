using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;

namespace VelvetGate.Store.Ledger;

/// <summary>Ending what somebody set: at once, or with a second steward's word.</summary>
internal static class HoldEndings
{
    /// <summary>Asks Core, and notes the first of two words with its reason. The caller holds the row of the hold locked.</summary>
    /// <param name="kind">What the record calls a noted word: <c>machine.returnAgreed</c> or <c>person.releaseAgreed</c>.</param>
    public static async Task<Result<HoldEnding>> End(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid hold,
        RecordEvent kind,
        PersonId? concerned,
        PersonId setBy,
        PersonId by,
        string reason,
        Instant now
    )
    {
        var setterIsSteward = await connection.ExecuteScalarAsync<bool>(
            "select exists (select from people.acting where person_id = @setBy and role = 'steward' and upper_inf(recorded) and "
                + "held @> @now)",
            new { setBy, now },
            transaction
        );
        var agreed = (
            await connection.QueryAsync<PersonId>("select by from house.agreement_to_end where hold_id = @hold", new { hold }, transaction)
        ).ToList();
        var ending = Holds.End(concerned, setBy, setterIsSteward, by, agreed);
        if (ending.Refusal is not null || ending.Value == HoldEnding.Ends || agreed.Contains(by))
            return ending;
        var text = await LedgerStore.Keep(connection, transaction, reason, concerned);
        await connection.ExecuteAsync(
            "insert into house.agreement_to_end (hold_id, by, text_id, at) values (@hold, @by, @text, @now)",
            new
            {
                hold,
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
            kind,
            new
            {
                hold,
                by = await LedgerStore.Number(connection, transaction, by),
                why = text.InChain,
            }
        );
        return ending;
    }
}
