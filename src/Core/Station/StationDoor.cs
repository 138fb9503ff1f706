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

    /// <param name="there">Booking of the session that is open; null for none.</param>
    /// <param name="against">What the gate has against it now.</param>
    public static Refusal? MayBegin(Guid? there, IReadOnlyList<Reason> against) =>
        there is not null ? StationProblems.FobNotYours.Refuse(null, "Somebody else")
        : against.Count > 0 ? StationProblems.StationShut.Refuse(null, string.Join(" ", against.Select(r => r.Text)))
        : null;

    /// <summary>Anybody says that the beam is off; everything else is the person’s own, or a steward’s.</summary>
    /// <param name="session">Open at the machine; null for none.</param>
    /// <param name="seen">The session on the screen of whoever acts.</param>
    public static Refusal? MayAct(StationSession? session, Guid? seen, Deed deed, PersonId by, bool steward) =>
        session is null || session.Id != seen ? StationProblems.StationMoved.Refuse()
        : session.Person != by && deed != Deed.Stop && !steward ? StationProblems.StationNotYours.Refuse()
        : null;

    /// <param name="version">That was on the screen.</param>
    public static Result<StationSession> MayGoOn(StationSession? session, int version) =>
        session is null ? StationProblems.StationNobody.Refuse()
        : session.Version != version || session.TappedOut is not null ? StationProblems.StationMoved.Refuse()
        : session;
}
