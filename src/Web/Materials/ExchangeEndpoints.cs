using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <param name="Text">The file: CSV or JSON.</param>
/// <param name="DryRun">True shows what would come of it; nothing is stored unless this is false.</param>
/// <param name="Reason">Why the rulings change.</param>
public sealed record FileRequest(string? Text = null, bool? DryRun = null, string? Reason = null, string? Unit = null);

/// <param name="Field">Column at fault.</param>
public sealed record BadRow(int Line, string Field, string Text);

public sealed record ImportedMaterial(
    MaterialId MaterialId,
    string Name,
    RulingDirection Direction,
    IReadOnlyList<CellChangeResponse> Cells
);

/// <param name="Materials">What changes; materials that read as they do now are left out.</param>
/// <param name="Stored">True once it is done; never while a row is bad.</param>
/// <param name="Proposals">Milder rulings that wait for another pair of eyes.</param>
public sealed record RulingImport(
    int Rows,
    IReadOnlyList<BadRow> Bad,
    IReadOnlyList<ImportedMaterial> Materials,
    bool Stored,
    int Proposals
);

public sealed record SheetImport(int Rows, IReadOnlyList<BadRow> Bad, int Sheets, bool Stored, IReadOnlyList<SheetTag> Tags);

/// <summary>Rulings and sheets as files, out and in.</summary>
public static class ExchangeEndpoints
{
    private const int LongestFile = 8 * 1024 * 1024;

