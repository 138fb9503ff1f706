using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>Ages as houses keep them: a birth date, or only a band written down on a day.</summary>
public static class Ages
{
    public const int Adult = 18;

    /// <summary>Bands a house may keep instead of a birth date, by their lowest age.</summary>
    public static readonly IReadOnlyDictionary<string, int> Bands = new Dictionary<string, int>
    {
        ["under11"] = 0,
        ["11to13"] = 11,
        ["14to15"] = 14,
        ["16to17"] = 16,
    };

    /// <summary>
    /// Whole years on a day; null when no birth date is kept, which stands for an adult. Born on 29 February counts from 1 March in other
    /// years, the later reading.
    /// </summary>
    public static int? On(LocalDate? born, LocalDate day)
    {
        if (born is not { } date)
            return null;
        var hadBirthday = (day.Month, day.Day).CompareTo((date.Month, date.Day)) >= 0;
        return day.Year - date.Year - (hadBirthday ? 0 : 1);
    }

    /// <summary>Whole years for naming people. The house's day may differ by one from UTC's: it hides a name a day more or less.</summary>
    public static int? On(LocalDate? born, Instant at) => On(born, at.InUtc().Date);

    /// <summary>The latest birth date that a band allows, so that an age counted from it is never too high.</summary>
    /// <exception cref="KeyNotFoundException">No such band.</exception>
    public static LocalDate LatestBirth(string band, LocalDate writtenOn) => writtenOn.PlusYears(-Bands[band]);
}
