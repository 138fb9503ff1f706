using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="Thickness">Lengths as typed, in any unit.</param>
/// <param name="HouseStock">The house's own; stewards only.</param>
/// <param name="Count">Sheets of one batch, each with a tag of its own.</param>
/// <param name="Unit">Unit of a bare length: mm or in.</param>
public sealed record RegisterRequest(
    string? MaterialId = null,
    string? Thickness = null,
    string? Width = null,
    string? Height = null,
    string? Supplier = null,
    string? Batch = null,
    bool? HouseStock = null,
    int? Count = null,
    string? Unit = null
);

public sealed record TagsResponse(IReadOnlyList<SheetTag> Tags);

/// <param name="Until">Last house day; empty for as long as the house rules allow.</param>
/// <param name="Seen">What the steward saw: label, order page, data sheet.</param>
public sealed record ClearRequest(
    IReadOnlyList<Operation>? Operations = null,
    IReadOnlyList<string>? MachineIds = null,
    string? Until = null,
    string? Seen = null,
    bool? WholeBatch = null
);

public sealed record OffcutRequest(string? Width = null, string? Height = null, string? Unit = null);

public sealed record EvidenceResponse(Guid Id, string Name, string MediaType, long Length, Instant At);

/// <summary>One sheet. Without sign-in: material and clearance, not people.</summary>
/// <param name="State">waiting, moreWanted, cleared, refused, recheck or retired.</param>
/// <param name="LastDay">The last day a clearance may reach; for stewards.</param>
/// <param name="Mine">Brought by the one who asks.</param>
/// <param name="BroughtBy">For staff and the person: who brought it; null for house stock.</param>
/// <param name="Note">For staff and the person: what was seen, asked for or found last.</param>
public sealed record SheetDetail(
    SheetTag Tag,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string State,
    bool Quarantined,
    bool Cleared,
    Instant? ClearedUntil,
    IReadOnlyList<string> Operations,
    IReadOnlyList<string> Machines,
    SheetTag? ParentTag,
    IReadOnlyList<SheetTag> Family,
    string Supplier,
    string Batch,
    bool HouseStock,
    bool Mine,
    bool MayDecide,
    LocalDate? LastDay,
    string? BroughtBy,
    string? Note,
    IReadOnlyList<EvidenceResponse>? Evidence
);

/// <param name="Quarantined">Put away now.</param>
/// <param name="Recheck">Cleared on the same evidence: looked at again before use.</param>
/// <param name="Machines">To inspect, by name.</param>
public sealed record ReportResponse(
    IReadOnlyList<SheetTag> Quarantined,
    IReadOnlyList<SheetTag> Recheck,
    IReadOnlyList<BookingResponse> Bookings,
    IReadOnlyList<int> Runs,
    IReadOnlyList<string> Machines
);

/// <summary>Sheets from the door to the bin.</summary>
public static class SheetDeskEndpoints
{
    private const int LongestWord = 120;

