using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core;
using VelvetGate.Core.Bench;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Bench;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Bench;

public sealed record DrawingAnswer(Guid Id, string Name, Instant At, double WidthMm, double HeightMm, IReadOnlyList<Operation> Operations);

public sealed record DrawingList(IReadOnlyList<DrawingAnswer> Items);

/// <summary>A check for one machine and sheet.</summary>
/// <param name="Colours">What the house's map knows.</param>
public sealed record CheckAnswer(DrawingAnswer Drawing, DrawingReport Report, decimal ThicknessMm, IReadOnlyList<ColourAnswer> Colours, IReadOnlyList<Clamp> Clamps);

public sealed record ColourAnswer(string Colour, StrokeMeaning Operation);

/// <summary>The lines themselves for the screen, in mm, one path for each colour and use.</summary>
/// <param name="Cut">True when the drawing holds more than is sent; the check still reads all of it.</param>
/// <param name="Upwards">True when y grows upwards, as in DXF.</param>
/// <param name="Pictures">Those whose pixels are in the file.</param>
public sealed record LinesAnswer(IReadOnlyList<LineAnswer> Lines, bool Cut, bool Upwards, IReadOnlyList<PictureAnswer> Pictures);

public sealed record LineAnswer(string Colour, StrokeMeaning Operation, bool Filled, string Path);

/// <param name="Number">Of its file, which copies share: the same before and after a mend.</param>
/// <param name="Place">The six numbers of the matrix that maps the unit square to mm.</param>
public sealed record PictureAnswer(int Number, IReadOnlyList<double> Place);

public static class BenchEndpoints
{
    /// <summary>For reading, which nothing honest needs, and beyond it for measuring, which a million lines may need on a slow machine.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(4), CheckPatience = TimeSpan.FromSeconds(10);

    // Two at once on the machines this runs on: a third waits rather than have all run out of memory.
    private static readonly SemaphoreSlim Reading = new(2);

    public static void MapBench(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/drawings").WithTags("Bench").RequireAuthorization(Policy.SignedIn);
        group.MapPost("/", Add).WithName("AddDrawing").DisableAntiforgery().ProducesProblem(400).ProducesProblem(413).ProducesProblem(422);
        group.MapGet("/", List).WithName("ListDrawings");
        group.MapGet("/{id:guid}/check", Check).WithName("CheckDrawing").ProducesProblem(400).ProducesProblem(404);
        group.MapGet("/{id:guid}/lines", Lines).WithName("DrawingLines").ProducesProblem(404);
        group.MapGet("/{id:guid}/pictures/{number:int}", Picture).WithName("DrawingPicture").ProducesProblem(404).Produces<string>(200, "image/png", "image/jpeg");
    }

    private static async Task<Results<Created<DrawingAnswer>, ProblemHttpResult>> Add(
        IFormFile? file, CurrentUser user, DrawingStore drawings, HouseStore house, IClock clock, CancellationToken cancel)
    {
        if (file is null) return Problems.Of(new Refusal("file.missing", "Choose an SVG, DXF, PNG or JPEG file.", "file"));
        if (file.Length > DrawingLimits.Bytes) return Problems.Of(413, "file.tooLarge", $"The file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Split it.");
        if (file.Length == 0) return Problems.Of(422, "file.empty", "The file is empty. Choose another file.", new { errors = One("The file is empty. Choose another file.") });
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var bytes = new byte[file.Length];
        await using (var stream = file.OpenReadStream()) await stream.ReadExactlyAsync(bytes, cancel);
        var name = Tidy(file.FileName);
        try
        {
            var summary = await Read(bytes, (d, patience) => DrawingReading.Summarise(name, d, patience), cancel);
            var kept = await drawings.Add(user.Id, name, bytes, MediaType(summary.Format), summary, now, cancel);
            return TypedResults.Created($"/api/drawings/{kept.Id}", Answer(kept, rules));
        }
        catch (UnreadableDrawingException e)
        {
            return Problems.Of(422, "file.unreadable", e.Message, new { errors = One(e.Message) });
        }
    }

    private static string MediaType(string format) => format switch { "dxf" => "image/vnd.dxf", "svg" => "image/svg+xml", _ => "image/" + format };

    private static Dictionary<string, string[]> One(string text) => new() { ["file"] = [text] };

