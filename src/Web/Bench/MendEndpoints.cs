using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core;
using VelvetGate.Core.Bench;
using VelvetGate.Core.Bench.Dxf;
using VelvetGate.Core.Bench.Mending;
using VelvetGate.Core.Bench.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Units;
using VelvetGate.Store.Bench;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Bench;

/// <summary>What to mend, for one machine and sheet. Lengths as they are typed.</summary>
public sealed record MendRequest(
    string? MachineId = null, string? MaterialId = null, string? Thickness = null, string? Unit = null, bool Doubled = false, bool Near = false, string? Close = null,
    string? Outline = null, double? Scale = null, IReadOnlyList<ColourChange>? Recolour = null);

public sealed record ColourChange(string? From = null, string? To = null);

/// <param name="Report">Of the mended drawing.</param>
/// <param name="LeftOut">What a mended file does not hold.</param>
public sealed record MendAnswer(IReadOnlyList<MendStep> Steps, IReadOnlyList<string> LeftOut, DrawingReport Report, LinesAnswer Lines);

/// <summary>Mends of a drawing: shown, taken away as a file, or put on the bench. The drawing itself is never changed.</summary>
public static class MendEndpoints
{
    public static void MapMends(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/drawings/{id:guid}/mend").WithTags("Bench").RequireAuthorization(Policy.SignedIn);
        group.MapPost("/", Show).WithName("MendDrawing").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422);
        group.MapPost("/file", Take).WithName("MendedFile").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422).Produces<string>(200, "image/svg+xml", "image/vnd.dxf");
        group.MapPost("/keep", Keep).WithName("KeepMended").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422);
    }

    private static Task<Results<Ok<MendAnswer>, ProblemHttpResult>> Show(Guid id, MendRequest request, CurrentUser user, MendRoom room, CancellationToken cancel) =>
        room.Do<Ok<MendAnswer>>(id, request, user, (asked, mended) =>
        {
            var summary = DrawingReading.Summarise(asked.Drawing.Name, mended.Drawing);
            return Task.FromResult(TypedResults.Ok(new MendAnswer(mended.Steps, mended.LeftOut, asked.For.Report(summary, asked.Rules), LinePaths.Of(mended.Drawing, asked.Rules.Colours))));
        }, cancel);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Take(Guid id, string? format, MendRequest request, CurrentUser user, MendRoom room, CancellationToken cancel)
    {
        if (format is not ("svg" or "dxf")) return Problems.Of(new Refusal("format.unknown", "Choose svg or dxf.", "format"));
        return await room.Do<FileContentHttpResult>(id, request, user, (asked, mended) => Task.FromResult(TypedResults.File(
            Encoding.UTF8.GetBytes(format == "svg" ? SvgWriter.Write(mended.Drawing) : DxfWriter.Write(mended.Drawing)),
            format == "svg" ? "image/svg+xml" : "image/vnd.dxf", Name(asked.Drawing.Name, format))), cancel);
    }

    private static Task<Results<Created<DrawingAnswer>, ProblemHttpResult>> Keep(Guid id, MendRequest request, CurrentUser user, MendRoom room, DrawingStore drawings, IClock clock, CancellationToken cancel) =>
        room.Do<Created<DrawingAnswer>>(id, request, user, async (asked, mended) =>
        {
            var bytes = Encoding.UTF8.GetBytes(SvgWriter.Write(mended.Drawing));
            var name = Name(asked.Drawing.Name, "svg");
            // Read again from the file that is kept: what is checked is what will run.
            var summary = DrawingReading.Summarise(name, DrawingFile.Read(new MemoryStream(bytes), cancel));
            var kept = await drawings.Add(user.Id, name, bytes, "image/svg+xml", summary, clock.GetCurrentInstant(), cancel);
            return TypedResults.Created($"/api/drawings/{kept.Id}", BenchEndpoints.Answer(kept, asked.Rules));
        }, cancel);

    private static string Name(string name, string format)
    {
        var stem = Path.GetFileNameWithoutExtension(name);
        return $"{(stem.Length > 100 ? stem[..100] : stem)}{(stem.EndsWith(", mended", StringComparison.Ordinal) ? "" : ", mended")}.{format}";
    }

    /// <summary>Reads the question, the drawing and its file, mends, and hands on what came of it.</summary>
    public sealed class MendRoom(DrawingStore drawings, HouseStore house, MaterialStore materials, IClock clock)
    {
        internal async Task<Results<T, ProblemHttpResult>> Do<T>(Guid id, MendRequest request, CurrentUser user, Func<(KeptDrawing Drawing, HouseRules Rules, CheckFor For), Mended, Task<T>> then, CancellationToken cancel)
            where T : IResult
        {
            var now = clock.GetCurrentInstant();
            if (await BenchEndpoints.Own(id, user, drawings, cancel) is not { } drawing || await drawings.Bytes(drawing.Sha256, cancel) is not { } bytes) return Problems.NotFound("drawing of yours");
            if (await house.Rules(now, cancel) is not { } rules) return HouseEndpoints.NoRules();
            var errors = new FieldErrors();
            var check = await CheckFor.Read(request.MachineId, request.MaterialId, request.Thickness, request.Unit, house, materials, now, errors, cancel);
            double? close = null;
            if (!string.IsNullOrWhiteSpace(request.Close))
            {
                var mm = Length.Parse(request.Close, check?.Unit ?? LengthUnit.Mm);
                if (mm.Refusal is { } bad) errors.Add("close", bad.Text);
                else close = (double)mm.Value;
            }
            var recolour = (request.Recolour ?? []).Where(r => r.From != r.To).GroupBy(r => r.From ?? "").ToDictionary(g => g.Key, g => g.Last().To ?? "", StringComparer.Ordinal);
            var ask = new MendAsk(request.Doubled, request.Near, close, string.IsNullOrEmpty(request.Outline) ? null : request.Outline, request.Scale ?? 1, recolour);
            if (!errors.Any && ask.Refused() is { } refusal) errors.Add(refusal.Field == "closeMm" ? "close" : refusal.Field!, refusal.Text);
            if (errors.Any || check is null) return errors.Answer();
            try
            {
                var mended = await BenchEndpoints.Read(bytes, (d, patience) => Mender.Mend(d, ask, rules.Colours, (double)check.Machine.KerfMm, patience), cancel);
                return await then((drawing, rules, check), mended);
            }
            catch (UnreadableDrawingException e)
            {
                return Problems.Of(422, "mend.tooMuch", e.Message);
            }
        }
    }
}
