using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Station;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <param name="Looks">What it looks like.</param>
public sealed record FobResponse(Guid Id, PersonId PersonId, string Person, string Looks, Instant LearntAt);

/// <param name="On">This house has a station key.</param>
/// <param name="Readers">Machines whose controller has a reader.</param>
/// <param name="PinAsked">The house asks for a PIN beside the fob.</param>
/// <param name="PinSetAt">One’s own; null where one has none.</param>
public sealed record FobList(bool On, IReadOnlyList<FobResponse> Items, IReadOnlyList<MachineId> Readers, bool PinAsked, Instant? PinSetAt);

/// <param name="Looks">What the fob looks like.</param>
/// <param name="MachineId">At whose reader it is held next; left out where the code is given.</param>
/// <param name="Code">As a reader at a computer types it.</param>
public sealed record FobRequest(string? PersonId = null, string? Looks = null, string? MachineId = null, string? Code = null);

/// <param name="Id">Of the fob; null while the reader waits for it.</param>
/// <param name="Until">So long the reader waits; null where the fob is learnt.</param>
public sealed record FobLearning(Guid? Id, Instant? Until);

/// <param name="Code">Six figures, for the screen at the machine.</param>
public sealed record TapInCodeResponse(string Code, Instant Until);

public sealed record PinRequest(string? Pin = null);

/// <summary>Fobs of the house, and the tap-in code of somebody who has none at hand.</summary>
public static class FobEndpoints
{
    public static void MapFobs(this IEndpointRouteBuilder app)
    {
        var fobs = app.MapGroup("/api/fobs").WithTags("Station").RequireAuthorization(Policy.SignedIn);
        fobs.MapGet("", All).WithName("Fobs");
        fobs.MapPost("", Learn)
            .WithName("LearnFob")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        fobs.MapDelete("/{id:guid}", Revoke).WithName("RevokeFob").ProducesProblem(404);
        app.MapPut("/api/me/pin", SetPin)
            .WithTags("Station")
            .WithName("SetPin")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(409);
        app.MapPost("/api/me/tap-in-code", Show)
            .WithTags("Station")
            .WithName("TapInCode")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(409);
    }

    /// <summary>Stewards and keepers see everybody’s, others their own.</summary>
    private static async Task<Ok<FobList>> All(
        CurrentUser user,
        FobStore store,
        ControllerStore controllers,
        ControllerSettings settings,
        PeopleStore people,
        PinStore pins,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var staff = await user.Is(Role.Steward, Role.Keeper);
        var fobs = await store.InUse(staff ? default(PersonId?) : user.Id, cancel);
        var names = await PeopleNames.Of(fobs.Select(f => f.PersonId), people, whole: true, clock, cancel);
        return TypedResults.Ok(
            new FobList(
                settings.Keys is not null,
                [.. fobs.Select(f => new FobResponse(f.Id, f.PersonId, names.GetValueOrDefault(f.PersonId, ""), f.Name, f.LearntAt))],
                [.. (await controllers.Enrolled(cancel)).Select(c => c.MachineId)],
                (await house.Rules(clock.GetCurrentInstant(), cancel))?.PinWithFob == true,
                await pins.SetAt(user.Id, cancel)
            )
        );
    }

    private static async Task<Results<Ok<FobLearning>, ProblemHttpResult>> Learn(
        FobRequest request,
        CurrentUser user,
        FobStore store,
        ControllerSettings settings,
        ControllerStore controllers,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Fobs.MayBeKept(settings.Keys is not null) is { } off)
            return Problems.Of(off);
        var keys = settings.Keys!;
        var now = clock.GetCurrentInstant();
        if (request.PersonId is not { } whose || await people.Find(whose, now, cancel) is not { } person)
            return Problems.NotFound($"person as “{request.PersonId}”");
        var looks = (request.Looks ?? "").Trim();
        if (Fobs.MayLearn(looks, known: false) is { } unnamed)
            return Problems.Of(unnamed);
        if (request.Code?.Trim() is { Length: > 0 } code)
        {
            if (Fobs.Check(code) is { } unreadable)
                return Problems.Of(unreadable);
            var learnt = await store.Learn(person.Id, looks, keys.Fob(code), user.Id, now, cancel);
            return learnt.Refusal is { } not ? Problems.Of(not) : TypedResults.Ok(new FobLearning(learnt.Value, null));
        }
        if ((await controllers.Enrolled(cancel)).FirstOrDefault(c => c.MachineId.Value == request.MachineId) is not { MachineId: var at })
            return Problems.NotFound($"reader at a machine as “{request.MachineId}”");
        await store.Await(new Learning(at, person.Id, looks, user.Id, now + Fobs.LearnWithin), cancel);
        return TypedResults.Ok(new FobLearning(null, now + Fobs.LearnWithin));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Revoke(
        Guid id,
        CurrentUser user,
        FobStore store,
        IClock clock,
        CancellationToken cancel
    )
    {
        var own = (await store.InUse(user.Id, cancel)).Any(f => f.Id == id);
        if (Fobs.MayRevoke(own, await user.Is(Role.Steward, Role.Keeper)) is { } not)
            return Problems.Of(not);
        var revoked = await store.Revoke(id, user.Id, clock.GetCurrentInstant(), cancel);
        return revoked.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetPin(
        PinRequest request,
        CurrentUser user,
        PinStore store,
        ControllerSettings settings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var pin = (request.Pin ?? "").Trim();
        if ((Fobs.MayBeKept(settings.Keys is not null) ?? Pins.Check(pin)) is { } not)
            return Problems.Of(not);
        await store.Set(user.Id, settings.Keys!.Pin(user.Id, pin), clock.GetCurrentInstant(), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<TapInCodeResponse>, ProblemHttpResult>> Show(
        CurrentUser user,
        FobStore store,
        ControllerSettings settings,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (Fobs.MayBeKept(settings.Keys is not null) is { } off)
            return Problems.Of(off);
        var keys = settings.Keys!;
        var now = clock.GetCurrentInstant();
        string code;
        do code = RandomNumberGenerator
            .GetInt32((int)Math.Pow(10, Fobs.CodeDigits))
            .ToString($"D{Fobs.CodeDigits}", CultureInfo.InvariantCulture);
        while (!await store.Show(user.Id, keys.TapInCode(code), now, cancel));
        return TypedResults.Ok(new TapInCodeResponse(code, now + Fobs.CodeFor));
    }
}
