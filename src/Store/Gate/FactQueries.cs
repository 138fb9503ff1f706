using System.Reflection;
using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Gate;

/// <summary>What the facts are wanted for: the values that the statements take.</summary>
/// <param name="From">A week before, for the weekly house limit; <see cref="Until"/> a week after.</param>
/// <param name="IdleFrom">Stops that an idle clock stood still for.</param>
/// <param name="KnownAt">As it was known then; null for what is known now.</param>
/// <param name="Apart">Bookings whose own time does not stand against them.</param>
/// <param name="BenchFrom">From when a finishing bench is wanted at the earliest; null for none. So too the end.</param>
internal sealed record FactQuestion(
    PersonId Person,
    MachineId Machine,
    string Supervisor,
    PersonId AskedBy,
    string Fixture,
    MaterialId[] Materials,
    SheetTag[] Tags,
    Guid[] Drawings,
    Guid[] Settings,
    Instant From,
    Instant Until,
    Instant IdleFrom,
    Instant First,
    Instant Last,
    Instant Now,
    Instant Start,
    Instant? KnownAt,
    Guid[] Apart,
    Instant? BenchFrom,
    Instant? BenchTo
)
{
    /// <summary>It touches the time asked about.</summary>
    public bool Around(Instant from, Instant? until) => from < Last && (until is null || until > First);

    /// <summary>It holds when the job begins.</summary>
    public bool AtStart(Instant from, Instant? until) => from <= Start && (until is null || until > Start);
}

/// <summary>One statement, and the rows it gives.</summary>
/// <param name="asked">For which questions it is sent at all.</param>
/// <param name="holds">Which of the rows belong to a question.</param>
internal sealed class FactQuery<T>(
    string sql,
    Topic? topic = null,
    Func<FactQuestion, bool>? asked = null,
    Func<T, FactQuestion, bool>? holds = null
) : Query<T>(sql, topic), IFactQuery
{
    /// <summary>Without asking when it was known, so that the database plans it once and uses the index of live claims.</summary>
    public string Now { get; } = FactQueries.KnownNow(sql);

    public bool IsAsked(FactQuestion question) => asked is null || asked(question);

    public IReadOnlyList<T> Of(IReadOnlyList<T> rows, FactQuestion question) =>
        holds is null ? rows : [.. rows.Where(r => holds(r, question))];
}

/// <summary>A statement as of now, and for which questions it is sent.</summary>
internal interface IFactQuery
{
    string Now { get; }

    bool IsAsked(FactQuestion question);
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

    // The time asked about alone; "Near" reaches over the weeks of the house limits. What is over is passed by in an index of ends.
    private const string Around = "upper(during) > @First and lower(during) < @Last";

    // An adult, and so a class, has at most so many places.
    private const string Places = "generate_series(1, 10) n";
    private const string LiveThen = "((@KnownAt::timestamptz is null and live) or recorded @> @KnownAt::timestamptz)";
    private const string ThenOrNow = "coalesce(@KnownAt::timestamptz, @Now)";
    private const string LoggedThen = "(@KnownAt::timestamptz is null or r.at <= @KnownAt::timestamptz)";
    private const string ClaimKnown = $"{LiveThen} and (booking_id is null or booking_id <> all(@Apart))";

    // The parts of this class are initialised in no order that could be relied on.
    private static readonly Lazy<IReadOnlyList<Query>> Found = new(() =>
        [
            .. typeof(FactQueries)
                .GetFields(BindingFlags.Public | BindingFlags.Static)
                .Where(f => f.FieldType.IsAssignableTo(typeof(Query)))
                .Select(f => (Query)f.GetValue(null)!),
        ]
    );

    public static IReadOnlyList<Query> All => Found.Value;

    internal static string KnownNow(string sql) =>
        sql.Replace(Known, "upper_inf(recorded)", StringComparison.Ordinal)
            .Replace(LiveThen, "live", StringComparison.Ordinal)
            .Replace(ThenOrNow, "@Now", StringComparison.Ordinal)
            .Replace(LoggedThen, "true", StringComparison.Ordinal);

    /// <summary>A statement of this list as of now, or any other.</summary>
    internal static string Now(Query query) => query is IFactQuery fact ? fact.Now : query.Sql;

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
        var asked = All.Where(q => ((IFactQuery)q).IsAsked(question));
        return new FactSet(
            question,
            question.KnownAt is not null
                ? await Batch.Send(connection, transaction, [.. asked], q => q.Sql, question, cancel)
                : await Batch.Send(
                    connection,
                    transaction,
                    [.. asked.Where(q => q.Topic is null)],
                    remembered: All,
                    Now,
                    question,
                    memory,
                    cancel
                )
        );
    }
}

/// <summary>The rows of every statement that belong to the question.</summary>
internal sealed class FactSet(FactQuestion question, Answers answers)
{
    public FactQuestion Question => question;

    public IReadOnlyList<T> Of<T>(FactQuery<T> query) => query.Of(answers.Of(query), question);
}
