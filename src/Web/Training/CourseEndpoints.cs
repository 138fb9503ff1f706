using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Machines">One ladder a machine; each begins where the safety steps end.</param>
/// <param name="OpenAttempt">A quiz attempt that is not ended.</param>
public sealed record LadderAnswer(string PersonId, string Name, bool Mine, IReadOnlyList<LadderStep> Safety, IReadOnlyList<MachineLadder> Machines, Guid? OpenAttempt);

public sealed record MachineLadder(string MachineId, string Name, IReadOnlyList<LadderStep> Steps);

/// <param name="Body">Markdown.</param>
/// <param name="Options">Answers in an order of their own; which is right is not told.</param>
public sealed record PageAnswer(string Id, string Title, int Version, string Body, string Check, IReadOnlyList<string> Options, Instant? ReadAt, string? NextId);

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
        course.MapPost("/readings/{id}/done", Acknowledge).WithName("AcknowledgeReading").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
    }

    /// <param name="person">Another person's ladder is for staff.</param>
    private static async Task<Results<Ok<LadderAnswer>, ProblemHttpResult>> ShowLadder(
        string? person, CourseStore course, QuizStore quizzes, TrainingStore training, HouseStore house, PeopleStore people, CurrentUser user, IClock clock, CancellationToken cancel)
    {
        var id = string.IsNullOrWhiteSpace(person) ? user.Id : person.Trim();
        var now = clock.GetCurrentInstant();
        if (id != user.Id && !await user.Is(Role.Steward, Role.Trainer)) return Problems.Of(403, "ladder.notYours", "This is for the person themselves, for trainers and stewards.");
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        if (await people.Find(id, now, cancel) is not { } who) return Problems.NotFound("person");
        var modules = await course.Modules(cancel);
        var done = await course.Done(id, cancel);
        var standing = await quizzes.Standing(id, TrainingPaths.SafetyQuiz, cancel);
        var topics = modules.Count(m => m.Kind == ModuleKind.Reading);
        var safety = Ladder.Safety(modules, done, standing.Failed, topics * QuizDraw.PerTopic, rules, now);
        var ready = modules.All(m => TrainingPaths.IsDone(m, done, rules.Clock.DateOf(now)));
        var runs = await course.Supervised(id, cancel);
        var held = (await training.Held(now, null, cancel, id)).ToLookup(c => c.Authority);
        var ladders = (await house.Machines(now, cancel)).Select(m =>
        {
            var own = held[m.Spec.Id].MaxBy(c => c.Until ?? Instant.MaxValue);
            var (count, last) = runs.TryGetValue(m.Spec.Id, out var r) ? (r.Runs, (Instant?)r.Last) : (0, null);
            var progress = new MachineProgress(m.Spec.Id, m.Spec.Name, count, last, own is null ? null : new Span(own.Since, own.Until));
            return new MachineLadder(m.Spec.Id, m.Spec.Name, Ladder.Machine(progress, ready, rules, now));
        });
        return TypedResults.Ok(new LadderAnswer(id, PersonName.For(who.GivenName, who.FamilyName, Ages.On(who.BirthDate, now), whole: true), id == user.Id, safety, [.. ladders], id == user.Id ? standing.Open : null));
    }

    private static async Task<Results<Ok<PageAnswer>, ProblemHttpResult>> Page(string id, CourseStore course, HouseStore house, CurrentUser user, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        if (await course.Page(id, cancel) is not { } page) return Problems.NotFound("reading");
        var done = await course.Done(user.Id, cancel);
        var modules = await course.Modules(cancel);
        var module = modules.First(m => m.Id == id);
        var today = rules.Clock.DateOf(now);
        var read = TrainingPaths.IsDone(module, done, today) && TrainingPaths.DueBy(module, done, today) is null ? done.Where(d => d.ModuleId == id).Max(d => d.At) : (Instant?)null;
        var next = TrainingPaths.Unread(modules, done, today).FirstOrDefault(m => m.Id != id)?.Id;
        return TypedResults.Ok(new PageAnswer(page.ModuleId, page.Title, page.Version, page.Body, page.Check, [.. page.Options.Order(StringComparer.Ordinal)], read, next));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Acknowledge(string id, AcknowledgeRequest request, CourseStore course, CurrentUser user, IClock clock, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(request.Answer)) return Problems.Of(new Core.Refusal("reading.unanswered", "Answer the question below the page.", "answer"));
        if (await course.Acknowledge(user.Id, id, request.Version ?? 0, request.Answer, clock.GetCurrentInstant(), cancel) is not { } done) return Problems.NotFound("reading");
        return done.Refusal is { } refusal ? Problems.Of(refusal, refusal.Code == "reading.stale" ? 409 : 400) : TypedResults.NoContent();
    }
}
