using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <param name="NameSaysLittle">Many drawings could be called so: a wrong one is run by it.</param>
public sealed record DrawingResponse(
    Guid Id,
    string Name,
    Instant At,
    double WidthMm,
    double HeightMm,
    IReadOnlyList<Operation> Operations,
    bool NameSaysLittle
);

public sealed record DrawingList(IReadOnlyList<DrawingResponse> Items);

/// <summary>A check for one machine and sheet.</summary>
/// <param name="Colours">What the house's map knows.</param>
/// <param name="Own">What colours mean in this drawing alone.</param>
public sealed record CheckResponse(
    DrawingResponse Drawing,
    DrawingReport Report,
    decimal ThicknessMm,
    IReadOnlyList<ColourResponse> Colours,
    IReadOnlyList<ColourResponse> Own,
    IReadOnlyList<Clamp> Clamps,
    bool Mine
);

public sealed record ColourResponse(string Colour, StrokeMeaning Operation)
{
    internal static IReadOnlyList<ColourResponse> All(ColourMap map) =>
        [
            .. map
                .Strokes.Select(c => new ColourResponse(c.Key, c.Value))
                .OrderBy(c => c.Operation)
                .ThenBy(c => c.Colour, StringComparer.Ordinal),
        ];
}

/// <summary>The lines themselves for the screen, in mm, one path for each colour and use.</summary>
/// <param name="Cut">True when the drawing holds more than is sent; the check still reads all of it.</param>
/// <param name="Upwards">True when y grows upwards, as in DXF.</param>
/// <param name="Pictures">Those whose pixels are in the file.</param>
public sealed record LinesResponse(IReadOnlyList<LineResponse> Lines, bool Cut, bool Upwards, IReadOnlyList<PictureResponse> Pictures);

public sealed record LineResponse(string Colour, StrokeMeaning Operation, bool Filled, string Path);

/// <param name="Number">Of its file, which copies share: the same before and after a mend.</param>
/// <param name="Place">The six numbers of the matrix that maps the unit square to mm.</param>
public sealed record PictureResponse(int Number, IReadOnlyList<double> Place);

public static class DrawingEndpoints
{
    public static void MapDrawings(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/drawings").WithTags("Drawings").RequireAuthorization(Policy.SignedIn);
        group
            .MapPost("/", Add)
            .WithName("AddDrawing")
            .DisableAntiforgery()
            .ProducesProblem(400)
            .ProducesProblem(413)
            .ProducesProblem(422)
            .ProducesProblem(507);
        group.MapDelete("/{id:guid}", Delete).WithName("DeleteDrawing").ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/", List).WithName("ListDrawings");
        group.MapGet("/{id:guid}/check", Check).WithName("CheckDrawing").ProducesProblem(400).ProducesProblem(404);
        group.MapPieces();
        group.MapTimeline();
        group.MapBoxes();
        group.MapGet("/{id:guid}/lines", Lines).WithName("DrawingLines").ProducesProblem(404);
        group.MapFiles();
    }

    private static async Task<Results<Created<DrawingResponse>, ProblemHttpResult>> Add(
        IFormFile? file,
        CurrentUser user,
        DrawingStore drawings,
        DrawingReader reader,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (file is null)
            return Problems.Of(DrawingsProblems.FileMissing.Refuse("file"));
        if (file.Length > DrawingLimits.Bytes)
            return Problems.Of(DrawingsProblems.FileTooLarge.Refuse(null, DrawingLimits.Bytes / 1024 / 1024));
        if (file.Length == 0)
            return Problems.Of(DrawingsProblems.FileEmpty.Refuse(), new { errors = One("The file is empty. Choose another file.") });
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var bytes = new byte[file.Length];
        await using (var stream = file.OpenReadStream())
            await stream.ReadExactlyAsync(bytes, cancel);
        var name = Tidy(file.FileName);
        try
        {
            var summary = await reader.Read(user.Id, bytes, (d, patience) => DrawingReading.Summarise(name, d, patience), cancel);
            return Kept(await drawings.Add(user.Id, name, bytes, MediaType(summary.Format), summary, now, cancel), rules);
        }
        catch (UnreadableDrawingException e)
        {
            return Problems.Of(DrawingsProblems.FileUnreadable.Refuse(null, e.Message), new { errors = One(e.Message) });
        }
    }

