using System.Reflection;
using Dapper;
using Npgsql;

namespace VelvetGate.Store.Gate;

/// <summary>One statement of the batch.</summary>
internal abstract class FactQuery(string sql)
{
    public string Sql { get; } = sql;

    internal abstract Task<object> Read(SqlMapper.GridReader rows);
}

/// <summary>One statement of the batch, and the rows it gives.</summary>
internal sealed class FactQuery<T>(string sql) : FactQuery(sql)
{
    internal override async Task<object> Read(SqlMapper.GridReader rows) => (await rows.ReadAsync<T>()).ToList();
}

/// <summary>
/// Everything that one decision asks of the database, each once. The batch and its reading are both made from this list, so that they
/// cannot be out of step.
/// </summary>
internal static partial class FactQueries
{
    // "Known" keeps what is known now, or was known then; "Near" what touches the time the facts are wanted for.
    private const string Known = "((@knownAt::timestamptz is null and upper_inf(recorded)) or recorded @> @knownAt::timestamptz)";
    private const string Near = "held && tstzrange(@from, @until)";
    private const string Span = "lower(held) as \"from\", upper(held) as until";
    private const string ClaimSpan = "lower(during) as \"from\", upper(during) as until";

    // "Around" is the time asked about alone; "Near" reaches over the weeks of the house limits; how many bookings are open has no end.
    private const string Around = "during && tstzrange(@first, @last)";
    private const string LiveThen = "((@knownAt::timestamptz is null and live) or recorded @> @knownAt::timestamptz)";
    private const string ThenOrNow = "coalesce(@knownAt::timestamptz, @now)";
    private const string LoggedThen = "(@knownAt::timestamptz is null or r.at <= @knownAt::timestamptz)";
    private const string ClaimKnown = $"{LiveThen} and (booking_id is null or booking_id is distinct from @booking::uuid)";

    // The parts of this class are initialised in no order that could be relied on.
    private static readonly Lazy<IReadOnlyList<FactQuery>> Found = new(() =>
        [
            .. typeof(FactQueries)
                .GetFields(BindingFlags.Public | BindingFlags.Static)
                .Where(f => f.FieldType.IsAssignableTo(typeof(FactQuery)))
                .Select(f => (FactQuery)f.GetValue(null)!),
        ]
    );

    private static readonly Lazy<string> BatchThen = new(() => string.Join(";\n", All.Select(q => q.Sql)));

    /// <summary>
    /// The same without asking when it was known, so that the database plans each statement once and uses the index of live claims.
    /// </summary>
    private static readonly Lazy<string> BatchNow = new(() =>
        BatchThen
            .Value.Replace(Known, "upper_inf(recorded)", StringComparison.Ordinal)
            .Replace(LiveThen, "live", StringComparison.Ordinal)
            .Replace(ThenOrNow, "@now", StringComparison.Ordinal)
            .Replace(LoggedThen, "true", StringComparison.Ordinal)
    );

    public static IReadOnlyList<FactQuery> All => Found.Value;

    /// <summary>Sends the whole batch, and reads all of it.</summary>
    /// <param name="asKnownThen">As it was known at <c>@knownAt</c>; otherwise as it is known now.</param>
    public static async Task<FactSet> Ask(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        object parameters,
        bool asKnownThen,
        CancellationToken cancel
    )
    {
        var batch = (asKnownThen ? BatchThen : BatchNow).Value;
        await using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(batch, parameters, transaction, cancellationToken: cancel)
        );
        var read = new Dictionary<FactQuery, object>();
        foreach (var query in All)
            read[query] = await query.Read(rows);
        return new FactSet(read);
    }
}

/// <summary>The rows of every query, read.</summary>
internal sealed class FactSet(Dictionary<FactQuery, object> rows)
{
    public IReadOnlyList<T> Of<T>(FactQuery<T> query) => (IReadOnlyList<T>)rows[query];
}
