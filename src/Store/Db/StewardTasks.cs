using NodaTime;

namespace VelvetGate.Store.Db;

/// <summary>What a room has waiting for a steward. Each room offers its own; Watch gathers all of them in one statement.</summary>
public interface IStewardTasks
{
    /// <summary>Statements made by <see cref="TaskSql.Of"/>, with the parameters of <see cref="TasksAsked"/>.</summary>
    IReadOnlyList<string> Sql { get; }
}

/// <summary>The parameters of every such statement.</summary>
/// <param name="Person">Only what concerns this person; null for everything.</param>
/// <param name="Today">The day of the house.</param>
/// <param name="Soon">What ends before it is listed.</param>
/// <param name="Late">Who began before it and has not come is late.</param>
/// <param name="AnswerUntil">What starts before it cannot be answered any more.</param>
/// <param name="MailSince">Mail that was given up before it is listed no more.</param>
public sealed record TasksAsked(
    Instant Now,
    string? Person,
    LocalDate Today,
    Instant Soon,
    Instant Late,
    Instant AnswerUntil,
    Instant MailSince
);

internal static class TaskSql
{
    /// <summary>For what only stewards and trainers see.</summary>
    public const string Everybody = "@Person::text is null";

    /// <summary>For what the person sees too.</summary>
    public static string Mine(string personId) => $"(@Person::text is null or {personId} = @Person)";

    /// <summary>One kind of task as a statement; every one has the same columns.</summary>
    /// <param name="from">Tables and conditions; <c>p</c> is the person, where <paramref name="person"/> says so.</param>
    /// <param name="at">When it starts to hurt, or since when it waits.</param>
    /// <param name="body">JSON that Core reads.</param>
    public static string Of(
        string kind,
        string id,
        string at,
        string from,
        bool person = false,
        string machine = "null",
        string material = "null",
        string title = "null",
        string details = "null",
        string body = "null"
    ) =>
        $"""
            select '{kind}' as kind, {id}::text as id, {(
                person
                    ? "p.id as person_id, p.given_name, p.family_name, p.birth_date"
                    : "null::text as person_id, null::text as given_name, null::text as family_name, null::date as birth_date"
            )}, {machine}::text as machine_id, {material}::text as material_id, {title}::text as title, {details}::text as details,
                {body}::text as body, {at}::timestamptz as at from {from}
            """;
}
