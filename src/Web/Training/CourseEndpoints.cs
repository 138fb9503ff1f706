using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Paths">One ladder an authority; each begins where the safety steps end.</param>
/// <param name="OpenAttempt">A quiz attempt that is not ended.</param>
public sealed record LadderResponse(
    PersonId PersonId,
    string Name,
    bool Mine,
    IReadOnlyList<LadderStep> Safety,
    IReadOnlyList<PathLadder> Paths,
    Guid? OpenAttempt
);

/// <param name="Soonest">The sign-off cannot come before; null when nothing waits for a time.</param>
/// <param name="Refresher">The certificate lapsed: these are the steps that renew it.</param>
public sealed record PathLadder(
    string Authority,
    MachineId MachineId,
    string Name,
    IReadOnlyList<LadderStep> Steps,
    Instant? Soonest,
    bool Refresher
);

/// <param name="Body">Markdown.</param>
/// <param name="Options">Answers in an order of their own; which is right is not told.</param>
public sealed record PageResponse(
    string Id,
    string Title,
    int Version,
    string Body,
    string Check,
    IReadOnlyList<string> Options,
    Instant? ReadAt,
    string? NextId
);

/// <param name="Version">The version that was read.</param>
public sealed record AcknowledgeRequest(int? Version = null, string? Answer = null);

/// <summary>The course: what to read, and how far a person has come.</summary>
public static class CourseEndpoints
{
    public static void MapCourse(this IEndpointRouteBuilder app)
    {
        var course = app.MapGroup("/api/training").WithTags("Training").RequireAuthorization(Policy.SignedIn);
        course.MapGet("/ladder", ShowLadder).WithName("ShowLadder").ProducesProblem(403).ProducesProblem(404);
        course.MapGet("/readings/{id}", Page).WithName("ShowReading").ProducesProblem(404);
        course
            .MapPost("/readings/{id}/done", Acknowledge)
            .WithName("AcknowledgeReading")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    /// <param name="person">Another person's ladder is for staff.</param>
    private static async Task<Results<Ok<LadderResponse>, ProblemHttpResult>> ShowLadder(
        string? person,
        PathStore paths,
        QuizStore quizzes,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var id = string.IsNullOrWhiteSpace(person) ? user.Id : person.Trim();
        var now = clock.GetCurrentInstant();
        if (id != user.Id && !await user.Is(Role.Steward, Role.Trainer))
            return Problems.Of(TrainingProblems.LadderNotYours.Refuse());
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await people.Find(id, now, cancel) is not { } who)
            return Problems.NotFound("person");
        var all = await paths.All(rules, now, cancel);
        var progress = await paths.ProgressOf(id, all, now, cancel);
        var standing = await quizzes.Standing(id, ModuleRules.SafetyQuiz, cancel);
        var topics = progress.Modules.Count(m => m.Kind == ModuleKind.Reading && m.Topic.Length > 0);
        var wanted = all.SelectMany(p => p.Path.Steps.Concat(p.Path.Refresher)).Select(s => s.Id).ToHashSet();
        var safety = Ladder.Safety(
            [.. progress.Modules.Where(m => wanted.Contains(m.Id))],
            progress.Done,
            standing.Failed,
            topics * QuizDraw.PerTopic,
            rules,
            now
        );
        var ladders = all.Select(p => new PathLadder(
            p.Path.Authority,
            p.Path.MachineId,
            progress.Names[p.Path.Authority],
            Ladder.Of(p.Path, progress, rules, now),
            Ladder.StillToDo(p.Path, progress, standing.Failed, rules, now).Max(s => s.From),
            Ladder.IsRefresher(p.Path, progress, now)
        ));
        return TypedResults.Ok(
            new LadderResponse(
                id,
                PersonName.For(who.GivenName, who.FamilyName, Ages.On(who.BirthDate, now), whole: true),
                id == user.Id,
                safety,
                [.. ladders],
                id == user.Id ? standing.Open : null
            )
        );
    }

    private static async Task<Results<Ok<PageResponse>, ProblemHttpResult>> Page(
        string id,
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
        if (await course.Page(id, cancel) is not { } page)
            return Problems.NotFound("reading");
        var done = await course.Done(user.Id, cancel);
        var modules = await course.Modules(cancel);
        var module = modules.First(m => m.Id == id);
        var today = rules.Clock.DateOf(now);
        var read =
            ModuleRules.IsDone(module, done, today) && ModuleRules.DueBy(module, done, today) is null
                ? done.Where(d => d.ModuleId == id).Max(d => d.At)
                : (Instant?)null;
        var next = ModuleRules.Unread(modules, done, today).FirstOrDefault(m => m.Id != id)?.Id;
        return TypedResults.Ok(
            new PageResponse(
                Id: page.ModuleId,
                Title: page.Title,
                Version: page.Version,
                Body: CourseWords.Fill(page.Body, rules),
                Check: page.Check,
                Options: [.. page.Options.Order(StringComparer.Ordinal)],
                ReadAt: read,
                NextId: next
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Acknowledge(
        string id,
        AcknowledgeRequest request,
        CourseStore course,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(request.Answer))
            return Problems.Of(TrainingProblems.ReadingUnanswered.Refuse("answer"));
        var done = await course.Acknowledge(user.Id, id, request.Version ?? 0, request.Answer, clock.GetCurrentInstant(), cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
