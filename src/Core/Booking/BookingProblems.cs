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
}
