using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <param name="LastDay">Last day in date; null for what does not go out of date, and for eyewear.</param>
/// <param name="Wrong">What the last look found, in words.</param>
/// <param name="Count">Pairs of eyewear in good condition; null for fire kit.</param>
/// <param name="Due">To be looked at now.</param>
public sealed record KitItemResponse(
    string Id,
    bool Eyewear,
    string Name,
    LocalDate? LastDay,
    string? Wrong,
    int? Count,
    Instant? LookedAt,
    string? LookedBy,
    string? Note,
    bool Due
);

/// <param name="Days">An item is due again after so many.</param>
/// <param name="MayLook">Whoever asks may write down what they find.</param>
public sealed record KitList(IReadOnlyList<KitItemResponse> Items, decimal Days, bool MayLook);

/// <param name="InOrder">There, sealed, in date and whole.</param>
/// <param name="Wrong">What is not: missing, seal, date, damaged.</param>
public sealed record KitLookRequest(bool? InOrder = null, IReadOnlyList<string>? Wrong = null, string? Note = null);

/// <param name="Damaged">Pairs taken away.</param>
public sealed record EyewearLookRequest(int? Damaged = null, string? Note = null);

/// <param name="RoundDone">It was the last of the round: the room’s task is done.</param>
public sealed record LookedResponse(bool RoundDone);

/// <summary>The round of fire kit and eyewear, item by item.</summary>
public static class KitEndpoints
{
    public static void MapKit(this IEndpointRouteBuilder app)
    {
        var kit = app.MapGroup("/api/upkeep/round").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        kit.MapGet("", List).WithName("KitRound").ProducesProblem(409);
        kit.MapPost("/kit/{id}", Look).WithName("LookAtKit").ProducesProblem(400).ProducesProblem(403).ProducesProblem(404);
        kit.MapPost("/eyewear/{id}", LookAtEyewear)
            .WithName("LookAtEyewear")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        kit.MapGet("/codes.pdf", Codes)
            .WithName("PrintKitCodes")
            .RequireAuthorization(Policy.Steward)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(409);
    }

    private static async Task<Results<Ok<KitList>, ProblemHttpResult>> List(
        CurrentUser user,
        KitStore kit,
        UpkeepStore upkeep,
        PeopleStore people,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var seen = await kit.All(now, cancel);
        var days = (await upkeep.All(null, rules, now, cancel))
            .FirstOrDefault(t => t.MachineId is null && t.Plan.Part == UpkeepPart.FireKit)
            ?.Plan.Limit
            ?? KitRound.UsualDays;
        var hands = await upkeep.HandsOf(user.Id, [null], now, cancel);
        var names = await PeopleNames.Of(seen.Select(i => i.LookedBy).OfType<PersonId>(), people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(
            new KitList(
                [
                    .. seen.Select(i => new KitItemResponse(
                        Id: i.Id,
                        Eyewear: i.Eyewear,
                        Name: i.Name,
                        LastDay: i.InDateUntil is { } end ? rules.Clock.DateOf(end).PlusDays(-1) : null,
                        Wrong: Texts.NullIfBlank(KitFaults.Says(i.Wrong.Select(KitFaults.Of))),
                        Count: i.Eyewear ? i.Count : null,
                        LookedAt: i.LookedAt,
                        LookedBy: i.LookedBy is { } by ? names.GetValueOrDefault(by, "somebody") : null,
                        Note: i.Note,
                        Due: KitRound.IsDue(i.LookedAt, days, now)
                    )),
                ],
                days,
                UpkeepDone.MayDo(UpkeepWho.Trainer, hands[""])
            )
        );
    }

    private static async Task<Results<Ok<LookedResponse>, ProblemHttpResult>> Look(
        string id,
        KitLookRequest request,
        CurrentUser user,
        KitStore kit,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var wrong = (request.Wrong ?? []).Select(w => errors.Word<KitFault>("wrong", w, "Choose what is wrong with it.")).ToList();
        if (errors.Any)
            return errors.Answer();
        var looked = await kit.Look(id, new KitLook(request.InOrder == true, wrong, request.Note), user.Id, rules, now, cancel);
        return looked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new LookedResponse(looked.Value));
    }

    private static async Task<Results<Ok<LookedResponse>, ProblemHttpResult>> LookAtEyewear(
        string id,
        EyewearLookRequest request,
        CurrentUser user,
        KitStore kit,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var looked = await kit.LookAtEyewear(id, request.Damaged, request.Note, user.Id, rules, now, cancel);
        return looked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new LookedResponse(looked.Value));
    }

    /// <summary>A code for each item, to hang beside it: the phone opens the round there.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Codes(
        KitStore kit,
        HouseStore house,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        using var paper = new Paper("Codes for the round: hang each beside its item", rules.HouseName);
        foreach (var item in await kit.All(now, cancel))
        {
            paper.Heading(item.Name);
            paper.Code(address.Of($"/upkeep/round#{(item.Eyewear ? "eyewear" : "kit")}-{item.Id}"));
        }
        return TypedResults.File(paper.Finish(), "application/pdf", "codes-of-the-round.pdf");
    }
}
