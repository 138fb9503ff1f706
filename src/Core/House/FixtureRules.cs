using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>Fixtures handed out and taken back, each a single item.</summary>
public static class FixtureRules
{
    /// <summary>Handed out without a booking, it is due back so soon.</summary>
    public static readonly Duration UsuallyFor = Duration.FromHours(4);

    public static readonly Duration LongestFor = Duration.FromDays(14);

    /// <summary>Somebody takes the fixture of their own booking so long before it begins.</summary>
    public static readonly Duration TakenBefore = Duration.FromMinutes(30);

    public const int NoteLongest = 400;

    /// <param name="known">The house has such a fixture.</param>
    /// <param name="isOut">Somebody has it.</param>
    /// <param name="damaged">It came back damaged, and nobody put it right.</param>
    /// <param name="staff">A steward or trainer hands it out; else the person takes what is booked for them now.</param>
    /// <param name="booked">The person has a booking with it that is on or begins soon.</param>
    public static Refusal? MayTake(bool known, bool isOut, bool damaged, bool staff, bool booked, Instant due, Instant now) =>
        !known ? CommonProblems.NotFound.Refuse(null, "fixture of that name")
        : isOut ? HouseProblems.FixtureOut.Refuse()
        : damaged ? HouseProblems.FixtureDamaged.Refuse()
        : !staff && !booked ? HouseProblems.FixtureNotBooked.Refuse()
        : due <= now || due > now + LongestFor ? HouseProblems.FixtureDue.Refuse("due", (int)LongestFor.TotalDays)
        : null;

    /// <param name="holder">Whoever has it.</param>
    public static Refusal? MayReturn(bool isOut, bool staff, bool holder, bool damaged, string? note) =>
        !isOut ? HouseProblems.FixtureHere.Refuse()
        : !staff && !holder ? HouseProblems.FixtureOthers.Refuse()
        : note?.Length > NoteLongest ? HouseProblems.FixtureNote.Refuse("note", NoteLongest)
        : damaged && string.IsNullOrWhiteSpace(note) ? HouseProblems.FixtureWhat.Refuse("note")
        : null;
}
