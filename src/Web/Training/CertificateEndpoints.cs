using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

public enum CertificateState
{
    Valid,
    UnderReview,
    Suspended,

    /// <summary>Nothing run for longer than the house allows: one supervised run first.</summary>
    Idle,
    Ended,
}

/// <summary>What a certificate opens and whether it counts. No name: the paper shows it, and the person shows themselves.</summary>
/// <param name="LastDay">Last house day; null without end, or when it has ended.</param>
public sealed record VerifyResponse(string House, string Scope, CertificateState State, LocalDate? LastDay, Instant CheckedAt);

/// <summary>Certificates on paper, and the page behind their code.</summary>
public static class CertificateEndpoints
{
    public static void MapCertificates(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/verify/{id:guid}", Verify)
            .WithTags("Training")
            .WithName("VerifyCertificate")
            .AllowAnonymous()
            .ProducesProblem(404);
        app.MapGet("/api/certificates/{id:guid}/certificate.pdf", (Guid id, HouseAddress house, Papers papers, CancellationToken cancel) =>
                Paper(id, house, papers, false, cancel)
            )
            .WithTags("Training")
            .WithName("PrintCertificate")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(403)
            .ProducesProblem(404);
        app.MapGet("/api/certificates/{id:guid}/card.pdf", (Guid id, HouseAddress house, Papers papers, CancellationToken cancel) =>
                Paper(id, house, papers, true, cancel)
            )
            .WithTags("Training")
            .WithName("PrintCard")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    /// <summary>What a paper is printed from.</summary>
    public sealed record Papers(MatrixStore Certificates, HouseStore House, CurrentUser User, IClock Clock);

    private static async Task<Results<Ok<VerifyResponse>, ProblemHttpResult>> Verify(
        Guid id,
        MatrixStore certificates,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, problem) = await Read(id, certificates, house, clock, cancel);
        return problem is null ? TypedResults.Ok(answer!) : problem;
    }

    internal static async Task<(VerifyResponse? Answer, ProblemHttpResult? Problem)> Read(
        Guid id,
        MatrixStore certificates,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        if (await certificates.Standing(id, rules, now, cancel) is not { } standing)
            return (null, Problems.NotFound("certificate"));
        var state = StateOf(standing, now);
        return (
            new VerifyResponse(
                rules.HouseName,
                standing.AuthorityName,
                state,
                state != CertificateState.Ended && standing.Now?.Until is { } end ? rules.Clock.DateOf(end - Duration.Epsilon) : null,
                now
            ),
            null
        );
    }

    internal static CertificateState StateOf(CertificateStatus standing, Instant now) =>
        standing.Now is not { } held ? CertificateState.Ended
        : standing.Paused || held.Hold == CertificateHoldKind.Suspended ? CertificateState.Suspended
        : held.Lapse is { Cause: LapseCause.Idle } lapse && lapse.At <= now ? CertificateState.Idle
        : held.Hold == CertificateHoldKind.Review ? CertificateState.UnderReview
        : CertificateState.Valid;

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Paper(
        Guid id,
        HouseAddress house,
        Papers papers,
        bool card,
        CancellationToken cancel
    )
    {
        var now = papers.Clock.GetCurrentInstant();
        if (await papers.House.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await papers.Certificates.Standing(id, rules, now, cancel) is not { } standing)
            return Problems.NotFound("certificate");
        if (standing.PersonId != papers.User.Id && !await papers.User.SeesNames())
            return Problems.Of(TrainingProblems.CertificateNotYours.Refuse());
        if (standing.Now is null)
            return Problems.NotFound("certificate that still holds");
        var address = house.Of($"/verify/{id}");
        return TypedResults.File(
            CertificatePrint.Pdf(standing, rules, address, card, now),
            "application/pdf",
            card ? "card.pdf" : "certificate.pdf"
        );
    }
}
