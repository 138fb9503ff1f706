using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using VelvetGate.Core.Station;
using VelvetGate.Store.House;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <param name="Code">Null where none was made: then none is asked for.</param>
public sealed record PlaceCodeResponse(string? Code, Instant? MadeAt);

public sealed record MachinePaperResponse(Guid Id, string Name, int Length, Instant AddedAt);

public sealed record MachinePaperList(IReadOnlyList<MachinePaperResponse> Items);

/// <summary>What stands at a machine for whoever comes: its code, and its papers.</summary>
public static class PlaceEndpoints
{
    public static void MapPlace(this IEndpointRouteBuilder app)
    {
        var machine = app.MapGroup("/api/machines/{id}").WithTags("Station").RequireAuthorization(Policy.Keeper);
        machine.MapGet("/place-code", PlaceCode).WithName("PlaceCode").ProducesProblem(404);
        machine.MapPost("/place-code", MakeCode).WithName("MakePlaceCode").ProducesProblem(404);
        machine.MapDelete("/place-code", TakeCodeOff).WithName("TakePlaceCodeOff").ProducesProblem(404);
        machine
            .MapGet("/place-code.pdf", CodePaper)
            .WithName("PrintPlaceCode")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
        machine.MapGet("/papers", Papers).WithName("MachinePapers").ProducesProblem(404);
        machine
            .MapPost("/papers", AddPaper)
            .WithName("AddMachinePaper")
            .DisableAntiforgery()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(413)
            .ProducesProblem(415);
        machine.MapDelete("/papers/{paper:guid}", RemovePaper).WithName("RemoveMachinePaper").ProducesProblem(404);
        app.MapGet("/at/{machine}/papers/{paper:guid}", Paper)
            .WithTags("Station")
            .WithName("OpenMachinePaper")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
    }

    private static async Task<(string Name, string House)?> Known(string id, HouseStore house, Instant now, CancellationToken cancel) =>
        (await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is { Spec: var spec }
            ? (spec.Name, (await house.Rules(now, cancel))?.HouseName ?? "")
            : null;

    private static async Task<Results<Ok<PlaceCodeResponse>, ProblemHttpResult>> PlaceCode(
        string id,
        HouseStore house,
        PlaceCodeStore codes,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Known(id, house, clock.GetCurrentInstant(), cancel) is null)
            return Problems.NotFound($"machine as “{id}”");
        var code = await codes.Of(id, cancel);
        return TypedResults.Ok(new PlaceCodeResponse(code?.Code, code?.MadeAt));
    }

    private static async Task<Results<Ok<PlaceCodeResponse>, ProblemHttpResult>> MakeCode(
        string id,
        CurrentUser user,
        HouseStore house,
        PlaceCodeStore codes,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await Known(id, house, now, cancel) is null)
            return Problems.NotFound($"machine as “{id}”");
        var code = RandomNumberGenerator.GetString(PlaceCodes.Letters, PlaceCodes.Length);
        await codes.Make(id, code, user.Id, now, cancel);
        return TypedResults.Ok(new PlaceCodeResponse(code, now));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeCodeOff(
        string id,
        HouseStore house,
        PlaceCodeStore codes,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Known(id, house, clock.GetCurrentInstant(), cancel) is null)
            return Problems.NotFound($"machine as “{id}”");
        await codes.TakeOff(id, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CodePaper(
        string id,
        HouseStore house,
        HouseAddress address,
        PlaceCodeStore codes,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Known(id, house, clock.GetCurrentInstant(), cancel) is not { } machine || await codes.Of(id, cancel) is not { } code)
            return Problems.NotFound($"code at a machine as “{id}”");
        using var paper = new Paper($"At {machine.Name}: scan before each start", machine.House);
        paper.Line("With your phone, once you have tapped in. It says that you stand here, and stay.", 14);
        paper.Code(address.Of($"/station/{id}?here={code.Code}"));
        paper.Line($"Or type: {code.Code}", 20);
        paper.Line("It switches nothing. In danger first the machine’s own stop, then the card beside it.", 12);
        return TypedResults.File(paper.Finish(), "application/pdf", $"code-at-{id}.pdf");
    }

    private static async Task<Results<Ok<MachinePaperList>, ProblemHttpResult>> Papers(
        string id,
        HouseStore house,
        MachinePaperStore papers,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Known(id, house, clock.GetCurrentInstant(), cancel) is null)
            return Problems.NotFound($"machine as “{id}”");
        var all = await papers.Of(id, cancel);
        return TypedResults.Ok(new MachinePaperList([.. all.Select(p => new MachinePaperResponse(p.Id, p.Name, p.Length, p.AddedAt))]));
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> AddPaper(
        string id,
        IFormFile? file,
        [FromForm] string? name,
        CurrentUser user,
        HouseStore house,
        MachinePaperStore papers,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await Known(id, house, now, cancel) is null)
            return Problems.NotFound($"machine as “{id}”");
        if (MachinePapers.MayRead(file?.Length ?? 0) is { } not)
            return Problems.Of(not);
        var bytes = new byte[file!.Length];
        await using (var stream = file.OpenReadStream())
            await stream.ReadExactlyAsync(bytes, cancel);
        var called = (Texts.NullIfBlank(name) ?? Path.GetFileNameWithoutExtension(file.FileName)).Trim();
        if (MachinePapers.Check(called, bytes) is { } unread)
            return Problems.Of(unread);
        var added = await papers.Add(id, called, bytes, user.Id, now, cancel);
        return added.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/at/{id}/papers/{added.Value}", new Made(added.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> RemovePaper(
        string id,
        Guid paper,
        CurrentUser user,
        MachinePaperStore papers,
        IClock clock,
        CancellationToken cancel
    ) =>
        await papers.Remove(id, paper, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("paper at this machine");

    /// <summary>For everybody who stands at the machine. Saved rather than shown: nothing in it runs here.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Paper(
        string machine,
        Guid paper,
        MachinePaperStore papers,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await papers.File(machine, paper, cancel) is not { } found)
            return Problems.NotFound("paper at this machine");
        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
        return TypedResults.File(found.Bytes, "application/pdf", $"{found.Name}.pdf");
    }
}
