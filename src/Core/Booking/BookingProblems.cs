namespace VelvetGate.Core.Booking;

/// <summary>What the room of bookings refuses, each once.</summary>
public static class BookingProblems
{
    public static readonly Problem BookingOver = new("booking.over", ProblemKind.Conflict, "That time is over; it cannot be given back.");
    public static readonly Problem BookingId = new("booking.id", ProblemKind.Invalid, "The id has to be a UUID.");
    public static readonly Problem BookingNotYours = new("booking.notYours", ProblemKind.Forbidden, "Members book for themselves only.");
    public static readonly Problem BookingCompanions = new(
        "booking.companions",
        ProblemKind.Invalid,
        "Between 0 and {0} people may come along."
    );
    public static readonly Problem GateRefused = new("gate.refused", ProblemKind.Unprocessable, "{0}");
    public static readonly Problem BookingIdUsed = new(
        "booking.idUsed",
        ProblemKind.Conflict,
        "That id stands for another booking. Use a new one."
    );
    public static readonly Problem TimeTaken = new(
        "time.taken",
        ProblemKind.Conflict,
        "Somebody took that time just now. Choose another time."
    );
    public static readonly Problem TimeTakenBecause = new("time.taken", ProblemKind.Conflict, "{0} Choose another time.");
    public static readonly Problem PersonElsewhere = new("person.elsewhere", ProblemKind.Conflict, "{0} Choose another time.");
    public static readonly Problem JobName = new(
        "job.name",
        ProblemKind.Invalid,
        "Give the job a name of at most {0} letters, by which you find it again."
    );
    public static readonly Problem JobTooMany = new(
        "job.tooMany",
        ProblemKind.Conflict,
        "You keep {0} jobs already. Take one away that you no longer run."
    );
    public static readonly Problem WishWords = new(
        "wish.words",
        ProblemKind.Invalid,
        "“{0}” is not understood. Say it as: after 17:00, not Saturdays, before 3 December."
    );
    public static readonly Problem WishEmpty = new(
        "wish.empty",
        ProblemKind.Invalid,
        "No time is left by that. Leave out a day fewer, or give a later end."
    );
    public static readonly Problem BookingChanged = new(
        "booking.changed",
        ProblemKind.Stale,
        "This booking was changed meanwhile. Look at it as it is now, and choose again."
    );
    public static readonly Problem BookingCancelled = new(
        "booking.cancelled",
        ProblemKind.Conflict,
        "That time was given back. Ask the gate for another."
    );
    public static readonly Problem MoveTaken = new(
        "move.taken",
        ProblemKind.Conflict,
        "Somebody has that time. The booking stays as it was."
    );
    public static readonly Problem MoveTakenBecause = new("move.taken", ProblemKind.Conflict, "{0} The booking stays as it was.");
    public static readonly Problem MoveShut = new("move.shut", ProblemKind.Unprocessable, "{0} The booking stays as it was.");
    public static readonly Problem MoveBegun = new(
        "move.begun",
        ProblemKind.Conflict,
        "It has begun: make it longer, hand it over or give the rest back; it cannot be moved."
    );
    public static readonly Problem MoveStart = new(
        "move.start",
        ProblemKind.Invalid,
        "Give the new start with its offset, such as 2026-11-24T14:00:00+00:00."
    );
    public static readonly Problem ExtendMinutes = new("extend.minutes", ProblemKind.Invalid, "Give {0} to {1} more minutes.");
    public static readonly Problem SwapSelf = new(
        "swap.self",
        ProblemKind.Invalid,
        "Choose a booking of somebody else; your own you can move."
    );
    public static readonly Problem SwapNone = new(
        "swap.none",
        ProblemKind.Conflict,
        "No proposal to swap with this booking waits for you. Look at both bookings again."
    );
    public static readonly Problem HandOverSelf = new("handOver.self", ProblemKind.Invalid, "It is theirs already. Choose somebody else.");
    public static readonly Problem HandOverAtMachine = new(
        "handOver.atMachine",
        ProblemKind.Conflict,
        "Somebody runs it now: hand over at the machine, where both tap."
    );
    public static readonly Problem HandOverShut = new(
        "handOver.shut",
        ProblemKind.Unprocessable,
        "The gate does not open for them then. They see why when they ask it themselves."
    );
    public static readonly Problem SwapShut = new(
        "swap.shut",
        ProblemKind.Unprocessable,
        "The gate does not open for the other one at your time. Both bookings stay as they were."
    );
    public static readonly Problem WaitingWindow = new(
        "waiting.window",
        ProblemKind.Invalid,
        "The end of the time you can come lies before its start."
    );
    public static readonly Problem WaitingPast = new("waiting.past", ProblemKind.Invalid, "That time is past. Give days to come.");
    public static readonly Problem WaitingMany = new(
        "waiting.many",
        ProblemKind.Conflict,
        "You wait for {0} times already. Take one back first."
    );
    public static readonly Problem WaitingOpen = new(
        "waiting.open",
        ProblemKind.Conflict,
        "There is a time for that now: {0}. Book it instead of waiting."
    );
    public static readonly Problem OfferOver = new(
        "offer.over",
        ProblemKind.Conflict,
        "That offer is over: the time went to the next. You still wait for another."
    );
    public static readonly Problem OfferLate = new("offer.late", ProblemKind.Conflict, "That time has begun. You still wait for another.");
    public static readonly Problem WaitingShut = new(
        "waiting.shut",
        ProblemKind.Unprocessable,
        "{0} No other time changes that, so waiting would not help."
    );
    public static readonly Problem WaitingMachines = new(
        "waiting.machines",
        ProblemKind.Invalid,
        "Choose at least one machine of the house."
    );
    public static readonly Problem FeedRevoked = new(
        "feed.revoked",
        ProblemKind.Gone,
        "This calendar address was renewed or withdrawn. Take the new one from the page Calendars, under Bookings."
    );
    public static readonly Problem FeedKindBad = new("feed.kind", ProblemKind.Invalid, "Say mine, machine, rota or wall.");
    public static readonly Problem FeedWall = new(
        "feed.wall",
        ProblemKind.Forbidden,
        "A screen on the wall is set up by a steward, a trainer or a keeper. Ask one."
    );
    public static readonly Problem FeedMachine = new("feed.machine", ProblemKind.Invalid, "Choose a machine of the house.");
    public static readonly Problem FeedNoMachine = new(
        "feed.machine",
        ProblemKind.Invalid,
        "Only the calendar of a machine names one. Leave it out."
    );
    public static readonly Problem FeedMany = new(
        "feed.many",
        ProblemKind.Conflict,
        "You have {0} calendar addresses already. Withdraw one that nothing reads any more."
    );
    public static readonly Problem BenchTaken = new(
        "bench.taken",
        ProblemKind.Conflict,
        "Somebody took the finishing bench just now. Take it at another time, or leave it out."
    );
    public static readonly Problem BenchTakenBecause = new(
        "bench.taken",
        ProblemKind.Conflict,
        "{0} Take it at another time, or leave it out."
    );
}
