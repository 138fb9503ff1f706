using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Web.Gate;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

/// <summary>A job to wait for a time with: a question to the gate without a machine and a start.</summary>
public sealed record WaitingRequest : GateQuestionRequest
{
    /// <summary>Machines that would do; left out takes all of the house.</summary>
    public IReadOnlyList<string>? MachineIds { get; init; }

    /// <summary>They can come from then; RFC 3339 with an offset. So too <see cref="To"/>: until then.</summary>
    public string? From { get; init; }
    public string? To { get; init; }
}

public sealed record WaitingMade(Guid Id);

/// <param name="Offer">What is kept for them now; null for nothing.</param>
public sealed record WaitingAnswer(
    Guid Id,
    int Number,
    IReadOnlyList<MachineId> MachineIds,
    IReadOnlyList<GateItem> Items,
    Instant From,
    Instant To,
    Instant At,
    OfferedTime? Offer
);

public sealed record WaitingTimes(IReadOnlyList<WaitingAnswer> Items);

/// <summary>Waiting for a time, and taking what is offered.</summary>
public static class WaitingEndpoints
{
    public static void MapWaiting(this IEndpointRouteBuilder app)
    {
        var waiting = app.MapGroup("/api/waiting").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        waiting
            .MapPost("", Add)
            .WithName("WaitForTime")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(409)
            .ProducesProblem(422);
        waiting.MapGet("", List).WithName("ListWaiting");
        waiting.MapDelete("/{id:guid}", TakeBack).WithName("StopWaiting").ProducesProblem(404);
        var offers = app.MapGroup("/api/offers/{id:guid}").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        offers.MapPost("/take", Take).WithName("TakeOffer").ProducesProblem(404).ProducesProblem(409).ProducesProblem(422);
        offers.MapPost("/decline", Decline).WithName("DeclineOffer").ProducesProblem(404);
    }

    private static async Task<Results<Created<WaitingMade>, ProblemHttpResult>> Add(
        WaitingRequest request,
        CurrentUser user,
        WaitingStore waiting,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        const string offset = "Give the moment with its offset, such as 2026-11-24T10:00:00Z.";
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var job = GateQuestionReading.ReadJob(request, user.Id, now, errors);
        var from = request.From is null ? now : errors.Moment("from", request.From, offset);
        var to = errors.Moment("to", request.To, offset);
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        if (job is null || errors.Any)
            return errors.Answer();
        if (StewardRequests.MayAskFor(job.MemberId, user.Id, await user.Is(Role.Steward, Role.Trainer)) is { } others)
            return Problems.Of(others);
        if (Waiting.May(from!.Value, to!.Value, 0, now) is { } window)
            return Problems.Of(window);
        var machines = Waiting.Machines(request.MachineIds, [.. (await house.MachinesHere(now, cancel)).Select(m => m.Spec.Id)]);
        if (machines.Refusal is { } none)
            return Problems.Of(none);
        var made = await waiting.Add(id, job, machines.Value, Instant.Max(from.Value, now), to.Value, user.Id, rules, now, cancel);
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/waiting/{made.Value}", new WaitingMade(made.Value));
    }

    private static async Task<Ok<WaitingTimes>> List(CurrentUser user, WaitingStore waiting, CancellationToken cancel) =>
        TypedResults.Ok(
            new WaitingTimes([
                .. (await waiting.Of(user.Id, cancel)).Select(w => new WaitingAnswer(
                    Id: w.Id,
                    Number: w.Number,
                    MachineIds: w.MachineIds,
                    Items: w.Ask.Items,
                    From: w.From,
                    To: w.To,
                    At: w.At,
                    Offer: w.Offer
                )),
            ])
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeBack(
        Guid id,
        CurrentUser user,
        WaitingStore waiting,
        IClock clock,
        CancellationToken cancel
    ) =>
        await waiting.TakeBack(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("entry of yours on the waiting list");

    private static async Task<Results<NoContent, ProblemHttpResult>> Decline(
        Guid id,
        CurrentUser user,
        WaitingStore waiting,
        IClock clock,
        CancellationToken cancel
    ) =>
        await waiting.Decline(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("offer of yours");

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Take(
        Guid id,
        CurrentUser user,
        WaitingStore waiting,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var (refusal, outcome) = await waiting.Take(id, user.Id, now, cancel);
        if (refusal is not null)
            return Problems.Of(refusal);
        return outcome is BookingOutcome.Booked made
            ? TypedResults.Ok(BookingResponses.Of(made.Booking, user.Id, true))
            : BookingEndpoints.Refused(outcome!, (await house.Rules(now, cancel))!);
    }
}
