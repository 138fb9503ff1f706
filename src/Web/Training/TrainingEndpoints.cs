using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Authority">A machine, or a machine and an add-on: <c>heron</c>, <c>heron/rotary</c>.</param>
public sealed record SignOffRequest(string? MemberId = null, string? Authority = null, string? Note = null);

/// <param name="Open">Steps of the path that were left open.</param>
public sealed record SignOffResponse(
    Guid Id,
    PersonId MemberId,
    string Authority,
    Instant Since,
    Instant? Until,
    IReadOnlyList<string> Open
);

public static class TrainingEndpoints
{
    public static void MapTraining(this IEndpointRouteBuilder app) =>
        app.MapPost("/api/sign-offs", SignOff)
            .WithTags("Training")
            .WithName("SignOff")
            .RequireAuthorization(Policy.Trainer)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);

    private static async Task<Results<Created<SignOffResponse>, ProblemHttpResult>> SignOff(
        SignOffRequest request,
        CurrentUser user,
        TrainingStore training,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("memberId", request.MemberId, "Choose the person you saw.");
        errors.Need("authority", request.Authority, "Choose what you sign them off for.");
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var signed = await training.SignOff(request.MemberId!.Trim(), request.Authority!.Trim(), request.Note, user.Id, rules, now, cancel);
        if (signed.Refusal is { } refusal)
        {
            return Problems.Of(refusal);
        }
        var (c, open) = signed.Value;
        return TypedResults.Created(
            $"/api/certificates/{c.Id}",
            new SignOffResponse(c.Id, c.PersonId, c.Authority, c.Since, c.Until, open)
        );
    }
}
