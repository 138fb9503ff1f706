using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Run;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Run;

/// <param name="Id">Client-made UUID; the same again changes nothing.</param>
/// <param name="Thickness">As typed, such as <c>1/8 in</c>.</param>
/// <param name="Start">RFC 3339 with an offset.</param>
/// <param name="Item">Which sheet of its booking, from 0; left out, the first that it can be.</param>
public sealed record RunRequest(
    string? Id = null,
    string? BookingId = null,
    string? MemberId = null,
    string? MachineId = null,
    string? MaterialId = null,
    string? Thickness = null,
    string? Unit = null,
    IReadOnlyList<string>? Operations = null,
    string? Start = null,
    string? End = null,
    string? Outcome = null,
    string? Settings = null,
    string? SettingId = null,
    int? Item = null
);

/// <param name="Counts">It is practice, and a clean one a test.</param>
/// <param name="WaitsForALook">A steward is told: no rule allows it, nobody stands behind it, or a flame stayed.</param>
/// <param name="Says">What follows, in one sentence.</param>
/// <param name="LidShutSeconds">After a flame the lid stays shut so long at least; null otherwise.</param>
/// <param name="Card">Address of the emergency card, after a flame.</param>
/// <param name="IncidentId">The incident that opened with a flame.</param>
public sealed record RunMade(
    Guid Id,
    bool Counts,
    bool WaitsForALook,
    string Says,
    int? LidShutSeconds = null,
    string? Card = null,
    Guid? IncidentId = null
);

/// <param name="Counts">The steward stands behind the run, so that it counts as practice.</param>
public sealed record LookRequest(string? Reason = null, bool Counts = false);

/// <param name="Settings">The person and staff only.</param>
/// <param name="Counts">False for a supervised run that the second of the two has not confirmed yet, for one that was given up, and for one
/// that no rule allowed or nobody stands behind.</param>
/// <param name="WaitsForALook">A steward has to look at it.</param>
/// <param name="Against">Codes of what stood against it; empty when the gate allowed it.</param>
/// <param name="Why">Why it waits, or what stood against it, in a clause; empty when there is nothing.</param>
/// <param name="MayLook">True when the one who asks may do so.</param>
/// <param name="MayConfirm">True when the one who asks is that second.</param>
public sealed record RunResponse(
    Guid Id,
    int Number,
    Guid? BookingId,
    int? Item,
    string Name,
    bool Mine,
    MachineId MachineId,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    IReadOnlyList<string> Operations,
    Instant Start,
    Instant End,
    Outcome Outcome,
    string? Settings,
    bool Supervised,
    bool Counts,
    bool MayConfirm,
    bool WaitsForALook,
    IReadOnlyList<string> Against,
    string Why,
    bool MayLook
);

public sealed record RunList(IReadOnlyList<RunResponse> Items);

/// <summary>Runs, logged by the person or the desk.</summary>
public static class RunEndpoints
{
    private const int Most = 200;

    public static void MapRuns(this IEndpointRouteBuilder app)
    {
        var runs = app.MapGroup("/api/runs").WithTags("Runs").RequireAuthorization(Policy.SignedIn);
        runs.MapPost("/", Log).WithName("LogRun").ProducesProblem(400).ProducesProblem(403);
        runs.MapGet("/", List).WithName("ListRuns");
        runs.MapPost("/{id:guid}/look", Look)
            .WithName("LookAtRun")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        runs.MapPost("/{id:guid}/confirm", Confirm).WithName("ConfirmRun").ProducesProblem(403).ProducesProblem(404);
    }

