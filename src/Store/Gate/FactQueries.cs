using System.Reflection;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Gate;

/// <summary>What the facts are wanted for: the values that the statements take.</summary>
/// <param name="From">A week before, for the weekly house limit; <see cref="Until"/> a week after.</param>
/// <param name="IdleFrom">Stops that an idle clock stood still for.</param>
/// <param name="KnownAt">As it was known then; null for what is known now.</param>
/// <param name="Booking">A booking whose own time does not stand against it.</param>
internal sealed record FactQuestion(
    PersonId Person,
    MachineId Machine,
    string Supervisor,
    PersonId AskedBy,
    string Fixture,
    MaterialId[] Materials,
    SheetTag[] Tags,
    Guid[] Drawings,
    Instant From,
    Instant Until,
    Instant IdleFrom,
    Instant First,
    Instant Last,
    Instant Now,
    Instant Start,
    Instant? KnownAt,
    Guid? Booking
)
{
    public bool Near(Instant from, Instant? until) => from < Last && (until is null || until > First);

    public bool AtStart(Instant from, Instant? until) => from <= Start && (until is null || until > Start);
}

/// <summary>One statement.</summary>
/// <param name="topic">Of what is remembered: the statement then gives all of it, whatever the question.</param>
/// <param name="asked">For which questions it is sent at all.</param>
internal abstract class FactQuery(string sql, Topic? topic, Func<FactQuestion, bool>? asked)
{
    /// <summary>As it was known at <c>@KnownAt</c>.</summary>
    public string Then { get; } = sql;

    /// <summary>The same without asking when it was known, so that the database plans it once and uses the index of live claims.</summary>
    public string Now { get; } = FactQueries.KnownNow(sql);

    public Topic? Topic { get; } = topic;

    public bool IsAsked(FactQuestion question) => asked is null || asked(question);

    internal abstract Task<object> Read(SqlMapper.GridReader rows);
}

/// <summary>One statement, and the rows it gives.</summary>
/// <param name="holds">Which of the rows belong to a question.</param>
internal sealed class FactQuery<T>(
    string sql,
    Topic? topic = null,
    Func<FactQuestion, bool>? asked = null,
    Func<T, FactQuestion, bool>? holds = null
) : FactQuery(sql, topic, asked)
{
    internal override async Task<object> Read(SqlMapper.GridReader rows) => (await rows.ReadAsync<T>()).ToList();

    public IReadOnlyList<T> Of(IReadOnlyList<T> rows, FactQuestion question) =>
        holds is null ? rows : [.. rows.Where(r => holds(r, question))];
}

/// <summary>
/// Everything that one decision asks of the database, each once. The batch and its reading are both made from this list, so that they
/// cannot be out of step.
/// </summary>
internal static partial class FactQueries
{
    // "Known" keeps what is known now, or was known then; "Near" what touches the time the facts are wanted for.
    private const string Known = "((@KnownAt::timestamptz is null and upper_inf(recorded)) or recorded @> @KnownAt::timestamptz)";
    private const string Near = "held && tstzrange(@From, @Until)";
    private const string Span = "lower(held) as \"from\", upper(held) as until";
    private const string ClaimSpan = "lower(during) as \"from\", upper(during) as until";

    // "Around" is the time asked about alone; "Near" reaches over the weeks of the house limits; how many bookings are open has no end.
    private const string Around = "during && tstzrange(@First, @Last)";
    private const string LiveThen = "((@KnownAt::timestamptz is null and live) or recorded @> @KnownAt::timestamptz)";
    private const string ThenOrNow = "coalesce(@KnownAt::timestamptz, @Now)";
    private const string LoggedThen = "(@KnownAt::timestamptz is null or r.at <= @KnownAt::timestamptz)";
    private const string ClaimKnown = $"{LiveThen} and (booking_id is null or booking_id is distinct from @Booking::uuid)";

