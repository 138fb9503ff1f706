using NodaTime;

namespace VelvetGate.Core.Incidents;

/// <summary>Why somebody is thought to be inside.</summary>
public enum Presence
{
    OnDuty,

    /// <summary>On duty, and tapped in since at some machine.</summary>
    OnDutySeen,

    /// <summary>Tapped in at a machine, and not out again.</summary>
    TappedIn,
    FireWatch,
    Arrived,
    Booked,
    Supervises,
    Ran,
    Teaches,
    Learns,

    /// <summary>The adult of a class of the calendar.</summary>
    Leads,

    /// <summary>On the roll of a class.</summary>
    Class,
}

/// <param name="Place">The machine, or the room.</param>
/// <param name="Until">When that ends; for a run that is over, when it ended.</param>
/// <param name="Companions">How many came along.</param>
public sealed record Present(Presence How, MachineId? Place, PersonId PersonId, string Name, Instant Until, int Companions);

/// <summary>
/// The list for the meeting point: who is to be asked for. It knows taps, bookings, runs, inductions, the rota and fire watches;
/// whoever walked in without one is on no list, and its title says so.
/// </summary>
public static class HeadCount
{
    public const string Title = "Tapped in, booked or at work now. Others may be inside";

    /// <summary>A run that ended this recently: its person may still be there. House practice.</summary>
    public static readonly Duration RanWithin = Duration.FromMinutes(30);

    /// <summary>People, each once however many reasons there are, and whoever came along.</summary>
    public static int Of(IReadOnlyList<Present> present) =>
        present.Select(p => p.PersonId).Distinct().Count() + present.Sum(p => p.Companions);

    /// <param name="clock">An instant as the house’s clock shows it.</param>
    public static string Says(Present p, Func<Instant, string> clock) =>
        p.How switch
        {
            Presence.OnDuty => $"on duty until {clock(p.Until)}, has not tapped in",
            Presence.OnDutySeen => $"on duty until {clock(p.Until)}, has tapped in",
            Presence.TappedIn => $"tapped in, booked until {clock(p.Until)}{With(p.Companions)}",
            Presence.FireWatch => "fire watch",
            Presence.Arrived => $"booked until {clock(p.Until)}, has arrived{With(p.Companions)}",
            Presence.Booked => $"booked until {clock(p.Until)}, arrival not told{With(p.Companions)}",
            Presence.Supervises => $"supervises a booking until {clock(p.Until)}",
            Presence.Ran => $"ran until {clock(p.Until)}",
            Presence.Teaches => $"gives an induction until {clock(p.Until)}",
            Presence.Learns => $"induction until {clock(p.Until)}",
            Presence.Leads => $"leads a class until {clock(p.Until)}",
            _ => $"on the roll of a class until {clock(p.Until)}",
        };

    private static string With(int companions) =>
        companions switch
        {
            0 => "",
            1 => ", with 1 companion",
            _ => $", with {companions} companions",
        };
}
