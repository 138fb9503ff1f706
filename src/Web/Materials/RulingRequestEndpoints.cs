using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="Link">Where it is sold or described, as text; it is shown, never followed.</param>
public sealed record RequestRuling(string? Name = null, string? Supplier = null, string? Link = null, string? Note = null);

/// <param name="Answer">known, added, cleared or refused.</param>
/// <param name="MaterialId">For known: what it is. For cleared: what its sheet counts as.</param>
/// <param name="Name">For added: its name on the list; empty for the name asked.</param>
/// <param name="Standing">For added: never, banned or byArrangement.</param>
/// <param name="Thickness">For cleared: the sheet's lengths as typed, in any unit.</param>
/// <param name="Operations">For cleared: what it may be used for.</param>
/// <param name="Unit">Unit of a bare length: mm or in.</param>
public sealed record RulingReplyRequest(
    string? Answer = null,
    string? MaterialId = null,
    string? Name = null,
    string? Family = null,
    string? Standing = null,
    IReadOnlyList<string>? Reasons = null,
    string? Hazard = null,
    string? Reason = null,
    string? Thickness = null,
    string? Width = null,
    string? Height = null,
    IReadOnlyList<Operation>? Operations = null,
    string? Unit = null
);

/// <param name="By">For stewards: who asks.</param>
/// <param name="SheetTag">The one sheet that was cleared.</param>
/// <param name="Reply">What the steward wrote.</param>
public sealed record RequestAnswered(
    Guid Id,
    string Name,
    string Supplier,
    string Link,
    string? Note,
    string? FileName,
    Instant At,
    string State,
    MaterialId? MaterialId,
    SheetTag? SheetTag,
    string? Reply,
    bool Mine,
    string? By,
    bool MayAnswer
);

/// <param name="Families">Headings of the list, for a new material.</param>
public sealed record RequestList(
    IReadOnlyList<RequestAnswered> Items,
    IReadOnlyList<string> Families,
    IReadOnlyList<RuleOfThumb> RulesOfThumb
);

