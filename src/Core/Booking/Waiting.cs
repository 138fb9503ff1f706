using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Booking;

/// <summary>
/// Rules of the waiting list: how long a freed time is kept for one person before it goes to the next. Source: house practice; who is
/// asked at night answers in the morning.
/// </summary>
public static class Waiting
{
    public const int MostWaiting = 5;

    /// <summary>A time that begins sooner than this is kept a short while only.</summary>
    public static readonly Duration Near = Duration.FromHours(4);
    public static readonly Duration NearHold = Duration.FromMinutes(15);
    public static readonly Duration FarHold = Duration.FromHours(2);

    private static readonly LocalTime Morning = new(7, 0);
    private static readonly LocalTime Night = new(22, 0);

    /// <summary>Who has few hours that week comes before who waits longer.</summary>
    public static bool ByHours(HouseRules rules) => rules.WaitingOrder == WaitingOrder.FewestHours;

    /// <summary>Nobody is offered anything at night.</summary>
    public static bool MayOffer(Instant now, HouseRules rules) => !IsNight(now, rules);

    /// <summary>The first start that can be offered: nobody is offered a time that is on before they can answer.</summary>
    public static Instant FirstStart(Instant now) => now + NearHold;

    /// <summary>How long an offer holds: a quarter of an hour where it begins soon; else two hours, or half the time left if that is less.
    /// One that would run out at night holds until the morning, if that leaves time to come.</summary>
    public static Instant Until(Instant made, Instant start, HouseRules rules)
    {
        var left = start - made;
        if (left <= Near)
            return made + NearHold;
        var until = made + Duration.Min(FarHold, left / 2);
        if (!IsNight(until, rules))
            return until;
        var at = rules.Clock.At(until);
        var morning = rules.Clock.Between(at.TimeOfDay < Morning ? at.Date : at.Date.PlusDays(1), Morning, Night).Start;
        return morning + NearHold <= start ? morning : until;
    }

    /// <summary>Which of the house’s machines somebody waits for.</summary>
    /// <param name="named">Null takes all of them.</param>
    public static Result<List<MachineId>> Machines(IReadOnlyList<string>? named, IReadOnlyList<MachineId> here)
    {
        var machines = here.Where(m => named?.Contains(m.Value) != false).ToList();
        return machines.Count == 0 ? BookingProblems.WaitingMachines.Refuse("machineIds") : machines;
    }

    /// <param name="waits">How many entries the person has already.</param>
    /// <returns>Null when somebody may wait for a time in this window.</returns>
    public static Refusal? May(Instant from, Instant to, int waits, Instant now) =>
        to <= from ? BookingProblems.WaitingWindow.Refuse("to")
        : to <= now ? BookingProblems.WaitingPast.Refuse("to")
        : waits >= MostWaiting ? BookingProblems.WaitingMany.Refuse(null, MostWaiting)
        : null;

    /// <param name="ended">It was taken, declined, or went to the next.</param>
    /// <returns>Null when the offer may be taken.</returns>
    public static Refusal? MayTake(bool ended, Instant start, Instant until, Instant now) =>
        ended || until <= now ? BookingProblems.OfferOver.Refuse()
        : start <= now ? BookingProblems.OfferLate.Refuse()
        : null;

    /// <summary>Why waiting would not help on any of these machines: what is against it passes with no time.</summary>
    /// <param name="machines">What was found on each that the person would take.</param>
    /// <returns>Null when it may help.</returns>
    public static Refusal? Helps(IReadOnlyList<MachineTimes> machines)
    {
        var against = machines.Select(m => m.Reasons.Where(r => !Passes.Contains(r.Code)).ToList()).ToList();
        return against.Exists(a => a.Count == 0) ? null : BookingProblems.WaitingShut.Refuse(null, against.MinBy(a => a.Count)![0].Text);
    }

    /// <summary>What another time may clear.</summary>
    private static readonly HashSet<string> Passes =
    [
        .. new[]
        {
            Codes.TimeTaken,
            Codes.PersonElsewhere,
            Codes.TimeClass,
            Codes.TimeClassFull,
            Codes.TimeClosure,
            Codes.TimeClosed,
            Codes.TimeLastRun,
            Codes.TimeSameDay,
            Codes.TimeWalkUp,
            Codes.TimeLead,
            Codes.TimeLimit,
            Codes.TimeNoShows,
            Codes.RoomNoSupervisor,
            Codes.RoomRotaOpen,
        }.Select(r => r.Code),
    ];

    private static bool IsNight(Instant at, HouseRules rules)
    {
        var time = rules.Clock.At(at).TimeOfDay;
        return time >= Night || time < Morning;
    }
}
