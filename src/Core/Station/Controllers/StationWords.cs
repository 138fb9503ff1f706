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

    /// <summary>What the screen says of a tap while somebody is tapped in.</summary>
    /// <param name="name">Of whoever tapped; for a hand-over, of whoever has the machine now.</param>
    public static string Tapped(TapMeans means, string name) =>
        means switch
        {
            TapMeans.Here => $"{name} is at this machine. To hand over, the other one taps within {Taps.HandOverWithin.TotalSeconds:0} s.",
            TapMeans.Supervises => $"{name} supervises, and taps again in {Taps.SupervisorEvery.TotalMinutes:0} min.",
            TapMeans.StandsBy => $"{name} stands by: what waited for them may go on for {Taps.StandsByFor.TotalSeconds:0} s.",
            TapMeans.TakesOver => $"Handed over to {name}.",
            _ => throw new ArgumentOutOfRangeException(nameof(means), means, "An offer is refused until the other one taps."),
        };

    public static string TappedIn(string name) => $"{name} is tapped in.";

    public static string Supervises(string name) => $"{name} supervises at this machine. Choose who runs.";

    /// <param name="until">The end of their duty, as the house’s clock shows it.</param>
    public static string OnDuty(string name, string until) => $"{name} is here, on duty until {until}.";

    public static string Learnt(string name) => $"Learnt: this fob is {name}’s.";
}
