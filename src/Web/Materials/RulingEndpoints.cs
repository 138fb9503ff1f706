using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

public sealed record CellRequest(LaserKind Kind, Operation Operation);

/// <param name="Min">A length as typed; empty for none. Inclusive.</param>
/// <param name="Max">A length as typed; empty where only the machine limits it. Inclusive.</param>
public sealed record RangeRequest(RulingStatus Standing, Evidence Evidence, string? Min = null, string? Max = null);

/// <param name="Ranges">For each of the cells, whole.</param>
/// <param name="From">House day from whose beginning it holds; empty for now.</param>
/// <param name="ReviewBy">House day; empty for a year from now.</param>
/// <param name="Version">The material's version that was read.</param>
/// <param name="Unit">Unit of a bare length: mm or in.</param>
public sealed record RulingRequest(
    IReadOnlyList<CellRequest>? Cells = null,
    IReadOnlyList<RangeRequest>? Ranges = null,
    string? Hazard = null,
    string? Handling = null,
    string? Practice = null,
    IReadOnlyList<string>? Reasons = null,
    bool? FilteredNeedsArrangement = null,
    string? From = null,
    string? ReviewBy = null,
    string? Reason = null,
    int? Version = null,
    string? Unit = null
);

public sealed record CellChangeResponse(LaserKind Kind, Operation Operation, string Before, string After, RulingDirection Direction);

/// <param name="Bookings">Standing bookings it touches; they are decided again.</param>
/// <param name="Proposal">Id of what waits for another pair of eyes; null when it holds or is only looked at.</param>
public sealed record RulingPreviewResponse(
    IReadOnlyList<CellChangeResponse> Cells,
    RulingDirection Direction,
    IReadOnlyList<BookingResponse> Bookings,
    IReadOnlyList<SheetTag> Sheets,
    IReadOnlyList<string> Settings,
    Guid? Proposal
);

/// <param name="Reasons">Why, in words.</param>
/// <param name="FilteredNeedsArrangement">A machine that only filters asks for a steward.</param>
public sealed record VersionOfRuling(
    LaserKind Kind,
    Operation Operation,
    string Text,
    IReadOnlyList<string> Reasons,
    string Hazard,
    string Handling,
    string Practice,
    bool FilteredNeedsArrangement,
    LocalDate? ReviewBy,
    Instant From,
    Instant? Until,
    string? By,
    string? Why
);

public sealed record RulingHistory(IReadOnlyList<VersionOfRuling> Items);

/// <param name="MayAgree">True when the one who asks may be the second pair of eyes.</param>
public sealed record ProposalResponse(
    Guid Id,
    MaterialId MaterialId,
    string MaterialName,
    IReadOnlyList<CellChangeResponse> Cells,
    Instant HoldsFrom,
    string By,
    bool Mine,
    string? Why,
    Instant At,
    bool MayAgree
);

public sealed record ProposalList(IReadOnlyList<ProposalResponse> Items);

public sealed record ReasonCode(string Code, string Text);

public sealed record ReasonCodes(IReadOnlyList<ReasonCode> Items);

public sealed record StateResponse(string State);

/// <summary>How a house changes what it says of a material.</summary>
public static class RulingEndpoints
{
    private const int MostRanges = 12;

