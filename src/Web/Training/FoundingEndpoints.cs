using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

public sealed record FoundingRequest(string? PersonId = null, string? MachineId = null, string? Evidence = null);

/// <param name="Evidence">Staff only.</param>
/// <param name="MayConfirm">True when the one who asks may be the second pair of eyes.</param>
public sealed record FoundingResponse(
    Guid Id,
    PersonId PersonId,
    string Name,
    MachineId MachineId,
    Instant At,
    Instant Ends,
    bool Confirmed,
    string? Evidence,
    bool MayConfirm
);

public sealed record FoundingList(IReadOnlyList<FoundingResponse> Items);

/// <summary>First authorities on machines that nobody trains on yet.</summary>
public static class FoundingEndpoints
{
    public static void MapFounding(this IEndpointRouteBuilder app)
    {
        var founding = app.MapGroup("/api/founding-sign-offs").WithTags("Training");
        founding.MapGet("/", List).WithName("ListFounding").RequireAuthorization(Policy.SignedIn);
        founding.MapPost("/", Found).WithName("FoundSignOff").RequireAuthorization(Policy.Keeper).ProducesProblem(400).ProducesProblem(409);
        founding
            .MapPost("/{id:guid}/confirm", Confirm)
            .WithName("ConfirmFounding")
            .RequireAuthorization(Policy.Answers)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    private static async Task<Ok<FoundingList>> List(CurrentUser user, FoundingStore founding, IClock clock, CancellationToken cancel)
    {
        var whole = await user.SeesNames();
        var answers = await user.Is(Role.Steward, Role.Countersigner);
        return TypedResults.Ok(
            new FoundingList([
                .. (await founding.Standing(clock.GetCurrentInstant(), cancel)).Select(f => new FoundingResponse(
                    Id: f.Id,
                    PersonId: f.PersonId,
                    Name: PersonName.For(f.GivenName, f.FamilyName, null, whole || f.PersonId == user.Id),
                    MachineId: f.MachineId,
                    At: f.At,
                    Ends: f.Ends,
                    Confirmed: f.ConfirmedAt is not null,
                    Evidence: whole ? f.Evidence : null,
                    MayConfirm: answers && f.ConfirmedAt is null && Core.Training.SignOffs.MayConfirm(f.PersonId, f.SetBy, user.Id) is null
                )),
            ])
        );
    }

    private static async Task<Results<Created<PauseMade>, ProblemHttpResult>> Found(
        FoundingRequest request,
        CurrentUser user,
        FoundingStore founding,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        errors.Need("personId", request.PersonId, "Choose the person.");
        errors.Need("machineId", request.MachineId, "Choose the machine.");
        if (errors.Any)
            return errors.Answer();
        var made = await founding.Found(request.PersonId!.Trim(), request.MachineId!.Trim(), request.Evidence, rules, user.Id, now, cancel);
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/founding-sign-offs/{made.Value}", new PauseMade(made.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Confirm(
        Guid id,
        ReasonRequest request,
        CurrentUser user,
        FoundingStore founding,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        var confirmed = await founding.Confirm(id, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel);
        return confirmed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
