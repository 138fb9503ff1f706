using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>Where a fixture is.</summary>
public enum FixturePlace
{
    /// <summary>The house has none of that name.</summary>
    Unknown,
    Here,
    Out,

    /// <summary>It came back damaged, and nobody put it right.</summary>
    Damaged,
}

/// <summary>Who hands a fixture out, or takes it back.</summary>
public enum FixtureBy
{
    Others,
    Staff,

    /// <summary>The person has a booking with it that is on or begins soon.</summary>
    WhoBooked,
    Holder,
}

/// <summary>Fixtures handed out and taken back, each a single item.</summary>
public static class FixtureRules
{
    /// <summary>Handed out without a booking, it is due back so soon.</summary>
    public static readonly Duration UsuallyFor = Duration.FromHours(4);

    public static readonly Duration LongestFor = Duration.FromDays(14);

    /// <summary>Somebody takes the fixture of their own booking so long before it begins.</summary>
    public static readonly Duration TakenBefore = Duration.FromMinutes(30);

    public const int NoteLongest = 400;

    public static Refusal? MayTake(FixturePlace where, FixtureBy by, Instant due, Instant now) =>
        where switch
        {
            FixturePlace.Unknown => CommonProblems.NotFound.Refuse(null, "fixture of that name"),
            FixturePlace.Out => HouseProblems.FixtureOut.Refuse(),
            FixturePlace.Damaged => HouseProblems.FixtureDamaged.Refuse(),
            _ when by is not (FixtureBy.Staff or FixtureBy.WhoBooked) => HouseProblems.FixtureNotBooked.Refuse(),
            _ when due <= now || due > now + LongestFor => HouseProblems.FixtureDue.Refuse("due", (int)LongestFor.TotalDays),
            _ => null,
        };

    public static Refusal? MayReturn(FixturePlace where, FixtureBy by, bool damaged, string? note) =>
        where != FixturePlace.Out ? HouseProblems.FixtureHere.Refuse()
        : by is not (FixtureBy.Staff or FixtureBy.Holder) ? HouseProblems.FixtureOthers.Refuse()
        : note?.Length > NoteLongest ? HouseProblems.FixtureNote.Refuse("note", NoteLongest)
        : damaged && string.IsNullOrWhiteSpace(note) ? HouseProblems.FixtureWhat.Refuse("note")
        : null;
}
