using NodaTime;

namespace VelvetGate.Core.Booking;

/// <summary>How long a refused try is kept, and how many of one person.</summary>
public static class Tries
{
    /// <summary>Long enough for eight weeks to be played again, and no longer than that needs. House practice.</summary>
    public static readonly Duration Kept = Duration.FromDays(90);

    /// <summary>The same asked again so soon is one try.</summary>
    public static readonly Duration SameWithin = Duration.FromHours(1);

    /// <summary>More than this in a day no person asks for.</summary>
    public const int MostADay = 100;
}
