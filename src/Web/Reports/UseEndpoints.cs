using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Reports;
using VelvetGate.Store.House;
using VelvetGate.Store.Reports;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Reports;

/// <param name="Means">What the rule of the gate says, in one sentence.</param>
public sealed record RefusedResponse(string Code, string Means, int Count, int People);

/// <param name="From">First day; so too the last, <paramref name="To"/>.</param>
/// <param name="Refused">For staff, of the last 90 days at most; null for others.</param>
/// <param name="EstimateToActual">Planned over actual length of runs.</param>
/// <param name="WaitingHours">On the waiting list, to the start of the time that was taken.</param>
public sealed record UseResponse(
    string From,
    string To,
    UseFigures Figures,
    IReadOnlyList<RefusedResponse>? Refused,
    Spread? EstimateToActual,
    Spread? WaitingHours
);

/// <summary>How machine time is used: by hour and machine, who was refused and why, how even it is. Nobody is named.</summary>
public static class UseEndpoints
{
    private static readonly string[] Columns = ["figure", "machine", "day", "hour", "code", "value", "unit"];

    public static void MapUse(this IEndpointRouteBuilder app)
    {
        var use = app.MapGroup("/api/use").WithTags("Reports").RequireAuthorization(Policy.SignedIn);
        use.MapGet("", Use).WithName("Use").ProducesProblem(400);
        use.MapGet("/file", File).WithName("UseFile").Produces(200, contentType: "text/csv").ProducesProblem(400);
    }

    private static async Task<Results<Ok<UseResponse>, ProblemHttpResult>> Use(
        string? from,
        string? to,
        CurrentUser user,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, problem) = await Read(from, to, user, use, house, clock, cancel);
        return problem is not null ? problem : TypedResults.Ok(answer!);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        string? from,
        string? to,
        CurrentUser user,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (answer, problem) = await Read(from, to, user, use, house, clock, cancel);
        return problem is not null
            ? problem
            : TypedResults.File(
                Encoding.UTF8.GetBytes(CsvTable.Write(Columns, Rows(answer!))),
                "text/csv; charset=utf-8",
                $"use-{answer!.From}-{answer.To}.csv"
            );
    }

    /// <summary>The days of a report, as asked for.</summary>
    internal static (ReportDays? Days, ProblemHttpResult? Problem) Days(string? from, string? to, HouseRules rules, Instant now)
    {
        var errors = new FieldErrors();
        var first = errors.Day("from", from);
        var last = errors.Day("to", to);
        if (errors.Any)
            return (null, errors.Answer());
        var days = ReportDays.Of(first, last, rules.Clock.DateOf(now));
        return days.Refusal is { } refusal ? (null, Problems.Of(refusal)) : (days.Value, null);
    }

    private static async Task<(UseResponse? Answer, ProblemHttpResult? Problem)> Read(
        string? from,
        string? to,
        CurrentUser user,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var (days, problem) = Days(from, to, rules, now);
        if (days is null)
            return (null, problem);
        var rows = await use.Within(days.Span(rules.Clock), cancel);
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec.Id).ToList();
        var figures = UseFigures.Of(rows.Bookings, machines, rows.Closed, days.First, days.Last, rules);
        var means = Codes.All.ToDictionary(c => c.Code, c => c.Means);
        return (
            new UseResponse(
                From: Iso(days.First),
                To: Iso(days.Last),
                Figures: figures,
                Refused: await user.SeesNames()
                    ? [.. rows.Refused.Select(r => new RefusedResponse(r.Code, means.GetValueOrDefault(r.Code, r.Code), r.Count, r.People))]
                    : null,
                EstimateToActual: Spread.Of(rows.Ratios),
                WaitingHours: Spread.Of(rows.WaitingHours)
            ),
            null
        );
    }

    private static IEnumerable<string[]> Rows(UseResponse use)
    {
        var f = use.Figures;
        foreach (var h in f.Hours)
        {
            yield return Row("booked", day: Word(h.Day), hour: h.Hour, value: h.BookedMinutes, unit: "min");
            yield return Row("open", day: Word(h.Day), hour: h.Hour, value: h.OpenMinutes, unit: "min");
        }
        foreach (var m in f.Machines)
        {
            yield return Row("bookings", m.MachineId, value: m.Bookings);
            yield return Row("booked", m.MachineId, value: m.BookedHours, unit: "h");
            yield return Row("open", m.MachineId, value: m.OpenHours, unit: "h");
            yield return Row("at the machine", m.MachineId, value: m.AtMachineHours, unit: "h");
            yield return Row("no-shows", m.MachineId, value: m.NoShows);
            yield return Row("given back", m.MachineId, value: m.Cancelled);
        }
        foreach (var r in use.Refused ?? [])
            yield return Row("refused", code: r.Code, value: r.Count);
        foreach (
            var (name, spread, unit) in new[]
            {
                ("booked over needed", f.BookedToNeeded, ""),
                ("planned over actual run", use.EstimateToActual, ""),
                ("asked before the start", f.WaitHours, "h"),
                ("on the waiting list", use.WaitingHours, "h"),
            }
        )
        {
            if (spread is not null)
                yield return Row($"{name}, median", value: spread.Median, unit: unit);
        }
        if (f.Fairness.Gini is { } gini)
            yield return Row("Gini of hours", value: gini);
        if (f.Fairness.TopShare is { } top)
            yield return Row("share of the ten with most", value: top);
    }

    private static string[] Row(
        string figure,
        MachineId? machine = null,
        string day = "",
        int? hour = null,
        string code = "",
        double value = 0,
        string unit = ""
    ) =>
        [
            figure,
            machine?.Value ?? "",
            day,
            hour?.ToString(CultureInfo.InvariantCulture) ?? "",
            code,
            value.ToString("0.####", CultureInfo.InvariantCulture),
            unit,
        ];

    private static string Word(IsoDayOfWeek day) => day.ToString()[..3].ToLowerInvariant();

    private static string Iso(LocalDate day) => day.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture);
}
