using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="MassG">g.</param>
/// <param name="Length">A length as typed; likewise the others.</param>
/// <param name="SizeOff">How far off each length may be, as a standard uncertainty.</param>
/// <param name="Plain">The steward looked: solid, one layer, no foam, filler, coating or film.</param>
/// <param name="Flame">Copper-wire test where the house offers it; null when not made.</param>
/// <param name="Unit">Unit of a bare length: mm or in.</param>
/// <param name="FlameReason">Why the flame test was made and where; kept in the record.</param>
public sealed record IdentifyRequest(
    double? MassG = null,
    double? MassOffG = null,
    string? Length = null,
    string? Width = null,
    string? Thickness = null,
    string? SizeOff = null,
    string? ThicknessOff = null,
    bool? Plain = null,
    bool? Flame = null,
    bool? CutBadly = null,
    string? Unit = null,
    string? FlameReason = null
);

/// <param name="FlameOffered">Whether this house offers the flame test at all.</param>
public sealed record IdentifyForm(bool FlameOffered, IReadOnlyList<string> Cautions, IReadOnlyList<RuleOfThumb> RulesOfThumb);

/// <summary>What weight and size exclude, and what a centimetre of vinyl gives off.</summary>
public static class IdentificationEndpoints
{
    public static void MapIdentification(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Materials");
        group.MapGet("/identification", Form).WithName("IdentificationForm").RequireAuthorization(Policy.Steward).ProducesProblem(409);
        group
            .MapPost("/identification", Identify)
            .WithName("Identify")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(409);
        group.MapGet("/chloride", Chloride).WithName("WhyNeverVinyl").RequireAuthorization(Policy.SignedIn).ProducesProblem(400);
    }

    private static async Task<Results<Ok<IdentifyForm>, ProblemHttpResult>> Form(HouseStore house, IClock clock, CancellationToken cancel)
    {
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        return TypedResults.Ok(
            new IdentifyForm(rules.FlameTestOffered, Identification.Cautions(rules.FlameTestOffered), MaterialTable.RulesOfThumb)
        );
    }

    private static async Task<Results<Ok<IdentificationOutcome>, ProblemHttpResult>> Identify(
        IdentifyRequest request,
        CurrentUser user,
        IdentificationStore tests,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var unit = errors.Unit(request.Unit);
        var (length, width, thickness) = (Mm(request.Length, "length"), Mm(request.Width, "width"), Mm(request.Thickness, "thickness"));
        var (off, thickOff) = (Mm(request.SizeOff, "sizeOff"), Mm(request.ThicknessOff, "thicknessOff"));
        if (request.MassG is null)
            errors.Add("mass", "Weigh the piece, in grams.");
        if (request.MassOffG is null)
            errors.Add("massOff", "Say how far off the scale may be, in grams.");
        if (request.Flame is not null && !rules.FlameTestOffered)
            errors.Add("flame", "This house does not offer the flame test.");
        if (request.Flame is not null && string.IsNullOrWhiteSpace(request.FlameReason))
            errors.Add("flameReason", "Write why the flame test was made, and where: in a fume cupboard or outdoors.");
        if (request.FlameReason is { Length: > 1000 })
            errors.Add("flameReason", "Longer than 1000 characters. Shorten it.");
        if (errors.Any)
            return errors.Answer();
        var density = Identification.DensityOf(
            new(request.MassG!.Value, request.MassOffG!.Value),
            new(length, off),
            new(width, off),
            new(thickness, thickOff)
        );
        if (density.Refusal is { } refusal)
            return Problems.Of(
                refusal.Code == "density.uncertainty"
                    ? refusal with
                    {
                        Field = refusal.Field switch
                        {
                            "mass" => "massOff",
                            "thickness" => "thicknessOff",
                            _ => "sizeOff",
                        },
                    }
                    : refusal
            );
        var outcome = Identification.Exclude(density.Value, request.Plain == true, new Observed(request.Flame, request.CutBadly == true));
        if (outcome.Refusal is { } no)
            return Problems.Of(no);
        if (request.Flame is { } green)
            await tests.KeepFlameTest(user.Id, green, request.FlameReason!.Trim(), now, cancel);
        return TypedResults.Ok(outcome.Value);

        double Mm(string? text, string field) => (double)errors.Mm(field, text, unit);
    }

    /// <param name="cut">Length of the cut as typed; likewise thickness and kerf.</param>
    /// <param name="enclosure">m³.</param>
    /// <param name="room">m³; empty when not known.</param>
    private static Results<Ok<ChlorideOutcome>, ProblemHttpResult> Chloride(
        string? cut,
        string? thickness,
        string? kerf,
        string? unit,
        double? enclosure,
        double? room
    )
    {
        var errors = new FieldErrors();
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } bad)
            return Problems.Of(bad);
        var lengths = new[] { ("cut", cut), ("thickness", thickness), ("kerf", kerf) }
            .Select(l => (double)errors.Mm(l.Item1, l.Item2, shown.Value))
            .ToArray();
        if (enclosure is null)
            errors.Add("enclosure", "Give the enclosure's volume in cubic metres.");
        if (errors.Any)
            return errors.Answer();
        var outcome = HydrogenChloride.Of(lengths[0], lengths[1], lengths[2], enclosure!.Value, room);
        return outcome.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(outcome.Value);
    }
}
