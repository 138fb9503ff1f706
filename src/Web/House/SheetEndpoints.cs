using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;
using VelvetGate.Core.Machines;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <summary>What a keeper sees of the house: its sheets as they stand.</summary>
/// <param name="Machines">Each with the version to send back with a change.</param>
public sealed record SheetsResponse(
    IReadOnlyList<MachineSheet> Machines,
    RoomSpec? Room,
    IReadOnlyList<KitResponse> Kit,
    IReadOnlyList<EyewearSet> Eyewear,
    IReadOnlyList<string> Missing
);

/// <param name="LastDay">Last day in date, on the house's calendar; null for things that do not go out of date.</param>
public sealed record KitResponse(string Id, string Name, LocalDate? LastDay);

/// <summary>The fields of every sheet, so that a form can be drawn from them.</summary>
public sealed record FormsResponse(
    IReadOnlyList<FormField> Machine,
    IReadOnlyList<FormField> Room,
    IReadOnlyList<FormField> Rules,
    IReadOnlyList<PackResponse> Packs
);

/// <param name="Fields">By key: text as typed, or JSON values; lengths as numbers are millimetres.</param>
/// <param name="Unit">Unit of a bare length that was typed: mm or in.</param>
/// <param name="Version">The version that was read.</param>
public sealed record SheetRequest(JsonElement Fields, string? Unit = null, int? Version = null);

public sealed record VersionResponse(int Version);

public sealed record KitRequest(string? Name = null, string? LastDay = null);

public sealed record EyewearRequest(
    string? Name = null,
    int? MinNm = null,
    int? MaxNm = null,
    decimal? OpticalDensity = null,
    bool? DamageRated = null,
    int? Count = null
);

/// <summary>Machines, room, fire kit and eyewear, as forms.</summary>
public static class SheetEndpoints
{
    public static void MapSheetsOfHouse(this IEndpointRouteBuilder app)
    {
        var house = app.MapGroup("/api").WithTags("House");
        house.MapGet("/house/forms", Forms).WithName("HouseForms").RequireAuthorization(Policy.SignedIn);
        house.MapGet("/house/sheets", Sheets).WithName("HouseSheets").RequireAuthorization(Policy.SignedIn).ProducesProblem(409);
        house
            .MapPost("/machines", AddMachine)
            .WithName("AddMachine")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(409);
        house
            .MapPut("/machines/{id}", ChangeMachine)
            .WithName("ChangeMachine")
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        house.MapPut("/house/room", SetRoom).WithName("SetRoom").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        house.MapPut("/house/kit/{id}", SetKit).WithName("SetKit").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
        house.MapDelete("/house/kit/{id}", EndKit).WithName("EndKit").RequireAuthorization(Policy.Keeper).ProducesProblem(404);
        house.MapPut("/house/eyewear/{id}", SetEyewear).WithName("SetEyewear").RequireAuthorization(Policy.Keeper).ProducesProblem(400);
    }

    private static Ok<FormsResponse> Forms() =>
        TypedResults.Ok(new FormsResponse(MachineForm.Fields, HouseSheets.Room, HouseSheets.Rules, PackResponse.All));

    private static async Task<Results<Ok<SheetsResponse>, ProblemHttpResult>> Sheets(
        SheetStore sheets,
        HouseStore house,
        StillMissing missing,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var machines = await sheets.Machines(cancel);
        var room = await sheets.Room(now, cancel);
        var kit = (await sheets.Kit(now, cancel))
            .Select(k => new KitResponse(k.Id, k.Name, k.InDateUntil is { } until ? rules.Clock.DateOf(until).PlusDays(-1) : null))
            .ToList();
        return TypedResults.Ok(
            new SheetsResponse(
                machines,
                room,
                kit,
                await sheets.Eyewear(now, cancel),
                await missing.Of(machines, room, kit.Count, rules, now, cancel)
            )
        );
    }

