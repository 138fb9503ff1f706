using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Station;
using VelvetGate.Store.Demo;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Now">The server's present, which a page counts on from.</param>
/// <param name="DemoSignIns">Demo mode only.</param>
public sealed record HouseResponse(
    string Name,
    string Zone,
    Instant Now,
    bool Demo,
    IReadOnlyList<string>? DemoSignIns,
    string? DemoPassword,
    int SlotMinutes,
    IReadOnlyDictionary<string, StrokeMeaning> Colours,
    int FinishingBenches,
    int BenchMinutes
);

/// <param name="LidShutSeconds">How long the lid stays shut after a run at least; null where the airflow is not known.</param>
/// <param name="AirflowM3PerHour">At commissioning; 0 where nobody measured it.</param>
/// <param name="LaserClass">As it counts now.</param>
/// <param name="ClassWhy">Why it counts as class 4, whatever its form says; null where it does not.</param>
public sealed record MachineResponse(
    MachineId Id,
    string Name,
    LaserKind Kind,
    decimal PowerW,
    decimal BedWidthMm,
    decimal BedHeightMm,
    decimal UsableWidthMm,
    decimal UsableHeightMm,
    decimal MaxCutMm,
    string LaserClass,
    Extraction Extraction,
    IReadOnlyList<string> Fixtures,
    StopResponse? Stop,
    int? LidShutSeconds,
    string HomeCorner,
    IReadOnlyList<string> FocusMethods,
    Framing? Framing,
    bool WaterCooled,
    decimal AirflowM3PerHour,
    string? ClassWhy
);

/// <param name="By">Whole name for staff.</param>
/// <param name="IncidentId">The incident that set it and ends it; null for any other stop.</param>
public sealed record StopResponse(Guid Id, Instant Since, string By, string? Reason, Guid? IncidentId)
{
    internal static StopResponse Of(StopNow s, bool whole, Instant now) =>
        new(s.Id, s.Since, PersonName.For(s.GivenName, s.FamilyName, Ages.On(s.BirthDate, now), whole), s.Reason, s.IncidentId);
}

public sealed record MachineList(IReadOnlyList<MachineResponse> Items);

/// <summary>
/// A local day with the times that can be chosen, each with its instant: the client never turns a wall clock into an instant.
/// </summary>
public sealed record DayResponse(
    string Date,
    string Label,
    string Previous,
    string Next,
    Instant Starts,
    Instant? Opens,
    Instant? Closes,
    IReadOnlyList<SlotResponse> Slots,
    string? ClockChange
);

/// <summary>What a wall-clock time means: one instant, or two with their names.</summary>
public sealed record ReadingsResponse(IReadOnlyList<SlotResponse> Readings);

/// <param name="Label">Wall-clock time; an hour that comes twice carries its zone, such as “01:30 BST”.</param>
public sealed record SlotResponse(Instant At, string Label);

public sealed record StopMade(Guid Id);

public static class HouseEndpoints
{
    public static void MapHouse(this IEndpointRouteBuilder app)
    {
        var house = app.MapGroup("/api").WithTags("House");
        house.MapGet("/house", House).WithName("House").AllowAnonymous();
        house.MapGet("/house/day", Day).WithName("HouseDay").RequireAuthorization(Policy.SignedIn).ProducesProblem(400);
        house
            .MapGet("/house/local", ReadLocal)
            .WithName("ReadLocalTime")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(422);
        house.MapGet("/machines", Machines).WithName("ListMachines").RequireAuthorization(Policy.SignedIn);
        house
            .MapPost("/machines/{id}/stops", Stop)
            .WithName("StopMachine")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(429);
    }

    private static async Task<Results<Ok<HouseResponse>, ProblemHttpResult>> House(
        HouseStore house,
        IClock clock,
        Mode mode,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        return TypedResults.Ok(
            new HouseResponse(
                Name: rules.HouseName,
                Zone: rules.ZoneId,
                Now: now,
                Demo: mode.Demo,
                DemoSignIns: mode.Demo ? DemoHouse.SignIns : null,
                DemoPassword: mode.Demo ? DemoHouse.Password : null,
                SlotMinutes: rules.SlotMinutes,
                Colours: rules.Colours.Strokes,
                FinishingBenches: rules.FinishingBenches,
                BenchMinutes: rules.BenchMinutes
            )
        );
    }

    private static async Task<Results<Ok<DayResponse>, ProblemHttpResult>> Day(
        string? date,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var day = rules.Clock.DateOf(now);
        if (!string.IsNullOrWhiteSpace(date))
        {
            if (Typed.Day(date) is not { } asked || Math.Abs(Period.DaysBetween(day, asked)) > 3660)
                return Problems.Of(CommonProblems.DayBad.Refuse("date"));
            day = asked;
        }
        var open = rules.OpenOn(day);
        return TypedResults.Ok(
            new DayResponse(
                Date: LocalDatePattern.Iso.Format(day),
                Label: day.ToString("dddd d MMMM uuuu", System.Globalization.CultureInfo.InvariantCulture),
                Previous: LocalDatePattern.Iso.Format(day.PlusDays(-1)),
                Next: LocalDatePattern.Iso.Format(day.PlusDays(1)),
                Starts: rules.Clock.Day(day).Start,
                Opens: open?.Start,
                Closes: open?.End,
                Slots: open is { } hours ? [.. Slots(rules, hours)] : [],
                ClockChange: rules.Clock.ChangeOn(day)
            )
        );
    }