    /// <summary>The name without path or control characters, and of a length that fits on the page.</summary>
    private static string Tidy(string fileName)
    {
        var name = new string([.. Path.GetFileName(fileName.Replace('\\', '/')).Where(c => !char.IsControl(c))]).Trim();
        return name.Length == 0 ? "drawing" : name.Length > 120 ? name[..120] : name;
    }

    internal static async Task<T> Read<T>(byte[] bytes, Func<Drawing, CancellationToken, T> then, CancellationToken cancel)
    {
        await Reading.WaitAsync(cancel);
        try
        {
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            patience.CancelAfter(Patience);
            return await Task.Run(() =>
            {
                var drawing = DrawingFile.Read(new MemoryStream(bytes), patience.Token);
                patience.CancelAfter(CheckPatience);
                return then(drawing, patience.Token);
            }, cancel);
        }
        finally
        {
            Reading.Release();
        }
    }

    private static async Task<Results<Ok<DrawingList>, ProblemHttpResult>> List(CurrentUser user, DrawingStore drawings, HouseStore house, IClock clock, CancellationToken cancel)
    {
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules) return HouseEndpoints.NoRules();
        return TypedResults.Ok(new DrawingList([.. (await drawings.Of(user.Id, 50, cancel)).Select(d => Answer(d, rules))]));
    }

    private static async Task<Results<Ok<CheckAnswer>, ProblemHttpResult>> Check(
        Guid id, string? machineId, string? materialId, string? thickness, string? unit, CurrentUser user, DrawingStore drawings, HouseStore house, MaterialStore materials, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await Own(id, user, drawings, cancel) is not { } drawing) return Problems.NotFound("drawing of yours");
        if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
        var errors = new FieldErrors();
        if (await CheckFor.Read(machineId, materialId, thickness, unit, house, materials, now, errors, cancel) is not { } check) return errors.Answer();
        return TypedResults.Ok(new CheckAnswer(
            Answer(drawing, rules), check.Report(drawing.Summary, rules, drawing.Clamps), check.ThicknessMm,
            [.. rules.Colours.Strokes.Select(c => new ColourAnswer(c.Key, c.Value)).OrderBy(c => c.Operation).ThenBy(c => c.Colour, StringComparer.Ordinal)], drawing.Clamps));
    }

    private static async Task<Results<Ok<LinesAnswer>, ProblemHttpResult>> Lines(Guid id, CurrentUser user, DrawingStore drawings, HouseStore house, IClock clock, CancellationToken cancel)
    {
        if (await Own(id, user, drawings, cancel) is not { } drawing || await drawings.Bytes(drawing.Sha256, cancel) is not { } bytes) return Problems.NotFound("drawing of yours");
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules) return HouseEndpoints.NoRules();
        return TypedResults.Ok(await Read(bytes, (d, _) => LinePaths.Of(d, rules.Colours), cancel));
    }

    /// <summary>The pixels of one picture of a drawing, as they stand in it: the kind is known from their first bytes, never from what the file says.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Picture(Guid id, int number, CurrentUser user, DrawingStore drawings, CancellationToken cancel)
    {
        if (await Own(id, user, drawings, cancel) is not { } drawing || await drawings.Bytes(drawing.Sha256, cancel) is not { } bytes) return Problems.NotFound("drawing of yours");
        if (await Read(bytes, (d, _) => d.Files.ElementAtOrDefault(number), cancel) is not { } file) return Problems.NotFound("picture of this drawing");
        return TypedResults.File(file.Bytes, file.MediaType);
    }

    /// <summary>A person's own drawings; stewards and trainers see those they are asked about.</summary>
    internal static async Task<KeptDrawing?> Own(Guid id, CurrentUser user, DrawingStore drawings, CancellationToken cancel)
    {
        var drawing = await drawings.Find(id, cancel);
        return drawing is not null && (drawing.PersonId == user.Id || await user.Is(Role.Steward, Role.Trainer)) ? drawing : null;
    }

    internal static DrawingAnswer Answer(KeptDrawing d, HouseRules rules) => new(
        d.Id, d.Name, d.At, Math.Round(d.Summary.WidthMm, 2), Math.Round(d.Summary.HeightMm, 2), [.. d.Summary.OperationsWith(rules.Colours)]);
}
