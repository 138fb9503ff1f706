using NodaTime;
using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Booking;

/// <summary>A booking as far as it decides what may become of it.</summary>
/// <param name="Arrived">Its person came.</param>
public sealed record StandingTime(PersonId PersonId, Instant Start, Instant End, bool Cancelled, bool Arrived, int Version);

/// <summary>Moving a booking, making it longer, swapping it and handing it over. What does not come about leaves it as it stood.</summary>
public static class BookingChange
{
    public const int LeastMore = 5;
    public const int MostMore = 480;

    /// <summary>How long a proposal to swap waits for its answer.</summary>
    public static readonly Duration SwapWaits = Duration.FromHours(48);

    /// <param name="staff">Stewards and trainers change the bookings of others.</param>
    /// <param name="version">As its page was read; null where nobody read one.</param>
    /// <returns>Null when this booking may be changed by this person at all.</returns>
    public static Refusal? May(StandingTime? booking, PersonId by, bool staff, int? version, Instant now) =>
        booking is null || (!staff && booking.PersonId != by) ? CommonProblems.NotFound.Refuse(null, "booking of yours")
        : booking.Cancelled ? BookingProblems.BookingCancelled.Refuse()
        : booking.End <= now ? BookingProblems.BookingOver.Refuse()
        : version is { } read && read != booking.Version ? BookingProblems.BookingChanged.Refuse("version")
        : null;

    /// <returns>Null when it may be moved to another time or machine: before it begins.</returns>
    public static Refusal? MayMove(StandingTime booking, Instant now) =>
        booking.Arrived || booking.Start <= now ? BookingProblems.MoveBegun.Refuse() : null;

    /// <returns>Null when it may be made so much longer.</returns>
    public static Refusal? MayExtend(int minutes) =>
        minutes is < LeastMore or > MostMore ? BookingProblems.ExtendMinutes.Refuse("minutes", LeastMore, MostMore) : null;

    /// <returns>Null when it may go to this person, as far as the gate opens for them.</returns>
    public static Refusal? MayHandOver(StandingTime booking, PersonId to) =>
        booking.PersonId == to ? BookingProblems.HandOverSelf.Refuse("memberId") : null;

    /// <returns>Null when these two may swap their times.</returns>
    public static Refusal? MaySwap(StandingTime mine, StandingTime? theirs, Instant now) =>
        theirs is null ? CommonProblems.NotFound.Refuse("withBookingId", "booking")
        : theirs.PersonId == mine.PersonId ? BookingProblems.SwapSelf.Refuse("withBookingId")
        : theirs.Cancelled ? BookingProblems.BookingCancelled.Refuse("withBookingId")
        : MayMove(mine, now) ?? MayMove(theirs, now);

    /// <summary>
    /// The question of a change. What has begun is asked about from now to its new end, as a booking that stands: the job itself has had
    /// its time.
    /// </summary>
    public static GateQuestion Asked(GateQuestion whole, Instant now) =>
        whole.Start > now
            ? whole
            : whole with
            {
                Start = now,
                Minutes = Math.Max(1, (int)Math.Ceiling((whole.End - now).TotalMinutes)),
                Phase = Phase.Standing,
            };

    /// <summary>The facts of a change: the hours it has had count towards the limits of the house still.</summary>
    public static GateFacts Facts(GateFacts facts, GateQuestion whole, Instant now) =>
        whole.Start < now && facts.Time.PersonBooked.IsKnown
            ? facts with
            {
                Time = facts.Time with
                {
                    PersonBooked = Fact.Known<IReadOnlyList<Span>>([.. facts.Time.PersonBooked.Value, new Span(whole.Start, now)]),
                },
            }
            : facts;

    /// <summary>What stands against a change: all of it.</summary>
    /// <param name="begun">Then what is left is shorter than the job: nobody starts it anew.</param>
    public static IReadOnlyList<Reason> Against(Decision decision, bool begun) =>
        [.. decision.Reasons.Where(r => r.Standing >= Standing.Ask && !(begun && r.Code == Codes.TimeTooShort.Code))];

    /// <summary>Only the calendar is against it.</summary>
    public static bool IsTaken(IReadOnlyList<Reason> against) =>
        against.All(r => r.Code == Codes.TimeTaken.Code || r.Code == Codes.PersonElsewhere.Code);

    /// <summary>Why the change does not come about.</summary>
    public static Refusal Refused(IReadOnlyList<Reason> against)
    {
        var texts = string.Join(" ", against.Select(r => r.Text).Distinct().Take(3));
        return (IsTaken(against) ? BookingProblems.MoveTakenBecause : BookingProblems.MoveShut).Refuse(null, texts);
    }
}