    public static void MapExchange(this IEndpointRouteBuilder app)
    {
        var files = app.MapGroup("/api").WithTags("Materials");
        files
            .MapGet("/rulings-file", Rulings)
            .WithName("ExportRulings")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "text/csv")
            .ProducesProblem(400);
        files
            .MapGet("/sheets-file", Sheets)
            .WithName("ExportSheets")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "text/csv")
            .ProducesProblem(400);
        files
            .MapPost("/rulings-file", ImportRulings)
            .WithMetadata(LargeJson.File)
            .WithName("ImportRulings")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(409);
        files
            .MapPost("/sheets-file", ImportSheets)
            .WithMetadata(LargeJson.File)
            .WithName("ImportSheets")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400);
    }

    /// <param name="format">csv or json.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Rulings(
        string? format,
        MaterialStore materials,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Format(format) is not { } json)
            return BadFormat();
        var shelf = await materials.Shelf(clock.GetCurrentInstant(), cancel);
        var order = shelf.Materials.Select((m, i) => (m.Id, i)).ToDictionary(m => m.Id, m => m.i);
        var rulings = shelf.Rulings.OrderBy(r => order[r.MaterialId]).ThenBy(r => r.Kind).ThenBy(r => r.Operation).ThenBy(r => r.MinMm);
        return Send(json ? RulingsFile.WriteJson(rulings) : RulingsFile.WriteCsv(rulings), "rulings", json);
    }

    /// <param name="format">csv or json.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Sheets(
        string? format,
        SheetDeskStore sheets,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Format(format) is not { } json)
            return BadFormat();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var rows = (await sheets.All(now, cancel)).Select(s =>
            new[]
            {
                s.Tag.Value,
                s.MaterialId.Value,
                Length.Show(s.ThicknessMm),
                Length.Show(s.WidthMm),
                Length.Show(s.HeightMm),
                s.Supplier,
                s.Batch,
                s.Quarantined ? "quarantine" : s.State,
                s.ClearedUntil is { } until
                    ? rules.Clock.DateOf(until - Duration.Epsilon).ToString("uuuu-MM-dd", CultureInfo.InvariantCulture)
                    : "",
                s.ParentTag?.Value ?? "",
            }
        );
        return Send(json ? CsvTable.WriteJson(SheetsFile.Written, rows) : CsvTable.Write(SheetsFile.Written, rows), "sheets", json);
    }

    private static async Task<Results<Ok<RulingImport>, ProblemHttpResult>> ImportRulings(
        FileRequest request,
        MaterialStore materials,
        RulingStore store,
        HouseStore house,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var unit = Length.ParseChoice(request.Unit);
        if (unit.Refusal is { } badUnit)
            return Problems.Of(badUnit);
        if (request.Text?.Length > LongestFile)
            return TooLong();
        var shelf = await materials.Shelf(now, cancel);
        var read = RulingsFile.Read(request.Text ?? "", shelf.Materials.Select(m => m.Id).ToHashSet());
        if (read.Refusal is { } refusal)
            return Problems.Of(refusal);
        var bad = read.Value.SelectMany(r => r.Errors.Select(e => new BadRow(r.Line, e.Field ?? "", e.Text))).ToList();
        var review = rules.Clock.DateOf(now).PlusMonths(RulingChanges.ReviewMonths);
        var held = shelf.Rulings.ToLookup(RulingCell.Of);
        var changes = new List<RulingChange>();
        foreach (var material in read.Value.Select(r => r.Ruling).OfType<Ruling>().GroupBy(r => r.MaterialId))
        {
            var cells = material.GroupBy(RulingCell.Of).Where(c => !SameWords.InAll([.. held[c.Key]], [.. c])).ToList();
            if (cells.Count > 0)
                changes.Add(new RulingChange(material.Key, [.. cells.Select(c => c.Key)], [.. cells.SelectMany(c => c)], "", review));
        }
        var dry = request.DryRun != false || bad.Count > 0;
        if (!dry && Reasons.Check(request.Reason) is { } noReason)
            return noReason;
        var names = shelf.Materials.ToDictionary(m => m.Id, m => m.Name);
        var made = await store.Import(changes, shelf.Versions, dry ? null : request.Reason!.Trim(), user.Id, now, cancel);
        if (made.Refusal is { } no)
            return Problems.Of(no);
        return TypedResults.Ok(
            new RulingImport(
                read.Value.Count,
                bad,
                [
                    .. made.Value.Select(m => new ImportedMaterial(
                        m.MaterialId,
                        names[m.MaterialId],
                        m.Preview.Direction,
                        [.. m.Preview.Cells.Select(c => RulingEndpoints.Cell(c, unit.Value))]
                    )),
                ],
                !dry,
                made.Value.Count(m => m.Preview.Direction == RulingDirection.Loosens)
            )
        );
    }

    private static async Task<Results<Ok<SheetImport>, ProblemHttpResult>> ImportSheets(
        FileRequest request,
        MaterialStore materials,
        SheetDeskStore sheets,
        CurrentUser user,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (request.Text?.Length > LongestFile)
            return TooLong();
        var read = SheetsFile.Read(request.Text ?? "", (await materials.Shelf(now, cancel)).Materials.Select(m => m.Id).ToHashSet());
        if (read.Refusal is { } refusal)
            return Problems.Of(refusal);
        var bad = read.Value.SelectMany(r => r.Errors.Select(e => new BadRow(r.Line, e.Field ?? "", e.Text))).ToList();
        var dry = request.DryRun != false || bad.Count > 0;
        IReadOnlyList<SheetTag> tags = [];
        if (!dry)
        {
            var made = await sheets.Register(
                [
                    .. read.Value.Select(r => new NewSheet(
                        MaterialId: r.MaterialId,
                        ThicknessMm: r.ThicknessMm,
                        WidthMm: r.WidthMm,
                        HeightMm: r.HeightMm,
                        Supplier: r.Supplier,
                        Batch: r.Batch,
                        BroughtBy: null,
                        Count: r.Count
                    )),
                ],
                user.Id,
                now,
                cancel
            );
            if (made.Refusal is { } no)
                return Problems.Of(no);
            tags = made.Value;
        }
        return TypedResults.Ok(new SheetImport(read.Value.Count, bad, read.Value.Sum(r => r.Count), !dry, tags));
    }

    private static bool? Format(string? format) =>
        format?.ToLowerInvariant() switch
        {
            null or "" or "csv" => false,
            "json" => true,
            _ => null,
        };

    private static ProblemHttpResult BadFormat() => Problems.Of(MaterialsProblems.FormatBad.Refuse("format"));

    private static ProblemHttpResult TooLong() => Problems.Of(DrawingsProblems.FileTooLarge.Refuse(null, LongestFile / 1024 / 1024));

    private static FileContentHttpResult Send(string text, string name, bool json) =>
        TypedResults.File(
            Encoding.UTF8.GetBytes(text),
            json ? "application/json" : "text/csv; charset=utf-8",
            $"{name}.{(json ? "json" : "csv")}"
        );
}
