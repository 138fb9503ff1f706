using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Web.Gate;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

public sealed record BookingList(IReadOnlyList<BookingResponse> Items);

public sealed record CancelRequest(string? Reason = null);

public static class BookingEndpoints
{
    private static readonly Duration LongestList = Duration.FromDays(93);

    public static void MapBookings(this IEndpointRouteBuilder app)
    {
        var bookings = app.MapGroup("/api/bookings").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        bookings
            .MapPost("/", Book)
            .WithName("Book")
            .Produces<BookingResponse>(201)
            .Produces<BookingResponse>(200)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(409)
            .ProducesProblem(422);
        bookings.MapGet("/", List).WithName("ListBookings").ProducesProblem(400);
        bookings.MapPost("/{id:guid}/arrive", Arrive).WithName("ArriveForBooking").ProducesProblem(404).ProducesProblem(409);
        bookings
            .MapPost("/{id:guid}/release", Release)
            .WithName("ReleaseNoShow")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(404)
            .ProducesProblem(409);
        bookings.MapPost("/{id:guid}/cancel", Cancel).WithName("CancelBooking").ProducesProblem(404).ProducesProblem(409);
    }

    private static async Task<Results<Created<BookingResponse>, Ok<BookingResponse>, ProblemHttpResult>> Book(
        GateQuestionRequest request,
        CurrentUser user,
        FactLoader facts,
        BookingStore bookings,
        TryStore tries,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var id = Guid.NewGuid();
        if (request.Id is { } text && !Guid.TryParse(text, out id))
            return Problems.Of(BookingProblems.BookingId.Refuse("id"));
        var errors = new FieldErrors();
        if (GateQuestionReading.Read(request, user.Id, clock.GetCurrentInstant(), errors) is not { } ask)
            return errors.Answer();
        if (
            BookingRefusals.MayBook(ask.MemberId, user.Id, await user.Is(Role.Steward, Role.Trainer), request.Companions ?? 0) is
            { } refusal
        )
            return Problems.Of(refusal);
        if (ask.Minutes == 0)
        {
            var loaded = await GateEndpoints.Load(request, user, facts, clock, cancel);
            if (loaded.Problem is { } problem)
                return problem;
            ask = loaded.Asked!.Value.Ask;
        }
        var outcome = await bookings.Book(id, ask, user.Id, clock.GetCurrentInstant(), cancel, request.Companions ?? 0);
        if (outcome.Against is { Count: > 0 } codes)
            await tries.Keep(ask, codes, clock.GetCurrentInstant(), cancel);
        return outcome switch
        {
            BookingOutcome.Booked { Again: false } made => TypedResults.Created(
                $"/api/bookings/{id}",
                BookingResponses.Of(made.Booking, user.Id, true)
            ),
            BookingOutcome.Booked again => TypedResults.Ok(BookingResponses.Of(again.Booking, user.Id, true)),
            var other => Refused(other, (await house.Rules(clock.GetCurrentInstant(), cancel))!),
        };
    }

    /// <summary>Why no booking came of it.</summary>
    internal static ProblemHttpResult Refused(BookingOutcome outcome, HouseRules rules) =>
        outcome switch
        {
            BookingOutcome.Refused refused => Problems.Of(
                BookingRefusals.Shut(refused.Decision),
                new { verdict = refused.Decision.Verdict, posts = GateEndpoints.Posts(refused.Decision, rules) }
            ),
            BookingOutcome.Taken { Decision: { } decision } => Problems.Of(
                BookingRefusals.Taken(decision),
                new { posts = GateEndpoints.Posts(decision, rules) }
            ),
            BookingOutcome.Taken => Problems.Of(BookingProblems.TimeTaken.Refuse()),
            BookingOutcome.IdUsed => Problems.Of(BookingProblems.BookingIdUsed.Refuse()),
            BookingOutcome.Unknown unknown => Problems.Of(unknown.Refusal),
            var other => throw new InvalidOperationException($"An outcome without an answer: {other}."),
        };

    private static async Task<Results<Ok<BookingList>, ProblemHttpResult>> List(
        string? from,
        string? to,
        bool? mine,
        CurrentUser user,
        BookingStore bookings,
        BookingDetails details,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var first = ReadInstant(from, "from", now - Duration.FromDays(1), errors);
        var last = ReadInstant(to, "to", first + Duration.FromDays(8), errors);
        if (!errors.Any && last <= first)
            errors.Add("to", "The end lies before the start.");
        if (!errors.Any && last - first > LongestList)
            errors.Add("to", "Ask for three months or less at once.");
        if (errors.Any)
            return errors.Answer();
        var whole = await user.SeesNames();
        var found = await bookings.Between(first, last, mine == true ? user.Id : (PersonId?)null, cancel);
        var shown = found.Where(b => whole || b.PersonId == user.Id).ToList();
        var more = await details.Of(shown, rules.Clock, cancel);
        return TypedResults.Ok(
            new BookingList([.. found.Select(b => BookingResponses.Of(b, user.Id, whole, more.GetValueOrDefault(b.Id), rules))])
        );
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Cancel(
        Guid id,
        CancelRequest? request,
        CurrentUser user,
        BookingStore bookings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var all = await user.Is(Role.Steward);
        var answer = await bookings.Cancel(id, user.Id, all, request?.Reason, clock.GetCurrentInstant(), cancel);
        return answer.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(BookingResponses.Of(answer.Value, user.Id, true));
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Release(
        Guid id,
        CurrentUser user,
        BookingStore bookings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var answer = await bookings.ReleaseNoShow(id, user.Id, rules.NoShowGraceMinutes, now, cancel);
        return answer.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(BookingResponses.Of(answer.Value, user.Id, true));
    }

    private static async Task<Results<Ok<BookingResponse>, ProblemHttpResult>> Arrive(
        Guid id,
        CurrentUser user,
        BookingStore bookings,
        IClock clock,
        CancellationToken cancel
    )
    {
        var all = await user.Is(Role.Steward, Role.Trainer);
        var answer = await bookings.Arrive(id, user.Id, all, clock.GetCurrentInstant(), cancel);
        return answer.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(BookingResponses.Of(answer.Value, user.Id, true));
    }

    private static Instant ReadInstant(string? text, string field, Instant otherwise, FieldErrors errors)
    {
        const string missing = "Give the moment with its offset, such as 2026-11-24T10:00:00Z.";
        return string.IsNullOrWhiteSpace(text) ? otherwise : errors.Moment(field, text, missing) ?? otherwise;
    }
}
