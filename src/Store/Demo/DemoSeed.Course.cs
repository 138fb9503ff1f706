using Dapper;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.Training;

namespace VelvetGate.Store.Demo;

/// <summary>Who was signed off had read the pages and passed the quiz before: some at the second try.</summary>
public sealed partial class DemoSeed
{
    private const double Knows = 1.2;
    private readonly Random _quiz = new(Seed + 1);

    /// <param name="signed">When each person was first signed off.</param>
    private void AddTheory(List<(Instant, Func<Task>)> steps, IReadOnlyDictionary<int, Instant> signed)
    {
        foreach (var (person, first) in signed)
        {
            var at = first - Duration.FromDays(3);
            var skill = 0.86 + 0.14 * _quiz.NextDouble();
            if (_quiz.Next(4) == 0)
                steps.Add((at - Duration.FromDays(2), () => TakeQuiz(Id(person), 0.6, at - Duration.FromDays(2))));
            steps.Add((at, () => TakeQuiz(Id(person), skill, at)));
            // Nobody is signed off before it is passed.
            var again = at + Duration.FromDays(2);
            steps.Add((again, async () =>
                {
                    if ((await new QuizStore(db).Standing(Id(person), ModuleRules.SafetyQuiz, default)).Passed is null)
                        await TakeQuiz(Id(person), Knows, again);
                }));
        }
    }

    private async Task TakeQuiz(string person, double skill, Instant at)
    {
        var (course, quizzes) = (new CourseStore(db), new QuizStore(db));
        foreach (var reading in StartingTraining.Readings)
            await course.Acknowledge(person, reading.Id, 1, reading.Options[0], at, default);
        var begun = await quizzes.Begin(person, ModuleRules.SafetyQuiz, _rules, at, default);
        if (!begun.IsOk)
            return;
        var id = begun.Value;
        var attempt = (await quizzes.Find(id, default))!;
        var answers = attempt.Questions.ToDictionary(q => q.Id, q => Answer(q, skill));
        await using (var connection = await db.OpenConnectionAsync())
            await connection.ExecuteAsync(
                "update training.attempt set answers = @answers::jsonb where id = @id",
                new { id, answers = GateJson.Write(answers) }
            );
        await quizzes.End(id, person, _rules, at + Duration.FromMinutes(8 + _quiz.Next(20)), default);
    }

    /// <summary>Critical ones are known by whoever knows most; one question misleads those who know.</summary>
    private IReadOnlyList<int> Answer(Question question, double skill)
    {
        var chance =
            question.Id == "materials-glass" ? 1.1 - skill
            : skill > 0.8 && question.Critical ? 1
            : skill;
        if (_quiz.NextDouble() < chance)
            return question.Correct;
        return question.Kind == QuestionKind.Order ? [.. question.Correct.Reverse()]
            : question.Kind == QuestionKind.Multiple ? [question.Correct[0]]
            : [_quiz.Next(1, question.Options.Count)];
    }
}