    // The parts of this class are initialised in no order that could be relied on.
    private static readonly Lazy<IReadOnlyList<FactQuery>> Found = new(() =>
        [
            .. typeof(FactQueries)
                .GetFields(BindingFlags.Public | BindingFlags.Static)
                .Where(f => f.FieldType.IsAssignableTo(typeof(FactQuery)))
                .Select(f => (FactQuery)f.GetValue(null)!),
        ]
    );

    private static readonly FactQuery<MarkRow> Marks = new(Memory.MarksSql);

    public static IReadOnlyList<FactQuery> All => Found.Value;

    internal static string KnownNow(string sql) =>
        sql.Replace(Known, "upper_inf(recorded)", StringComparison.Ordinal)
            .Replace(LiveThen, "live", StringComparison.Ordinal)
            .Replace(ThenOrNow, "@Now", StringComparison.Ordinal)
            .Replace(LoggedThen, "true", StringComparison.Ordinal);

    /// <summary>
    /// Asks everything in one batch. What is known now and was not changed since is remembered; as of another time it is read anew.
    /// </summary>
    public static async Task<FactSet> Ask(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        FactQuestion question,
        Memory memory,
        CancellationToken cancel
    )
    {
        var asked = All.Where(q => q.IsAsked(question));
        if (question.KnownAt is not null)
            return new FactSet(question, await Send(connection, transaction, [.. asked], q => q.Then, question, cancel));
        var read = await Send(connection, transaction, [Marks, .. asked.Where(q => q.Topic is null)], q => q.Now, question, cancel);
        var marks = Of(read);
        var changed = new List<Topic>();
        foreach (var topic in Enum.GetValues<Topic>())
        {
            if (memory.Find(topic, marks[topic]) is Dictionary<FactQuery, object> kept)
                Add(kept);
            else
                changed.Add(topic);
        }
        if (changed.Count == 0)
            return new FactSet(question, read);
        // The marks first, then the content: what is kept may be newer than its marks, never older.
        var content = await Send(
            connection,
            transaction,
            [Marks, .. All.Where(q => q.Topic is { } topic && changed.Contains(topic))],
            q => q.Now,
            question,
            cancel
        );
        marks = Of(content);
        foreach (var topic in changed)
        {
            var rows = content.Where(r => r.Key.Topic == topic).ToDictionary();
            memory.Keep(topic, marks[topic], rows);
            Add(rows);
        }
        return new FactSet(question, read);

        void Add(Dictionary<FactQuery, object> rows)
        {
            foreach (var (query, found) in rows)
                read[query] = found;
        }
    }

    private static Dictionary<Topic, string> Of(Dictionary<FactQuery, object> read)
    {
        var marks = ((IReadOnlyList<MarkRow>)read[Marks]).ToDictionary(m => m.Topic, m => m.Marks, StringComparer.OrdinalIgnoreCase);
        return Enum.GetValues<Topic>().ToDictionary(t => t, t => marks.GetValueOrDefault(t.ToString(), ""));
    }

    private static async Task<Dictionary<FactQuery, object>> Send(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        FactQuery[] queries,
        Func<FactQuery, string> sql,
        FactQuestion question,
        CancellationToken cancel
    )
    {
        var batch = string.Join(";\n", queries.Select(sql));
        await using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(batch, question, transaction, cancellationToken: cancel)
        );
        var read = new Dictionary<FactQuery, object>();
        foreach (var query in queries)
            read[query] = await query.Read(rows);
        return read;
    }
}

/// <summary>The rows of every statement, read. One that was not sent gives none.</summary>
internal sealed class FactSet(FactQuestion question, Dictionary<FactQuery, object> rows)
{
    public FactQuestion Question => question;

    public IReadOnlyList<T> Of<T>(FactQuery<T> query) =>
        rows.TryGetValue(query, out var found) ? query.Of((IReadOnlyList<T>)found, question) : [];
}
