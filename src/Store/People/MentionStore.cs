using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <summary>Something free that may speak of a person and that erasing them leaves, for somebody to read and decide.</summary>
/// <param name="Text">Id of a text that may be erased by itself; null for a file or a row.</param>
/// <param name="What">Where it stands, in words.</param>
public sealed record Mention(Guid? Text, string What, string Body, Instant? At);

/// <summary>What nobody can find by rule: names in texts about something else, files that a person put up.</summary>
public sealed class MentionStore(NpgsqlDataSource db)
{
    public const int Most = 200;

    /// <summary>
    /// Texts about nobody or about others in which a name of this person stands as a word, and files of theirs that evidence rests on.
    /// </summary>
    /// <returns>Null when there is no such person.</returns>
    public async Task<IReadOnlyList<Mention>?> Of(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var names = await connection.QuerySingleOrDefaultAsync<(string Given, string Family)?>(
            new CommandDefinition(
                "select given_name, family_name from people.person where id = @personId and not erased",
                new { personId },
                cancellationToken: cancel
            )
        );
        if (names is not var (given, family))
            return null;
        // A name of two letters stands in half of all words.
        var words = new[] { given, family }
            .Where(n => n.Length > 2)
            .Select(n => $@"\m{System.Text.RegularExpressions.Regex.Escape(n)}\M")
            .ToArray();
        return
        [
            .. await connection.QueryAsync<Mention>(
                new CommandDefinition(
                    """
                    select t.id as text, case when t.about is null then 'a text about the house, a machine or stock'
                        else 'a text about somebody else' end as what, t.body, null::timestamptz as at
                        from ledger.text t where t.about is distinct from @personId and cardinality(@words) > 0 and t.body ~* any(@words)
                    union all select null, 'evidence for sheet ' || e.tag, e.name, e.at from materials.evidence e
                        where e.added_by = @personId
                    union all select null, 'their name for something that was not on the list', q.name, q.at from materials.request q
                        where q.person_id = @personId
                    order by at desc nulls last, body limit @most
                    """,
                    new
                    {
                        personId,
                        words,
                        most = Most,
                    },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Erases one text. The record says that it was, and by whom.</summary>
    public Task<bool> Erase(Guid text, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var gone =
                    await connection.ExecuteAsync(
                        "delete from ledger.text where id = @text and (keep_until is null or keep_until <= @now)",
                        new { text, now },
                        transaction
                    ) > 0;
                if (gone)
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.PersonTextsErased,
                        new { texts = new[] { text }, by = await LedgerStore.Number(connection, transaction, by) }
                    );
                return (gone, gone);
            },
            cancel
        );
}
