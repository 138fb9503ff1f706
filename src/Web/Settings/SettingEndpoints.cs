using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Settings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Settings;

/// <summary>The house's library of settings: what worked here, on which machine, and the one to begin with.</summary>
public static class SettingEndpoints
{
    public static void MapSettings(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/settings").WithTags("Settings").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/", List).WithName("ListSettings").ProducesProblem(400);
        group.MapPost("/", Add).WithName("AddSetting").ProducesProblem(400).ProducesProblem(403).ProducesProblem(409);
        group.MapPost("/{id:guid}/end", End).WithName("EndSetting").ProducesProblem(403).ProducesProblem(404).ProducesProblem(409);
    }

    /// <param name="thicknessMm">Thickness measured, in mm; or <paramref name="thickness"/> as typed, with any unit.</param>
    private static async Task<Results<Ok<SettingList>, ProblemHttpResult>> List(
        string? machineId,
        string? materialId,
        decimal? thicknessMm,
        string? thickness,
        string? unit,
        string? operation,
        CurrentUser user,
        SettingStore store,
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
        var machine = SettingFields.Known(errors, machineId, machines);
        var material = SettingFields.MaterialOf(errors, materialId, shelf.Materials);
        var shown = errors.Unit(unit);
        var mm = SettingFields.Mm(errors, thicknessMm, thickness, shown);
        var done = errors.Word<Operation>("operation", operation ?? "cut", "Choose cut, score or engrave.");
        if (errors.Any)
            return errors.Answer();
        var entries = await store.Of(material!.Id, now, cancel);
        var wish = new SettingWish(machine!.Id, material.Id, mm, done);
        var ruled = SettingRules.Ruled(machine, shelf.Rulings.Where(r => r.MaterialId == material.Id), done, mm);
        var serviced = await store.ServicedAt(machine.Id, now, cancel);
        var (lines, suggested) = Suggestion.Of(entries, wish, serviced, ruled, now, rules.Clock, shown);
        var staff = await SettingFields.IsStaff(user);
        var names = await PeopleNames.Of(lines.Select(l => l.Setting.By), people, await user.SeesNames(), clock, cancel);
        var guess = suggested is null && ruled is null ? FirstGuess.Of(wish, entries, machines, material.CutEnergyJPerMm2, shown) : null;
        return TypedResults.Ok(
            new SettingList(
                ThicknessMm: mm,
                Items: [.. lines.Select(l => Line(l, names, SettingRules.MayEnd(user.Id, l.Setting.By, staff, ended: false) is null))],
                NotPermitted: ruled?.Text,
                Suggestion: suggested is null ? null : new SettingSuggestionResponse(suggested.Id, suggested.Reasons),
                Guess: guess is null
                    ? null
                    : new GuessResponse(guess.Watts, guess.PowerPercent, guess.SpeedMmS, guess.Passes, guess.From, guess.Working),
                Next: NextSteps.All,
                MayAdd: ruled is null && SettingRules.MayAdd(staff, rules.MembersAddSettings) is null,
                MayAddTechnicians: staff
            )
        );
    }

    private static SettingResponse Line(SettingLine line, Dictionary<PersonId, string> names, bool mayEnd)
    {
        var (s, v) = (line.Setting, line.Setting.Values);
        return new SettingResponse(
            Id: s.Id,
            Number: s.Number,
            MachineId: v.MachineId,
            MaterialId: v.MaterialId,
            ThicknessMm: v.ThicknessMm,
            Operation: v.Operation,
            PowerPercent: v.PowerPercent,
            Watts: v.Watts,
            SpeedMmPerS: v.SpeedMmS,
            Passes: v.Passes,
            JPerMm: Math.Round(v.JPerMm, 3),
            FrequencyHz: v.FrequencyHz,
            PitchMm: v.PitchMm,
            Offsets: v.Offsets,
            FocusOffsetMm: v.FocusOffsetMm,
            FanLevel: v.FanLevel,
            AirAssist: v.AirAssist,
            Fixture: v.Fixture,
            Mask: v.Mask,
            MaskOf: v.MaskOf,
            Origin: v.Origin,
            OriginWords: Suggestion.Says(v.Origin),
            Note: v.Note,
            By: names.GetValueOrDefault(s.By, ""),
            At: s.At,
            Ratio: line.Match is { } match ? SettingsMatch.Show(match.Ratio) : null,
            Standing: line.Match?.Standing,
            Code: line.Match?.Code,
            Says: line.Match?.Says,
            Fits: line.Fits,
            WhyNot: line.WhyNot,
            Tested: line.Tested,
            Results: s.Results.Says,
            MayEnd: mayEnd
        );
    }

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Add(
        SettingRequest request,
        CurrentUser user,
        SettingStore store,
        MaterialStore materials,
        HouseStore house,
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
        var machine = SettingFields.Known(errors, request.MachineId, machines);
        var material = SettingFields.MaterialOf(errors, request.MaterialId, shelf.Materials);
        var values = Read(errors, request, machine, material);
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        if (errors.Any)
            return errors.Answer();
        var rulings = shelf.Rulings.Where(r => r.MaterialId == material!.Id);
        if (SettingRules.Ruled(machine!, rulings, values.Operation, values.ThicknessMm) is { } ruled)
            return Problems.Of(ruled);
        var refused = SettingRules.Check(values, machine!, await SettingFields.IsStaff(user), rules.MembersAddSettings).ToList();
        if (refused.FirstOrDefault(r => r.Problem.Kind != ProblemKind.Invalid) is { } forbidden)
            return Problems.Of(forbidden);
        errors.Add(refused);
        if (errors.Any)
            return errors.Answer();
        var added = await store.Add(id, values, user.Id, now, cancel);
        return added.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Created($"/api/settings/{id}", new Made(id));
    }

    private static SettingValues Read(FieldErrors errors, SettingRequest r, MachineSpec? machine, Material? material)
    {
        var unit = errors.Unit(r.Unit);
        var mm = SettingFields.Mm(errors, r.ThicknessMm, r.Thickness, unit);
        var speed = r.SpeedMmPerS ?? (Speed.Parse(r.Speed) is { IsOk: true, Value: var typed } ? typed : (decimal?)null);
        if (speed is null)
            errors.Add("speed", Speed.Parse(r.Speed).Refusal!.Text);
        if (r.PowerPercent is null)
            errors.Add("powerPercent", "Give the power in per cent, as it is typed at the machine.");
        errors.AtMost("note", r.Note, SettingRules.NoteLongest);
        errors.AtMost("fixture", r.Fixture, SettingRules.WordsLongest);
        errors.AtMost("maskOf", r.MaskOf, SettingRules.WordsLongest);
        return new SettingValues(
            MachineId: machine?.Id ?? "",
            MaterialId: material?.Id ?? "",
            ThicknessMm: mm,
            Operation: errors.Word<Operation>("operation", r.Operation, "Choose cut, score or engrave."),
            PowerPercent: r.PowerPercent ?? 0,
            Watts: r.Watts ?? Math.Round((machine?.PowerW ?? 0) * (r.PowerPercent ?? 0) / 100, 2),
            SpeedMmS: speed ?? 0,
            Passes: r.Passes ?? 1,
            FrequencyHz: r.FrequencyHz,
            PitchMm: string.IsNullOrWhiteSpace(r.Pitch) ? null : errors.Mm("pitch", r.Pitch, unit),
            Offsets: r.Offsets ?? [],
            FocusOffsetMm: string.IsNullOrWhiteSpace(r.FocusOffset) ? 0 : Place(errors, r.FocusOffset, unit),
            FanLevel: r.FanLevel,
            AirAssist: r.AirAssist,
            Fixture: r.Fixture?.Trim() ?? "",
            Mask: errors.Word<Mask>("mask", r.Mask ?? "none", "Choose none, damp or dry."),
            MaskOf: r.MaskOf?.Trim() ?? "",
            Origin: errors.Word<SettingOrigin>("origin", r.Origin ?? "member", "Choose technician, member, maker or firstGuess."),
            Note: r.Note?.Trim() ?? ""
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        CurrentUser user,
        SettingStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var ended = await store.End(id, user.Id, await SettingFields.IsStaff(user), clock.GetCurrentInstant(), cancel);
        return ended.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static decimal Place(FieldErrors errors, string typed, LengthUnit unit)
    {
        var read = Length.ParsePlace(typed, unit);
        if (read.Refusal is { } refusal)
            errors.Add("focusOffset", refusal.Text);
        return read.IsOk ? read.Value : 0;
    }
}
