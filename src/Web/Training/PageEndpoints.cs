using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <summary>A page as it is written.</summary>
/// <param name="Options">Answers to the question, the right one first.</param>
public sealed record PageDraft(string Id, string Title, int Version, string Body, string Check, IReadOnlyList<string> Options);

/// <param name="Version">The version that was read.</param>
/// <param name="RepeatBy">House day until which having read an older version still counts; empty repeats nothing.</param>
public sealed record PublishRequest(
    int? Version = null,
    string? Body = null,
    string? Check = null,
    IReadOnlyList<string>? Options = null,
    string? RepeatBy = null,
    string? Reason = null
);

/// <param name="Options">Answers to the question, the right one first.</param>
public sealed record NewPageRequest(
    string? Title = null,
    string? Body = null,
    string? Check = null,
    IReadOnlyList<string>? Options = null,
    string? Reason = null
);

public sealed record NewPageMade(string Id);

/// <param name="Again">Who has to read it again.</param>
public sealed record PublishResponse(int Version, bool Published, IReadOnlyList<string> Again);

/// <summary>Changing a page of the course: looked at before it is published.</summary>
public static class PageEndpoints
{
    public static void MapPages(this IEndpointRouteBuilder app)
    {
        app.MapPost("/api/training/readings", Add)
            .WithMetadata(LargeJson.Page)
            .WithTags("Training")
            .WithName("AddPage")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400);
        var pages = app.MapGroup("/api/training/readings/{id}").WithTags("Training").RequireAuthorization(Policy.Steward);
        pages.MapGet("/draft", Draft).WithName("ShowPageDraft").ProducesProblem(404);
        pages
            .MapPost(
                "/versions/preview",
                (
                    string id,
                    PublishRequest request,
                    CourseStore course,
                    HouseStore house,
                    PeopleStore people,
                    CurrentUser user,
                    IClock clock,
                    CancellationToken cancel
                ) => Publish(id, request, false, course, house, people, user, clock, cancel)
            )
            .WithMetadata(LargeJson.Page)
            .WithName("PreviewPage")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        pages
            .MapPost(
                "/versions",
                (
                    string id,
                    PublishRequest request,
                    CourseStore course,
                    HouseStore house,
                    PeopleStore people,
                    CurrentUser user,
                    IClock clock,
                    CancellationToken cancel
                ) => Publish(id, request, true, course, house, people, user, clock, cancel)
            )
            .WithMetadata(LargeJson.Page)
            .WithName("PublishPage")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<PageDraft>, ProblemHttpResult>> Draft(string id, CourseStore course, CancellationToken cancel) =>
        await course.Page(id, cancel) is { } page
            ? TypedResults.Ok(new PageDraft(page.ModuleId, page.Title, page.Version, page.Body, page.Check, page.Options))
            : Problems.NotFound("reading");

    private static async Task<Results<Created<NewPageMade>, ProblemHttpResult>> Add(
        NewPageRequest request,
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
        var errors = new FieldErrors();
        if (NewPages.Wrong(request.Title) is { } title)
            errors.Add("title", title.Text);
        var page = Written(request.Body, request.Check, request.Options, null);
        errors.Add(page.Wrong(rules.Clock.DateOf(now)));
        errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var id = await course.Add(request.Title!.Trim(), page, request.Reason!.Trim(), user.Id, now, cancel);
        return TypedResults.Created($"/api/training/readings/{id}", new NewPageMade(id));
    }

    private static PageChange Written(string? body, string? check, IReadOnlyList<string>? options, LocalDate? repeatBy) =>
        new(body?.Trim() ?? "", check?.Trim() ?? "", [.. (options ?? []).OfType<string>().Select(o => o.Trim())], repeatBy);

    private static async Task<Results<Ok<PublishResponse>, ProblemHttpResult>> Publish(
        string id,
        PublishRequest request,
        bool store,
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
        var by = errors.Day("repeatBy", request.RepeatBy);
        var today = rules.Clock.DateOf(now);
        var change = Written(request.Body, request.Check, request.Options, by);
        errors.Add(change.Wrong(today));
        if (store)
            errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var version = request.Version ?? 0;
        var published = await course.Publish(id, version, change, store ? request.Reason!.Trim() : null, user.Id, today, now, cancel);
        if (published.Refusal is { } refusal)
            return Problems.Of(refusal);
        var names = await PeopleNames.All(people, true, clock, cancel);
        return TypedResults.Ok(
            new PublishResponse(
                store ? version + 1 : version,
                store,
                [.. published.Value.Select(p => names.GetValueOrDefault(p, "somebody")).Order(StringComparer.Ordinal)]
            )
        );
    }
}
