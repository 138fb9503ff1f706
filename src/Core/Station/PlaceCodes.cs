using NodaTime;

namespace VelvetGate.Core.Station;

/// <summary>
/// A code that stands at a machine: without a controller and without a screen beside it, scanning it says that whoever starts from a
/// phone stands there too. It is no secret and no safety system. House practice.
/// </summary>
public static class PlaceCodes
{
    public const int Length = 6;

    /// <summary>Crockford’s letters and figures: none that is taken for another.</summary>
    public const string Letters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";

    /// <summary>Scanned so long ago at most when a run starts; each start asks anew.</summary>
    public static readonly Duration GoodFor = Duration.FromMinutes(5);

    /// <summary>As somebody types it: small letters, O for 0, I and L for 1.</summary>
    public static string Read(string typed) =>
        typed.Trim().ToUpperInvariant().Replace('O', '0').Replace('I', '1').Replace('L', '1').Replace(" ", "", StringComparison.Ordinal);

    /// <param name="code">Of the machine; null where none was made, and none is asked for.</param>
    /// <param name="atScreen">Done at a screen that is enrolled at the machine.</param>
    public static bool Due(StationSession s, string? code, bool atScreen, Instant now) =>
        code is not null && !s.Controlled && !atScreen && (s.HereAt is not { } at || now - at > GoodFor);

    /// <param name="code">Of the machine; null where none was made.</param>
    public static Result<StationSession> Scanned(StationSession s, string typed, string? code, Instant now) =>
        code is not null && Read(typed) == code ? s with { HereAt = now } : StationProblems.HereWrong.Refuse("code");
}
