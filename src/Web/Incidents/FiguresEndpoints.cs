using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <param name="HoursFrom">Where the hours come from.</param>
/// <param name="Code"><c>rate.noHours</c> where nobody knows the hours of that time: there is a count, and no rate.</param>
public sealed record RatesResponse(
    LocalDate From,
    LocalDate To,
    Rate Incidents,
    Rate NearMisses,
    string HoursFrom,
    string Caution,
    string? Code
);

public sealed record CauseFigure(string Code, string Title, int Count);

/// <param name="Severity">1 to 5.</param>
public sealed record SeverityFigure(int Severity, string Says, int Count);

public sealed record MonthFigure(LocalDate Month, int Incidents, int NearMisses, double? Hours);

/// <param name="ToHold">Median minutes from the event to the first hold; null where there was none. So too to the first word of the
/// record and to closing.</param>
/// <param name="Comparison">With as many days before.</param>
public sealed record FiguresResponse(
    RatesResponse Rates,
    Comparison Comparison,
    LocalDate BeforeFrom,
    LocalDate BeforeTo,
    IReadOnlyList<CauseFigure> Causes,
    IReadOnlyList<SeverityFigure> Severities,
    IReadOnlyList<MonthFigure> Months,
    decimal? Cost,
    double? ToHold,
    double? ToWord,
    double? ToClosing
);

/// <param name="Stored">True once it is done; never while a row is bad.</param>
public sealed record IncidentImport(int Rows, IReadOnlyList<BadRow> Bad, bool Stored);

/// <summary>How often, and the register as files.</summary>
public static class FiguresEndpoints
{
    private const string Hours = "Laser hours come from logged runs, from the first beam to the last.";
    private const int LongestFile = 4 * 1024 * 1024;
    private const int UsualDays = 365;

