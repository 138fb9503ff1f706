using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="Name">Whole for staff and for oneself; else a first name and initial.</param>
/// <param name="Certificates">Staff and the person only: authorities held, with their last day.</param>
/// <param name="Pause">Stewards and the person only.</param>
public sealed record PersonResponse(
    PersonId Id,
    string Name,
    bool Me,
    IReadOnlyList<HeldCertificate>? Certificates,
    IReadOnlyList<string>? Roles,
    PauseResponse? Pause
);

public sealed record HeldCertificate(Guid Id, string Authority, Instant? Until);

public sealed record PeopleList(IReadOnlyList<PersonResponse> Items);

public sealed record PauseRequest(string? Reason = null, string? Until = null);

public sealed record PauseMade(Guid Id);

/// <param name="Name">Whole for staff; else a first name and initial.</param>
public sealed record TrainerResponse(PersonId Id, string Name);

public sealed record TrainerList(IReadOnlyList<TrainerResponse> Items);

public static class PeopleEndpoints
{
    public static void MapPeople(this IEndpointRouteBuilder app)
    {
        var people = app.MapGroup("/api").WithTags("People");
        people.MapGet("/people", List).WithName("ListPeople").RequireAuthorization(Policy.SignedIn);
        people.MapGet("/machines/{id}/trainers", Trainers).WithName("ListTrainers").RequireAuthorization(Policy.SignedIn);
        people
            .MapPost("/people/{id}/pauses", Pause)
            .WithName("PausePerson")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
        people
            .MapPost("/pauses/{id:guid}/release", Release)
            .WithName("ReleasePerson")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<Ok<PeopleList>> List(
        CurrentUser user,
        PeopleStore people,
        TrainingStore training,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var whole = await user.SeesNames();
        var steward = await user.Is(Role.Steward);
        var held = (await training.Held(now, null, cancel)).ToLookup(c => c.PersonId);
        return TypedResults.Ok(new PeopleList([.. (await people.All(now, cancel)).Select(p => Answer(p, p.Id == user.Id))]));

        PersonResponse Answer(PersonNow p, bool me) =>
            new(
                p.Id,
                PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole || me),
                me,
                whole || me ? [.. held[p.Id].Select(c => new HeldCertificate(c.Id, c.Authority, c.Until))] : null,
                whole || me
                    ?
                    [
                        .. p
                            .Roles.Select(r => r.Role.ToString().ToLowerInvariant() + (r.MachineId is { } m ? $":{m}" : ""))
                            .Distinct()
                            .Order(StringComparer.Ordinal),
                    ]
                    : null,
                (steward || me) && p.Pause is { } pause ? new PauseResponse(pause.Id, pause.Since, pause.Until, pause.Reason) : null
            );
    }

    /// <summary>Who holds trainer authority for a machine now.</summary>
    private static async Task<Ok<TrainerList>> Trainers(
        string id,
        CurrentUser user,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var whole = await user.SeesNames();
        return TypedResults.Ok(
            new TrainerList([
                .. (await people.All(now, cancel))
                    .Where(p => p.Roles.Any(r => r.Role == Role.Trainer && r.MachineId == id))
                    .Select(p => new TrainerResponse(
                        p.Id,
                        PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole || p.Id == user.Id)
                    )),
            ])
        );
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Pause(
        string id,
        PauseRequest request,
        CurrentUser user,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        Instant? until = null;
        if (!string.IsNullOrWhiteSpace(request.Until))
        {
            until = Typed.Moment(request.Until);
            if (until is null)
                return Problems.Of(PeopleProblems.PauseUntilUnread.Refuse("until"));
        }
        var answer = await people.Pause(id, user.Id, request.Reason!.Trim(), until, clock.GetCurrentInstant(), cancel);
        if (answer.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Created($"/api/pauses/{answer.Value}", new PauseMade(answer.Value));
    }

    private static async Task<Results<NoContent, Accepted<HoldResponse>, ProblemHttpResult>> Release(
        Guid id,
        ReasonRequest request,
        CurrentUser user,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        var ending = await people.Release(id, user.Id, request.Reason!.Trim(), clock.GetCurrentInstant(), cancel);
        if (ending.Refusal is { } refusal)
            return Problems.Of(refusal);
        return ending.Value == HoldEnding.Ends ? TypedResults.NoContent() : TypedResults.Accepted((string?)null, HoldResponse.Noted);
    }
}
