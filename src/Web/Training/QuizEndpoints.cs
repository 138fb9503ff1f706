using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <summary>A question as the person sees it.</summary>
/// <param name="Options">In the order drawn for this attempt; answers are places in it.</param>
/// <param name="Answer">What was answered.</param>
/// <param name="Right">Null until the attempt has ended; so are <paramref name="Correct"/> and <paramref name="Why"/>.</param>
public sealed record QuizQuestion(
    string Id,
    QuestionKind Kind,
    bool Critical,
    string Text,
    string? Picture,
    string? Alt,
    IReadOnlyList<string> Options,
    IReadOnlyList<int> Answer,
    bool? Right,
    IReadOnlyList<int>? Correct,
    string? Why
);

/// <param name="ClosesAt">An attempt that nobody ends is closed then.</param>
/// <param name="NextTry">After a fail: from when it may be tried again.</param>
public sealed record AttemptResponse(
    Guid Id,
    string Title,
    Instant Started,
    Instant ClosesAt,
    IReadOnlyList<QuizQuestion> Questions,
    Instant? Ended,
    QuizMark? Mark,
    int PassPercent,
    Instant? NextTry
);

public sealed record AttemptBegun(Guid Id);

/// <param name="Answer">Places in the options as shown; empty takes it back.</param>
public sealed record QuizAnswer(IReadOnlyList<int>? Answer = null);

/// <param name="Options">In the order of the bank; the first <paramref name="RightOptions"/> are right, or all in this order.</param>
public sealed record ItemAnswered(
    string Id,
    string Topic,
    string Text,
    bool Critical,
    IReadOnlyList<string> Options,
    int RightOptions,
    int Asked,
    double Difficulty,
    double? Discrimination,
    IReadOnlyList<int> Chosen,
    string Advice,
    QuestionKind Kind,
    string Why
);

/// <param name="Enough">Answers from which on a question is judged.</param>
/// <param name="Reliability">KR-20 of the quizzes taken; null while there are too few.</param>
public sealed record QuizStatistics(int Attempts, int Passed, int Enough, double? Reliability, IReadOnlyList<ItemAnswered> Items);

/// <summary>The quiz: the server draws, keeps and marks; the page only shows.</summary>
public static class QuizEndpoints
{
    /// <summary>The newest attempts that the statistics are made of.</summary>
    private const int Newest = 2000;

    public static void MapQuizzes(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/training").WithTags("Training");
        group
            .MapPost("/quizzes/{id}/attempts", Begin)
            .WithName("BeginQuiz")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapGet("/quizzes/{id}/statistics", Statistics)
            .WithName("QuizStatistics")
            .RequireAuthorization(Policy.Trainer)
            .ProducesProblem(404);
        group.MapGet("/attempts/{id:guid}", Show).WithName("ShowAttempt").RequireAuthorization(Policy.SignedIn).ProducesProblem(404);
        group
            .MapPut("/attempts/{id:guid}/answers/{question}", Answer)
            .WithName("AnswerQuestion")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group.MapPost("/attempts/{id:guid}/end", End).WithName("EndAttempt").RequireAuthorization(Policy.SignedIn).ProducesProblem(404);
    }

