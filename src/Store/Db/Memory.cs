using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using Npgsql;

namespace VelvetGate.Store.Db;

/// <summary>What changes rarely enough to be remembered between two questions.</summary>
public enum Topic
{
    /// <summary>House rules, the workshop room and its kit.</summary>
    House,

    /// <summary>Machines and what is mounted on them.</summary>
    Machines,

    /// <summary>Materials, look-alikes and rulings.</summary>
    Materials,

    /// <summary>Modules, paths, and what has to be done again.</summary>
    Course,
}

/// <summary>The marks of a topic at one moment: others than these, whichever, mean that something of it changed.</summary>
internal sealed record MarkRow(string Topic, string Marks);

/// <summary>
/// Rows of the database that are not read again as long as nothing of their topic changed. Every statement that touches a table of a topic
/// leaves a mark in the same transaction, by a trigger of the database; a question reads the marks first. So a change that was acknowledged
/// before a question is seen by it, whoever made it and however many servers there are; nothing here has to be told.
/// </summary>
internal sealed class Memory
{
    /// <summary>Gives the marks of every topic.</summary>
    public const string MarksSql = "select topic, string_agg(mark::text, ' ' order by mark) as marks from store.version group by topic";

    private static readonly ConditionalWeakTable<NpgsqlDataSource, Memory> Pools = new();

    private readonly ConcurrentDictionary<Topic, Kept> _kept = new();

    /// <summary>The memory that goes with a pool.</summary>
    public static Memory Of(NpgsqlDataSource db) => Pools.GetOrCreateValue(db);

    /// <returns>Null where something of the topic changed since, or nothing is known of it.</returns>
    public IReadOnlyDictionary<Query, object>? Find(Topic topic, string marks) =>
        marks.Length > 0 && _kept.TryGetValue(topic, out var kept) && kept.Marks == marks ? kept.Content : null;

    /// <returns>What was remembered last, which may have changed since: to be held against what is read.</returns>
    public IReadOnlyDictionary<Query, object>? Latest(Topic topic) => _kept.TryGetValue(topic, out var kept) ? kept.Content : null;

    /// <summary>Remembers what was read after these marks were.</summary>
    public void Keep(Topic topic, string marks, IReadOnlyDictionary<Query, object> content) => _kept[topic] = new Kept(marks, content);

    private sealed record Kept(string Marks, IReadOnlyDictionary<Query, object> Content);
}
