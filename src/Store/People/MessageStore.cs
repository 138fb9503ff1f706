using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.People;

/// <param name="Link">Path inside the application.</param>
public sealed record Message(Guid Id, string Title, string Body, string Link, Instant At, Instant? ReadAt);

/// <summary>What people are told. Each thing once: the key is unique.</summary>
public sealed class MessageStore(NpgsqlDataSource db)
{
    /// <summary>Tells a person, unless they were told this already.</summary>
    /// <param name="key">Kind, subject, and what makes this telling another than the last.</param>
    public static Task Tell(NpgsqlConnection connection, NpgsqlTransaction transaction, string personId, string key, string title, string body, string link, Instant now) =>
        connection.ExecuteAsync(
            """
            insert into people.message (id, person_id, key, title, body, link, at) values (gen_random_uuid(), @personId, @key, @title, @body, @link, @now)
            on conflict (key) do nothing
            """,
            new { personId, key, title, body, link, now }, transaction);

    /// <summary>A person's messages, newest first.</summary>
    public async Task<IReadOnlyList<Message>> Of(string personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<Message>(new CommandDefinition(
            "select id, title, body, link, at, read_at from people.message where person_id = @personId order by number desc limit @limit", new { personId, limit }, cancellationToken: cancel))];
    }

    /// <returns>False when it is not the person's own.</returns>
    public async Task<bool> Read(Guid id, string personId, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(new CommandDefinition(
            "update people.message set read_at = coalesce(read_at, @now) where id = @id and person_id = @personId", new { id, personId, now }, cancellationToken: cancel)) == 1;
    }
}
