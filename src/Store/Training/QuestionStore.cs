using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

/// <summary>The bank of questions. A reworded question is another one: the answers to the old wording say nothing about the new.</summary>
public sealed class QuestionStore(NpgsqlDataSource db)
{
    /// <summary>Adds a question, puts one in place of another, or takes one out.</summary>
    /// <param name="replaces">The question that goes; null adds only.</param>
    /// <param name="draft">Null takes out only.</param>
    /// <returns>The new question's id, empty when one was only taken out; or why not.</returns>
    public Task<Result<string>> Change(
        string? replaces,
        QuestionDraft? draft,
        string reason,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(hashtext('training.question'))", transaction: transaction);
                var all = (
                    await connection.QueryAsync<(string Id, bool Retired, string Body)>(
                        "select id, retired, body::text from training.question order by position",
                        transaction: transaction
                    )
                ).ToList();
                var bank = all.Where(q => !q.Retired).Select(q => GateJson.Read<Question>(q.Body)).ToList();
                var old = bank.FirstOrDefault(q => q.Id == replaces);
                if (replaces is not null && old is null)
                    return ((Result<string>)TrainingProblems.QuestionGone.Refuse(), false);
                var topics = (await CourseStore.Modules(connection, transaction))
                    .Where(m => m.Kind == ModuleKind.Reading && m.Topic.Length > 0)
                    .Select(m => m.Topic)
                    .ToList();
                if (draft is not null && old is not null)
                    draft = draft with { Picture = old.Picture, Alt = old.Alt };
                if (draft?.Wrong(topics) is [var wrong, ..])
                    return (wrong, false);
                var id = draft is null
                    ? ""
                    : NewPages.IdOf(
                        $"{draft.Topic} {draft.Text.Split(' ').Take(4).Aggregate((a, b) => $"{a} {b}")}",
                        [.. all.Select(q => q.Id)]
                    );
                List<Question> after = [.. bank.Where(q => q.Id != replaces)];
                if (draft is not null)
                    after.Add(draft.As(id));
                if (old is not null && QuestionBank.Serves(after, topics) is { } few)
                    return (few, false);
                if (old is not null)
                    await connection.ExecuteAsync(
                        "update training.question set retired = true where id = @replaces",
                        new { replaces },
                        transaction
                    );
                if (draft is not null)
                    await connection.ExecuteAsync(
                        "insert into training.question (id, topic, body, position) values (@id, @Topic, @body::jsonb, "
                            + "coalesce((select position from training.question where id = @replaces), (select max(position) + 1 from "
                            + "training.question)))",
                        new
                        {
                            id,
                            draft.Topic,
                            body = GateJson.Write(draft.As(id)),
                            replaces,
                        },
                        transaction
                    );
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TrainingQuestionChanged,
                    new
                    {
                        question = id,
                        replaces = replaces ?? "",
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (id, true);
            },
            cancel
        );
}
