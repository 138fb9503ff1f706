using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Photos, injuries and prints of one incident.</summary>
public static class IncidentPaperEndpoints
{
    public static void MapIncidentPapers(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/incidents/{id:guid}").WithTags("Incidents").RequireAuthorization(Policy.SignedIn);
        group
            .MapPost("/photos", AddPhoto)
            .WithName("AddIncidentPhoto")
            .DisableAntiforgery()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(413)
            .ProducesProblem(415)
            .ProducesProblem(507);
        group
            .MapGet("/photos/{photo:guid}", Photo)
            .WithName("ShowIncidentPhoto")
            .Produces(200, contentType: "image/jpeg")
            .ProducesProblem(403)
            .ProducesProblem(404);
        group.MapPost("/photos/{photo:guid}/remove", RemovePhoto).WithName("RemoveIncidentPhoto").ProducesProblem(404).ProducesProblem(409);
        group
            .MapPost("/injuries", Injure)
            .WithName("AddInjury")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapGet("/injuries/{injury:guid}.pdf", AccidentPage)
            .WithName("PrintAccidentPage")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(403)
            .ProducesProblem(404);
        app.MapGet("/api/incidents/{id:guid}.pdf", Pdf)
            .WithTags("Incidents")
            .WithName("PrintIncident")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> AddPhoto(
        Guid id,
        IFormFile? file,
        CurrentUser user,
        IncidentPapers papers,
        IncidentAnswers answers,
        IClock clock,
        CancellationToken cancel
    )
    {
        var clean = await PhotoFiles.Read(file, cancel);
        if (clean.Refusal is { } unread)
            return Problems.Of(unread);
        var photo = clean.Value;
        var added = await papers.AddPhoto(
            id,
            new NewPhoto(photo.MediaType, photo.Bytes, photo.Width, photo.Height),
            await answers.SeesAll(),
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return added.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/incidents/{id}/photos/{added.Value}", new Made(added.Value));
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Photo(
        Guid id,
        Guid photo,
        CurrentUser user,
        IncidentPapers papers,
        IncidentReading incidents,
        IncidentAnswers answers,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await incidents.IsPartOf(id, user.Id, cancel) is not { } part)
            return Problems.NotFound("incident");
        if (IncidentRules.MayRead(await answers.SeesAll(), part) is { } refusal)
            return Problems.Of(refusal);
        if (await papers.Photo(id, photo, cancel) is not { } found)
            return Problems.NotFound("photo");
        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
        return TypedResults.File(found.Bytes, found.MediaType);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> RemovePhoto(
        Guid id,
        Guid photo,
        CurrentUser user,
        IncidentPapers papers,
        IClock clock,
        CancellationToken cancel
    )
    {
        var removed = await papers.RemovePhoto(id, photo, await user.Is(Role.Steward), user.Id, clock.GetCurrentInstant(), cancel);
        return removed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Injure(
        Guid id,
        InjuryRequest request,
        CurrentUser user,
        IncidentPapers papers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var words = errors.Need("words", request.Words, "Write what the injury is and what was done.");
        errors.AtMost("words", request.Words, IncidentRules.TextLongest);
        if (errors.Any)
            return errors.Answer();
        var person = Ids.From<PersonId>(Texts.NullIfBlank(request.PersonId));
        var made = await papers.Injure(id, person, words, rules, user.Id, now, cancel);
        return made.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Created($"/api/incidents/{id}", new Made(made.Value));
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> AccidentPage(
        Guid id,
        Guid injury,
        IncidentAnswers answers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, refusal) = await answers.Find(id, cancel);
        if (answer is null)
            return Problems.Of(refusal!);
        // Empty for whoever may not see them.
        if (answer.Injuries.SingleOrDefault(j => j.Id == injury) is not { } found)
            return Problems.NotFound("injury");
        var now = clock.GetCurrentInstant();
        var rules = (await house.Rules(now, cancel))!;
        return TypedResults.File(
            IncidentPrint.AccidentPage(answer, found, rules, now),
            "application/pdf",
            $"accident-book-{answer.Number}.pdf"
        );
    }

    /// <param name="personal">True prints names, injuries and photos as well; stewards and keepers alone.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Pdf(
        Guid id,
        [FromQuery] bool? personal,
        CurrentUser user,
        IncidentAnswers answers,
        IncidentPapers papers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, refusal) = await answers.Find(id, cancel);
        if (answer is null)
            return Problems.Of(refusal!);
        var whole = personal == true && await user.Is(Role.Steward, Role.Keeper);
        var photos = new List<byte[]>();
        foreach (var photo in whole ? answer.Photos : [])
            if (await papers.Photo(id, photo.Id, cancel) is { } found)
                photos.Add(found.Bytes);
        var rules = (await house.Rules(clock.GetCurrentInstant(), cancel))!;
        return TypedResults.File(
            IncidentPrint.One(answer, whole, photos, rules, clock.GetCurrentInstant()),
            "application/pdf",
            $"incident-{answer.Number}.pdf"
        );
    }
}
