using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>
/// How much room drawings may take, in bytes of their files. Source: house practice; a disk that is full stops the record too.
/// </summary>
public static class DrawingRoom
{
    /// <summary>200 MB for one person: some hundred usual drawings.</summary>
    public const long PerPerson = 200L * 1024 * 1024;

    public const int DrawingsPerPerson = 500;

    /// <summary>10 GB for the house.</summary>
    public const long PerHouse = 10L * 1024 * 1024 * 1024;

    /// <param name="kept">Bytes a person keeps.</param>
    /// <param name="house">Bytes the house keeps.</param>
    /// <returns>Why another file of <paramref name="bytes"/> is not kept; null when it is.</returns>
    public static Refusal? Refused(long kept, int drawings, long house, long bytes) =>
        kept + bytes > PerPerson
            ? new(
                DrawingsProblems.DrawingsFull,
                $"You keep {Mb(kept)} MB of drawings; there is room for {Mb(PerPerson)} MB. Delete some that you no longer need.",
                "file"
            )
        : drawings >= DrawingsPerPerson ? DrawingsProblems.DrawingsFull.Refuse("file", drawings)
        : house + bytes > PerHouse ? DrawingsProblems.HouseFull.Refuse("file")
        : null;

    /// <summary>
    /// Drawings put up before this go, unless a booking or a waiting question stands on them: whole months of the house's calendar.
    /// </summary>
    public static Instant KeptSince(Instant now, HouseRules rules) =>
        rules.Clock.DateOf(now).PlusMonths(-rules.DrawingMonths).AtStartOfDayInZone(rules.Clock.Zone).ToInstant();

    private static long Mb(long bytes) => (bytes + 1024 * 1024 - 1) / (1024 * 1024);
}
