using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

public sealed record PracticalRequest(string? MemberId = null, string? Authority = null);

public sealed record PracticalMade(Guid Id);

/// <param name="Id">Made by the tablet: sent twice it is one.</param>
/// <param name="At">When it was seen, by the tablet's clock.</param>
public sealed record MarkRequest(Guid? Id = null, string? StepId = null, string? Mark = null, string? Note = null, string? At = null);

public sealed record MarksRequest(IReadOnlyList<MarkRequest>? Marks = null);

/// <param name="Marks">How many marks were on the sheet that one agrees to.</param>
public sealed record AgreeRequest(int? Marks = null);

public sealed record MarkResponse(Guid Id, string StepId, StepMark Mark, string? Note, Instant At, string By);

/// <param name="Verdict">What the rule says to the marks so far.</param>
/// <param name="MayMark">The one who asks is a trainer of the machine, and not the person watched.</param>
public sealed record PracticalResponse(
    Guid Id,
    PersonId PersonId,
    string Person,
    string Authority,
    string AuthorityName,
    PersonId TrainerId,
    string Trainer,
    PracticalSheet Sheet,
    IReadOnlyList<MarkResponse> Marks,
    PracticalVerdict Verdict,
    Instant Started,
    Instant? TrainerAgreedAt,
    Instant? MemberAgreedAt,
    Instant? Ended,
    string? Outcome,
    bool MayMark,
    bool Mine
);

/// <param name="Outcome">Null while it is open.</param>
public sealed record PracticalLine(
    Guid Id,
    string Authority,
    string AuthorityName,
    string Title,
    string Trainer,
    Instant Started,
    string? Outcome
);

public sealed record PracticalLines(IReadOnlyList<PracticalLine> Items);

/// <summary>Practical sign-offs on their sheet: for the trainers of the machine and the person watched.</summary>
public static class PracticalEndpoints
{
    public static void MapPracticals(this IEndpointRouteBuilder app)
    {
        var practicals = app.MapGroup("/api/practicals").WithTags("Training");
        practicals
            .MapPost("/", Begin)
            .WithName("BeginPractical")
            .RequireAuthorization(Policy.Trainer)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        practicals.MapGet("/", List).WithName("ListPracticals").RequireAuthorization(Policy.SignedIn).ProducesProblem(403);
        practicals
            .MapGet("/{id:guid}", Show)
            .WithName("ShowPractical")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(403)
            .ProducesProblem(404);
        practicals
            .MapGet("/{id:guid}/sheet.pdf", Print)
            .WithName("PrintPractical")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(403)
            .ProducesProblem(404);
        practicals
            .MapPost("/{id:guid}/marks", Mark)
            .WithName("MarkPractical")
            .RequireAuthorization(Policy.Trainer)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        practicals
            .MapPost("/{id:guid}/agree", Agree)
            .WithName("AgreePractical")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        practicals
            .MapPost("/{id:guid}/drop", Drop)
            .WithName("DropPractical")
            .RequireAuthorization(Policy.Trainer)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    private static async Task<Results<Created<PracticalMade>, ProblemHttpResult>> Begin(
        PracticalRequest request,
        PracticalStore practicals,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("memberId", request.MemberId, "Choose the person you watch.");
        errors.Need("authority", request.Authority, "Choose what you sign them off for.");
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var begun = await practicals.Begin(request.MemberId!.Trim(), request.Authority!.Trim(), user.Id, rules, now, cancel);
        return begun.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/practicals/{begun.Value}", new PracticalMade(begun.Value));
    }

    /// <param name="person">Another person's are for staff.</param>
    private static async Task<Results<Ok<PracticalLines>, ProblemHttpResult>> List(
        string? person,
        PracticalStore practicals,
        PathStore paths,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var id = string.IsNullOrWhiteSpace(person) ? user.Id : person.Trim();
        if (id != user.Id && !await user.SeesNames())
            return NotYours();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var authorities = await paths.Names(await paths.All(rules, now, cancel), cancel);
        var names = await PeopleNames.All(people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(
            new PracticalLines([
                .. (await practicals.Of(id, cancel)).Select(o => new PracticalLine(
                    Id: o.Id,
                    Authority: o.Authority,
                    AuthorityName: authorities.GetValueOrDefault(o.Authority, o.Authority),
                    Title: o.Sheet.Title,
                    Trainer: names.GetValueOrDefault(o.TrainerId, "somebody"),
                    Started: o.Started,
                    Outcome: o.Outcome
                )),
            ])
        );
    }

    private static async Task<Results<Ok<PracticalResponse>, ProblemHttpResult>> Show(
        Guid id,
        Answering answering,
        PracticalStore practicals,
        CancellationToken cancel
    )
    {
        if (await practicals.Find(id, cancel) is not { } seen)
            return Problems.NotFound("practical");
        return await answering.Answer(seen, cancel) is { } answer ? TypedResults.Ok(answer) : NotYours();
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Print(
        Guid id,
        Answering answering,
        PracticalStore practicals,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await practicals.Find(id, cancel) is not { } seen)
            return Problems.NotFound("practical");
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        if (await answering.Answer(seen, cancel) is not { } answer)
            return NotYours();
        return TypedResults.File(PracticalPrint.Pdf(answer, rules), "application/pdf", "practical.pdf");
    }

    private static async Task<Results<Ok<PracticalResponse>, ProblemHttpResult>> Mark(
        Guid id,
        MarksRequest request,
        Answering answering,
        PracticalStore practicals,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var marks = new List<PracticalMark>();
        var now = clock.GetCurrentInstant();
        foreach (var mark in (request.Marks ?? []).OfType<MarkRequest>())
        {
            if (mark.Id is not { } own || own == Guid.Empty)
                errors.Add("id", "Every mark carries an id of its own.");
            else
                marks.Add(
                    new PracticalMark(
                        own,
                        mark.StepId ?? "",
                        errors.Word<StepMark>("mark", mark.Mark, "Say unprompted, prompted or missed."),
                        mark.Note,
                        InstantPattern.ExtendedIso.Parse(mark.At ?? "") is { Success: true } at ? at.Value : now,
                        user.Id
                    )
                );
        }
        if (marks.Count == 0 && !errors.Any)
            errors.Add("marks", "There is no mark in this request.");
        if (errors.Any)
            return errors.Answer();
        return await Answer(await practicals.Mark(id, marks, user.Id, now, cancel), answering, cancel);
    }

    private static async Task<Results<Ok<PracticalResponse>, ProblemHttpResult>> Agree(
        Guid id,
        AgreeRequest request,
        Answering answering,
        PracticalStore practicals,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        return await Answer(await practicals.Agree(id, request.Marks ?? -1, user.Id, rules, now, cancel), answering, cancel);
    }

    private static async Task<Results<Ok<PracticalResponse>, ProblemHttpResult>> Drop(
        Guid id,
        ReasonRequest request,
        Answering answering,
        PracticalStore practicals,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } problem)
            return problem;
        return await Answer(
            await practicals.Drop(id, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel),
            answering,
            cancel
        );
    }

