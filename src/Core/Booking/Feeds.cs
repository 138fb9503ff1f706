using System.Security.Cryptography;
using System.Text;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Booking;

public enum FeedKind
{
    /// <summary>A person’s own bookings, those they supervise, their classes and duties.</summary>
    Mine,

    /// <summary>What stands on one machine, without names.</summary>
    Machine,

    /// <summary>Stewards on duty, closures and classes.</summary>
    Rota,

    /// <summary>The room today, on a screen on the wall: a page, not a calendar.</summary>
    Wall,

    /// <summary>What of upkeep is due on which day, on machines and room.</summary>
    Upkeep,
}

/// <summary>Feeds of machine time for calendars elsewhere: their secret addresses, and what they reach back and ahead.</summary>
public static class Feeds
{
    public const int MostOfOnePerson = 40;

    /// <summary>What is older than this is history, not a calendar.</summary>
    private const int BackDays = 60;

    /// <summary>So many entries at most: the soonest go in.</summary>
    public const int MostEntries = 10_000;

    public static Interval Reach(Instant now) => new(now - Duration.FromDays(BackDays), now + Duration.FromDays(Recurrence.HorizonDays));

    /// <returns>A secret of 160 bits, as a path carries it (base 32, RFC 4648, lower case).</returns>
    public static string Secret()
    {
        const string letters = "abcdefghijklmnopqrstuvwxyz234567";
        return RandomNumberGenerator.GetString(letters, 32);
    }

    /// <summary>The kind of a feed by its word.</summary>
    public static Result<FeedKind> Kind(string? word) =>
        Typed.Word<FeedKind>(word) is { } kind ? kind : BookingProblems.FeedKindBad.Refuse("kind");

    /// <returns>Null while it may be read.</returns>
    public static Refusal? MayRead(Instant? endedAt) => endedAt is null ? null : BookingProblems.FeedRevoked.Refuse();

    /// <summary>What is kept of a secret.</summary>
    public static byte[] Hash(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));

    /// <returns>Null when this feed may be made.</returns>
    /// <param name="staff">A screen on the wall is set up by staff.</param>
    public static Refusal? May(FeedKind kind, string? machine, bool machineKnown, int has, bool staff) =>
        kind == FeedKind.Wall && !staff ? BookingProblems.FeedWall.Refuse("kind")
        : kind == FeedKind.Machine && machine is null ? BookingProblems.FeedMachine.Refuse("machineId")
        : kind != FeedKind.Machine && machine is not null ? BookingProblems.FeedNoMachine.Refuse("machineId")
        : machine is not null && !machineKnown ? BookingProblems.FeedMachine.Refuse("machineId")
        : has >= MostOfOnePerson ? BookingProblems.FeedMany.Refuse(null, MostOfOnePerson)
        : null;

    public static string Name(FeedKind kind, string house, string? machine) =>
        kind switch
        {
            FeedKind.Mine => $"{house}: my machine time",
            FeedKind.Machine => $"{house}: {machine}",
            FeedKind.Upkeep => $"{house}: upkeep",
            _ => $"{house}: rota and closures",
        };
}
