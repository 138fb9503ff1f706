using NodaTime;
using VelvetGate.Core.Gating.Posts;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Gating;

/// <summary>What the calendar and the limits of the house say about a time, whatever the job.</summary>
public static class TimeRules
{
    /// <param name="now">When it is asked for.</param>
    /// <returns>What is against it; empty when the time may be booked.</returns>
    public static IReadOnlyList<Reason> Against(GateQuestion ask, Instant now, HouseRules rules, MachineSpec machine, TimeFacts time)
    {
        // Nothing is known but the time, and the post of time reads nothing else.
        var facts = new GateFacts(
            V: GateFacts.CurrentVersion,
            Now: now,
            Rules: rules,
            Person: new PersonFacts(Name: "", Active: default, Agreement: default, Pauses: default, Attending: default, AgeYears: default),
            Training: new TrainingFacts(
                Certificates: default,
                LastUse: default,
                SupervisorTrains: [],
                SupervisorCertified: [],
                SupervisorBusy: []
            ),
            Sheets: [],
            Drawings: [],
            Machine: new MachineFacts(Spec: machine, Stops: default, Upkeep: default, FixturesHere: [], Readings: default, Tested: []),
            Time: time,
            Room: new RoomFacts(FireKit: default, OnDuty: default, RotaUntil: now, Eyewear: default)
        );
        var length = new BookingLength([new BookingPart(PartKind.CleanDown, rules.CleanDownMinutes)], 0, 0);
        return [.. TimePost.Read(ask with { Items = [] }, facts, length).Reasons.Where(r => r.Standing >= Standing.Ask)];
    }
}