    private static async Task<Results<Created<RunMade>, ProblemHttpResult>> Log(
        RunRequest request,
        CurrentUser user,
        RunStore runs,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var run = Read(request, user.Id, errors);
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        var booking = errors.Id("bookingId", request.BookingId);
        if (errors.Any)
            return errors.Answer();
        var staff = await user.Is(Role.Steward, Role.Trainer);
        var logged = await runs.Log(id, booking, run, user.Id, staff, await user.Is(Role.Steward), clock.GetCurrentInstant(), cancel);
        if (logged.Refusal is { } refusal)
            return Problems.Of(refusal);
        var made = logged.Value;
        return TypedResults.Created(
            $"/api/runs/{made.Id}",
            new RunMade(
                Id: made.Id,
                Counts: made.Counts,
                WaitsForALook: made.WaitsForALook,
                Says: RunLog.Says(made.Worth),
                LidShutSeconds: made.Flame ? AirClearing.LongWaitSeconds : null,
                Card: made.Flame ? $"/emergency/{run.MachineId}" : null,
                IncidentId: made.IncidentId
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Look(
        Guid id,
        LookRequest request,
        CurrentUser user,
        RunStore runs,
        IClock clock,
        CancellationToken cancel
    )
    {
        var answer = await runs.Look(id, user.Id, request.Reason, request.Counts, clock.GetCurrentInstant(), cancel);
        return answer.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Ok<RunList>> List(bool? mine, CurrentUser user, RunStore runs, IClock clock, CancellationToken cancel)
    {
        var (staff, steward) = (await user.Is(Role.Steward, Role.Trainer), await user.Is(Role.Steward));
        var found = await runs.Latest(staff && mine != true ? (PersonId?)null : user.Id, Most, cancel);
        var now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            new RunList([
                .. found.Select(r => new RunResponse(
                    Id: r.Id,
                    Number: r.Number,
                    BookingId: r.BookingId,
                    Item: r.Item,
                    Name: PersonName.For(r.GivenName, r.FamilyName, Ages.On(r.BirthDate, now), true),
                    Mine: r.PersonId == user.Id,
                    MachineId: r.MachineId,
                    MaterialId: r.MaterialId,
                    MaterialName: r.MaterialName,
                    ThicknessMm: r.ThicknessMm,
                    Operations: r.Operations,
                    Start: r.Start,
                    End: r.End,
                    Outcome: Enum.Parse<Outcome>(r.Outcome, ignoreCase: true),
                    Settings: r.Settings,
                    Supervised: r.SupervisorId is not null,
                    Counts: r.Counts && (r.SupervisorId is null || r.ConfirmedAt is not null),
                    MayConfirm: r is { SupervisorId: { } supervisor, ConfirmedAt: null }
                        && RunLog.Confirmer(r.PersonId, supervisor, r.LoggedBy) == user.Id,
                    WaitsForALook: r.Waits,
                    Against: r.Codes,
                    Why: r.Waits || r.Codes.Length > 0 ? RunVerdict.Why(r.Waits && r.Outcome == "flame", r.Codes) : "",
                    MayLook: r.Waits && steward && r.PersonId != user.Id
                )),
            ])
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Confirm(
        Guid id,
        CurrentUser user,
        RunStore runs,
        IClock clock,
        CancellationToken cancel
    )
    {
        var answer = await runs.Confirm(id, user.Id, clock.GetCurrentInstant(), cancel);
        return answer.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static LoggedRun Read(RunRequest request, PersonId asker, FieldErrors errors)
    {
        errors.Need("machineId", request.MachineId, "Choose the machine.");
        errors.Need("materialId", request.MaterialId, "Choose the material.");
        var unit = errors.Unit(request.Unit);
        var thickness = errors.Mm("thickness", request.Thickness, unit);
        var operations = errors.Operations("operations", request.Operations);
        var outcome = errors.Word<Outcome>(
            "outcome",
            request.Outcome,
            "Say how it came out: clean, notThrough, charred, flame or abandoned."
        );
        var start = errors.Moment("start", request.Start, MomentMissing) ?? default;
        var end = errors.Moment("end", request.End, MomentMissing) ?? default;
        if (request.Item < 0)
            errors.Add("item", "Count the sheets of a booking from 0.");
        return new LoggedRun(
            PersonId: string.IsNullOrWhiteSpace(request.MemberId) ? asker : request.MemberId.Trim(),
            MachineId: request.MachineId?.Trim() ?? "",
            MaterialId: request.MaterialId?.Trim() ?? "",
            ThicknessMm: Math.Round(thickness, 6),
            Operations: [.. operations.Order()],
            Start: start,
            End: end,
            Outcome: outcome,
            Settings: request.Settings,
            SettingId: errors.Id("settingId", request.SettingId),
            Item: request.Item
        );
    }

    private const string MomentMissing = "Give the time with its offset, such as 2026-11-24T14:00:00+00:00.";
}
