using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.Demo;

/// <summary>How far the demo's clock is ahead of real time, kept in its database so that all instances agree.</summary>
public sealed class DemoClockStore(NpgsqlDataSource db)
{
    /// <summary>A server that was seen within this is taken to run still.</summary>
    private static readonly Duration Alive = Duration.FromSeconds(10);

    /// <summary>The shift, and a note that a server runs on it.</summary>
    /// <param name="real">Real time.</param>
    /// <returns>Zero where no demo clock was set.</returns>
    public async Task<Duration> Read(Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var shift = await connection.QuerySingleOrDefaultAsync<long?>(
            new CommandDefinition("update house.demo_clock set seen = @real returning shift_us", new { real }, cancellationToken: cancel)
        );
        return Duration.FromTicks((shift ?? 0) * 10);
    }

    /// <returns>The shift a running server goes by; null when none runs.</returns>
    public async Task<Duration?> Running(Instant real, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var shift = await connection.QuerySingleOrDefaultAsync<long?>(
            new CommandDefinition(
                "select shift_us from house.demo_clock where seen > @since",
                new { since = real - Alive },
                cancellationToken: cancel
            )
        );
        return shift is { } us ? Duration.FromTicks(us * 10) : null;
    }

    public async Task Set(Duration shift, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "insert into house.demo_clock (shift_us) values (@us) on conflict (one) do update set shift_us = excluded.shift_us",
                new { us = shift.BclCompatibleTicks / 10 },
                cancellationToken: cancel
            )
        );
    }
}