    public static void MapRulings(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Materials");
        group
            .MapGet("/ruling-reasons", () =>
                TypedResults.Ok(new ReasonCodes([.. RulingChanges.Reasons.Select(r => new ReasonCode(r.Key, r.Value))]))
            )
            .WithName("RulingReasons")
            .RequireAuthorization(Policy.SignedIn);
        group
            .MapGet("/materials/{id}/rulings", History)
            .WithName("RulingHistory")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404);
        group
            .MapPost("/materials/{id}/rulings", Change)
            .WithName("ChangeRuling")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/materials/{id}/rulings/preview", Preview)
            .WithName("PreviewRuling")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404);
        group
            .MapGet("/ruling-proposals", Waiting)
            .WithName("ListRulingProposals")
            .RequireAuthorization(Policy.Answers)
            .ProducesProblem(400);
        group
            .MapPost("/ruling-proposals/{id:guid}/agree", Agree)
            .WithName("AgreeToRuling")
            .RequireAuthorization(Policy.Answers)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        group
            .MapPost("/ruling-proposals/{id:guid}/refuse", Refuse)
            .WithName("RefuseRuling")
            .RequireAuthorization(Policy.Answers)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<Results<Ok<RulingHistory>, ProblemHttpResult>> History(
        string id,
        string? unit,
        MaterialStore materials,
        RulingStore rulings,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        var versions = await rulings.History(id, cancel);
        if (versions.Count == 0 && (await materials.Shelf(clock.GetCurrentInstant(), cancel)).Materials.All(m => m.Id != id))
            return Problems.NotFound("material");
        var names = await PeopleNames.All(people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(
            new RulingHistory([
                .. versions.Select(v => new VersionOfRuling(
                    Kind: v.Ruling.Kind,
                    Operation: v.Ruling.Operation,
                    Text: RulingChanges.Say([v.Ruling], shown.Value),
                    Reasons: [.. v.Ruling.Reasons.Select(r => RulingChanges.Reasons.GetValueOrDefault(r, r))],
                    Hazard: v.Ruling.Hazard,
                    Handling: v.Ruling.Handling,
                    Practice: v.Practice,
                    FilteredNeedsArrangement: v.Ruling.FilteredNeedsArrangement,
                    ReviewBy: v.ReviewBy,
                    From: v.From,
                    Until: v.Until,
                    By: v.ChangedBy is { } by ? names.GetValueOrDefault(by, "somebody") : null,
                    Why: v.Why
                )),
            ])
        );
    }

    private static async Task<Results<Ok<RulingPreviewResponse>, ProblemHttpResult>> Preview(
        string id,
        RulingRequest request,
        RulingStore rulings,
        BookingStore bookings,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (Read(id, request, rules, now, out var change, out var from, out var unit) is { } problem)
            return problem;
        var preview = await rulings.Preview(change, from, now, cancel);
        if (preview.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Ok(await Answer(preview.Value, null, unit, bookings, user, cancel));
    }

    private static async Task<Results<Ok<RulingPreviewResponse>, ProblemHttpResult>> Change(
        string id,
        RulingRequest request,
        RulingStore rulings,
        BookingStore bookings,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (Read(id, request, rules, now, out var change, out var from, out var unit) is { } problem)
            return problem;
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        if (request.Version is not { } version)
            return Problems.Of(MaterialsProblems.VersionMissing.Refuse("version"));
        var made = await rulings.Change(change, from, version, request.Reason!.Trim(), user.Id, now, cancel);
        if (made.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Ok(await Answer(made.Value.Preview, made.Value.Proposal, unit, bookings, user, cancel));
    }

    private static async Task<Results<Ok<ProposalList>, ProblemHttpResult>> Waiting(
        string? unit,
        RulingStore rulings,
        MaterialStore materials,
        PeopleStore people,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        var now = clock.GetCurrentInstant();
        var names = await PeopleNames.All(people, true, clock, cancel);
        var materialNames = (await materials.Shelf(now, cancel)).Materials.ToDictionary(m => m.Id, m => m.Name);
        var mayRule = await user.Is(Role.Steward, Role.Countersigner);
        var items = new List<ProposalResponse>();
        foreach (var p in await rulings.Waiting(cancel))
        {
            var preview = await rulings.Preview(p.Change, Instant.Max(p.HoldsFrom, now), now, cancel);
            var cells = preview.IsOk ? preview.Value.Cells.Select(c => Cell(c, shown.Value)).ToList() : [];
            items.Add(
                new ProposalResponse(
                    Id: p.Id,
                    MaterialId: p.MaterialId,
                    MaterialName: materialNames.GetValueOrDefault(p.MaterialId, p.MaterialId.Value),
                    Cells: cells,
                    HoldsFrom: p.HoldsFrom,
                    By: names.GetValueOrDefault(p.ProposedBy, "somebody"),
                    Mine: p.ProposedBy == user.Id,
                    Why: p.Why,
                    At: p.At,
                    MayAgree: RulingChanges.MayAgree(p.ProposedBy, user.Id, mayRule) is null
                )
            );
        }
        return TypedResults.Ok(new ProposalList(items));
    }

    private static Task<Results<Ok<StateResponse>, ProblemHttpResult>> Agree(
        Guid id,
        ReasonRequest request,
        RulingStore rulings,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) => Close(id, true, request, rulings, user, clock, cancel);

    private static Task<Results<Ok<StateResponse>, ProblemHttpResult>> Refuse(
        Guid id,
        ReasonRequest request,
        RulingStore rulings,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    ) => Close(id, false, request, rulings, user, clock, cancel);

    private static async Task<Results<Ok<StateResponse>, ProblemHttpResult>> Close(
        Guid id,
        bool agree,
        ReasonRequest request,
        RulingStore rulings,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        var answered = await rulings.Answer(
            id,
            agree,
            request.Reason!.Trim(),
            user.Id,
            await user.Is(Role.Steward, Role.Countersigner),
            clock.GetCurrentInstant(),
            cancel
        );
        return answered.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new StateResponse(answered.Value));
    }

    private static ProblemHttpResult? Read(
        string id,
        RulingRequest request,
        HouseRules rules,
        Instant now,
        out RulingChange change,
        out Instant from,
        out LengthUnit unit
    )
    {
        var errors = new FieldErrors();
        change = null!;
        from = now;
        unit = errors.Unit(request.Unit);
        var wanted = request.Cells?.OfType<CellRequest>().ToList() ?? [];
        var ranges = request.Ranges?.OfType<RangeRequest>().ToList() ?? [];
        if (wanted.Count == 0)
            errors.Add("cells", "Choose at least one kind of laser and one operation.");
        if (ranges.Count > MostRanges)
            errors.Add("ranges", $"At most {MostRanges} ranges.");
        var today = rules.Clock.DateOf(now);
        if (errors.Day("from", request.From) is { } day)
        {
            if (day < today)
                errors.Add("from", "A ruling cannot begin in the past. What held then stays on record.");
            else if (day > today)
                from = rules.Clock.Day(day).Start;
        }
        var review = errors.Day("reviewBy", request.ReviewBy) ?? today.PlusMonths(RulingChanges.ReviewMonths);
        if (review <= today)
            errors.Add("reviewBy", "Give a day that is still to come.");
        errors.AtMost("practice", request.Practice, RulingChanges.LongestText);
        var limits = new List<(RangeRequest Range, decimal Min, decimal? Max)>();
        for (var i = 0; i < Math.Min(ranges.Count, MostRanges); i++)
        {
            var range = ranges[i];
            limits.Add(
                (range, ReadLimit(range.Min, $"ranges[{i}].min", unit, errors) ?? 0, ReadLimit(range.Max, $"ranges[{i}].max", unit, errors))
            );
        }
        if (errors.Any)
            return errors.Answer();
        var cells = wanted.Select(c => new RulingCell(id, c.Kind, c.Operation)).Distinct().ToList();
        var rulings = cells
            .SelectMany(c =>
                limits.Select(l => new Ruling(
                    MaterialId: id,
                    Kind: c.Kind,
                    Operation: c.Operation,
                    MinMm: l.Min,
                    MaxMm: l.Max,
                    Standing: l.Range.Standing,
                    Evidence: l.Range.Evidence,
                    Reasons: [.. request.Reasons?.OfType<string>() ?? []],
                    Hazard: request.Hazard?.Trim() ?? "",
                    Handling: request.Handling?.Trim() ?? "",
                    FilteredNeedsArrangement: request.FilteredNeedsArrangement ?? false
                ))
            )
            .ToList();
        errors.Add(RulingChanges.Check([.. rulings.Where(r => RulingCell.Of(r) == cells[0])]));
        if (errors.Any)
            return errors.Answer();
        change = new RulingChange(id, cells, rulings, request.Practice?.Trim() ?? "", review);
        return null;
    }

    private static decimal? ReadLimit(string? text, string field, LengthUnit unit, FieldErrors errors) =>
        string.IsNullOrWhiteSpace(text) ? null : errors.Mm(field, text, unit);

    internal static CellChangeResponse Cell(CellChange c, LengthUnit unit) =>
        new(c.Cell.Kind, c.Cell.Operation, RulingChanges.Say(c.Before, unit), RulingChanges.Say(c.After, unit), c.Direction);

    private static async Task<RulingPreviewResponse> Answer(
        RulingPreview preview,
        Guid? proposal,
        LengthUnit unit,
        BookingStore bookings,
        CurrentUser user,
        CancellationToken cancel
    ) =>
        new(
            [.. preview.Cells.Select(c => Cell(c, unit))],
            preview.Direction,
            [.. (await bookings.Of(preview.Hits.Bookings, cancel)).Select(b => BookingResponses.Of(b, user.Id, true))],
            preview.Hits.Sheets,
            preview.Hits.Settings,
            proposal
        );
}