    /// <summary>What became of keeping a drawing: made, or no room for it.</summary>
    internal static Results<Created<DrawingResponse>, ProblemHttpResult> Kept(Result<KeptDrawing> kept, HouseRules rules) =>
        kept.Refusal is { } full ? Problems.Of(full) : TypedResults.Created($"/api/drawings/{kept.Value.Id}", Answer(kept.Value, rules));

    private static string MediaType(string format) =>
        format switch
        {
            "dxf" => "image/vnd.dxf",
            "svg" => "image/svg+xml",
            _ => "image/" + format,
        };

    private static Dictionary<string, string[]> One(string text) => new() { ["file"] = [text] };

    /// <summary>The name without path or control characters, and of a length that fits on the page.</summary>
    private static string Tidy(string fileName)
    {
        var name = new string([.. Path.GetFileName(fileName.Replace('\\', '/')).Where(c => !char.IsControl(c))]).Trim();
        return name.Length == 0 ? "drawing"
            : name.Length > 120 ? name[..120]
            : name;
    }

    private static async Task<Results<Ok<DrawingList>, ProblemHttpResult>> List(
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        return TypedResults.Ok(new DrawingList([.. (await drawings.Of(user.Id, 50, cancel)).Select(d => Answer(d, rules))]));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Delete(
        Guid id,
        CurrentUser user,
        DrawingStore drawings,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await OnlyOwn(id, user, drawings, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        return (await drawings.Delete(drawing, clock.GetCurrentInstant(), cancel)).Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.NoContent();
    }

    private static async Task<Results<Ok<CheckResponse>, ProblemHttpResult>> Check(
        Guid id,
        string? machineId,
        string? materialId,
        string? thickness,
        string? unit,
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        MaterialStore materials,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        if (await CheckFor.Read(machineId, materialId, thickness, unit, house, materials, now, errors, cancel) is not { } check)
            return errors.Answer();
        return TypedResults.Ok(
            new CheckResponse(
                Drawing: Answer(drawing, rules),
                Report: check.Report(drawing.Summary, rules, drawing.Clamps),
                ThicknessMm: check.ThicknessMm,
                Colours: ColourResponse.All(rules.Colours),
                Own: ColourResponse.All(rules.Colours.Counting(drawing.Summary.Own)),
                Clamps: drawing.Clamps,
                Mine: drawing.PersonId == user.Id
            )
        );
    }

    private static async Task<Results<Ok<LinesResponse>, ProblemHttpResult>> Lines(
        Guid id,
        CurrentUser user,
        DrawingStore drawings,
        DrawingReader reader,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return Problems.NotFound("drawing of yours");
        if (await house.Rules(clock.GetCurrentInstant(), cancel) is not { } rules)
            return Problems.NoRules();
        var lines = await reader.Read(user.Id, drawing, (d, _) => LinePaths.Of(d, drawing.Summary.Meanings(rules.Colours)), cancel);
        return lines is null ? Problems.NotFound("drawing of yours") : TypedResults.Ok(lines);
    }

    /// <summary>
    /// After a booking its drawing stays before the stewards and trainers for so many days: what went wrong is looked at then.
    /// </summary>
    private const int ShownDays = 30;

    /// <summary>A person's own drawings; stewards and trainers see those of a question that waits or of a booking.</summary>
    internal static async Task<KeptDrawing?> Seen(Guid id, CurrentUser user, DrawingStore drawings, IClock clock, CancellationToken cancel)
    {
        if (await drawings.Find(id, cancel) is not { } drawing)
            return null;
        if (drawing.PersonId == user.Id)
            return drawing;
        return await user.Is(Role.Steward, Role.Trainer) && await drawings.Shown(id, clock.GetCurrentInstant(), ShownDays, cancel)
            ? drawing
            : null;
    }

    /// <summary>What is written on a drawing is its owner's to write.</summary>
    internal static async Task<KeptDrawing?> OnlyOwn(Guid id, CurrentUser user, DrawingStore drawings, CancellationToken cancel) =>
        await drawings.Find(id, cancel) is { } drawing && drawing.PersonId == user.Id ? drawing : null;

    internal static DrawingResponse Answer(KeptDrawing d, HouseRules rules) =>
        new(
            Id: d.Id,
            Name: d.Name,
            At: d.At,
            WidthMm: Math.Round(d.Summary.WidthMm, 2),
            HeightMm: Math.Round(d.Summary.HeightMm, 2),
            Operations: [.. d.Summary.OperationsWith(rules.Colours)],
            NameSaysLittle: DrawingRoom.SaysLittle(d.Name)
        );
}
