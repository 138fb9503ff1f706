using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.People;

namespace VelvetGate.Store.People;

public sealed record SessionNow(Guid Id, Instant Began, Instant Seen, Instant Until, bool Shared, string Device);

/// <summary>Sign-ins as they last, in real time.</summary>
public sealed class SessionStore(NpgsqlDataSource db)
{
    /// <summary>True for a session that holds.</summary>
    internal const string Holds =
        "s.ended is null and s.until > @real and (s.idle_minutes is null or s.seen > @real - make_interval(mins => s.idle_minutes))";

    /// <param name="shared">Others use the device too.</param>
    /// <param name="factorOwed">Nothing but setting up a second factor is open until it is done.</param>
    public async Task<Guid> Begin(PersonId personId, bool shared, bool factorOwed, string device, Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var id = Guid.NewGuid();
        await connection.ExecuteAsync(
            new CommandDefinition(
                "insert into people.session (id, person_id, began, proved, seen, until, idle_minutes, device, factor_owed) values "
                    + "(@id, @personId, @real, @real, @real, @until, @idle, @device, @factorOwed)",
                new
                {
                    id,
                    personId,
                    real,
                    until = real + Sessions.Longest,
                    idle = shared ? Sessions.SharedIdleMinutes : (int?)null,
                    device,
                    factorOwed,
                },
                cancellationToken: cancel
            )
        );
        return id;
    }

    public async Task<IReadOnlyList<SessionNow>> Of(PersonId personId, Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<SessionNow>(
                new CommandDefinition(
                    "select id, began, seen, until, idle_minutes is not null as shared, device from people.session s where "
                        + $"person_id = @personId and {Holds} order by seen desc",
                    new { personId, real },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Ends one session of a person, or all but one.</summary>
    /// <param name="but">Null ends <paramref name="id"/> alone.</param>
    /// <returns>How many ended.</returns>
    public async Task<int> End(PersonId personId, Guid? id, Guid? but, Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
            new CommandDefinition(
                "update people.session set ended = @real where person_id = @personId and ended is null and (@id::uuid is null or "
                    + "id = @id) and (@but::uuid is null or id <> @but)",
                new
                {
                    personId,
                    id,
                    but,
                    real,
                },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>The password was given again.</summary>
    public async Task Prove(Guid id, Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition("update people.session set proved = @real where id = @id", new { id, real }, cancellationToken: cancel)
        );
    }

    public async Task Tidy(Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "delete from people.session where until < @before or ended < @before",
                new { before = real - Sessions.Kept },
                cancellationToken: cancel
            )
        );
    }
}
