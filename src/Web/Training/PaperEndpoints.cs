using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="SignedOn">Day on the paper, such as 2026-03-14.</param>
public sealed record PaperRequest(string? MemberId = null, string? Authority = null, string? SignedOn = null, string? Evidence = null);

/// <param name="From">First day on the paper.</param>
/// <param name="To">Last day; empty without end.</param>
public sealed record OutsideRequest(
    string? Title = null,
    string? Issuer = null,
    string? From = null,
    string? To = null,
    string? Evidence = null
);

public sealed record OutsideResponse(Guid Id, string Title, string Issuer, Instant Since, Instant? Until, string? Evidence);

public sealed record OutsideList(IReadOnlyList<OutsideResponse> Items);

/// <summary>Papers: sign-offs of before this house kept its records here, and certificates of others.</summary>
public static class PaperEndpoints
{
    public static void MapPapers(this IEndpointRouteBuilder app)
    {
        app.MapPost("/api/paper-sign-offs", Enter)
            .WithTags("Training")
            .WithName("EnterPaper")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
        app.MapGet("/api/people/{id}/outside", List)
            .WithTags("Training")
            .WithName("ListOutside")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(403);
        app.MapPost("/api/people/{id}/outside", Record)
            .WithTags("Training")
            .WithName("RecordOutside")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<Results<Created<SignOffResponse>, ProblemHttpResult>> Enter(
        PaperRequest request,
        TrainingStore training,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("memberId", request.MemberId, "Choose whose paper it is.");
        errors.Need("authority", request.Authority, "Choose what it is for.");
        var day = errors.Day("signedOn", request.SignedOn);
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var entered = await training.EnterPaper(
            request.MemberId!.Trim(),
            request.Authority!.Trim(),
            day,
            request.Evidence,
            user.Id,
            rules,
            now,
            cancel
        );
        if (entered.Refusal is { } refusal)
            return Problems.Of(refusal);
        var c = entered.Value;
        return TypedResults.Created($"/api/certificates/{c.Id}", new SignOffResponse(c.Id, c.PersonId, c.Authority, c.Since, c.Until, []));
    }

    private static async Task<Results<Ok<OutsideList>, ProblemHttpResult>> List(
        string id,
        OutsideStore outside,
        CurrentUser user,
        CancellationToken cancel
    ) =>
        id != user.Id && !await user.SeesNames()
            ? Problems.Of(TrainingProblems.OutsideNotYours.Refuse())
            : TypedResults.Ok(
                new OutsideList([
                    .. (await outside.Of(id, cancel)).Select(o => new OutsideResponse(
                        o.Id,
                        o.Title,
                        o.Issuer,
                        o.Since,
                        o.Until,
                        o.Evidence
                    )),
                ])
            );

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Record(
        string id,
        OutsideRequest request,
        OutsideStore outside,
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
        var (from, to) = (errors.Day("from", request.From), errors.Day("to", request.To));
        if (!errors.Any)
            errors.Add(
                OutsidePapers.Wrong(id, user.Id, request.Title, request.Issuer, from, to, request.Evidence, rules.Clock.DateOf(now))
            );
        if (errors.Any)
            return errors.Answer();
        var made = await outside.Record(
            id,
            request.Title!.Trim(),
            request.Issuer!.Trim(),
            rules.Clock.Day(from!.Value).Start,
            to is { } last ? new LastDay(last).End(rules.Clock) : null,
            request.Evidence!.Trim(),
            user.Id,
            now,
            cancel
        );
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/people/{id}/outside", new PauseMade(made.Value));
    }
}
