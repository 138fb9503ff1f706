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

/// <param name="Start">RFC 3339 with an offset.</param>
/// <param name="MachineId">Left out stays on the same machine.</param>
/// <param name="Version">Of the booking as it was read; left out takes it as it is.</param>
public sealed record MoveRequest(string? Start = null, string? MachineId = null, int? Version = null);

/// <param name="Minutes">How much longer.</param>
public sealed record ExtendRequest(decimal? Minutes = null, int? Version = null);

public sealed record SwapRequest(string? WithBookingId = null);

public sealed record HandOverRequest(string? MemberId = null, int? Version = null);

public sealed record SwapMade(Guid Id);

public sealed record SwapList(IReadOnlyList<SwapAsked> Items);

/// <summary>Changes of a booking that stands. What is refused leaves it as it was.</summary>
public static class BookingChangeEndpoints
{
    public static void MapBookingChanges(this IEndpointRouteBuilder app)
    {
        var booking = app.MapGroup("/api/bookings/{id:guid}").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        Say(booking.MapPost("/move", Move).WithName("MoveBooking"));
        Say(booking.MapPost("/extend", Extend).WithName("ExtendBooking"));
        Say(booking.MapPost("/hand-over", HandOver).WithName("HandBookingOver"));
        Say(booking.MapPost("/swap/agree", Agree).WithName("AgreeToSwap"));
        booking.MapPost("/swap", Swap).WithName("ProposeSwap").ProducesProblem(400).ProducesProblem(404).ProducesProblem(409);
        app.MapGet("/api/swaps", Swaps).WithTags("Bookings").WithName("ListSwaps").RequireAuthorization(Policy.SignedIn);

        static void Say(RouteHandlerBuilder way) => way.ProducesProblem(400).ProducesProblem(404).ProducesProblem(409).ProducesProblem(422);
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Move(
        Guid id,
        MoveRequest request,
        CurrentUser user,
        BookingChanges changes,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var start = errors.Moment("start", request.Start, BookingProblems.MoveStart.Text);
        if (start is not { } at)
            return errors.Answer();
        var machine = Ids.From<MachineId>(Texts.NullIfBlank(request.MachineId));
        if (machine is { } to && (await house.MachinesHere(clock.GetCurrentInstant(), cancel)).All(m => m.Spec.Id != to))
            return Problems.Of(GateProblems.AskUnknownMachine.Refuse("machineId", to));
        return await Answer(
            user,
            house,
            clock,
            async (staff, now) => await changes.Move(id, at, machine, request.Version, user.Id, staff, now, cancel),
            cancel
        );
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Extend(
        Guid id,
        ExtendRequest request,
        CurrentUser user,
        BookingChanges changes,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        // What is no whole number is as wrong as none.
        var minutes = request.Minutes is { } m && m == Math.Truncate(m) && Math.Abs(m) < 10_000 ? (int)m : 0;
        return await Answer(
            user,
            house,
            clock,
            async (staff, now) => await changes.Extend(id, minutes, request.Version, user.Id, staff, now, cancel),
            cancel
        );
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> HandOver(
        Guid id,
        HandOverRequest request,
        CurrentUser user,
        BookingChanges changes,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        PersonId to = errors.Need("memberId", request.MemberId, "Choose who takes it over.");
        if (errors.Any)
            return errors.Answer();
        return await Answer(
            user,
            house,
            clock,
            async (staff, now) => await changes.HandOver(id, to, request.Version, user.Id, staff, now, cancel),
            cancel
        );
    }

    private static async Task<Results<Created<SwapMade>, ProblemHttpResult>> Swap(
        Guid id,
        SwapRequest request,
        CurrentUser user,
        BookingChanges changes,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!Guid.TryParse(request.WithBookingId, out var with))
            return Problems.Of(BookingProblems.BookingId.Refuse("withBookingId"));
        var staff = await user.Is(Role.Steward, Role.Trainer);
        var made = await changes.ProposeSwap(id, with, user.Id, staff, clock.GetCurrentInstant(), cancel);
        return made.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Created($"/api/bookings/{with}", new SwapMade(made.Value));
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Agree(
        Guid id,
        CurrentUser user,
        BookingChanges changes,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    ) =>
        // Nobody agrees for somebody else, staff neither.
        await Answer(user, house, clock, async (_, now) => await changes.AgreeSwap(id, user.Id, staff: false, now, cancel), cancel);

    private static async Task<Ok<SwapList>> Swaps(CurrentUser user, BookingChanges changes, IClock clock, CancellationToken cancel) =>
        TypedResults.Ok(new SwapList(await changes.Swaps(user.Id, clock.GetCurrentInstant(), cancel)));

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Answer(
        CurrentUser user,
        HouseStore house,
        IClock clock,
        Func<bool, Instant, Task<ChangeOutcome>> change,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var outcome = await change(await user.Is(Role.Steward, Role.Trainer), now);
        if (outcome.Refusal is not { } refusal)
            return TypedResults.Ok(BookingResponses.Of(outcome.Booking!, user.Id, true));
        return outcome.Decision is { } decision
            ? Problems.Of(
                refusal,
                new { verdict = decision.Verdict, posts = GateEndpoints.Posts(decision, (await house.Rules(now, cancel))!) }
            )
            : Problems.Of(refusal);
    }
}
