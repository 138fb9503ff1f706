using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.Ledger;

/// <param name="Worker">Which background work put it aside.</param>
/// <param name="Subject">What it was about: a booking, a number of the record, a message.</param>
public sealed record ParkedThing(string Worker, string Subject, string Why, Instant At);

/// <summary>
/// What background work could not do and put aside, so that the rest goes on. It stands in Watch until somebody has looked.
/// </summary>
public sealed class ParkedWork(NpgsqlDataSource db)
{
    private const int LongestWhy = 500;

    public static Task Park(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        string worker,
        string subject,
        string why,
        Instant now
    ) =>
        connection.ExecuteAsync(
            "insert into web.parked (worker, subject, why, at) values (@worker, @subject, @why, @now) on conflict (worker, "
                + "subject) do update set why = excluded.why, at = excluded.at",
            new
            {
                worker,
                subject,
                why = why.Length > LongestWhy ? why[..LongestWhy] : why,
                now,
            },
            transaction
        );

    /// <summary>It went well after all.</summary>
    public static Task Clear(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        string worker,
        IReadOnlyCollection<string> subjects
    ) =>
        connection.ExecuteAsync(
            "delete from web.parked where worker = @worker and subject = any(@subjects)",
            new { worker, subjects = subjects.ToArray() },
            transaction
        );

    public async Task<IReadOnlyList<ParkedThing>> All(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<ParkedThing>(
                new CommandDefinition("select worker, subject, why, at from web.parked order by at limit 200", cancellationToken: cancel)
            ),
        ];
    }

    /// <summary>Somebody has looked.</summary>
    /// <returns>False when there is no such thing.</returns>
    public async Task<bool> Done(string subject, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition("delete from web.parked where subject = @subject", new { subject }, cancellationToken: cancel)
            ) > 0;
    }
}
