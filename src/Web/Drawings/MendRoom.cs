using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.House;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>A drawing to be mended, and what it is judged for.</summary>
internal sealed record MendOf(KeptDrawing Drawing, HouseRules Rules, CheckFor For);

/// <summary>What came of a mend: a value, or the problem that kept it from being made.</summary>
internal readonly record struct MendMade<T>(T? Value, ProblemHttpResult? Problem);

/// <summary>Holds a value of any kind where only its absence is null.</summary>
internal sealed record Box<T>(T Value);

/// <summary>
/// Reads the question, the drawing and its file, mends, and makes what was asked for of it, all within the patience for one drawing.
/// </summary>
public sealed class MendRoom(DrawingStore drawings, DrawingReader reader, HouseStore house, MaterialStore materials, IClock clock)
{
    internal async Task<MendMade<T>> Do<T>(
        Guid id,
        MendRequest request,
        CurrentUser user,
        Func<MendOf, Mended, CancellationToken, T> make,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await DrawingEndpoints.Seen(id, user, drawings, clock, cancel) is not { } drawing)
            return new(default, Problems.NotFound("drawing of yours"));
        if (await house.Rules(now, cancel) is not { } rules)
            return new(default, Problems.NoRules());
        var errors = new FieldErrors();
        var check = await CheckFor.Read(
            request.MachineId,
            request.MaterialId,
            request.Thickness,
            request.Unit,
            house,
            materials,
            now,
            errors,
            cancel
        );
        var words = new MendWords(
            Doubled: request.Doubled,
            Near: request.Near,
            Close: request.Close,
            Outline: request.Outline,
            Scale: request.Scale,
            Recolour: [.. (request.Recolour ?? []).Select(r => (r.From, r.To))],
            Width: request.Width,
            Thin: request.Thin
        );
        var ask = words.Read(check?.Unit ?? LengthUnit.Mm, out var refusals);
        errors.Add(refusals);
        if (errors.Any || check is null)
            return new(default, errors.Answer());
        try
        {
            var made = await reader.Read(
                user.Id,
                drawing,
                (d, patience) =>
                    new Box<T>(
                        make(
                            new MendOf(drawing, rules, check),
                            Mender.Mend(d, ask, drawing.Summary.Meanings(rules.Colours), (double)check.Machine.KerfMm, patience),
                            patience
                        )
                    ),
                cancel
            );
            return made is null ? new(default, Problems.NotFound("drawing of yours")) : new(made.Value, null);
        }
        catch (UnreadableDrawingException e)
        {
            return new(default, Problems.Of(DrawingsProblems.MendTooMuch.Refuse(null, e.Message)));
        }
    }
}
