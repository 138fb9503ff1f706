using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Run;
using VelvetGate.Store.Booking;
using VelvetGate.Web.Gate;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

/// <param name="Question">As the gate was asked: its time and its people are not kept.</param>
/// <param name="Id">Client-made: the same again changes nothing.</param>
public sealed record JobRequest(string? Name = null, GateQuestionRequest? Question = null, string? Id = null);

/// <param name="Job">What is asked again, as a question to the gate without a time.</param>
/// <param name="LastRun">Of one of its drawings on this machine; null for never.</param>
public sealed record JobResponse(
    Guid Id,
    string Name,
    Instant At,
    string MachineName,
    Job Job,
    IReadOnlyList<JobItemWords> Items,
    LastRunResponse? LastRun
);

/// <param name="Drawing">Name of its drawing; null without one.</param>
/// <param name="DrawingGone">It had one, which was deleted.</param>
/// <param name="SheetGone">It had a sheet, which is not there or not cleared any more.</param>
public sealed record JobItemWords(string Material, string? Drawing, bool DrawingGone, bool SheetGone);

public sealed record LastRunResponse(Instant At, Outcome Outcome);

public sealed record JobMade(Guid Id);

/// <param name="Items">To pick from where nobody has estimated a run.</param>
public sealed record TypicalRunList(IReadOnlyList<TypicalRun> Items);

public sealed record JobList(IReadOnlyList<JobResponse> Items);

/// <summary>Jobs that somebody keeps, to ask the gate for them again.</summary>
public static class JobEndpoints
{
    public static void MapJobs(this IEndpointRouteBuilder app)
    {
        var jobs = app.MapGroup("/api/jobs").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        jobs.MapGet("", List).WithName("ListJobs");
        jobs.MapGet("/typical", () => TypedResults.Ok(new TypicalRunList(TypicalRuns.All))).WithName("ListTypicalRuns");
        jobs.MapPost("", Keep).WithName("KeepJob").ProducesProblem(400).ProducesProblem(409);
        jobs.MapDelete("/{id:guid}", TakeAway).WithName("TakeJobAway").ProducesProblem(404);
    }

    private static async Task<Ok<JobList>> List(CurrentUser user, JobStore jobs, IClock clock, CancellationToken cancel) =>
        TypedResults.Ok(new JobList([.. (await jobs.Of(user.Id, clock.GetCurrentInstant(), cancel)).Select(Answer)]));

    private static async Task<Results<Created<JobMade>, ProblemHttpResult>> Keep(
        JobRequest request,
        CurrentUser user,
        JobStore jobs,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var id = Guid.NewGuid();
        if (request.Id is { } text && !Guid.TryParse(text, out id))
            return Problems.Of(BookingProblems.BookingId.Refuse("id"));
        var errors = new FieldErrors();
        if (GateQuestionReading.Read(request.Question ?? new(), user.Id, now, errors) is not { } question)
            return errors.Answer();
        var kept = await jobs.Keep(id, user.Id, request.Name, Job.Of(question), now, cancel);
        return kept.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/jobs/{kept.Value}", new JobMade(kept.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeAway(
        Guid id,
        CurrentUser user,
        JobStore jobs,
        CancellationToken cancel
    ) => await jobs.TakeAway(id, user.Id, cancel) ? TypedResults.NoContent() : Problems.NotFound("job of yours");

    private static JobResponse Answer(KeptJob kept) =>
        new(
            Id: kept.Id,
            Name: kept.Name,
            At: kept.At,
            MachineName: kept.MachineName,
            Job: kept.Job,
            Items: [.. kept.Job.Items.Select(i => Words(kept, i))],
            LastRun: kept.LastRun is { } run ? new LastRunResponse(run.At, Enum.Parse<Outcome>(run.Outcome, ignoreCase: true)) : null
        );

    private static JobItemWords Words(KeptJob kept, GateItem item)
    {
        var drawing = item.DrawingId is { } id ? kept.Drawings.GetValueOrDefault(id.ToString()) : null;
        return new JobItemWords(
            Material: kept.Materials.GetValueOrDefault(item.MaterialId.Value) ?? item.MaterialId.Value,
            Drawing: drawing,
            DrawingGone: item.DrawingId is not null && drawing is null,
            SheetGone: item.SheetTag is { } tag && !kept.Sheets.Contains(tag.Value)
        );
    }
}
