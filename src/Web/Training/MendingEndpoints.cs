using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Replaces">The question that goes; empty adds one.</param>
/// <param name="Kind">single, multiple, order, or picture for one that replaces such a one.</param>
/// <param name="Options">The right ones first; for an order, the right order.</param>
/// <param name="Right">How many are right, where several are.</param>
public sealed record QuestionRequest(
    string? Replaces = null,
    string? Topic = null,
    string? Kind = null,
    bool? Critical = null,
    string? Text = null,
    IReadOnlyList<string>? Options = null,
    int? Right = null,
    string? Why = null,
    string? Reason = null
);

public sealed record QuestionMade(string Id);

/// <param name="Steps">One a line; an exclamation mark at its beginning makes a step critical.</param>
/// <param name="RepeatBy">House day until which older certificates count; empty asks nobody to show it again.</param>
/// <param name="DryRun">True shows whom it would meet; nothing is stored unless this is false.</param>
public sealed record PracticalSheetRequest(
    string? Id = null,
    string? Title = null,
    string? Steps = null,
    int? Version = null,
    string? RepeatBy = null,
    string? Reason = null,
    bool? DryRun = null
);

public sealed record RenewRequest(int? Version = null, string? RepeatBy = null, string? Reason = null, bool? DryRun = null);

/// <param name="Again">Who does it again.</param>
public sealed record RenewResponse(string Id, bool Stored, IReadOnlyList<string> Again);

/// <param name="QuizVersion">What asking for the quiz anew is written against.</param>
public sealed record PracticalSheets(IReadOnlyList<PracticalSheet> Items, int QuizVersion);

/// <summary>Mending what is taught: questions, practical sheets, and who does the quiz again.</summary>
public static class MendingEndpoints
{
    public static void MapMending(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/training").WithTags("Training");
        group
            .MapPost("/questions", Change)
            .WithName("ChangeQuestion")
            .RequireAuthorization(Policy.Teaches)
            .ProducesProblem(400)
            .ProducesProblem(409);
        group
            .MapPost("/questions/{id}/retire", Retire)
            .WithName("RetireQuestion")
            .RequireAuthorization(Policy.Teaches)
            .ProducesProblem(400)
            .ProducesProblem(409);
        group.MapGet("/practical-sheets", Sheets).WithName("ListPracticalSheets").RequireAuthorization(Policy.SignedIn);
        group
            .MapPost("/practical-sheets", Publish)
            .WithName("PublishPracticalSheet")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/quizzes/{id}/renew", Renew)
            .WithName("RenewQuiz")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Created<QuestionMade>, ProblemHttpResult>> Change(
        QuestionRequest request,
        QuestionStore questions,
        QuizStore quizzes,
        CourseStore course,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var kind = errors.Word<QuestionKind>("kind", request.Kind, "Say single, multiple or order.");
        var old = string.IsNullOrWhiteSpace(request.Replaces)
            ? null
            : (await quizzes.Bank(cancel)).FirstOrDefault(q => q.Id == request.Replaces);
        var draft = new QuestionDraft(
            Topic: request.Topic?.Trim() ?? "",
            Kind: kind,
            Critical: request.Critical ?? false,
            Text: request.Text?.Trim() ?? "",
            Options: [.. (request.Options ?? []).OfType<string>().Select(o => o.Trim())],
            Right: request.Right ?? 1,
            Why: request.Why?.Trim() ?? "",
            Picture: old?.Picture,
            Alt: old?.Alt
        );
        errors.Add(draft.Wrong([.. (await course.Modules(cancel)).Where(m => m.Topic.Length > 0).Select(m => m.Topic)]));
        errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var made = await questions.Change(
            Texts.NullIfBlank(request.Replaces),
            draft,
            request.Reason!.Trim(),
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created("/api/training/quizzes/laser-safety/statistics", new QuestionMade(made.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Retire(
        string id,
        ReasonRequest request,
        QuestionStore questions,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } problem)
            return problem;
        var made = await questions.Change(id, null, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel);
        return made.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Ok<PracticalSheets>> Sheets(PracticalSheetStore sheets, CourseStore course, CancellationToken cancel) =>
        TypedResults.Ok(
            new PracticalSheets(
                await sheets.All(cancel),
                (await course.Modules(cancel)).Where(m => m.Kind == ModuleKind.Quiz).Select(m => m.Version).FirstOrDefault()
            )
        );

    private static async Task<Results<Ok<RenewResponse>, ProblemHttpResult>> Publish(
        PracticalSheetRequest request,
        PracticalSheetStore sheets,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var store = request.DryRun == false;
        var present = (await sheets.All(cancel)).FirstOrDefault(s => s.Id == request.Id);
        var change = new PracticalChange(
            request.Title?.Trim() ?? "",
            PracticalChange.Read(request.Steps, present?.Steps ?? []),
            errors.Day("repeatBy", request.RepeatBy)
        );
        errors.Add(change.Wrong(rules.Clock.DateOf(now)));
        if (store)
            errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var made = await sheets.Publish(
            Texts.NullIfBlank(request.Id),
            request.Version ?? 0,
            change,
            store ? request.Reason!.Trim() : null,
            user.Id,
            rules,
            now,
            cancel
        );
        if (made.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Ok(new RenewResponse(made.Value.Id, store, await Names(made.Value.Again, people, clock, cancel)));
    }

    private static async Task<Results<Ok<RenewResponse>, ProblemHttpResult>> Renew(
        string id,
        RenewRequest request,
        CourseStore course,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var (store, today) = (request.DryRun == false, rules.Clock.DateOf(now));
        var day = errors.Day("repeatBy", request.RepeatBy);
        if (!errors.Any && Repeats.Wrong(day, today, asked: true) is { } late)
            errors.Add([late]);
        if (store)
            errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var made = await course.Renew(
            id,
            request.Version ?? 0,
            day!.Value,
            store ? request.Reason!.Trim() : null,
            user.Id,
            today,
            now,
            cancel
        );
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Ok(new RenewResponse(id, store, await Names(made.Value, people, clock, cancel)));
    }

    private static async Task<IReadOnlyList<string>> Names(
        IReadOnlyList<PersonId> ids,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var names = await PeopleNames.All(people, true, clock, cancel);
        return [.. ids.Select(p => names.GetValueOrDefault(p, "somebody")).Order(StringComparer.Ordinal)];
    }
}
