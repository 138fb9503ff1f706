using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Changes">What differs from the version before it.</param>
/// <param name="State">past, holds or scheduled.</param>
public sealed record RulesVersionResponse(
    Guid Id,
    Instant From,
    Instant? Until,
    string State,
    string Reason,
    HouseRules Rules,
    IReadOnlyList<RuleDifference> Changes
);

public sealed record RulesResponse(IReadOnlyList<RulesVersionResponse> Versions);

/// <param name="Fields">The whole sheet, by key.</param>
/// <param name="From">RFC 3339 with an offset; empty holds from now.</param>
public sealed record RulesRequest(JsonElement Fields, string? Reason = null, string? From = null);

public sealed record RulesMade(Guid Id, IReadOnlyList<RuleDifference> Changes);

public sealed record DifferenceList(IReadOnlyList<RuleDifference> Items);

/// <summary>House rules as dated versions: change, compare, schedule. Every member may read what they are judged by.</summary>
public static class RulesEndpoints
{
    public static void MapRules(this IEndpointRouteBuilder app)
    {
        var rules = app.MapGroup("/api/house").WithTags("House rules");
        rules.MapGet("/rules", Versions).WithName("ListRules").RequireAuthorization(Policy.SignedIn);
        rules.MapGet("/rules/compare", Compare).WithName("CompareRules").RequireAuthorization(Policy.SignedIn).ProducesProblem(404);
        rules.MapPost("/rules", Change).WithName("ChangeRules").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        rules.MapGet("/packs/{pack}", Pack).WithName("Pack").RequireAuthorization(Policy.SignedIn).ProducesProblem(404);
    }

    private static async Task<Ok<RulesResponse>> Versions(SheetStore sheets, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var versions = await sheets.Rules(cancel);
        return TypedResults.Ok(
            new RulesResponse([
                .. versions.Select(
                    (v, i) =>
                        new RulesVersionResponse(
                            Id: v.Id,
                            From: v.From,
                            Until: v.Until,
                            State: v.From > now ? "scheduled"
                                : v.Until <= now ? "past"
                                : "holds",
                            Reason: v.Reason,
                            Rules: v.Rules,
                            Changes: i == 0 ? [] : SheetChecks.Compare(versions[i - 1].Rules, v.Rules)
                        )
                ),
            ])
        );
    }

    private static async Task<Results<Ok<DifferenceList>, ProblemHttpResult>> Compare(
        Guid before,
        Guid after,
        SheetStore sheets,
        CancellationToken cancel
    )
    {
        var versions = (await sheets.Rules(cancel)).ToDictionary(v => v.Id);
        return versions.TryGetValue(before, out var a) && versions.TryGetValue(after, out var b)
            ? TypedResults.Ok(new DifferenceList(SheetChecks.Compare(a.Rules, b.Rules)))
            : Problems.NotFound("version of the rules");
    }

    private static async Task<Results<Created<RulesMade>, ProblemHttpResult>> Change(
        RulesRequest request,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var errors = new FieldErrors();
        var read = SheetChecks.Rules(request.Fields);
        errors.Add(read.Errors);
        errors.Reason("reason", request.Reason);
        var from = now;
        if (!string.IsNullOrWhiteSpace(request.From))
        {
            const string missing = "Give the start with its offset, such as 2027-01-01T00:00:00Z, or leave it empty.";
            from = errors.Moment("from", request.From, missing) ?? now;
            if (from < now)
                errors.Add("from", "What held before is never rewritten. Give a start that is still to come.");
        }
        if (errors.Any)
            return errors.Answer();
        var before = (await sheets.Rules(cancel)).LastOrDefault(v => v.From <= from && (v.Until is null || v.Until > from));
        var changes = before is null ? [] : SheetChecks.Compare(before.Rules, read.Value!);
        if (SheetChecks.Unchanged(before is null, changes) is { } same)
            return Problems.Of(same);
        var id = await sheets.ChangeRules(read.Value!, request.Reason!.Trim(), from, user.Id, now, cancel);
        return TypedResults.Created("/api/house/rules", new RulesMade(id, changes));
    }

    private static async Task<Results<Ok<HouseRules>, ProblemHttpResult>> Pack(
        string pack,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        return Packs.All.Any(p => p.Id == pack)
            ? TypedResults.Ok(Packs.Start(pack, rules.HouseName, rules.ZoneId) with { Colours = rules.Colours })
            : Problems.NotFound("pack");
    }
}
