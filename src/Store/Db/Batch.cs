using System.Data.Common;
using Dapper;
using Npgsql;

namespace VelvetGate.Store.Db;

/// <summary>One statement of a batch.</summary>
/// <param name="topic">Of what is remembered: the statement then gives all of it, and takes no parameter.</param>
internal abstract class Query(string sql, Topic? topic)
{
    public string Sql { get; } = sql;

    public Topic? Topic { get; } = topic;

    internal abstract Task<object> Read(DbDataReader rows, CancellationToken cancel);
}

/// <summary>One statement of a batch, and the rows it gives.</summary>
internal class Query<T>(string sql, Topic? topic = null) : Query(sql, topic)
{
    // Found once: a statement always gives the same columns.
    private Func<DbDataReader, T>? _row;

    internal override async Task<object> Read(DbDataReader rows, CancellationToken cancel)
    {
        var row = _row ??= rows.GetRowParser<T>();
        var read = new List<T>();
        while (await rows.ReadAsync(cancel))
            read.Add(row(rows));
        return read;
    }
}

/// <summary>The rows of each statement. One that was not sent gives none.</summary>
internal sealed class Answers(Dictionary<Query, object> rows)
{
    public IReadOnlyList<T> Of<T>(Query<T> query) => rows.TryGetValue(query, out var found) ? (IReadOnlyList<T>)found : [];

    internal void Add(IReadOnlyDictionary<Query, object> more)
    {
        foreach (var (query, found) in more)
            rows[query] = found;
    }

    internal Dictionary<Query, object> Where(Func<Query, bool> which) => rows.Where(r => which(r.Key)).ToDictionary();
}

/// <summary>Sends many statements at once, and reads what they give.</summary>
internal static class Batch
{
    private static readonly Query<MarkRow> Marks = new(Memory.MarksSql);

    public static async Task<Answers> Send(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IReadOnlyList<Query> queries,
        Func<Query, string> sql,
        object? parameters,
        CancellationToken cancel
    )
    {
        var values = Parameters.Of(parameters);
        await using var batch = new NpgsqlBatch(connection, transaction);
        foreach (var query in queries)
            batch.BatchCommands.Add(Parameters.Fill(sql(query), values));
        await using var rows = await batch.ExecuteReaderAsync(cancel);
        var read = new Dictionary<Query, object>();
        foreach (var query in queries)
        {
            read[query] = await query.Read(rows, cancel);
            await rows.NextResultAsync(cancel);
        }
        return new Answers(read);
    }

    /// <summary>
    /// The same, with what is remembered: its statements are sent only where something of their topic changed, in a second round.
    /// </summary>
    /// <param name="remembered">Every statement of every topic.</param>
    public static async Task<Answers> Send(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IReadOnlyList<Query> queries,
        IReadOnlyList<Query> remembered,
        Func<Query, string> sql,
        object? parameters,
        Memory memory,
        CancellationToken cancel
    )
    {
        var read = await Send(connection, transaction, [Marks, .. queries], sql, parameters, cancel);
        var marks = Of(read);
        var changed = new List<Topic>();
        foreach (var topic in Enum.GetValues<Topic>())
        {
            if (memory.Find(topic, marks[topic]) is { } kept)
                read.Add(kept);
            else
                changed.Add(topic);
        }
        if (changed.Count == 0)
            return read;
        // The marks first, then the content: what is kept may be newer than its marks, never older.
        var anew = remembered.Where(q => q.Topic is { } topic && changed.Contains(topic));
        var content = await Send(connection, transaction, [Marks, .. anew], sql, null, cancel);
        marks = Of(content);
        foreach (var topic in changed)
        {
            var rows = content.Where(q => q.Topic == topic);
            memory.Keep(topic, marks[topic], rows);
            Metering.Reloaded(topic);
            read.Add(rows);
        }
        return read;
    }

    private static Dictionary<Topic, string> Of(Answers read)
    {
        var marks = read.Of(Marks).ToDictionary(m => m.Topic, m => m.Marks, StringComparer.OrdinalIgnoreCase);
        return Enum.GetValues<Topic>().ToDictionary(t => t, t => marks.GetValueOrDefault(t.ToString(), ""));
    }
}