    private static async Task<Results<Ok<PracticalResponse>, ProblemHttpResult>> Answer(
        Result<Observation> made,
        Answering answering,
        CancellationToken cancel
    )
    {
        if (made.Refusal is { } refusal)
            return Problems.Of(refusal);
        return await answering.Answer(made.Value, cancel) is { } answer ? TypedResults.Ok(answer) : NotYours();
    }

    private static ProblemHttpResult NotYours() => Problems.Of(TrainingProblems.PracticalOfOthers.Refuse());

    /// <summary>A sheet as the one who asks may see it.</summary>
    public sealed class Answering(PathStore paths, HouseStore house, PeopleStore people, CurrentUser user, IClock clock)
    {
        /// <returns>Null when it is not theirs to see.</returns>
        public async Task<PracticalResponse?> Answer(Observation seen, CancellationToken cancel)
        {
            var staff = await user.Is(Role.Steward, Role.Trainer);
            if (user.Id != seen.PersonId && !staff)
                return null;
            var now = clock.GetCurrentInstant();
            var rules = (await house.Rules(now, cancel))!;
            // Asked every few seconds while a sheet is open.
            var names = await PeopleNames.Of(
                [seen.PersonId, seen.TrainerId, .. seen.Marks.Select(m => m.By)],
                people,
                staff,
                clock,
                cancel
            );
            var authorities = await paths.Names(await paths.All(rules, now, cancel), cancel);
            var trains = (await user.Person())!.Roles.Any(r => r.Role == Role.Trainer && r.MachineId == SignOffs.MachineOf(seen.Authority));
            string Name(PersonId id) => names.GetValueOrDefault(id, "somebody");
            return new PracticalResponse(
                Id: seen.Id,
                PersonId: seen.PersonId,
                Person: Name(seen.PersonId),
                Authority: seen.Authority,
                AuthorityName: authorities.GetValueOrDefault(seen.Authority, seen.Authority),
                TrainerId: seen.TrainerId,
                Trainer: Name(seen.TrainerId),
                Sheet: seen.Sheet,
                Marks: [.. seen.Marks.Select(m => new MarkResponse(m.Id, m.StepId, m.Mark, m.Note, m.At, Name(m.By)))],
                Verdict: Practicals.Judge(seen.Sheet, seen.Marks, rules),
                Started: seen.Started,
                TrainerAgreedAt: seen.TrainerAgreedAt,
                MemberAgreedAt: seen.MemberAgreedAt,
                Ended: seen.Ended,
                Outcome: seen.Outcome,
                MayMark: trains && user.Id != seen.PersonId && seen.Ended is null,
                Mine: user.Id == seen.PersonId
            );
        }
    }
}
