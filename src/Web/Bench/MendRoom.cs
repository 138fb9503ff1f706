using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Bench;
using VelvetGate.Core.Bench.Mending;
using VelvetGate.Core.House;
using VelvetGate.Core.Units;
using VelvetGate.Store.Bench;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Bench;

/// <summary>A drawing to be mended, and what it is judged for.</summary>
internal sealed record MendOf(KeptDrawing Drawing, HouseRules Rules, CheckFor For);

/// <summary>What came of a mend: a value, or the problem that kept it from being made.</summary>
internal readonly record struct MendMade<T>(T? Value, ProblemHttpResult? Problem);

/// <summary>Reads the question, the drawing and its file, mends, and makes what was asked for of it, all within the patience for one drawing.</summary>
public sealed class MendRoom(DrawingStore drawings, HouseStore house, MaterialStore materials, IClock clock)
{
    internal async Task<MendMade<T>> Do<T>(Guid id, MendRequest request, CurrentUser user, Func<MendOf, Mended, CancellationToken, T> make, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await BenchEndpoints.Own(id, user, drawings, cancel) is not { } drawing || await drawings.Bytes(drawing.Sha256, cancel) is not { } bytes) return new(default, Problems.NotFound("drawing of yours"));
        if (await house.Rules(now, cancel) is not { } rules) return new(default, HouseEndpoints.NoRules());
        var errors = new FieldErrors();
        var check = await CheckFor.Read(request.MachineId, request.MaterialId, request.Thickness, request.Unit, house, materials, now, errors, cancel);
        var words = new MendWords(request.Doubled, request.Near, request.Close, request.Outline, request.Scale, [.. (request.Recolour ?? []).Select(r => (r.From, r.To))], request.Width);
        var ask = words.Read(check?.Unit ?? LengthUnit.Mm, out var refusals);
        errors.Add(refusals);
        if (errors.Any || check is null) return new(default, errors.Answer());
        try
        {
            return new(await BenchEndpoints.Read(bytes, (d, patience) => make(new MendOf(drawing, rules, check), Mender.Mend(d, ask, rules.Colours, (double)check.Machine.KerfMm, patience), patience), cancel), null);
        }
        catch (UnreadableDrawingException e)
        {
            return new(default, Problems.Of(422, "mend.tooMuch", e.Message));
        }
    }
}