    /// <summary>Turns a wall-clock time into instants: a doubled hour gives both by name, a missing one is refused with the next.</summary>
    private static async Task<Results<Ok<ReadingsResponse>, ProblemHttpResult>> ReadLocal(
        string? local,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        var parsed = LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm").Parse(local ?? "");
        if (!parsed.Success)
            return Problems.Of(HouseProblems.LocalBad.Refuse("local"));
        return rules.Clock.Read(parsed.Value) switch
        {
            LocalReading.Once once => TypedResults.Ok(
                new ReadingsResponse([
                    new SlotResponse(once.At, rules.Clock.At(once.At).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture)),
                ])
            ),
            LocalReading.Twice twice => TypedResults.Ok(
                new ReadingsResponse([
                    .. new[] { twice.First, twice.Second }.Select(z => new SlotResponse(
                        z.ToInstant(),
                        z.ToString("HH:mm x", System.Globalization.CultureInfo.InvariantCulture)
                    )),
                ])
            ),
            LocalReading.Missing missing => Problems.Of(
                HouseProblems.LocalMissing.Refuse(
                    null,
                    parsed.Value.TimeOfDay,
                    missing.Next.ToString("HH:mm x", System.Globalization.CultureInfo.InvariantCulture)
                ),
                new { next = missing.Next.ToInstant() }
            ),
            var other => throw new InvalidOperationException($"A reading without an answer: {other}."),
        };
    }

    private static IEnumerable<SlotResponse> Slots(HouseRules rules, Interval hours)
    {
        for (var at = hours.Start; at < hours.End; at += Duration.FromMinutes(rules.SlotMinutes))
        {
            var local = rules.Clock.At(at);
            var twice = rules.Clock.Read(local.LocalDateTime) is LocalReading.Twice;
            yield return new SlotResponse(
                at,
                local.ToString(twice ? "HH:mm x" : "HH:mm", System.Globalization.CultureInfo.InvariantCulture)
            );
        }
    }

    private static async Task<Ok<MachineList>> Machines(
        HouseStore house,
        CommissioningStore commissioning,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var whole = await user.SeesNames();
        var now = clock.GetCurrentInstant();
        var rules = await house.Rules(now, cancel);
        var machines = await house.MachinesHere(now, cancel);
        var setUps = rules is null ? null : await commissioning.SetUps(machines.Select(m => m.Spec), rules, now, cancel);
        return TypedResults.Ok(new MachineList([.. machines.Select(m => Answer(m, rules, setUps?[m.Spec.Id], whole, now))]));
    }

    private static MachineResponse Answer(MachineNow m, HouseRules? rules, SetUpFacts? setUp, bool whole, Instant now) =>
        new(
            Id: m.Spec.Id,
            Name: m.Spec.Name,
            Kind: m.Spec.Kind,
            PowerW: m.Spec.PowerW,
            BedWidthMm: m.Spec.BedWidthMm,
            BedHeightMm: m.Spec.BedHeightMm,
            UsableWidthMm: m.Spec.UsableWidthMm,
            UsableHeightMm: m.Spec.UsableHeightMm,
            MaxCutMm: m.Spec.MaxCutMm,
            LaserClass: rules is null ? m.Spec.LaserClass : ClassInUse.Of(m.Spec, setUp, rules, now).LaserClass,
            Extraction: m.Spec.Extraction,
            Fixtures: m.Spec.Fixtures,
            Stop: m.Stop is { } s ? StopResponse.Of(s, whole, now) : null,
            LidShutSeconds: rules is not null && m.Spec.AirflowM3PerHour > 0 && m.Spec.EnclosureM3 > 0
                ? LidWait.Of(m.Spec, rules, null, BeamLeft.Smoke).Seconds
                : null,
            HomeCorner: m.Spec.HomeCorner,
            FocusMethods: m.Spec.Station?.FocusMethods ?? [],
            Framing: m.Spec.Station?.Framing,
            WaterCooled: m.Spec.WaterCooled,
            AirflowM3PerHour: m.Spec.AirflowM3PerHour,
            ClassWhy: rules is null ? null : ClassInUse.WhyFour(m.Spec, setUp, rules, now)
        );

    private static async Task<Results<Created<StopMade>, ProblemHttpResult>> Stop(
        string id,
        ReasonRequest request,
        CurrentUser user,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Reasons.Check(request.Reason) is { } bad)
            return bad;
        var now = clock.GetCurrentInstant();
        if ((await house.Machines(now, cancel)).All(m => m.Spec.Id != id))
            return Problems.NotFound($"machine as “{id}”");
        var stop = await house.Stop(id, user.Id, request.Reason!.Trim(), now, cancel);
        return stop.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/stops/{stop.Value}", new StopMade(stop.Value));
    }
}
