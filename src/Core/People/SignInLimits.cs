using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>
/// How guessing is slowed down. Failures are counted in a row; a success forgets them. Source: house practice, after OWASP ASVS 4.0.3,
/// 2.2.1.
/// </summary>
public static class SignInLimits
{
    /// <summary>Longest sign-in name taken, in characters.</summary>
    public const int LongestName = 100;

    /// <summary>Longest password taken, in characters: hashing a book would serve nobody.</summary>
    public const int LongestPassword = 200;

    /// <summary>Failures in a row that cost nothing, for one account or one device.</summary>
    public const int FreeForAccount = 9;

    /// <summary>Failures that cost nothing from one address: a school signs in from one.</summary>
    public const int FreeForAddress = 100;

    /// <summary>Failures are forgotten after so long without another.</summary>
    public static readonly Duration Forgotten = Duration.FromHours(24);

    private static readonly Duration First = Duration.FromSeconds(30);
    private static readonly Duration Longest = Duration.FromMinutes(15);

    /// <summary>
    /// The pause after so many failures in a row: none, then half a minute, doubled each time, a quarter of an hour at most.
    /// </summary>
    public static Duration PauseAfter(int failures, int free) =>
        failures <= free ? Duration.Zero : Duration.Min(Longest, First * Math.Pow(2, Math.Min(failures - free - 1, 10)));
}