/// <summary>Asking for a ruling on what is not on the list, and the stewards' answer.</summary>
public static class RulingRequestEndpoints
{
    public static void MapRulingRequests(this IEndpointRouteBuilder app)
    {
        var requests = app.MapGroup("/api/ruling-requests").WithTags("Materials").RequireAuthorization(Policy.SignedIn);
        requests.MapGet("/", List).WithName("ListRulingRequests");
        requests.MapPost("/", Add).WithName("RequestRuling").ProducesProblem(400);
        requests
            .MapPost("/{id:guid}/file", Attach)
            .WithName("AttachDataSheet")
            .DisableAntiforgery()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(413)
            .ProducesProblem(415);
        requests
            .MapGet("/{id:guid}/file", File)
            .WithName("ShowDataSheet")
            .Produces(200, contentType: "application/octet-stream")
            .ProducesProblem(403)
            .ProducesProblem(404);
        requests.MapPost("/{id:guid}/withdraw", Withdraw).WithName("WithdrawRulingRequest").ProducesProblem(404);
        requests
            .MapPost("/{id:guid}/answer", Answer)
            .WithName("AnswerRulingRequest")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    private static async Task<Ok<RequestList>> List(
        RulingRequestStore requests,
        MaterialStore materials,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var steward = await user.Is(Role.Steward);
        var names = steward ? await PeopleNames.All(people, true, clock, cancel) : [];
        var families = (await materials.Shelf(clock.GetCurrentInstant(), cancel)).Materials.Select(m => m.Family).Distinct().ToList();
        return TypedResults.Ok(
            new RequestList(
                [
                    .. (await requests.List(user.Id, steward, cancel)).Select(r => new RequestAnswered(
                        Id: r.Id,
                        Name: r.Name,
                        Supplier: r.Supplier,
                        Link: r.Link,
                        Note: r.Note,
                        FileName: r.FileName,
                        At: r.At,
                        State: r.State,
                        MaterialId: r.MaterialId,
                        SheetTag: r.SheetTag,
                        Reply: r.Answer,
                        Mine: r.PersonId == user.Id,
                        By: steward ? names.GetValueOrDefault(r.PersonId, "somebody") : null,
                        MayAnswer: steward && r.State == "waiting" && RulingRequests.MayAnswer(r.PersonId, user.Id) is null
                    )),
                ],
                families,
                MaterialTable.RulesOfThumb
            )
        );
    }

    private static async Task<Results<Created<RequestAnswered>, ProblemHttpResult>> Add(
        RequestRuling request,
        RulingRequestStore requests,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        errors.Need("name", request.Name, "Say what it is called.");
        foreach (var (field, text) in new[] { ("name", request.Name), ("supplier", request.Supplier), ("link", request.Link) })
            errors.AtMost(field, text, RulingRequests.LongestWord);
        if (request.Note is { Length: > 0 } note && Reasons.Wrong(note) is { } wrong && !string.IsNullOrWhiteSpace(note))
            errors.Add("note", wrong);
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        var (name, supplier, link) = (request.Name!.Trim(), request.Supplier?.Trim() ?? "", request.Link?.Trim() ?? "");
        var made = await requests.Add(user.Id, name, supplier, link, request.Note?.Trim(), now, cancel);
        if (made.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Created(
            $"/api/ruling-requests/{made.Value}",
            new RequestAnswered(
                Id: made.Value,
                Name: name,
                Supplier: supplier,
                Link: link,
                Note: request.Note,
                FileName: null,
                At: now,
                State: "waiting",
                MaterialId: null,
                SheetTag: null,
                Reply: null,
                Mine: true,
                By: null,
                MayAnswer: false
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Attach(
        Guid id,
        IFormFile? file,
        RulingRequestStore requests,
        CurrentUser user,
        CancellationToken cancel
    )
    {
        var read = await EvidenceUpload.Read(file, cancel);
        if (read.Problem is { } problem)
            return problem;
        return await requests.Attach(id, user.Id, read.Name, read.MediaType, read.Bytes, cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("request of yours that waits");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        Guid id,
        HttpContext http,
        RulingRequestStore requests,
        CurrentUser user,
        CancellationToken cancel
    )
    {
        if (await requests.Find(id, cancel) is not { } request)
            return Problems.NotFound("request");
        if (request.PersonId != user.Id && !await user.Is(Role.Steward))
            return Problems.Of(MaterialsProblems.RequestNotYours.Refuse());
        return await requests.File(id, cancel) is { } file
            ? EvidenceUpload.Send(http, file.Name, file.MediaType, file.Bytes)
            : Problems.NotFound("file");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Withdraw(
        Guid id,
        RulingRequestStore requests,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) =>
        await requests.Withdraw(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("request of yours that waits");

    private static async Task<Results<Ok<StateResponse>, ProblemHttpResult>> Answer(
        Guid id,
        RulingReplyRequest request,
        RulingRequestStore requests,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var answer = errors.Word<RequestAnswer>("answer", request.Answer, "Say known, added, cleared or refused.");
        errors.Reason("reason", request.Reason);
        NewMaterial? added = null;
        if (!errors.Any && answer == RequestAnswer.Known && string.IsNullOrWhiteSpace(request.MaterialId))
            errors.Add("materialId", "Choose the material of the list that it is.");
        (NewSheet, Clearing)? sheet = answer == RequestAnswer.Cleared ? ReadSheet(request, rules, now, errors) : null;
        if (!errors.Any && answer == RequestAnswer.Added)
            added = await ReadMaterial(id, request, rules, requests, now, errors, cancel);
        if (errors.Any)
            return errors.Answer();
        var reply = new AnswerToRequest(answer, request.Reason!.Trim(), Ids.From<MaterialId>(request.MaterialId), added, sheet);
        var answered = await requests.Answer(id, reply, user.Id, now, cancel);
        return answered.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Ok(new StateResponse(answer.ToString().ToLowerInvariant()));
    }

    private static (NewSheet, Clearing) ReadSheet(RulingReplyRequest request, HouseRules rules, Instant now, FieldErrors errors)
    {
        var unit = errors.Unit(request.Unit);
        var thickness = SheetDeskEndpoints.Size(request.Thickness, "thickness", unit, errors);
        var width = SheetDeskEndpoints.Size(request.Width, "width", unit, errors);
        var height = SheetDeskEndpoints.Size(request.Height, "height", unit, errors);
        var operations = request.Operations?.Distinct().ToList() ?? [];
        if (operations.Count == 0)
            errors.Add("operations", "Say what it is cleared for: cut, score, engrave.");
        errors.Need("materialId", request.MaterialId, "Choose the material whose rulings hold for it.");
        var until = SheetDesk.LastDay(rules.Clock.DateOf(now), houseStock: false, rules).End(rules.Clock);
        return (
            new NewSheet(
                MaterialId: request.MaterialId?.Trim() ?? "",
                ThicknessMm: thickness,
                WidthMm: width,
                HeightMm: height,
                Supplier: "",
                Batch: "",
                BroughtBy: null,
                Count: 1
            ),
            new Clearing(operations, [], until, request.Reason?.Trim() ?? "")
        );
    }

    private static async Task<NewMaterial?> ReadMaterial(
        Guid id,
        RulingReplyRequest request,
        HouseRules rules,
        RulingRequestStore requests,
        Instant now,
        FieldErrors errors,
        CancellationToken cancel
    )
    {
        var name = string.IsNullOrWhiteSpace(request.Name) ? (await requests.Find(id, cancel))?.Name ?? "" : request.Name.Trim();
        errors.AtMost("name", name, RulingRequests.LongestWord);
        const string start = "Start with never, banned or byArrangement; anything milder is ruled cell by cell afterwards.";
        var standing = errors.Word<RulingStatus>("standing", request.Standing, start);
        if (standing is RulingStatus.Permitted or RulingStatus.Cannot && !errors.Any)
            errors.Add("standing", start);
        errors.Need("hazard", request.Hazard, "Say the hazard in plain words: people read it at the machine.");
        var added = new NewMaterial(
            name,
            string.IsNullOrWhiteSpace(request.Family) ? "found and other" : request.Family.Trim(),
            standing,
            [.. request.Reasons?.OfType<string>() ?? []],
            request.Hazard?.Trim() ?? "",
            rules.Clock.DateOf(now).PlusMonths(RulingChanges.ReviewMonths)
        );
        errors.AtMost("family", added.Family, RulingRequests.LongestWord);
        if (!errors.Any)
            errors.Add(RulingChanges.Check([RulingRequests.Everywhere("new", standing, added.Reasons, added.Hazard)[0]]));
        return errors.Any ? null : added;
    }
}

/// <summary>Files that people send as evidence: read within bounds, told by their bytes, given back without running anything.</summary>
internal static class EvidenceUpload
{
    private const int LongestName = 120;

    public static async Task<(string Name, string MediaType, byte[] Bytes, ProblemHttpResult? Problem)> Read(
        IFormFile? file,
        CancellationToken cancel
    )
    {
        if (file is null || file.Length == 0)
            return Wrong(Problems.Of(DrawingsProblems.EvidenceMissing.Refuse("file")));
        if (file.Length > SheetDesk.LargestFile)
            return Wrong(Problems.Of(DrawingsProblems.EvidenceTooLarge.Refuse(null, SheetDesk.LargestFile / 1024 / 1024)));
        var bytes = new byte[file.Length];
        await using (var stream = file.OpenReadStream())
            await stream.ReadExactlyAsync(bytes, cancel);
        if (SheetDesk.FileType(bytes) is not { } type)
            return Wrong(Problems.Of(MaterialsProblems.FileKind.Refuse("file")));
        // A head alone is no picture: it would open nowhere, and may claim more pixels than there are.
        if (
            type != "application/pdf"
            && (PictureFile.Of(bytes) is not { } picture || PictureTones.Between(picture, SheetDesk.MostPixels, cancel) is null)
        )
            return Wrong(Problems.Of(MaterialsProblems.FilePicture.Refuse("file")));
        var name = new string([.. Path.GetFileName(file.FileName).Where(c => !char.IsControl(c)).Take(LongestName)]);
        return (name.Length > 0 ? name : "evidence", type, bytes, null);

        static (string, string, byte[], ProblemHttpResult?) Wrong(ProblemHttpResult problem) => ("", "", [], problem);
    }

    public static FileContentHttpResult Send(HttpContext http, string name, string mediaType, byte[] bytes)
    {
        // Never shown inside our own page: a file that somebody sent runs nothing here.
        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
        return TypedResults.File(bytes, mediaType, name);
    }
}
