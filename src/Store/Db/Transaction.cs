using Npgsql;

namespace VelvetGate.Store.Db;

/// <summary>Runs a unit of work in one transaction, again when the database asks for it.</summary>
public static class Transaction
{
    private const int Tries = 3;

    /// <param name="work">Returns the result and whether to commit.</param>
    public static async Task<T> Run<T>(
        NpgsqlDataSource db,
        Func<NpgsqlConnection, NpgsqlTransaction, Task<(T Result, bool Commit)>> work,
        CancellationToken cancel
    )
    {
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                await using var connection = await db.OpenConnectionAsync(cancel);
                await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.ReadCommitted, cancel);
                var (result, commit) = await work(connection, transaction);
                if (commit)
                    await transaction.CommitAsync(cancel);
                return result;
            }
            catch (PostgresException e)
                when (attempt < Tries && e.SqlState is PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure)
            {
                await Task.Delay(TimeSpan.FromMilliseconds(20 * attempt), cancel);
            }
        }
    }
}
