using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>
/// How long a sign-in lasts. Source: NIST SP 800-63B, section 4.2.3 (12 hours, 30 minutes without use, at the second level; from memory).
/// </summary>
public static class Sessions
{
    public static readonly Duration Longest = Duration.FromHours(12);

    /// <summary>Without use, on a device that others use too.</summary>
    public const int SharedIdleMinutes = 30;

    /// <summary>What takes or gives power wants the password given within this.</summary>
    public static readonly Duration Recent = Duration.FromMinutes(15);

    /// <summary>A session that ended is kept so long, for whoever looks back.</summary>
    public static readonly Duration Kept = Duration.FromDays(7);

    /// <summary>A few words for a list: which browser on what.</summary>
    /// <param name="userAgent">As the browser names itself; null for none.</param>
    public static string Device(string? userAgent)
    {
        if (string.IsNullOrWhiteSpace(userAgent))
            return "a program";
        var browser = First(
            userAgent,
            ("Firefox/", "Firefox"),
            ("Edg/", "Edge"),
            ("Chrome/", "Chrome"),
            ("Safari/", "Safari"),
            ("curl/", "a script")
        );
        var system = First(
            userAgent,
            ("Android", "Android"),
            ("iPhone", "a phone"),
            ("iPad", "a tablet"),
            ("Windows", "Windows"),
            ("Mac OS", "a Mac"),
            ("Linux", "Linux")
        );
        return browser is null ? "a program"
            : system is null ? browser
            : $"{browser} on {system}";
    }

    private static string? First(string text, params (string Sign, string Name)[] known) =>
        known.FirstOrDefault(k => text.Contains(k.Sign, StringComparison.Ordinal)).Name;
}
