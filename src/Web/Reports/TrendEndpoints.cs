using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Reports;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.Reports;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Reports;

/// <param name="Value">In m³/h or °C.</param>
public sealed record DayValue(LocalDate Day, decimal Value);

/// <summary>Airflow of a machine, all in m³/h.</summary>
/// <param name="Due">Below this cleaning is due, below <paramref name="Asks"/> a steward decides, below <paramref name="Shut"/> nothing
/// runs.</param>
/// <param name="Days">The middle and the least of each day that was read.</param>
/// <param name="ByHand">Read off a gauge.</param>
/// <param name="Baselines">After a service.</param>
public sealed record AirflowPicture(
    decimal Commissioned,
    decimal Due,
    decimal Asks,
    decimal Shut,
    IReadOnlyList<DayOfReadings> Days,
    IReadOnlyList<DayValue> ByHand,
    IReadOnlyList<DayValue> Baselines,
    AirflowFall? Fall
);

/// <summary>Coolant of a machine, all in °C.</summary>
/// <param name="Days">The warmest of each day.</param>
public sealed record CoolantPicture(decimal Cold, decimal Caution, decimal Asks, decimal Shut, IReadOnlyList<DayValue> Days);

/// <param name="Airflow">Null where no airflow was ever measured at commissioning.</param>
/// <param name="Coolant">Null where it is cooled by air.</param>
/// <param name="Weeks">Whole ones from Monday, and the running one; what was planned is known of the newest runs alone.</param>
/// <param name="Says">What the readings of the last weeks foretell.</param>
public sealed record TrendsResponse(
    MachineId MachineId,
    LocalDate From,
    LocalDate To,
    AirflowPicture? Airflow,
    CoolantPicture? Coolant,
    IReadOnlyList<RunWeek> Weeks,
    IReadOnlyList<string> Says
);

/// <summary>How a machine fares over weeks and years.</summary>
public static class TrendEndpoints
{
    public static void MapTrends(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/machines/{id}/trends", Trends)
            .WithTags("Reports")
            .WithName("Trends")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(404);

    private static async Task<Results<Ok<TrendsResponse>, ProblemHttpResult>> Trends(
        string id,
        int? days,
        TrendStore trends,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var span = TrendSpan.Of(days);
        if (span.Refusal is { } refusal)
            return Problems.Of(refusal);
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id)?.Spec is not { } machine)
            return Problems.NotFound($"machine as “{id}”");
        var today = rules.Clock.DateOf(now);
        var first = today.PlusDays(1 - span.Value);
        var from = rules.Clock.Day(first).Start;
        var read = await trends.Of(machine.Id, from, now, cancel);
        AirflowRead[] lately = [.. (await trends.Lately(machine.Id, now, cancel))[machine.Id]];
        var runs = await use.Runs(machine.Id, new Interval(rules.Clock.Day(RunWeeks.Monday(first)).Start, now), cancel);
        return TypedResults.Ok(
            new TrendsResponse(
                MachineId: machine.Id,
                From: first,
                To: today,
                Airflow: machine.AirflowM3PerHour > 0 ? Airflow(machine, read, lately, today, rules.Clock) : null,
                Coolant: machine is { WaterCooled: true, Station: { } station } ? Coolant(station, read, rules.Clock) : null,
                Weeks: RunWeeks.Of(runs, first, today, rules.Clock),
                Says: [.. AirflowTrend.Foreseen(machine, lately, now, rules.Clock)]
            )
        );
    }

    private static AirflowPicture Airflow(
        MachineSpec machine,
        MachineReadings read,
        AirflowRead[] lately,
        LocalDate today,
        HouseClock clock
    ) =>
        new(
            Commissioned: machine.AirflowM3PerHour,
            Due: machine.AirflowM3PerHour * ReadingRules.DuePart,
            Asks: machine.AirflowM3PerHour * ReadingRules.LowPart,
            Shut: machine.AirflowM3PerHour * ReadingRules.ShutPart,
            Days: AirflowTrend.ByDay(read.Airflow, clock),
            ByHand: Values(read.Airflow.Where(r => r.ByHand), clock),
            Baselines: Values(read.Baselines, clock),
            Fall: AirflowTrend.Fall(machine.AirflowM3PerHour, AirflowTrend.ByDay(lately, clock), today)
        );

    private static DayValue[] Values(IEnumerable<AirflowRead> reads, HouseClock clock) =>
        [.. reads.Select(r => new DayValue(clock.DateOf(r.At), r.M3PerHour))];

    private static CoolantPicture Coolant(MachineStation station, MachineReadings read, HouseClock clock) =>
        new(
            Cold: station.CoolantColdC,
            Caution: station.CoolantCautionC,
            Asks: station.CoolantAskC,
            Shut: station.CoolantShutC,
            Days:
            [
                .. read.Coolant.GroupBy(h => clock.DateOf(h.Hour)).OrderBy(g => g.Key).Select(g => new DayValue(g.Key, g.Max(h => h.High))),
            ]
        );
}
