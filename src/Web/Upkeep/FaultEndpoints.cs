using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Upkeep;

/// <param name="Try">What to do once, first; null where nothing is tried.</param>
/// <param name="Helped">What it is called when that was all.</param>
/// <param name="NeedsWords">Somebody has to say what they see.</param>
public sealed record SymptomResponse(string Key, string Seen, string? Try, string? Helped, bool NeedsWords);

public sealed record SymptomList(IReadOnlyList<SymptomResponse> Items);

/// <param name="By">Who told it: for staff, and for themselves.</param>
/// <param name="Note">In their own words: for staff, and for themselves.</param>
/// <param name="MayJudge">Whoever asks may say what it does, and close it.</param>
/// <param name="Photos">That whoever asks may see.</param>
public sealed record FaultResponse(
    Guid Id,
    int Number,
    MachineId MachineId,
    string Symptom,
    string Seen,
    FaultStanding Standing,
    IReadOnlyList<string> MayDo,
    Instant At,
    int Times,
    string? By,
    string? Note,
    bool MayJudge,
    IReadOnlyList<UpkeepPhotoResponse> Photos,
    bool MayAddPhoto
);

/// <param name="Items">The worst first.</param>
public sealed record FaultList(IReadOnlyList<FaultResponse> Items);

/// <param name="Helped">What is tried first was all; left out, it is still so.</param>
public sealed record FaultRequest(string? MachineId = null, string? Symptom = null, bool? Helped = null, string? Note = null);

public sealed record FaultMade(Guid Id, int Number, FaultStanding Standing, IReadOnlyList<string> MayDo);

public sealed record FaultStandingRequest(string? Standing = null, string? Note = null);

public sealed record FaultCloseRequest(string? Note = null);

/// <summary>Faults, by what is seen.</summary>
public static class FaultEndpoints
{
    public static void MapFaults(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/symptoms", All).WithTags("Upkeep").WithName("ListSymptoms").RequireAuthorization(Policy.SignedIn);
        var faults = app.MapGroup("/api/faults").WithTags("Upkeep").RequireAuthorization(Policy.SignedIn);
        faults.MapGet("", Open).WithName("ListFaults");
        faults.MapPost("", Tell).WithName("TellFault").ProducesProblem(400).ProducesProblem(404).ProducesProblem(429);
        faults
            .MapPost("/{id:guid}/standing", Judge)
            .WithName("JudgeFault")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        faults
            .MapPost("/{id:guid}/close", Close)
            .WithName("CloseFault")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static Ok<SymptomList> All() =>
        TypedResults.Ok(
            new SymptomList([
                .. Symptoms.All.Select(s => new SymptomResponse(s.Key, s.Seen, s.Try, s.Helped, NeedsWords: s.Key == Symptoms.Other)),
            ])
        );

    private static async Task<Ok<FaultList>> Open(
        CurrentUser user,
        FaultStore faults,
        UpkeepStore upkeep,
        UpkeepPhotoStore photos,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var open = await faults.Open(cancel);
        var shown = await photos.Of(open.Select(f => f.Id), cancel);
        var (whole, steward) = (await user.SeesNames(), await user.Is(Role.Steward));
        var hands = await upkeep.HandsOf(user.Id, [.. open.Select(f => (MachineId?)f.MachineId).Distinct()], now, cancel);
        var names = await PeopleNames.Of(open.Select(f => f.ReportedBy), people, whole, clock, cancel);
        return TypedResults.Ok(
            new FaultList([
                .. open.Select(f => new FaultResponse(
                    Id: f.Id,
                    Number: f.Number,
                    MachineId: f.MachineId,
                    Symptom: f.Symptom,
                    Seen: Symptoms.Find(f.Symptom)?.Seen ?? f.Symptom,
                    Standing: Enum.Parse<FaultStanding>(f.Standing, true),
                    MayDo: f.MayDo,
                    At: f.At,
                    Times: f.Times,
                    By: whole || f.ReportedBy == user.Id ? names.GetValueOrDefault(f.ReportedBy) : null,
                    Note: whole || f.ReportedBy == user.Id ? f.Note : null,
                    MayJudge: steward || hands[f.MachineId.Value].Repairs,
                    Photos: UpkeepPhotoResponse.Of(shown[f.Id], user.Id, whole),
                    MayAddPhoto: UpkeepPhotos.MayAdd(whole, f.ReportedBy == user.Id, shown[f.Id].Count()) is null
                )),
            ])
        );
    }

    private static async Task<Results<Created<FaultMade>, ProblemHttpResult>> Tell(
        FaultRequest request,
        CurrentUser user,
        FaultStore faults,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var machine = errors.Need("machineId", request.MachineId, "Choose the machine.");
        if (errors.Any)
            return errors.Answer();
        var told = await faults.Tell(
            machine: machine,
            symptom: Symptoms.Find(request.Symptom),
            helped: request.Helped == true,
            note: request.Note,
            by: user.Id,
            now: clock.GetCurrentInstant(),
            cancel: cancel
        );
        return told.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created(
                $"/api/faults/{told.Value.Id}",
                new FaultMade(told.Value.Id, told.Value.Number, told.Value.Standing, told.Value.MayDo)
            );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Judge(
        Guid id,
        FaultStandingRequest request,
        CurrentUser user,
        FaultStore faults,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var standing = errors.Word<FaultStanding>("standing", request.Standing, "Choose what the fault does.");
        if (errors.Any)
            return errors.Answer();
        var judged = await faults.Judge(
            id: id,
            standing: standing,
            note: request.Note,
            by: user.Id,
            steward: await user.Is(Role.Steward),
            now: clock.GetCurrentInstant(),
            cancel: cancel
        );
        return judged.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Close(
        Guid id,
        FaultCloseRequest request,
        CurrentUser user,
        FaultStore faults,
        IClock clock,
        CancellationToken cancel
    )
    {
        var closed = await faults.Close(id, request.Note, user.Id, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel);
        return closed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }
}
