using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Run;

namespace VelvetGate.Core.Station;

/// <summary>Who may begin a session, and who may act in one.</summary>
public static class StationDoor
{
    /// <param name="start">Of the person’s own booking here that is on or comes next; null for none.</param>
    /// <returns>Null where they may tap in.</returns>
    public static Refusal? MayTapIn(string machine, Instant? start, HouseRules rules, Instant now) =>
        start is not { } begins ? StationProblems.FobNoBooking.Refuse(null, machine)
        : now < begins - RunLog.ArriveFrom
            ? StationProblems.FobEarly.Refuse(null, $"at {rules.Clock.At(begins):HH:mm}", RunLog.ArriveFrom.TotalMinutes)
        : null;

    /// <param name="there">Session that is open at the machine; null for none.</param>
    /// <param name="elsewhere">Name of another machine at which the person is tapped in; null for none.</param>
    /// <param name="against">What the gate has against it now.</param>
    public static Refusal? MayBegin(StationSession? there, string? elsewhere, IReadOnlyList<Reason> against, Instant now) =>
        there is not null && !IsLeft(there, now) ? NotYours("Somebody else")
        : elsewhere is not null ? StationProblems.FobElsewhere.Refuse(null, elsewhere)
        : against.Count > 0 ? StationProblems.StationShut.Refuse(null, string.Join(" ", against.Select(r => r.Text)))
        : null;

    /// <summary>Somebody may book the next quarter of an hour, and begin.</summary>
    public static bool TakesWalkUps(HouseRules rules) => rules.WalkUp && rules.SameDayBooking;

    /// <summary>A learner is chosen from the bookings, without a fob of their own, while their supervisor stands there.</summary>
    /// <param name="supervisor">Of their booking; null for none.</param>
    /// <param name="there">Who supervises at the machine, and since when; null for nobody.</param>
    /// <param name="by">Who chooses; null for a screen at the machine.</param>
    public static Refusal? MayChoose(PersonId? supervisor, (PersonId Person, Instant At)? there, PersonId? by, Instant now) =>
        supervisor is { } who && there is { } tap && tap.Person == who && (by is null || by == who) && now - tap.At <= Taps.SupervisorEvery
            ? null
            : StationProblems.LearnerSupervisor.Refuse(null, Taps.SupervisorEvery.TotalMinutes);

    /// <summary>Head and fixture are left to the last of the day, where the house says so.</summary>
    /// <param name="comesAfter">Somebody has the machine later on the same day.</param>
    public static bool ShortClosing(HouseRules rules, bool comesAfter) => rules.Closing == ClosingSchool.LastOfDay && comesAfter;

    /// <summary>A tap of somebody else is kept for a moment, and refused until the first one taps too.</summary>
    /// <param name="there">Name of whoever is tapped in.</param>
    public static Refusal NotYours(string there) => StationProblems.FobNotYours.Refuse(null, there, Taps.HandOverWithin.TotalSeconds);

    /// <summary>
    /// A session whose time is over and that nobody ended: the next person does, and is told what it left. A run that is not told is waited
    /// for, for as long as any run could take. House practice.
    /// </summary>
    public static bool IsLeft(StationSession there, Instant now) =>
        now >= there.Until + (there.Step is StationStep.Running or StationStep.Wait or StationStep.Unload ? LeftRunningFor : Duration.Zero);

    private static readonly Duration LeftRunningFor = Duration.FromMinutes(30);

    /// <summary>Anybody says that the beam is off; everything else is the person’s own, or a steward’s.</summary>
    /// <param name="session">Open at the machine; null for none.</param>
    /// <param name="by">Null for somebody who is not signed in.</param>
    /// <param name="seen">The session on the screen of whoever acts.</param>
    public static Refusal? MayAct(StationSession? session, Guid? seen, Deed deed, PersonId? by, bool steward) =>
        session is null || session.Id != seen ? StationProblems.StationMoved.Refuse()
        : session.Person != by && deed != Deed.Stop && !steward ? StationProblems.StationNotYours.Refuse()
        : null;

    /// <param name="version">That was on the screen.</param>
    /// <param name="deed">A press and a stop are good on any view of the session: nobody waits for the newest.</param>
    public static Result<StationSession> MayGoOn(StationSession? session, int version, Deed deed) =>
        session is null ? StationProblems.StationNobody.Refuse()
        : (session.Version != version && deed is not (Deed.Press or Deed.Stop or Deed.Call)) || session.TappedOut is not null
            ? StationProblems.StationMoved.Refuse()
        : session;
}
