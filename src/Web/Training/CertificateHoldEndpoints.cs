using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Kind">review or suspended.</param>
/// <param name="SupervisedRuns">Wanted before it counts again.</param>
/// <param name="Quiz">The quiz is to be passed anew.</param>
public sealed record CertificateHoldRequest(
    string? PersonId = null,
    string? Authority = null,
    string? Kind = null,
    int? SupervisedRuns = null,
    bool? Quiz = null,
    string? Reason = null
);

/// <param name="Signer">Whose signatures.</param>
/// <param name="From">First house day.</param>
/// <param name="To">Last house day.</param>
/// <param name="DryRun">True shows whom it would meet; nothing is stored unless this is false.</param>
public sealed record ReviewRequest(
    string? Signer = null,
    string? From = null,
    string? To = null,
    string? Reason = null,
    bool? DryRun = null
);

public sealed record ReviewedCertificate(PersonId PersonId, string Name, string Authority, string AuthorityName);

public sealed record ReviewResponse(bool Stored, IReadOnlyList<ReviewedCertificate> Items);

/// <param name="Unmet">Conditions that are open.</param>
public sealed record CertificateHoldResponse(
    Guid Id,
    PersonId PersonId,
    string Name,
    string Authority,
    string AuthorityName,
    CertificateHoldKind Kind,
    Instant Since,
    string SetBy,
    string? Reason,
    HoldConditions Conditions,
    IReadOnlyList<string> Unmet
);

public sealed record CertificateHoldList(IReadOnlyList<CertificateHoldResponse> Items);

/// <summary>Suspending, reviewing and reinstating certificates.</summary>
public static class CertificateHoldEndpoints
{
    public static void MapCertificateHolds(this IEndpointRouteBuilder app)
    {
        var holds = app.MapGroup("/api/certificate-holds").WithTags("Training");
        holds.MapGet("/", List).WithName("ListCertificateHolds").RequireAuthorization(Policy.SignedIn).ProducesProblem(403);
        holds.MapPost("/", Set).WithName("HoldCertificate").RequireAuthorization(Policy.Steward).ProducesProblem(400).ProducesProblem(404);
        holds.MapPost("/review", Review).WithName("ReviewCertificates").RequireAuthorization(Policy.Steward).ProducesProblem(400);
        holds
            .MapPost("/{id:guid}/end", End)
            .WithName("EndCertificateHold")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    /// <param name="person">Empty gives everybody's, for staff.</param>
    private static async Task<Results<Ok<CertificateHoldList>, ProblemHttpResult>> List(
        string? person,
        CertificateHoldStore holds,
        PathStore paths,
        HouseStore house,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (person != user.Id.Value && !await user.SeesNames())
            return Problems.Of(TrainingProblems.CertificateNotYours.Refuse());
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var names = await PeopleNames.All(people, await user.SeesNames(), clock, cancel);
        var authorities = await paths.Names(await paths.All(rules, now, cancel), cancel);
        return TypedResults.Ok(
            new CertificateHoldList([
                .. (await holds.Now(Ids.From<PersonId>(Texts.NullIfBlank(person)), now, cancel)).Select(h => new CertificateHoldResponse(
                    Id: h.Id,
                    PersonId: h.PersonId,
                    Name: names.GetValueOrDefault(h.PersonId, "somebody"),
                    Authority: h.Authority,
                    AuthorityName: authorities.GetValueOrDefault(h.Authority, h.Authority),
                    Kind: h.Kind,
                    Since: h.Since,
                    SetBy: names.GetValueOrDefault(h.SetBy, "somebody"),
                    Reason: h.Reason,
                    Conditions: h.Conditions,
                    Unmet: h.Unmet
                )),
            ])
        );
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Set(
        CertificateHoldRequest request,
        CertificateHoldStore holds,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("personId", request.PersonId, "Choose the person.");
        errors.Need("authority", request.Authority, "Choose the certificate.");
        var kind = errors.Word<CertificateHoldKind>("kind", request.Kind, "Say review or suspended.");
        var conditions = new HoldConditions(request.SupervisedRuns ?? 0, request.Quiz ?? false);
        if (Typed.Word<CertificateHoldKind>(request.Kind) is not null)
            errors.Add(CertificateHolds.Wrong(kind, conditions));
        errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var set = await holds.Set(
            request.PersonId!.Trim(),
            request.Authority!.Trim(),
            kind,
            conditions,
            request.Reason!.Trim(),
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return set.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/certificate-holds/{set.Value}", new PauseMade(set.Value));
    }

    private static async Task<Results<Ok<ReviewResponse>, ProblemHttpResult>> Review(
        ReviewRequest request,
        CertificateHoldStore holds,
        PathStore paths,
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
        errors.Need("signer", request.Signer, "Choose whose signatures.");
        var from = errors.NeedDay("from", request.From, "Give the first day.");
        var to = errors.NeedDay("to", request.To, "Give the last day.");
        if (!errors.Any && to < from)
            errors.Add("to", "The last day lies before the first.");
        var store = request.DryRun == false;
        if (store)
            errors.Reason("reason", request.Reason);
        if (errors.Any)
            return errors.Answer();
        var hit = await holds.Review(
            request.Signer!.Trim(),
            rules.Clock.Day(from).Start,
            new LastDay(to).End(rules.Clock),
            request.Reason?.Trim() ?? "",
            store,
            user.Id,
            now,
            cancel
        );
        var names = await PeopleNames.All(people, true, clock, cancel);
        var authorities = await paths.Names(await paths.All(rules, now, cancel), cancel);
        return TypedResults.Ok(
            new ReviewResponse(
                store,
                [
                    .. hit.Select(h => new ReviewedCertificate(
                        h.PersonId,
                        names.GetValueOrDefault(h.PersonId, "somebody"),
                        h.Authority,
                        authorities.GetValueOrDefault(h.Authority, h.Authority)
                    )),
                ]
            )
        );
    }

    private static async Task<Results<NoContent, Accepted<HoldResponse>, ProblemHttpResult>> End(
        Guid id,
        ReasonRequest request,
        CertificateHoldStore holds,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } problem)
            return problem;
        var ended = await holds.End(id, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel);
        if (ended.Refusal is { } refusal)
            return Problems.Of(refusal);
        return ended.Value == HoldEnding.Ends ? TypedResults.NoContent() : TypedResults.Accepted((string?)null, HoldResponse.Noted);
    }
}
