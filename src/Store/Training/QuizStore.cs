using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

/// <summary>One attempt at a quiz.</summary>
/// <param name="Questions">As they were worded when it began, in the order drawn.</param>
/// <param name="Answers">By question: places in the question's own options.</param>
/// <param name="Mark">Null while it is open.</param>
public sealed record Attempt(
    Guid Id,
    PersonId PersonId,
    string ModuleId,
    IReadOnlyList<DrawnQuestion> Drawn,
    IReadOnlyList<Question> Questions,
    IReadOnlyDictionary<string, IReadOnlyList<int>> Answers,
    Instant Started,
    Instant? Ended,
    QuizMark? Mark
);

/// <summary>Where a person stands with a quiz.</summary>
/// <param name="Failed">When the last attempt failed; null when it passed or there is none.</param>
public sealed record QuizProgress(Guid? Open, Instant? Passed, Instant? Failed, int Attempts);

/// <summary>Quizzes: begun, answered one question at a time, and marked here.</summary>
public sealed class QuizStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        string ModuleId,
        string Drawn,
        string Questions,
        string Answers,
        Instant Started,
        Instant? Ended,
        int? Correct,
        int? Asked,
        int? CriticalMissed,
        bool? Passed
    )
    {
        public Attempt Attempt =>
            new(
                Id: Id,
                PersonId: PersonId,
                ModuleId: ModuleId,
                Drawn: GateJson.Read<List<DrawnQuestion>>(Drawn),
                Questions: GateJson.Read<List<Question>>(Questions),
                Answers: GateJson.Read<Dictionary<string, IReadOnlyList<int>>>(Answers),
                Started: Started,
                Ended: Ended,
                Mark: Ended is null
                    ? null
                    : new QuizMark(
                        Correct!.Value,
                        Asked!.Value,
                        Asked == 0 ? 0 : 100m * Correct.Value / Asked.Value,
                        CriticalMissed!.Value,
                        Passed!.Value
                    )
            );
    }

    private const string Columns =
        "select id, person_id, module_id, drawn::text, questions::text, answers::text, started, ended, correct, asked, "
        + "critical_missed, passed from training.attempt";

    public async Task<QuizProgress> Standing(PersonId personId, string moduleId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Standing(connection, null, personId, moduleId);
    }

    /// <summary>Begins an attempt, or gives the one that is open: two windows share it.</summary>
    /// <returns>Refused when there is no such quiz; or why it may not begin.</returns>
    public Task<Result<Guid>> Begin(PersonId personId, string moduleId, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var modules = await CourseStore.Modules(connection, transaction);
                if (modules.FirstOrDefault(m => m.Id == moduleId && m.Kind == ModuleKind.Quiz) is not { } quiz)
                    return ((Result<Guid>)CommonProblems.NotFound.Refuse(null, "quiz"), false);
                // The person's row is the lock: of two windows the second finds what the first began.
                await connection.ExecuteAsync("select 1 from people.person where id = @personId for update", new { personId }, transaction);
                var standing = await Standing(connection, transaction, personId, moduleId);
                if (standing.Open is { } open)
                {
                    var row = await connection.QuerySingleAsync<Row>($"{Columns} where id = @open", new { open }, transaction);
                    if (now < row.Started + QuizMarking.Longest)
                        return (open, false);
                    await End(connection, transaction, row.Attempt, rules, row.Started + QuizMarking.Longest);
                    standing = await Standing(connection, transaction, personId, moduleId);
                }
                var unread = ModuleRules.Unread(
                    modules,
                    await CourseStore.Done(connection, transaction, personId),
                    rules.Clock.DateOf(now)
                );
                if (ModuleRules.MayBegin(unread, standing.Failed, rules, now) is { } refusal)
                    return (refusal, standing.Open is null);
                var bank = (
                    await connection.QueryAsync<string>(
                        "select body::text from training.question where not retired order by position",
                        transaction: transaction
                    )
                )
                    .Select(GateJson.Read<Question>)
                    .ToList();
                var topics = modules.Where(m => m.Kind == ModuleKind.Reading && m.Topic.Length > 0).Select(m => m.Topic).ToList();
                var seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8));
                var drawn = QuizDraw.Of(bank, topics, seed);
                var byId = bank.ToDictionary(q => q.Id);
                var id = Guid.NewGuid();
                await connection.ExecuteAsync(
                    "insert into training.attempt (id, person_id, module_id, version, seed, drawn, questions, started) values "
                        + "(@id, @personId, @moduleId, @Version, @seed, @drawn::jsonb, @questions::jsonb, @now)",
                    new
                    {
                        id,
                        personId,
                        moduleId,
                        quiz.Version,
                        seed,
                        drawn = GateJson.Write(drawn),
                        questions = GateJson.Write(drawn.Select(d => byId[d.Id]).ToList()),
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.QuizBegun,
                    new
                    {
                        attempt = id,
                        person = await LedgerStore.Number(connection, transaction, personId),
                        module = moduleId,
                        seed = seed.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    }
                );
                return (id, true);
            },
            cancel
        );

    /// <returns>Null when there is no such attempt.</returns>
    public async Task<Attempt?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (
            await connection.QuerySingleOrDefaultAsync<Row>(
                new CommandDefinition($"{Columns} where id = @id", new { id }, cancellationToken: cancel)
            )
        )?.Attempt;
    }

    /// <summary>Keeps the answer to one question; the last one counts, whichever window it came from.</summary>
    /// <param name="shown">Places as the person saw them; empty takes an answer back.</param>
    /// <returns>Refused when this person has no such attempt; or why it is not taken.</returns>
    public Task<Result<bool>> Answer(
        Guid id,
        PersonId personId,
        string questionId,
        IReadOnlyList<int> shown,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id, personId) is not { } attempt)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "attempt of yours"), false);
                if (attempt.Ended is not null || now >= attempt.Started + QuizMarking.Longest)
                    return (TrainingProblems.QuizEnded.Refuse(), false);
                var at = attempt.Drawn.ToList().FindIndex(d => d.Id == questionId);
                var chosen = QuizMarking.Places(at < 0 ? null : attempt.Questions[at], at < 0 ? [] : attempt.Drawn[at].Shown, shown);
                if (chosen.Refusal is { } refusal)
                    return (refusal, false);
                var places = chosen.Value;
                await connection.ExecuteAsync(
                    "update training.attempt set answers = jsonb_set(answers, array[@questionId], @places::jsonb) where id = @id",
                    new
                    {
                        id,
                        questionId,
                        places = GateJson.Write(places),
                    },
                    transaction
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Ends an attempt and marks it by the rules that hold now. Ending it twice changes nothing.</summary>
    /// <returns>Null when this person has no such attempt.</returns>
    public Task<Attempt?> End(Guid id, PersonId personId, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id, personId) is not { } attempt)
                    return ((Attempt?)null, false);
                if (attempt.Ended is not null)
                    return (attempt, false);
                return (await End(connection, transaction, attempt, rules, now), true);
            },
            cancel
        );

    /// <summary>Every ended attempt at a quiz, oldest first, for its statistics.</summary>
    /// <param name="newest">At most so many.</param>
    public async Task<IReadOnlyList<Attempt>> Ended(string moduleId, int newest, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        $"select * from ({Columns} where module_id = @moduleId and ended is not null order by ended desc limit "
                            + "@newest) x order by ended",
                        new { moduleId, newest },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => r.Attempt),
        ];
    }

    /// <summary>The bank as it stands.</summary>
    public async Task<IReadOnlyList<Question>> Bank(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<string>(
                    new CommandDefinition(
                        "select body::text from training.question where not retired order by position",
                        cancellationToken: cancel
                    )
                )
            ).Select(GateJson.Read<Question>),
        ];
    }

    private static async Task<Attempt?> Locked(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id, PersonId personId) =>
        (
            await connection.QuerySingleOrDefaultAsync<Row>(
                $"{Columns} where id = @id and person_id = @personId for update",
                new { id, personId },
                transaction
            )
        )?.Attempt;

    private static async Task<Attempt> End(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Attempt attempt,
        HouseRules rules,
        Instant at
    )
    {
        // A clock that was set back does not end an attempt before it began.
        at = Instant.Max(at, attempt.Started);
        var mark = QuizMarking.Mark(attempt.Questions, attempt.Answers, rules);
        await connection.ExecuteAsync(
            "update training.attempt set ended = @at, correct = @Right, asked = @Of, critical_missed = @CriticalMissed, passed = "
                + "@Passed where id = @Id",
            new
            {
                attempt.Id,
                at,
                mark.Right,
                mark.Of,
                mark.CriticalMissed,
                mark.Passed,
            },
            transaction
        );
        if (mark.Passed)
            await connection.ExecuteAsync(
                "insert into training.done (person_id, module_id, version, at) select person_id, module_id, version, @at from "
                    + "training.attempt where id = @Id on conflict do nothing",
                new { attempt.Id, at },
                transaction
            );
        await LedgerStore.Append(
            connection,
            transaction,
            at,
            RecordEvents.QuizEnded,
            new
            {
                attempt = attempt.Id,
                person = await LedgerStore.Number(connection, transaction, attempt.PersonId),
                module = attempt.ModuleId,
                right = mark.Right,
                of = mark.Of,
                criticalMissed = mark.CriticalMissed,
                passed = mark.Passed,
            }
        );
        return attempt with { Ended = at, Mark = mark };
    }

    internal static async Task<QuizProgress> Standing(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        PersonId personId,
        string moduleId
    ) =>
        await connection.QuerySingleAsync<QuizProgress>(
            """
            select (select id from training.attempt where person_id = @personId and module_id = @moduleId and ended is null) as open,
                (select max(ended) from training.attempt where person_id = @personId and module_id = @moduleId and passed) as passed,
                (select case when passed then null else ended end from training.attempt where person_id = @personId
                    and module_id = @moduleId and ended is not null order by ended desc limit 1) as failed,
                (select count(*)::int from training.attempt where person_id = @personId and module_id = @moduleId
                    and ended is not null) as attempts
            """,
            new { personId, moduleId },
            transaction
        );
}
