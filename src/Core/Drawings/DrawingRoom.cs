using System.Text.RegularExpressions;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>
/// How much room drawings may take, in bytes of their files. Source: house practice; a disk that is full stops the record too.
/// </summary>
public static partial class DrawingRoom
{
    /// <summary>
    /// A name that many drawings could have: the queue at the machine shows nothing else, and the wrong one is run. Common practice.
    /// </summary>
    public static bool SaysLittle(string name) => Vague.IsMatch(Path.GetFileNameWithoutExtension(name));

    [GeneratedRegex(
        @"^(untitled|unnamed|drawing|document|new( document| file)?|file|image|img|scan|export|test|copy|final|design|page|layout)?"
            + @"[\s_\-()]*\d*[\s_\-()]*(copy)?[\s_\-()]*\d*[)]?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Vague { get; }

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
