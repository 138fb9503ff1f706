using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Dxf;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Drawings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>What to mend, for one machine and sheet, as it was typed.</summary>
public sealed record MendRequest(
    string? MachineId = null,
    string? MaterialId = null,
    string? Thickness = null,
    string? Unit = null,
    bool Doubled = false,
    bool Near = false,
    string? Close = null,
    string? Outline = null,
    string? Scale = null,
    IReadOnlyList<ColourChange>? Recolour = null,
    string? Width = null,
    bool Thin = false
);

public sealed record ColourChange(string? From = null, string? To = null);

/// <param name="Report">Of the mended drawing.</param>
/// <param name="LeftOut">What a mended file does not hold.</param>
public sealed record MendResponse(IReadOnlyList<MendStep> Steps, IReadOnlyList<string> LeftOut, DrawingReport Report, LinesResponse Lines);

/// <summary>Mends of a drawing: shown, taken away as a file, or put on the bench. The drawing itself is never changed.</summary>
public static class MendEndpoints
{
    public static void MapMends(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/drawings/{id:guid}/mend").WithTags("Drawings").RequireAuthorization(Policy.SignedIn);
        group.MapPost("/", Show).WithName("MendDrawing").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422);
        group
            .MapPost("/file", Take)
            .WithName("MendedFile")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422)
            .Produces<string>(200, "image/svg+xml", "image/vnd.dxf");
        group.MapPost("/keep", Keep).WithName("KeepMended").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422);
    }

    private static async Task<Results<Ok<MendResponse>, ProblemHttpResult>> Show(
        Guid id,
        MendRequest request,
        CurrentUser user,
        MendRoom room,
        CancellationToken cancel
    )
    {
        var made = await room.Do(
            id,
            request,
            user,
            (asked, mended, patience) =>
            {
                var summary = DrawingReading.Summarise(asked.Drawing.Name, mended.Drawing, patience) with
                {
                    Own = asked.Drawing.Summary.Own,
                };
                return new MendResponse(
                    mended.Steps,
                    mended.LeftOut,
                    asked.For.Report(summary, asked.Rules),
                    LinePaths.Of(mended.Drawing, summary.Meanings(asked.Rules.Colours))
                );
            },
            cancel
        );
        return made.Problem is { } problem ? problem : TypedResults.Ok(made.Value!);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Take(
        Guid id,
        string? format,
        MendRequest request,
        CurrentUser user,
        MendRoom room,
        CancellationToken cancel
    )
    {
        if (format is not ("svg" or "dxf"))
            return Problems.Of(DrawingsProblems.FormatUnknown.Refuse("format"));
        var made = await room.Do(
            id,
            request,
            user,
            (asked, mended, _) =>
                (
                    Text: format == "svg" ? SvgWriter.Write(mended.Drawing) : DxfWriter.Write(mended.Drawing),
                    Name: Name(asked.Drawing.Name, format)
                ),
            cancel
        );
        if (made.Problem is { } problem)
            return problem;
        return TypedResults.File(
            Encoding.UTF8.GetBytes(made.Value.Text),
            format == "svg" ? "image/svg+xml" : "image/vnd.dxf",
            made.Value.Name
        );
    }

    private static async Task<Results<Created<DrawingResponse>, ProblemHttpResult>> Keep(
        Guid id,
        MendRequest request,
        CurrentUser user,
        MendRoom room,
        DrawingStore drawings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var made = await room.Do(
            id,
            request,
            user,
            (asked, mended, patience) =>
            {
                var (bytes, name) = (Encoding.UTF8.GetBytes(SvgWriter.Write(mended.Drawing)), Name(asked.Drawing.Name, "svg"));
                if (bytes.Length > DrawingLimits.Bytes)
                    throw new UnreadableDrawingException(
                        $"The mended file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Split the drawing."
                    );
                // Read again from the file that is kept: what is checked is what will run.
                return (
                    Bytes: bytes,
                    Summary: DrawingReading.Summarise(name, DrawingFile.Read(new MemoryStream(bytes), patience), patience) with
                    {
                        Own = asked.Drawing.Summary.Own,
                    },
                    asked.Rules
                );
            },
            cancel
        );
        if (made.Problem is { } problem)
            return problem;
        return DrawingEndpoints.Kept(
            await drawings.Add(
                user.Id,
                made.Value.Summary.Name,
                made.Value.Bytes,
                "image/svg+xml",
                made.Value.Summary,
                clock.GetCurrentInstant(),
                cancel
            ),
            made.Value.Rules
        );
    }

    private static string Name(string name, string format)
    {
        var stem = Path.GetFileNameWithoutExtension(name);
        var mended = stem.EndsWith(", mended", StringComparison.Ordinal) ? "" : ", mended";
        return $"{(stem.Length > 100 ? stem[..100] : stem)}{mended}.{format}";
    }
}
