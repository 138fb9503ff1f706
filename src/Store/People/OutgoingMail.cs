using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.People;

/// <param name="Link">Path inside the application.</param>
public sealed record Mail(Guid Id, string To, string Name, string Title, string Body, string Link, Instant At);

/// <summary>Messages on their way into people's mail boxes.</summary>
public sealed class OutgoingMail(NpgsqlDataSource db)
{
    /// <summary>Older ones are not sent any more: who switches mail on is not flooded.</summary>
    private static readonly Duration Fresh = Duration.FromDays(1);

    /// <summary>Sends the oldest message that waits, and marks it sent in the same transaction. A crash in between sends it once more, with the same Message-ID.</summary>
    /// <returns>False when none waits.</returns>
    public Task<bool> SendNext(Func<Mail, Task> send, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        var mail = await connection.QueryFirstOrDefaultAsync<Mail>(
            """
            select m.id, p.email as "to", p.given_name || ' ' || p.family_name as name, m.title, m.body, m.link, m.at
            from people.message m join people.person p on p.id = m.person_id
            where m.mailed_at is null and p.email is not null and not p.erased and m.at > @since order by m.number limit 1 for update of m skip locked
            """,
            new { since = now - Fresh }, transaction);
        if (mail is null) return (false, false);
        await send(mail);
        await connection.ExecuteAsync("update people.message set mailed_at = @now where id = @Id", new { mail.Id, now }, transaction);
        return (true, true);
    }, cancel);
}