    public static void MapIncidentFigures(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api").WithTags("Incidents");
        group.MapGet("/incidents/rates", Rates).WithName("IncidentRates").RequireAuthorization(Policy.SignedIn).ProducesProblem(400);
        group.MapGet("/incidents/figures", Figures).WithName("IncidentFigures").RequireAuthorization(Policy.Records).ProducesProblem(400);
        group
            .MapGet("/incidents-file", Export)
            .WithName("ExportIncidents")
            .RequireAuthorization(Policy.Records)
            .Produces(200, contentType: "text/csv")
            .ProducesProblem(400);
        group
            .MapPost("/incidents-file", Import)
            .WithMetadata(LargeJson.File)
            .WithName("ImportIncidents")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400);
    }

    private static async Task<Results<Ok<RatesResponse>, ProblemHttpResult>> Rates(
        string? from,
        string? to,
        string? machineId,
        string? cause,
        IncidentFigures figures,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (period, problem) = await Days(from, to, cause, house, clock, cancel);
        if (period is null)
            return problem!;
        var of = await figures.Of(period, Machine(machineId), Texts.NullIfBlank(cause), cancel);
        return TypedResults.Ok(Of(period, of));
    }

    private static async Task<Results<Ok<FiguresResponse>, ProblemHttpResult>> Figures(
        string? from,
        string? to,
        string? machineId,
        string? cause,
        IncidentFigures figures,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (period, problem) = await Days(from, to, cause, house, clock, cancel);
        if (period is null)
            return problem!;
        var rules = (await house.Rules(clock.GetCurrentInstant(), cancel))!;
        var days = Period.Between(period.FirstDay, period.LastDay, PeriodUnits.Days).Days + 1;
        var before = DaySpan.Of(period.FirstDay.PlusDays(-days), period.FirstDay.PlusDays(-1), rules.Clock);
        var (machine, only) = (Machine(machineId), Texts.NullIfBlank(cause));
        var of = await figures.Of(period, machine, only, cancel);
        var then = await figures.Of(before, machine, only, cancel);
        var months = await figures.Months(Months(period, rules.Clock), machine, only, cancel);
        return TypedResults.Ok(
            new FiguresResponse(
                Rates: Of(period, of),
                Comparison: Comparison.Of(of.Incidents, of.Hours, then.Incidents, then.Hours),
                BeforeFrom: before.FirstDay,
                BeforeTo: before.LastDay,
                Causes: [.. of.Causes.Select(c => new CauseFigure(c.Code, Causes.Find(c.Code)?.Title ?? c.Code, c.Count))],
                Severities: [.. of.Severities.Select(s => new SeverityFigure(s.Severity, Mishaps.Says((Severity)s.Severity), s.Count))],
                Months: [.. months.Select(m => new MonthFigure(m.Month, m.Incidents, m.NearMisses, m.Hours))],
                Cost: of.Cost,
                ToHold: of.ToHold,
                ToWord: of.ToWord,
                ToClosing: of.ToClosing
            )
        );
    }

    /// <param name="format">csv, json or pdf.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Export(
        string? format,
        IncidentReading incidents,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var kind = format?.ToLowerInvariant() is { Length: > 0 } asked ? asked : "csv";
        if (kind is not ("csv" or "json" or "pdf"))
            return Problems.Of(MaterialsProblems.FormatBad.Refuse("format"));
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var names = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        var lines = await incidents.List(null, cancel);
        if (kind == "pdf")
            return TypedResults.File(
                IncidentPrint.Register([.. lines.Select(l => IncidentEndpoints.Line(l, names))], rules, now),
                "application/pdf",
                "incidents.pdf"
            );
        var rows = lines.Select(l =>
            new[]
            {
                l.Incident.Number.ToString(CultureInfo.InvariantCulture),
                rules.Clock.DateOf(l.Incident.At).ToString("uuuu-MM-dd", CultureInfo.InvariantCulture),
                l.Incident.MachineId?.Value ?? "",
                IncidentWord(l.Incident.What),
                ((int)l.Incident.Severity).ToString(CultureInfo.InvariantCulture),
                string.Join(";", l.Causes),
                // What people wrote may hold a name: it stays in the house.
                "",
                l.Incident.Cost?.ToString(CultureInfo.InvariantCulture) ?? "",
                (l.HoldsSet + l.HoldsEnded).ToString(CultureInfo.InvariantCulture),
                l.Incident.ClosedAt is null ? "open" : "closed",
                l.Incident.CarriedOver ? "yes" : "",
            }
        );
        var json = kind == "json";
        return TypedResults.File(
            Encoding.UTF8.GetBytes(json ? CsvTable.WriteJson(IncidentsFile.Written, rows) : CsvTable.Write(IncidentsFile.Written, rows)),
            json ? "application/json" : "text/csv; charset=utf-8",
            $"incidents.{kind}"
        );
    }

    private static async Task<Results<Ok<IncidentImport>, ProblemHttpResult>> Import(
        FileRequest request,
        CurrentUser user,
        IncidentStore incidents,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (request.Text?.Length > LongestFile)
            return Problems.Of(RequestProblems.RequestTooLarge.Refuse(null, LongestFile / 1024));
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec);
        var read = IncidentsFile.Read(request.Text ?? "", machines, rules.Clock.DateOf(now), rules.Clock);
        if (read.Refusal is { } refusal)
            return Problems.Of(refusal);
        var bad = read.Value.SelectMany(r => r.Errors.Select(e => new BadRow(r.Line, e.Field ?? "", e.Text))).ToList();
        var dry = request.DryRun != false || bad.Count > 0;
        if (!dry)
            await incidents.CarryOver(read.Value, rules.Clock, user.Id, now, cancel);
        return TypedResults.Ok(new IncidentImport(read.Value.Count, bad, !dry));
    }

    private static RatesResponse Of(DaySpan period, FiguresOf of) =>
        new(
            From: period.FirstDay,
            To: period.LastDay,
            Incidents: Rate.Of(of.Incidents, of.Hours),
            NearMisses: Rate.Of(of.NearMisses, of.Hours),
            HoursFrom: Hours,
            Caution: Comparison.Caution,
            Code: of.Hours is null ? IncidentsProblems.RateNoHours.Code : null
        );

    private static IReadOnlyList<DaySpan> Months(DaySpan period, HouseClock clock)
    {
        var months = new List<DaySpan>();
        for (
            var first = new LocalDate(period.FirstDay.Year, period.FirstDay.Month, 1);
            first <= period.LastDay && months.Count < 36;
            first = first.PlusMonths(1)
        )
            months.Add(DaySpan.Of(first, first.PlusMonths(1).PlusDays(-1), clock));
        return months;
    }

    private static async Task<(DaySpan? Days, ProblemHttpResult? Problem)> Days(
        string? from,
        string? to,
        string? cause,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var errors = new FieldErrors();
        var last = errors.Day("to", to) ?? rules.Clock.DateOf(now);
        var first = errors.Day("from", from) ?? last.PlusDays(1 - UsualDays);
        if (!string.IsNullOrWhiteSpace(cause) && Causes.Find(cause) is null)
            errors.Add("cause", $"There is no cause “{cause}”.");
        if (errors.Any)
            return (null, errors.Answer());
        return IncidentRules.Ordered(first, last) is { } wrong ? (null, Problems.Of(wrong)) : (DaySpan.Of(first, last, rules.Clock), null);
    }

    private static MachineId? Machine(string? id) => Ids.From<MachineId>(Texts.NullIfBlank(id));

    private static string IncidentWord(Mishap what) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(what.ToString());
}
