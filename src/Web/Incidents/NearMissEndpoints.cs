using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Serilog.Events;
using VelvetGate.Core.Incidents;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <param name="Id">A random UUID made by whoever tells: the same again changes nothing.</param>
/// <param name="HalfDay">Such as <c>2026-11-24 afternoon</c>, where it is told later, without a network; empty for now.</param>
/// <param name="MachineId">Empty for the room.</param>
public sealed record NearMissRequest(
    string? Id = null,
    string? HalfDay = null,
    string? MachineId = null,
    string? What = null,
    string? Note = null
);

/// <param name="LookAsked">Somebody looks at the machine before its next start, and the steward on duty was told.</param>
public sealed record NearMissTold(Guid Id, string Kept, bool LookAsked);

/// <param name="When">A half day or a week.</param>
public sealed record NearMissResponse(Guid Id, string When, string Place, string WhatWords, string Note, bool Struck);

/// <param name="Hidden">Told in a half day or week that is not over: counted, and not shown yet.</param>
public sealed record NearMissList(IReadOnlyList<NearMissResponse> Items, int Hidden);

/// <summary>Near misses: told by anybody, without a name.</summary>
public static class NearMissEndpoints
{
    public const string Path = "/api/near-misses";

    public static void MapNearMisses(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup(Path).WithTags("Incidents");
        group.MapPost("", Tell).WithName("TellNearMiss").AllowAnonymous().ProducesProblem(400).ProducesProblem(403).ProducesProblem(429);
        group.MapGet("", List).WithName("ListNearMisses").RequireAuthorization(Policy.Records);
        group
            .MapPost("/{id:guid}/strike", Strike)
            .WithName("StrikeNearMiss")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
        app.MapGet("/api/machines/{id}/near-miss-code.pdf", Code)
            .WithTags("Incidents")
            .WithName("NearMissCode")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
        app.MapPost("/api/machines/{id}/looked", Looked)
            .WithTags("Incidents")
            .WithName("LookedAfterNearMiss")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    /// <summary>The code for the lid of a machine.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Code(
        string id,
        HouseStore house,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { } machine)
            return Problems.NotFound("machine");
        return TypedResults.File(
            IncidentPrint.Code(machine.Spec.Name, address.Of($"/near-miss/{id}"), rules),
            "application/pdf",
            $"near-miss-{id}.pdf"
        );
    }

    /// <summary>
    /// Whoever tells a near miss is nobody: cookies and credentials are taken off the request before anything reads them, so that no
    /// session is looked up, and nothing of it is logged.
    /// </summary>
    public static void UseNamelessNearMisses(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                if (HttpMethods.IsPost(context.Request.Method) && context.Request.Path == Path)
                {
                    context.Request.Headers.Remove("Cookie");
                    context.Request.Headers.Remove("Authorization");
                }
                return next(context);
            }
        );

    /// <summary>A line of the log about telling one, whatever a keeper has set to be logged: a failure alone is kept.</summary>
    public static bool IsOfOne(LogEvent line) =>
        line.Level < LogEventLevel.Error
        && line.Properties.TryGetValue("RequestPath", out var path)
        && path is ScalarValue { Value: string text }
        && (text.StartsWith(Path, StringComparison.OrdinalIgnoreCase) || text.StartsWith("/near-miss", StringComparison.OrdinalIgnoreCase));

    private static async Task<Results<Accepted<NearMissTold>, ProblemHttpResult>> Tell(
        NearMissRequest request,
        NearMissStore store,
        NearMissCounts counts,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        // A page of another house cannot tell in somebody's name: a browser says where it comes from, and asks before it sends JSON.
        if (!http.Request.HasJsonContentType() || http.Request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site")
            return Problems.Of(IncidentsProblems.NearMissForm.Refuse());
        var errors = new FieldErrors();
        if (!Guid.TryParse(request.Id, out var id) || id == Guid.Empty)
            errors.Add("id", "Send a random UUID of your own.");
        var what = errors.Word<Mishap>("what", request.What, "Say what it was.");
        var half = NearMissTime.Read(request.HalfDay);
        if (!string.IsNullOrWhiteSpace(request.HalfDay) && half is null)
            errors.Add("halfDay", "Write it like 2026-11-24 afternoon.");
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (!counts.Takes(http.Connection.RemoteIpAddress))
            return Problems.Of(IncidentsProblems.NearMissMany.Refuse());
        var machine = Ids.From<MachineId>(Texts.NullIfBlank(request.MachineId));
        var told = await store.Tell(id, half, machine, what, request.Note?.Trim() ?? "", rules, now, cancel);
        return told.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Accepted((string?)null, new NearMissTold(id, NearMisses.Promise, told.Value));
    }

    private static async Task<Ok<NearMissList>> List(NearMissStore store, HouseStore house, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var (shown, hidden) = await store.All((await house.Rules(now, cancel))!, now, cancel);
        var names = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        return TypedResults.Ok(
            new NearMissList(
                [
                    .. shown.Select(n => new NearMissResponse(
                        n.Id,
                        NearMissTime.Read(n.HalfDay)!.Says,
                        n.MachineId is { } machine ? names.GetValueOrDefault(machine, machine.Value) : "the room",
                        Mishaps.InWords(Enum.Parse<Mishap>(n.What, ignoreCase: true)),
                        n.Note,
                        n.Struck
                    )),
                ],
                hidden
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Strike(
        Guid id,
        NoteRequest request,
        CurrentUser user,
        NearMissStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var struck = await store.Strike(id, request.Note, user.Id, clock.GetCurrentInstant(), cancel);
        return struck.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Looked(
        string id,
        ReasonRequest request,
        CurrentUser user,
        NearMissStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var looked = await store.Looked(id, request.Reason, user.Id, clock.GetCurrentInstant(), cancel);
        return looked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
