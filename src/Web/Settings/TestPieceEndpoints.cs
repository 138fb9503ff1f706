using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Settings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Settings;

/// <summary>Test pieces: made for a machine and the sheet at hand, cut, and told.</summary>
public static class TestPieceEndpoints
{
    public static void MapTestPieces(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/test-pieces").WithTags("Settings").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/", List).WithName("ListTestPieces");
        group.MapPost("/", Make).WithName("MakeTestPiece").ProducesProblem(400).ProducesProblem(409).ProducesProblem(422);
        group.MapGet("/{id:guid}", Show).WithName("GetTestPiece").ProducesProblem(404);
        group.MapGet("/{id:guid}.svg", Svg).WithName("GetTestPieceSvg").ProducesProblem(404);
        group
            .MapPost("/{id:guid}/results", Tell)
            .WithName("TellTestPiece")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422);
    }

    private static async Task<Ok<TestPieceList>> List(
        string? machineId,
        string? materialId,
        CurrentUser user,
        TestPieceStore store,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var pieces = await store.Newest(
            Ids.From<MachineId>(Texts.NullIfBlank(machineId)),
            Ids.From<MaterialId>(Texts.NullIfBlank(materialId)),
            cancel
        );
        var names = await PeopleNames.Of(pieces.Select(p => p.By), people, await user.SeesNames(), clock, cancel);
        return TypedResults.Ok(
            new TestPieceList([
                .. pieces.Select(p => new TestPieceLine(
                    Id: p.Id,
                    Number: p.Number,
                    Kind: p.Made.Piece.Kind,
                    MachineId: p.Made.Around.MachineId,
                    MaterialId: p.Made.Around.MaterialId,
                    ThicknessMm: p.Made.Around.ThicknessMm,
                    SheetTag: p.SheetTag,
                    By: names.GetValueOrDefault(p.By, ""),
                    At: p.At,
                    Told: p.Told is not null
                )),
            ])
        );
    }

    private static async Task<Results<Created<TestPieceResponse>, ProblemHttpResult>> Make(
        TestPieceRequest request,
        CurrentUser user,
        TestPieceStore store,
        SettingStore settings,
        MaterialStore materials,
        HouseStore house,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var machines = (await house.MachinesHere(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec);
        var shelf = await materials.Shelf(now, cancel);
        var kind = errors.Word<TestPieceKind>("kind", request.Kind, "Choose cut, engrave, kerf, focus or joint.");
        var machine = SettingFields.Known(errors, request.MachineId, machines);
        var material = SettingFields.MaterialOf(errors, request.MaterialId, shelf.Materials);
        var unit = errors.Unit(request.Unit);
        var mm = SettingFields.Mm(errors, request.ThicknessMm, request.Thickness, unit);
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        var (tag, sheet) = await Sheet(errors, request.SheetTag, material, store, cancel);
        if (errors.Any)
            return errors.Answer();
        var wish = new SettingWish(machine!.Id, material!.Id, mm, TestPieceRules.OperationOf(kind));
        var ruled = SettingRules.Ruled(machine, shelf.Rulings.Where(r => r.MaterialId == material.Id), wish.Operation, mm);
        if (ruled is not null)
            return Problems.Of(ruled);
        var entries = await settings.Of(material.Id, now, cancel);
        var serviced = await settings.ServicedAt(machine.Id, now, cancel);
        var around = Around(wish, entries, machines, material, serviced, now, rules);
        var piece = TestPieceMaker.Make(
            new TestPieceWish(
                kind,
                mm,
                new GuessedSetting(around.Watts, around.PowerPercent, around.SpeedMmS, around.Passes, null, around.Note),
                machine.TopSpeedMmS,
                machine.KerfMm
            )
        );
        if (TestPieceRules.Fits(piece, machine, sheet) is { } refusal)
            return Problems.Of(refusal);
        await store.Add(id, new MadePiece(piece, around with { Note = "" }), tag, user.Id, now, cancel);
        var kept = (await store.Find(id, cancel))!;
        return TypedResults.Created($"/api/test-pieces/{id}", await Answer(kept, user, people, clock, cancel));
    }

    /// <summary>The suggestion, where there is one; else a guess.</summary>
    private static SettingValues Around(
        SettingWish wish,
        IReadOnlyList<Setting> entries,
        Dictionary<MachineId, MachineSpec> machines,
        Material material,
        Instant? serviced,
        Instant now,
        HouseRules rules
    )
    {
        var (lines, suggested) = Suggestion.Of(entries, wish, serviced, ruled: null, now, rules.Clock);
        if (suggested is not null)
            return lines.Single(l => l.Setting.Id == suggested.Id).Setting.Values with { ThicknessMm = wish.ThicknessMm };
        return FirstGuess.Of(wish, entries, machines, material.CutEnergyJPerMm2).As(wish);
    }

    private static async Task<(SheetTag?, (decimal, decimal)?)> Sheet(
        FieldErrors errors,
        string? typed,
        Material? material,
        TestPieceStore store,
        CancellationToken cancel
    )
    {
        if (Texts.NullIfBlank(typed) is not { } text)
            return (null, null);
        if (SheetTags.Read(text) is not { } tag || await store.Sheet(tag, cancel) is not { } sheet)
            errors.Add("sheetTag", SettingsProblems.TestNoTag.Text);
        else if (material is not null && TestPieceRules.Same(tag, sheet.Material, sheet.Name, material.Id) is { } other)
            errors.Add([other]);
        else
            return (tag, (sheet.WidthMm, sheet.HeightMm));
        return (null, null);
    }

    private static async Task<Results<Ok<TestPieceResponse>, ProblemHttpResult>> Show(
        Guid id,
        CurrentUser user,
        TestPieceStore store,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    ) =>
        await store.Find(id, cancel) is { } piece
            ? TypedResults.Ok(await Answer(piece, user, people, clock, cancel))
            : Problems.Of(CommonProblems.NotFound.Refuse(null, "test piece"));

    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> Svg(Guid id, TestPieceStore store, CancellationToken cancel) =>
        await store.Find(id, cancel) is { } piece
            ? TypedResults.Text(piece.Made.Piece.Svg, "image/svg+xml")
            : Problems.Of(CommonProblems.NotFound.Refuse(null, "test piece"));

    private static async Task<Results<Ok<PieceResultResponse>, ProblemHttpResult>> Tell(
        Guid id,
        PieceResultRequest request,
        CurrentUser user,
        TestPieceStore store,
        MaterialStore materials,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (await store.Find(id, cancel) is not { } piece)
            return Problems.Of(CommonProblems.NotFound.Refuse(null, "test piece"));
        var errors = new FieldErrors();
        var told = Read(errors, request);
        if (errors.Any)
            return errors.Answer();
        var around = piece.Made.Around;
        var found = TestPieceRules.Read(piece.Made.Piece, around, told);
        if (found.Refusal is { } refusal)
            return Problems.Of(refusal);
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == around.MachineId) is not { } machine)
            return Problems.Of(SettingsProblems.SettingUnknown.Refuse("machineId", "machine"));
        // What was permitted when the piece was made may not be so any more.
        var rulings = (await materials.Shelf(now, cancel)).Rulings.Where(r => r.MaterialId == around.MaterialId);
        var operation = TestPieceRules.OperationOf(piece.Made.Piece.Kind);
        if (SettingRules.Ruled(machine.Spec, rulings, operation, around.ThicknessMm) is { } ruled)
            return Problems.Of(ruled);
        var staff = await SettingFields.IsStaff(user);
        var kept = found.Value.Kept is { } values
            ? values with
            {
                Origin = staff ? SettingOrigin.Technician : SettingOrigin.Member,
                Note = piece.Name,
            }
            : null;
        var why = kept is null
            ? null
            : TestPieceRules.WhyNotKept(piece.Made.Piece, told, kept, machine.Spec, staff, rules.MembersAddSettings);
        if (!TestPieceRules.IsOfThis(piece.Made.Piece, told))
            return TypedResults.Ok(Result(found.Value, told, null, SettingsProblems.TestOtherCells.Text));
        var entry = await store.Tell(piece, told, why is null ? kept : null, user.Id, now, cancel);
        return entry.Refusal is { } already ? Problems.Of(already) : TypedResults.Ok(Result(found.Value, told, entry.Value, why?.Text));
    }

    private static PieceTold Read(FieldErrors errors, PieceResultRequest request)
    {
        var cells = new List<CellResult>();
        foreach (var (cell, i) in (request.Cells ?? []).Select((c, i) => (c, i)))
        {
            if (cell.EnergyJPerMm is not { } energy || !double.IsFinite(energy) || energy <= 0)
                errors.Add($"cells[{i}].energyJPerMm", "Give the energy of the cell in J/mm, above 0.");
            else if (cell.Through is not { } through)
                errors.Add($"cells[{i}].through", "Say whether it was through.");
            else
                cells.Add(new CellResult(energy, through, cell.Charred ?? false));
        }
        decimal? measured = Texts.NullIfBlank(request.Measured) is { } typed
            ? errors.Mm("measured", typed, errors.Unit(request.Unit))
            : null;
        return new PieceTold(cells, measured, Texts.NullIfBlank(request.Chosen));
    }

    private static async Task<TestPieceResponse> Answer(
        KeptPiece kept,
        CurrentUser user,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var names = await PeopleNames.Of([kept.By], people, await user.SeesNames(), clock, cancel);
        var (piece, around) = (kept.Made.Piece, kept.Made.Around);
        return new TestPieceResponse(
            Id: kept.Id,
            Number: kept.Number,
            Kind: piece.Kind,
            MachineId: around.MachineId,
            MaterialId: around.MaterialId,
            ThicknessMm: around.ThicknessMm,
            SheetTag: kept.SheetTag,
            WidthMm: piece.WidthMm,
            HeightMm: piece.HeightMm,
            Svg: piece.Svg,
            Cells: piece.Cells,
            Card: piece.Card,
            By: names.GetValueOrDefault(kept.By, ""),
            At: kept.At,
            MayTell: kept.Told is null,
            Result: kept.Told is { } told && TestPieceRules.Read(piece, around, told) is { IsOk: true, Value: var found }
                ? Result(found, told, kept.SettingId, null)
                : null
        );
    }

    private static PieceResultResponse Result(PieceFinding found, PieceTold told, Guid? entry, string? whyNotKept) =>
        new(
            Cells: told.Cells,
            Boundary: found.Boundary is { } b ? new BoundaryResponse(b.JPerMm, b.Low, b.High, b.Separated) : null,
            Recommended: found.Kept is { } k
                ? new RecommendedResponse(
                    SettingId: entry,
                    Operation: k.Operation,
                    PowerPercent: k.PowerPercent,
                    Watts: k.Watts,
                    SpeedMmPerS: k.SpeedMmS,
                    Passes: k.Passes,
                    JPerMm: Math.Round(k.JPerMm, 4)
                )
                : null,
            Kept: entry is not null,
            WhyNotKept: whyNotKept,
            KerfMm: found.KerfMm,
            SlotMm: found.SlotMm,
            FocusMm: found.FocusMm,
            Chosen: told.Chosen,
            Says: found.Says
        );
}