    private static async Task<Results<Created<MadeResponse>, ProblemHttpResult>> AddMachine(
        SheetRequest request,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Read(request, null, out var spec) is { } problem)
            return problem;
        var added = await sheets.AddMachine(spec!, user.Id, clock.GetCurrentInstant(), cancel);
        return added.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/machines/{added.Value}", new MadeResponse(added.Value.Value));
    }

    private static async Task<Results<Ok<VersionResponse>, ProblemHttpResult>> ChangeMachine(
        string id,
        SheetRequest request,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Read(request, id, out var spec) is { } problem)
            return problem;
        var changed = await sheets.ChangeMachine(spec!, request.Version ?? 0, user.Id, clock.GetCurrentInstant(), cancel);
        return changed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new VersionResponse(changed.Value));
    }

    private static ProblemHttpResult? Read(SheetRequest request, string? id, out MachineSpec? spec)
    {
        spec = null;
        var unit = Length.ParseChoice(request.Unit);
        if (unit.Refusal is { } bad)
            return Problems.Of(bad);
        var read = MachineReading.Read(request.Fields, unit.Value);
        var errors = new FieldErrors();
        errors.Add(read.Errors);
        if (read.Value is { } value && id is not null && value.Id != id)
            errors.Add("id", "The short name of a machine stays for good.");
        if (errors.Any)
            return errors.Answer();
        spec = read.Value;
        return null;
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetRoom(
        SheetRequest request,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var read = SheetChecks.Room(request.Fields);
        var errors = new FieldErrors();
        errors.Add(read.Errors);
        if (read.Value is not { } room)
            return errors.Answer();
        await sheets.SetRoom(room, user.Id, clock.GetCurrentInstant(), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetKit(
        string id,
        KitRequest request,
        CurrentUser user,
        SheetStore sheets,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        CheckId(id, errors);
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Length > FormField.LongestText)
            errors.Add("name", "Name it, such as “CO₂ extinguisher by the door”.");
        var until = errors.LastDay("lastDay", request.LastDay, rules);
        if (errors.Any)
            return errors.Answer();
        await sheets.SetKit(new KitItem(id, request.Name!.Trim(), until), user.Id, now, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndKit(
        string id,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    ) =>
        await sheets.EndKit(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("item of fire kit");

    private static async Task<Results<NoContent, ProblemHttpResult>> SetEyewear(
        string id,
        EyewearRequest request,
        CurrentUser user,
        SheetStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        CheckId(id, errors);
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Length > FormField.LongestText)
            errors.Add("name", "Name the set, and say whether it fits over spectacles.");
        if (request.MinNm is not (>= 180 and <= 20000))
            errors.Add("minNm", "The lowest wavelength covered lies between 180 and 20000 nm.");
        if (request.MaxNm is not (>= 180 and <= 20000) || request.MaxNm < request.MinNm)
            errors.Add("maxNm", "The highest wavelength covered lies above the lowest, up to 20000 nm.");
        if (request.OpticalDensity is not (>= 0 and <= 15))
            errors.Add("opticalDensity", "The optical density on the frame lies between 0 and 15.");
        if (request.Count is not (>= 0 and <= 1000))
            errors.Add("count", "Count the pairs in good condition.");
        if (errors.Any)
            return errors.Answer();
        await sheets.SetEyewear(
            new EyewearSet(
                Id: id,
                Name: request.Name!.Trim(),
                MinNm: request.MinNm!.Value,
                MaxNm: request.MaxNm!.Value,
                OpticalDensity: request.OpticalDensity!.Value,
                DamageRated: request.DamageRated == true,
                Count: request.Count!.Value
            ),
            user.Id,
            clock.GetCurrentInstant(),
            cancel
        );
        return TypedResults.NoContent();
    }

    private static void CheckId(string id, FieldErrors errors)
    {
        if (id.Length > 40 || id.Any(c => !char.IsAsciiLetterLower(c) && !char.IsAsciiDigit(c) && c != '-'))
            errors.Add("id", "The short name has small letters, digits and hyphens, up to 40.");
    }
}