    private static async Task<Results<Ok<AttemptBegun>, ProblemHttpResult>> Begin(
        string id,
        QuizStore quizzes,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var begun = await quizzes.Begin(user.Id, id, rules, now, cancel);
        return begun.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new AttemptBegun(begun.Value));
    }

    /// <summary>The person's own attempt; staff may look at one that has ended.</summary>
    private static async Task<Results<Ok<AttemptResponse>, ProblemHttpResult>> Show(
        Guid id,
        QuizStore quizzes,
        CourseStore course,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await quizzes.Find(id, cancel) is not { } attempt)
            return Problems.NotFound("attempt");
        if (attempt.PersonId != user.Id && !(attempt.Ended is not null && await user.Is(Role.Trainer, Role.Steward)))
            return Problems.NotFound("attempt");
        if (attempt.Ended is null && now >= attempt.Started + QuizMarking.Longest)
            attempt = (await quizzes.End(id, attempt.PersonId, rules, attempt.Started + QuizMarking.Longest, cancel))!;
        return TypedResults.Ok(await Shown(attempt, course, rules, cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Answer(
        Guid id,
        string question,
        QuizAnswer request,
        QuizStore quizzes,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var kept = await quizzes.Answer(id, user.Id, question, request.Answer ?? [], clock.GetCurrentInstant(), cancel);
        return kept.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<Ok<AttemptResponse>, ProblemHttpResult>> End(
        Guid id,
        QuizStore quizzes,
        CourseStore course,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        return await quizzes.End(id, user.Id, rules, now, cancel) is { } ended
            ? TypedResults.Ok(await Shown(ended, course, rules, cancel))
            : Problems.NotFound("attempt of yours");
    }

    private static async Task<Results<Ok<QuizStatistics>, ProblemHttpResult>> Statistics(
        string id,
        QuizStore quizzes,
        CourseStore course,
        CancellationToken cancel
    )
    {
        if ((await course.Modules(cancel)).All(m => m.Id != id || m.Kind != ModuleKind.Quiz))
            return Problems.NotFound("quiz");
        var attempts = await quizzes.Ended(id, Newest, cancel);
        var answers = attempts.SelectMany(a => a.Questions.Select(q => (q.Id, Answer: Of(a, q)))).ToLookup(x => x.Id, x => x.Answer);
        var items = (await quizzes.Bank(cancel)).Select(q => (Question: q, Item: ItemStatistics.Of(q, [.. answers[q.Id]]))).ToList();
        var asked = items.Sum(i => i.Item.Asked);
        var reliability =
            attempts.Count < ItemStatistics.Enough || asked == 0
                ? null
                : ItemStatistics.Kr20Drawn(
                    (int)Math.Round(attempts.Average(a => a.Questions.Count)),
                    items.Sum(i => i.Item.Asked * i.Item.Difficulty * (1 - i.Item.Difficulty)) / asked,
                    [.. attempts.Select(a => (double)a.Mark!.Right)]
                );
        return TypedResults.Ok(
            new QuizStatistics(
                attempts.Count,
                attempts.Count(a => a.Mark!.Passed),
                ItemStatistics.Enough,
                reliability,
                [
                    .. items.Select(i => new ItemAnswered(
                        Id: i.Question.Id,
                        Topic: i.Question.Topic,
                        Text: i.Question.Text,
                        Critical: i.Question.Critical,
                        Options: i.Question.Options,
                        RightOptions: i.Question.Kind == QuestionKind.Order ? 0 : i.Question.Correct.Count,
                        Asked: i.Item.Asked,
                        Difficulty: i.Item.Difficulty,
                        Discrimination: i.Item.Discrimination,
                        Chosen: i.Item.Chosen,
                        Advice: i.Item.Advice,
                        Kind: i.Question.Kind,
                        Why: i.Question.Why
                    )),
                ]
            )
        );
    }

    private static ItemAnswer Of(Attempt attempt, Question question)
    {
        var given = attempt.Answers.GetValueOrDefault(question.Id) ?? [];
        var right = question.IsRight(given);
        var others = attempt.Questions.Count - 1;
        return new ItemAnswer(right, others == 0 ? 0 : (double)(attempt.Mark!.Right - (right ? 1 : 0)) / others, given);
    }

    private static async Task<AttemptResponse> Shown(Attempt attempt, CourseStore course, HouseRules rules, CancellationToken cancel)
    {
        var title = (await course.Modules(cancel)).First(m => m.Id == attempt.ModuleId).Title;
        var ended = attempt.Ended is not null;
        return new AttemptResponse(
            Id: attempt.Id,
            Title: title,
            Started: attempt.Started,
            ClosesAt: attempt.Started + QuizMarking.Longest,
            Questions:
            [
                .. attempt.Questions.Zip(attempt.Drawn, (q, d) => Shown(q, d.Shown, attempt.Answers.GetValueOrDefault(q.Id) ?? [], ended)),
            ],
            Ended: attempt.Ended,
            Mark: attempt.Mark,
            PassPercent: rules.QuizPassPercent,
            NextTry: attempt.Mark is { Passed: false } ? QuizMarking.NextTry(attempt.Ended!.Value, rules) : null
        );
    }

    private static QuizQuestion Shown(Question q, IReadOnlyList<int> order, IReadOnlyList<int> given, bool ended)
    {
        var place = order.Select((bank, shown) => (bank, shown)).ToDictionary(x => x.bank, x => x.shown);
        return new QuizQuestion(
            Id: q.Id,
            Kind: q.Kind,
            Critical: q.Critical,
            Text: q.Text,
            Picture: q.Picture,
            Alt: q.Alt,
            Options: [.. order.Select(o => q.Options[o])],
            Answer: [.. given.Select(g => place[g])],
            Right: ended ? q.IsRight(given) : null,
            Correct: ended ? [.. q.Correct.Select(c => place[c])] : null,
            Why: ended ? q.Why : null
        );
    }
}
