using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Booking;

/// <summary>Who follows on the machine the same day: so much stays on at the end, or goes off.</summary>
/// <param name="At">Start of the booking that follows; null when nobody comes.</param>
public sealed record Following(Instant? At)
{
    /// <summary>Whoever comes so soon waits for the one before. House practice.</summary>
    public static readonly Duration AtOnce = Duration.FromMinutes(30);

    public bool FollowsAtOnce(Instant end) => At is { } at && at - end <= AtOnce;

    /// <summary>Who comes next, and so what to leave on or switch off.</summary>
    public string Says(HouseRules rules) =>
        At is { } at ? $"The next comes at {rules.Clock.At(at):HH:mm}. {LeftOn.ForTheNext}." : $"{LeftOn.Nothing}.";
}

/// <summary>The last minutes of a booking: whoever is on it hears of them, and whoever comes next.</summary>
public static class Ending
{
    public static readonly Duration Ahead = Duration.FromMinutes(10);

    /// <summary>To whoever is still on the machine.</summary>
    public static (string Title, string Body) ToRunner(string machine, Instant end, int cleanDownMinutes, Following next, HouseRules rules)
    {
        var clock = rules.Clock;
        var start = end - Duration.FromMinutes(cleanDownMinutes);
        var follows = next.FollowsAtOnce(end)
            ? $"Begin nothing that does not end before {clock.At(start):HH:mm}."
            : "Make the booking longer if you need to.";
        return (
            $"Your time on {machine} ends at {clock.At(end):HH:mm}",
            $"Cleaning down takes {cleanDownMinutes} min of it. {follows} {next.Says(rules)}"
        );
    }

    /// <summary>To whoever comes next, while somebody is still on the machine.</summary>
    public static (string Title, string Body) ToNext(string machine, Instant end, Instant start, HouseRules rules) =>
        (
            $"{machine} is still in use",
            $"Your time begins at {rules.Clock.At(start):HH:mm}; the one before you has it until {rules.Clock.At(end):HH:mm} "
                + "and was told so. "
                + "A run that is on is waited for, not stopped: if they are late, a steward helps."
        );
}
