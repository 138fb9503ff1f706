using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>A box to be drawn, as it was typed. Lengths in any unit.</summary>
/// <param name="Inside">The sizes are those of the room inside.</param>
/// <param name="MachineId">Its kerf is taken where none is given.</param>
/// <param name="Finger">About how wide; left out, three times the sheet.</param>
/// <param name="PlayMm">How much looser than exact; below 0 tighter.</param>
public sealed record BoxRequest(
    string? Width = null,
    string? Depth = null,
    string? Height = null,
    bool Inside = true,
    bool Lid = true,
    string? Thickness = null,
    string? MachineId = null,
    string? Kerf = null,
    string? Finger = null,
    decimal? PlayMm = null,
    string? Unit = null
);

/// <summary>Draws a box of finger joints and keeps it as a drawing of whoever asked.</summary>
public static class BoxEndpoints
{
    public static void MapBoxes(this RouteGroupBuilder drawings) =>
        drawings.MapPost("/box", Make).WithName("DrawBox").ProducesProblem(400).ProducesProblem(422).ProducesProblem(507);

    private static async Task<Results<Created<DrawingResponse>, ProblemHttpResult>> Make(
        BoxRequest request,
        CurrentUser user,
        DrawingStore drawings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var wish = Read(request, await Kerf(request.MachineId, house, now, errors, cancel), errors);
        if (errors.Any)
            return errors.Answer();
        errors.Add([.. wish.Wrong()]);
        if (errors.Any)
            return errors.Answer();
        var drawn = BoxMaker.InColourOf(wish, rules.Colours);
        if (drawn.Refusal is { } refusal)
            return Problems.Of(refusal);
        var bytes = Encoding.UTF8.GetBytes(SvgWriter.Write(drawn.Value));
        var name = $"box {wish.WidthMm:0.##} x {wish.DepthMm:0.##} x {wish.HeightMm:0.##} mm.svg";
        // Read from the file that is kept: what is checked is what will run.
        var summary = DrawingReading.Summarise(name, DrawingFile.Read(new MemoryStream(bytes), cancel), cancel);
        return DrawingEndpoints.Kept(await drawings.Add(user.Id, name, bytes, "image/svg+xml", summary, now, cancel), rules);
    }

    private static async Task<decimal> Kerf(string? machineId, HouseStore house, Instant now, FieldErrors errors, CancellationToken cancel)
    {
        if (Texts.NullIfBlank(machineId) is not { } id)
            return 0;
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is { } machine)
            return machine.Spec.KerfMm;
        errors.Add("machineId", "Choose a machine of this house.");
        return 0;
    }

    private static BoxWish Read(BoxRequest request, decimal usualKerf, FieldErrors errors)
    {
        var unit = errors.Unit(request.Unit);
        var thickness = errors.Mm("thickness", request.Thickness, unit);
        decimal Or(string field, string? text, decimal usual) =>
            Texts.NullIfBlank(text) is { } typed ? errors.Mm(field, typed, unit) : usual;
        return new BoxWish(
            WidthMm: errors.Mm("width", request.Width, unit),
            DepthMm: errors.Mm("depth", request.Depth, unit),
            HeightMm: errors.Mm("height", request.Height, unit),
            Inside: request.Inside,
            Lid: request.Lid,
            ThicknessMm: thickness,
            KerfMm: Or("kerf", request.Kerf, usualKerf),
            FingerMm: Or("finger", request.Finger, 3 * thickness),
            PlayMm: request.PlayMm ?? 0
        );
    }
}
