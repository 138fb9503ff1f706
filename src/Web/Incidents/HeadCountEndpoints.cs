using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <param name="Says">Why they are thought to be inside.</param>
public sealed record PresentResponse(string Name, string Says);

/// <param name="Place">A machine, or the room.</param>
public sealed record PresentAt(string Place, IReadOnlyList<PresentResponse> People);

/// <param name="Title">Says what the list cannot know.</param>
/// <param name="Count">People and those who came along.</param>
public sealed record HeadCountResponse(string Title, Instant At, int Count, IReadOnlyList<PresentAt> Places);

/// <summary>The list for the meeting point.</summary>
public static class HeadCountEndpoints
{
    public static void MapHeadCount(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/head-count", Show).WithTags("Incidents").WithName("ShowHeadCount").RequireAuthorization(Policy.Staff);
        app.MapGet("/api/head-count.pdf", Pdf)
            .WithTags("Incidents")
            .WithName("PrintHeadCount")
            .RequireAuthorization(Policy.Staff)
            .Produces(200, contentType: "application/pdf");
    }

    private static async Task<Results<Ok<HeadCountResponse>, ProblemHttpResult>> Show(
        HeadCountStore store,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) => await List(store, house, clock, cancel) is { } list ? TypedResults.Ok(list.Response) : Problems.NoRules();

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Pdf(
        HeadCountStore store,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) =>
        await List(store, house, clock, cancel) is { } list
            ? TypedResults.File(IncidentPrint.HeadCount(list.Response, list.Rules), "application/pdf", "head-count.pdf")
            : Problems.NoRules();

    private static async Task<(HeadCountResponse Response, HouseRules Rules)?> List(
        HeadCountStore store,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return null;
        var present = await store.Now(now, cancel);
        var names = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        string Clock(Instant at) => rules.Clock.At(at).ToString("HH:mm", CultureInfo.InvariantCulture);
        var places = present
            .GroupBy(p => p.Place is { } machine ? names[machine] : "The room")
            .Select(g => new PresentAt(g.Key, [.. g.Select(p => new PresentResponse(p.Name, HeadCount.Says(p, Clock)))]))
            .ToList();
        return (new HeadCountResponse(HeadCount.Title, now, HeadCount.Of(present), places), rules);
    }
}
