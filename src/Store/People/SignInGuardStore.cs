using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.People;

namespace VelvetGate.Store.People;

/// <summary>Failed sign-ins in a row, for all instances together. Times are of the real clock, whatever the demo's says.</summary>
public sealed class SignInGuardStore(NpgsqlDataSource db)
{
    /// <summary>Most keys kept: a flood of made-up names fills no disk.</summary>
    private const int Most = 20_000;

    /// <summary>Until when one of these keys is closed; null when none is.</summary>
    public async Task<Instant?> ClosedUntil(IReadOnlyCollection<string> keys, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<Instant?>(
            new CommandDefinition(
                "select max(until) from web.sign_in_guard where key = any(@keys) and until > @now",
                new { keys = keys.ToArray(), now },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Counts one failure for a key.</summary>
    /// <param name="free">Failures in a row that cost nothing.</param>
    public async Task Failed(string key, int free, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var failures = await connection.ExecuteScalarAsync<int>(
            new CommandDefinition(
                """
                insert into web.sign_in_guard as g (key, failures, last) values (@key, 1, @now)
                on conflict (key) do update set failures = case when g.last < @forgotten then 1 else g.failures + 1 end, last = @now
                    returning failures
                """,
                new
                {
                    key,
                    now,
                    forgotten = now - SignInLimits.Forgotten,
                },
                cancellationToken: cancel
            )
        );
        var pause = SignInLimits.PauseAfter(failures, free);
        if (pause > Duration.Zero)
            await connection.ExecuteAsync(
                new CommandDefinition(
                    "update web.sign_in_guard set until = @until where key = @key",
                    new { key, until = now + pause },
                    cancellationToken: cancel
                )
            );
    }

    /// <summary>Forgets these keys: somebody signed in, or a keeper unlocked the account.</summary>
    public async Task Forget(IReadOnlyCollection<string> keys, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "delete from web.sign_in_guard where key = any(@keys)",
                new { keys = keys.ToArray() },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Takes out what is forgotten, and the oldest beyond the most that is kept.</summary>
    public async Task Tidy(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                """
                delete from web.sign_in_guard where last < @forgotten;
                delete from web.sign_in_guard where key in (select key from web.sign_in_guard order by last desc offset @Most);
                """,
                new { forgotten = now - SignInLimits.Forgotten, Most },
                cancellationToken: cancel
            )
        );
    }
}
