using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

public sealed record MatrixColumn(string Authority, string Name);

/// <param name="A">Index of the authority among the columns.</param>
/// <param name="Until">Last house day of the certificate; null without end.</param>
/// <param name="Lapses">Last house day on which it counts, by date or idleness.</param>
/// <param name="Idle">It lapses, or has lapsed, by idleness.</param>
/// <param name="Over">It does not count any more: idle.</param>
/// <param name="Soon">It lapses within the house's days.</param>
public sealed record MatrixCellResponse(
    int A,
    LocalDate? Until,
    LocalDate? Lapses,
    bool Idle,
    bool Over,
    bool Soon,
    CertificateHoldKind? Hold,
    bool Paper
);

/// <param name="Cells">Only what is held.</param>
public sealed record MatrixRowResponse(PersonId Id, string Name, bool Paused, IReadOnlyList<MatrixCellResponse> Cells);

/// <param name="All">How many people there are without a filter.</param>
public sealed record MatrixResponse(IReadOnlyList<MatrixColumn> Columns, IReadOnlyList<MatrixRowResponse> Rows, int All);

/// <summary>Who can do what: person by authority, with what lapses ahead.</summary>
public static class MatrixEndpoints
{
    private static readonly string[] Shows = ["all", "holds", "none", "soon", "over", "held"];

    public static void MapMatrix(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/training/matrix", Show)
            .WithTags("Training")
            .WithName("ShowMatrix")
            .RequireAuthorization(Policy.Staff)
            .ProducesProblem(400);
        app.MapGet("/api/training/matrix-file", File)
            .WithTags("Training")
            .WithName("ExportMatrix")
            .RequireAuthorization(Policy.Staff)
            .Produces(200, contentType: "text/csv")
            .ProducesProblem(400);
    }

    /// <param name="find">Part of a name.</param>
    /// <param name="authority">Only this column counts for the filter.</param>
    /// <param name="show">all, holds, none (holds nothing), soon (lapses soon), over (idle), held (under review or suspended).</param>
    private static async Task<Results<Ok<MatrixResponse>, ProblemHttpResult>> Show(
        string? find,
        string? authority,
        string? show,
        MatrixStore matrix,
        PathStore paths,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var read = await Read(find, authority, show, matrix, paths, house, clock, cancel);
        return read.Problem is { } problem ? problem : TypedResults.Ok(read.Answer!);
    }

    /// <param name="format">csv or json.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        string? find,
        string? authority,
        string? show,
        string? format,
        MatrixStore matrix,
        PathStore paths,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (format is not (null or "" or "csv" or "json"))
            return Problems.Of(TrainingProblems.FileFormat.Refuse("format"));
        var read = await Read(find, authority, show, matrix, paths, house, clock, cancel);
        if (read.Problem is { } problem)
            return problem;
        var answer = read.Answer!;
        string[] columns = ["person", "name", "authority", "authorityName", "until", "lapses", "cause", "state"];
        var rows = answer.Rows.SelectMany(r =>
            r.Cells.Select(c =>
                new[]
                {
                    r.Id.Value,
                    r.Name,
                    answer.Columns[c.A].Authority,
                    answer.Columns[c.A].Name,
                    Day(c.Until),
                    Day(c.Lapses),
                    c.Idle ? "idle" : "date",
                    c.Hold == CertificateHoldKind.Suspended ? "suspended"
                    : c.Over ? "idle"
                    : c.Hold == CertificateHoldKind.Review ? "review"
                    : r.Paused ? "paused"
                    : "valid",
                }
            )
        );
        var json = format == "json";
        return TypedResults.File(
            Encoding.UTF8.GetBytes(json ? CsvTable.WriteJson(columns, rows) : CsvTable.Write(columns, rows)),
            json ? "application/json" : "text/csv",
            json ? "who-may-run-what.json" : "who-may-run-what.csv"
        );

        static string Day(LocalDate? day) => day?.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture) ?? "";
    }

    private static async Task<(MatrixResponse? Answer, ProblemHttpResult? Problem)> Read(
        string? find,
        string? authority,
        string? show,
        MatrixStore matrix,
        PathStore paths,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var wanted = string.IsNullOrWhiteSpace(show) ? "all" : show;
        if (!Shows.Contains(wanted))
            return (null, Problems.Of(TrainingProblems.MatrixShow.Refuse("show", string.Join(", ", Shows))));
        var all = await paths.All(rules, now, cancel);
        var names = await paths.Names(all, cancel);
        var columns = all.Select(p => new MatrixColumn(p.Path.Authority, names[p.Path.Authority])).ToList();
        var index = columns.Select((c, i) => (c.Authority, i)).ToDictionary(c => c.Authority, c => c.i);
        if (!string.IsNullOrWhiteSpace(authority) && !index.ContainsKey(authority))
            return (null, Problems.Of(TrainingProblems.MatrixAuthority.Refuse("authority", authority)));
        var people = await matrix.All(rules, now, cancel);
        var letters = PlainLetters.Of(find ?? "");
        var soon = now + Duration.FromDays(rules.RemindDays);
        var days = new Dictionary<Instant, LocalDate>();
        var rows = people
            .Select(Row)
            .Where(r => letters.Length == 0 || PlainLetters.Of(r.Name).Contains(letters, StringComparison.Ordinal))
            .Where(Wanted)
            .ToList();
        return (new MatrixResponse(columns, rows, people.Count), null);

        // Thousands of certificates end on few days.
        LocalDate LastDay(Instant end) => days.TryGetValue(end, out var day) ? day : days[end] = rules.Clock.DateOf(end - Duration.Epsilon);

        MatrixRowResponse Row(MatrixRow r) =>
            new(
                r.PersonId,
                PersonName.For(r.GivenName, r.FamilyName, Ages.On(r.BirthDate, now), true),
                r.Paused,
                [
                    .. r
                        .Cells.Where(c => index.ContainsKey(c.Authority))
                        .Select(c => new MatrixCellResponse(
                            A: index[c.Authority],
                            Until: c.Until is { } u ? LastDay(u) : null,
                            Lapses: c.Lapse is { } l ? LastDay(l.At) : null,
                            Idle: c.Lapse?.Cause == LapseCause.Idle,
                            Over: c.Lapse?.At <= now,
                            Soon: c.Lapse?.At > now && c.Lapse.At <= soon,
                            Hold: c.Hold,
                            Paper: c.FromPaper
                        ))
                        .OrderBy(c => c.A),
                ]
            );

        bool Wanted(MatrixRowResponse r)
        {
            var cells = string.IsNullOrWhiteSpace(authority) ? r.Cells : [.. r.Cells.Where(c => c.A == index[authority])];
            return wanted switch
            {
                "holds" => cells.Any(c => !c.Over && c.Hold is null),
                "none" => cells.Count == 0,
                "soon" => cells.Any(c => c.Soon),
                "over" => cells.Any(c => c.Over),
                "held" => cells.Any(c => c.Hold is not null),
                _ => true,
            };
        }
    }
}