    public static void MapSheetDesk(this IEndpointRouteBuilder app)
    {
        var desk = app.MapGroup("/api/sheets").WithTags("Sheets");
        desk.MapGet("/{tag}", Show).WithName("ShowSheet").AllowAnonymous().ProducesProblem(404);
        desk.MapPost("/", Register)
            .WithName("RegisterSheet")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403);
        desk.MapPost("/{tag}/evidence", AddEvidence)
            .WithName("AddEvidence")
            .DisableAntiforgery()
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(413)
            .ProducesProblem(415);
        desk.MapGet("/{tag}/evidence/{id:guid}", Evidence)
            .WithName("ShowEvidence")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/octet-stream")
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost("/{tag}/clear", Clear)
            .WithName("ClearSheet")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        desk.MapPost(
                "/{tag}/more",
                (string tag, ReasonRequest request, CurrentUser user, SheetDeskStore sheets, IClock clock, CancellationToken cancel) =>
                    Move(tag, SheetState.MoreWanted, request, user, sheets, clock, cancel)
            )
            .WithName("AskForMore")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost(
                "/{tag}/refuse",
                (string tag, ReasonRequest request, CurrentUser user, SheetDeskStore sheets, IClock clock, CancellationToken cancel) =>
                    Move(tag, SheetState.Refused, request, user, sheets, clock, cancel)
            )
            .WithName("RefuseSheet")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost(
                "/{tag}/release",
                (string tag, ReasonRequest request, CurrentUser user, SheetDeskStore sheets, IClock clock, CancellationToken cancel) =>
                    Move(tag, SheetState.Waiting, request, user, sheets, clock, cancel)
            )
            .WithName("ReleaseSheet")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost("/{tag}/retire", Retire)
            .WithName("RetireSheet")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost("/{tag}/offcut", CutOff)
            .WithName("CutOff")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        desk.MapPost("/{tag}/report", Report)
            .WithName("ReportSheet")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<Results<Ok<SheetDetail>, ProblemHttpResult>> Show(
        string tag,
        CurrentUser user,
        SheetDeskStore sheets,
        HouseStore house,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await Find(tag, sheets, now, cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        var asker = (await user.Person())?.Id;
        var staff = asker is not null && await user.Is(Role.Steward, Role.Trainer);
        var inside = staff || (asker is not null && asker == sheet.BroughtBy);
        // Where a member buys is theirs to tell; where the house buys is everybody's.
        var told = inside || sheet.BroughtBy is null;
        var names = inside ? await PeopleNames.All(people, true, clock, cancel) : [];
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        return TypedResults.Ok(
            new SheetDetail(
                Tag: sheet.Tag,
                MaterialId: sheet.MaterialId,
                MaterialName: sheet.MaterialName,
                ThicknessMm: sheet.ThicknessMm,
                WidthMm: sheet.WidthMm,
                HeightMm: sheet.HeightMm,
                State: sheet.State,
                Quarantined: sheet.Quarantined,
                Cleared: sheet.ClearedUntil is not null && !sheet.Quarantined,
                ClearedUntil: sheet.ClearedUntil,
                Operations: sheet.Operations,
                Machines: [.. sheet.MachineIds.Select(m => machines.GetValueOrDefault(m, m.Value))],
                ParentTag: sheet.ParentTag,
                Family: await sheets.Family(sheet.Tag, cancel),
                Supplier: told ? sheet.Supplier : "",
                Batch: told ? sheet.Batch : "",
                HouseStock: sheet.BroughtBy is null,
                Mine: asker is not null && sheet.BroughtBy == asker,
                MayDecide: await user.Is(Role.Steward) && sheet.BroughtBy != asker,
                LastDay: staff ? SheetDesk.LastDay(rules.Clock.DateOf(now), sheet.BroughtBy is null, rules).Date : null,
                BroughtBy: inside && sheet.BroughtBy is { } by ? names.GetValueOrDefault(by, "somebody") : null,
                Note: inside ? sheet.Note ?? (sheet.Source.Length > 0 ? sheet.Source : null) : null,
                Evidence: inside
                    ?
                    [
                        .. (await sheets.Evidence(sheet.Tag, cancel)).Select(e => new EvidenceResponse(
                            e.Id,
                            e.Name,
                            e.MediaType,
                            e.Length,
                            e.At
                        )),
                    ]
                    : null
            )
        );
    }

    private static async Task<Results<Created<TagsResponse>, ProblemHttpResult>> Register(
        RegisterRequest request,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var unit = errors.Unit(request.Unit);
        var thickness = Size(request.Thickness, "thickness", unit, errors);
        var width = Size(request.Width, "width", unit, errors);
        var height = Size(request.Height, "height", unit, errors);
        errors.Need("materialId", request.MaterialId, "Choose the material that it was sold as.");
        if (request.Count is < 1 or > SheetDesk.MostAtOnce)
            errors.Add("count", $"Between 1 and {SheetDesk.MostAtOnce} sheets at once.");
        if (request.Count > 1 && string.IsNullOrWhiteSpace(request.Batch))
            errors.Add("batch", "Several sheets are one batch: give it a name, such as the order’s number.");
        errors.AtMost("supplier", request.Supplier, LongestWord);
        errors.AtMost("batch", request.Batch, LongestWord);
        if (errors.Any)
            return errors.Answer();
        if (SheetDesk.MayRegister(request.HouseStock == true, await user.Is(Role.Steward)) is { } stock)
            return Problems.Of(stock);
        var made = await sheets.Register(
            [
                new NewSheet(
                    MaterialId: request.MaterialId!.Trim(),
                    ThicknessMm: thickness,
                    WidthMm: width,
                    HeightMm: height,
                    Supplier: request.Supplier?.Trim() ?? "",
                    Batch: request.Batch?.Trim() ?? "",
                    BroughtBy: request.HouseStock == true ? (PersonId?)null : user.Id,
                    Count: request.Count ?? 1
                ),
            ],
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/sheets/{made.Value[0]}", new TagsResponse(made.Value));
    }

    private static async Task<Results<Created<EvidenceResponse>, ProblemHttpResult>> AddEvidence(
        string tag,
        IFormFile? file,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await Find(tag, sheets, now, cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        if (!await MayTouch(sheet, user))
            return NotYours();
        var read = await EvidenceUpload.Read(file, cancel);
        if (read.Problem is { } problem)
            return problem;
        var added = await sheets.AddEvidence(sheet.Tag, read.Name, read.MediaType, read.Bytes, user.Id, now, cancel);
        return added.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created(
                $"/api/sheets/{sheet.Tag}/evidence/{added.Value}",
                new EvidenceResponse(added.Value, read.Name, read.MediaType, read.Bytes.LongLength, now)
            );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Evidence(
        string tag,
        Guid id,
        HttpContext http,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Find(tag, sheets, clock.GetCurrentInstant(), cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        if (!await MayTouch(sheet, user))
            return NotYours();
        if (await sheets.EvidenceBytes(sheet.Tag, id, cancel) is not { } file)
            return Problems.NotFound("file");
        return EvidenceUpload.Send(http, file.Name, file.MediaType, file.Bytes);
    }

    private static async Task<Results<Ok<TagsResponse>, ProblemHttpResult>> Clear(
        string tag,
        ClearRequest request,
        CurrentUser user,
        SheetDeskStore sheets,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await Find(tag, sheets, now, cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        var errors = new FieldErrors();
        var operations = request.Operations?.Distinct().ToList() ?? [];
        if (operations.Count == 0)
            errors.Add("operations", "Say what it is cleared for: cut, score, engrave.");
        var known = (await house.Machines(now, cancel)).Select(m => m.Spec.Id).ToHashSet();
        var machines = request.MachineIds?.OfType<string>().Distinct().Select(MachineId.From).ToList() ?? [];
        if (machines.Any(m => !known.Contains(m)))
            errors.Add("machineIds", "One of these machines does not exist.");
        errors.Reason("seen", request.Seen, "Write what you saw: label, order page, data sheet.");
        var today = rules.Clock.DateOf(now);
        var last = SheetDesk.LastDay(today, sheet.BroughtBy is null, rules).Date;
        var day = errors.Day("until", request.Until) ?? last;
        if (day < today || day > last)
            errors.Add(
                "until",
                $"Between today and {last.ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture)}, as the house "
                    + "rules have it."
            );
        if (errors.Any)
            return errors.Answer();
        var cleared = await sheets.Clear(
            sheet.Tag,
            new Clearing(operations, machines, new LastDay(day).End(rules.Clock), request.Seen!.Trim()),
            request.WholeBatch == true,
            user.Id,
            now,
            cancel
        );
        return cleared.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new TagsResponse(cleared.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Retire(
        string tag,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Find(tag, sheets, clock.GetCurrentInstant(), cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        return await MayTouch(sheet, user)
            ? await Move(tag, SheetState.Retired, new ReasonRequest("Used up."), user, sheets, clock, cancel)
            : NotYours();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Move(
        string tag,
        SheetState state,
        ReasonRequest request,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        if (SheetTags.Read(tag) is not { } number)
            return Problems.NotFound("sheet");
        var moved = await sheets.Move(number, state, request.Reason!.Trim(), user.Id, clock.GetCurrentInstant(), cancel);
        return moved.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<Created<TagsResponse>, ProblemHttpResult>> CutOff(
        string tag,
        OffcutRequest request,
        CurrentUser user,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var errors = new FieldErrors();
        var unit = errors.Unit(request.Unit);
        var width = Size(request.Width, "width", unit, errors);
        var height = Size(request.Height, "height", unit, errors);
        if (errors.Any)
            return errors.Answer();
        if (await Find(tag, sheets, now, cancel) is not { } sheet)
            return Problems.NotFound("sheet");
        if (sheet.BroughtBy is not null && !await MayTouch(sheet, user))
            return NotYours();
        var piece = await sheets.CutOff(sheet.Tag, width, height, user.Id, now, cancel);
        return piece.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/sheets/{piece.Value}", new TagsResponse([piece.Value]));
    }

    private static async Task<Results<Ok<ReportResponse>, ProblemHttpResult>> Report(
        string tag,
        ReasonRequest request,
        CurrentUser user,
        SheetDeskStore sheets,
        BookingStore bookings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        if (SheetTags.Read(tag) is not { } number)
            return Problems.NotFound("sheet");
        var reported = await sheets.Report(number, request.Reason!.Trim(), user.Id, now, cancel);
        if (reported.Refusal is { } refusal)
            return Problems.Of(refusal);
        var hits = reported.Value;
        var whole = await user.SeesNames();
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        return TypedResults.Ok(
            new ReportResponse(
                hits.Quarantined,
                hits.Recheck,
                [.. (await bookings.Of(hits.Bookings, cancel)).Select(b => BookingResponses.Of(b, user.Id, whole))],
                hits.Runs,
                [.. hits.Machines.Select(m => machines.GetValueOrDefault(m, m.Value))]
            )
        );
    }

    private static async Task<SheetCard?> Find(string tag, SheetDeskStore sheets, Instant now, CancellationToken cancel) =>
        SheetTags.Read(tag) is { } number ? await sheets.Find(number, now, cancel) : null;

    /// <summary>The person who brought it, and staff.</summary>
    private static async Task<bool> MayTouch(SheetCard sheet, CurrentUser user) =>
        sheet.BroughtBy == user.Id || await user.Is(Role.Steward, Role.Trainer);

    private static ProblemHttpResult NotYours() => Problems.Of(MaterialsProblems.SheetNotYours.Refuse());

    internal static decimal Size(string? text, string field, LengthUnit unit, FieldErrors errors)
    {
        var parsed = Length.Parse(text, unit);
        if (parsed.Refusal is { } refusal)
            errors.Add(field, refusal.Text);
        else if (parsed.Value is <= 0 or > SheetDesk.LargestMm)
            errors.Add(field, $"Between 0 and {SheetDesk.LargestMm:0} mm.");
        else
            return parsed.Value;
        return 0;
    }
}
