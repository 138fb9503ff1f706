using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Store.Drawings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <param name="X">From the piece's lower left corner, in mm; so too <paramref name="Y"/>.</param>
public sealed record CopyPlace(decimal X, decimal Y);

/// <param name="Copies">How many of those wanted lie on it.</param>
/// <param name="Turned">Each by a quarter.</param>
/// <param name="LeftWidthMm">Of the largest rectangle that stays whole.</param>
/// <param name="Until">To when it is cleared; null for good.</param>
public sealed record PieceResponse(
    SheetTag Tag,
    decimal WidthMm,
    decimal HeightMm,
    decimal ThicknessMm,
    bool Offcut,
    Instant? Until,
    int Copies,
    bool Turned,
    IReadOnlyList<CopyPlace> At,
    decimal LeftWidthMm,
    decimal LeftHeightMm
);

/// <param name="WidthMm">Reach of the drawing; so too <paramref name="HeightMm"/>.</param>
/// <param name="EdgeMm">Left free all round.</param>
/// <param name="Operations">Of the drawing: what the piece is cleared for.</param>
public sealed record PieceList(
    int Copies,
    decimal WidthMm,
    decimal HeightMm,
    decimal EdgeMm,
    IReadOnlyList<Operation> Operations,
    IReadOnlyList<PieceResponse> Items
);

/// <summary>A drawing to be laid on a sheet.</summary>
/// <param name="Quarters">Turns to the right, 0 to 3; left out, the way that fits better is taken.</param>
/// <param name="Anchor">Corner of the sheet that copies are laid from, or its middle.</param>
/// <param name="Tag">Of the sheet, where one drawing of all copies is made.</param>
public sealed record PieceRequest(
    string? MachineId = null,
    string? MaterialId = null,
    string? Thickness = null,
    string? Unit = null,
    int? Copies = null,
    int? Quarters = null,
    bool? Mirror = null,
    string? Anchor = null,
    string? Tag = null
);

/// <param name="LeftOut">What the new drawing does not hold of the one it was made of.</param>
public sealed record PlacedResponse(DrawingResponse Drawing, IReadOnlyList<string> LeftOut);

/// <summary>Cleared sheets and offcuts on which a drawing lies, and one drawing of all its copies on a sheet.</summary>
public static class PieceEndpoints
{
    public static void MapPieces(this RouteGroupBuilder drawings)
    {
        drawings.MapGet("/{id:guid}/pieces", List).WithName("PiecesForDrawing").ProducesProblem(400).ProducesProblem(404);
        drawings
            .MapPost("/{id:guid}/place", Place)
            .WithName("PlaceDrawing")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422)
            .ProducesProblem(507);
    }

    private static async Task<Results<Ok<PieceList>, ProblemHttpResult>> List(
        Guid id,
        string? machineId,
        string? materialId,
        string? thickness,
        string? unit,
        int? copies,
        int? quarters,
        string? anchor,
        CurrentUser user,
        PieceRoom room,
        CancellationToken cancel
    )
    {
        var request = new PieceRequest(
            MachineId: machineId,
            MaterialId: materialId,
            Thickness: thickness,
            Unit: unit,
            Copies: copies,
            Quarters: quarters,
            Anchor: anchor
        );
        var (found, problem) = await room.Find(id, request, user, cancel);
        if (found is null)
            return problem!;
        var wish = found.Wish;
        return TypedResults.Ok(
            new PieceList(
                wish.Placement.Copies,
                wish.Width,
                wish.Height,
                SheetLayout.EdgeMm,
                wish.Operations,
                [.. found.Pieces.Select(Answer)]
            )
        );
    }

    private static async Task<Results<Created<PlacedResponse>, ProblemHttpResult>> Place(
        Guid id,
        PieceRequest request,
        CurrentUser user,
        PieceRoom room,
        DrawingReader reader,
        DrawingStore drawings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (found, problem) = await room.Find(id, request, user, cancel);
        if (found is null)
            return problem!;
        if (found.Pieces.FirstOrDefault(p => p.Piece.Tag.Value == request.Tag) is not { } on)
            return Problems.Of(SettingsProblems.PlaceNoSheet.Refuse("tag"));
        try
        {
            var made = await reader.Read(user.Id, found.Drawing, (d, patience) => Made(d, found, on, patience), cancel);
            if (made is null)
                return Problems.NotFound("drawing of yours");
            var kept = await drawings.Add(
                user.Id,
                made.Summary.Name,
                made.Bytes,
                "image/svg+xml",
                made.Summary,
                clock.GetCurrentInstant(),
                cancel
            );
            return kept.Refusal is { } full
                ? Problems.Of(full)
                : TypedResults.Created(
                    $"/api/drawings/{kept.Value.Id}",
                    new PlacedResponse(DrawingEndpoints.Answer(kept.Value, found.Rules), made.LeftOut)
                );
        }
        catch (UnreadableDrawingException e)
        {
            return Problems.Of(DrawingsProblems.FileUnreadable.Refuse(null, e.Message));
        }
    }

    private sealed record MadeDrawing(byte[] Bytes, DrawingSummary Summary, IReadOnlyList<string> LeftOut);

    private static MadeDrawing Made(Drawing drawing, FoundPieces found, FoundPiece on, CancellationToken patience)
    {
        var (placed, leftOut) = Placing.On(drawing, found.Wish.Placement, on.Layout, ((double)on.Piece.WidthMm, (double)on.Piece.HeightMm));
        var bytes = Encoding.UTF8.GetBytes(SvgWriter.Write(placed));
        if (bytes.Length > DrawingLimits.Bytes)
            throw new UnreadableDrawingException(
                $"So many copies make a file of more than {DrawingLimits.Bytes / 1024 / 1024} MB. Lay fewer of them."
            );
        // Read again from the file that is kept: what is checked is what will run.
        var summary = DrawingReading.Summarise(Name(found, on), DrawingFile.Read(new MemoryStream(bytes), patience), patience);
        return new MadeDrawing(bytes, summary with { Own = found.Drawing.Summary.Own }, leftOut);
    }

    private static string Name(FoundPieces found, FoundPiece on)
    {
        var stem = Path.GetFileNameWithoutExtension(found.Drawing.Name);
        return $"{(stem.Length > 80 ? stem[..80] : stem)}, {on.Layout.Copies} on {on.Piece.Tag}.svg";
    }

    private static PieceResponse Answer(FoundPiece found) =>
        new(
            Tag: found.Piece.Tag,
            WidthMm: found.Piece.WidthMm,
            HeightMm: found.Piece.HeightMm,
            ThicknessMm: found.Piece.ThicknessMm,
            Offcut: found.Piece.Offcut,
            Until: found.Piece.ClearedFor!.Until,
            Copies: found.Layout.Copies,
            Turned: found.Layout.Turned,
            At: [.. found.Layout.At.Select(p => new CopyPlace(p.X, p.Y))],
            LeftWidthMm: found.Layout.LeftWidthMm,
            LeftHeightMm: found.Layout.LeftHeightMm
        );
}
