using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.People;

/// <param name="Link">Path inside the application.</param>
public sealed record Message(Guid Id, string Title, string Body, string Link, Instant At, Instant? ReadAt);

/// <summary>Something to tell a person once.</summary>
/// <param name="Key">Kind, subject, and what makes this telling another than the last.</param>
/// <param name="Link">Path inside the application.</param>
public sealed record Telling(PersonId PersonId, string Key, string Title, string Body, string Link);

/// <summary>What people are told. Each thing once: the key is unique.</summary>
public sealed class MessageStore(NpgsqlDataSource db)
{
    /// <summary>Tells a person, unless they were told this already.</summary>
    /// <param name="key">Kind, subject, and what makes this telling another than the last.</param>
    public static Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        string key,
        string title,
        string body,
        string link,
        Instant now
    ) => Tell(connection, transaction, [new Telling(personId, key, title, body, link)], now);

    /// <summary>Tells each of them, unless they were told this already.</summary>
    public static Task Tell(NpgsqlConnection connection, NpgsqlTransaction transaction, IReadOnlyList<Telling> tellings, Instant now) =>
        connection.ExecuteAsync(
            """
            insert into people.message (id, person_id, key, title, body, link, at)
            select gen_random_uuid(), t.person_id, t.key, t.title, t.body, t.link, @now
            from unnest(@people, @keys, @titles, @bodies, @links) t (person_id, key, title, body, link)
            on conflict (key) do nothing
            """,
            new
            {
                now,
                people = tellings.Select(t => t.PersonId).ToArray(),
                keys = tellings.Select(t => t.Key).ToArray(),
                titles = tellings.Select(t => t.Title).ToArray(),
                bodies = tellings.Select(t => t.Body).ToArray(),
                links = tellings.Select(t => t.Link).ToArray(),
            },
            transaction
        );

    /// <summary>A person's messages, newest first.</summary>
    public async Task<IReadOnlyList<Message>> Of(PersonId personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<Message>(
                new CommandDefinition(
                    "select id, title, body, link, at, read_at from people.message where person_id = @personId order by number "
                        + "desc limit @limit",
                    new { personId, limit },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <returns>False when it is not the person's own.</returns>
    public async Task<bool> Read(Guid id, PersonId personId, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update people.message set read_at = coalesce(read_at, @now) where id = @id and person_id = @personId",
                    new
                    {
                        id,
                        personId,
                        now,
                    },
                    cancellationToken: cancel
                )
            ) == 1;
    }
}
