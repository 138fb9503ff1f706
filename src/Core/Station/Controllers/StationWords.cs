using NodaTime;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>Sentences that people act on in a hurry.</summary>
public static class StationWords
{
    /// <param name="seen">When the controller saw the beam off; null where it has not answered.</param>
    public static string Stopped(string machine, Instant? seen, HouseClock? clock) =>
        seen is { } at && clock is not null
            ? $"Beam off, seen {clock.At(at):HH:mm:ss}. The head may go on moving."
            : $"This screen cannot stop {machine}. Press {machine}’s own red button.";
}
