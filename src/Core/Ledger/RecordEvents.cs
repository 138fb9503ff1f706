namespace VelvetGate.Core.Ledger;

/// <summary>Whose standing bookings are looked at again after an entry of the record.</summary>
public enum Impact
{
    /// <summary>It opens and shuts nothing for anybody.</summary>
    Nobody,

    /// <summary>The person it tells of, and the others it names.</summary>
    People,

    /// <summary>Whoever booked the machine it tells of.</summary>
    Machine,
    Everybody,
}

/// <summary>One kind of entry in the record.</summary>
/// <param name="Kind">As it is chained: never renamed, since old entries keep it.</param>
/// <param name="Words">As people read it.</param>
public sealed record RecordEvent(string Kind, string Words, Impact Impact);

/// <summary>Every kind of entry, once: what is chained, what people read, and whose bookings it may change. There is no default.</summary>
public static class RecordEvents
{
    public static readonly RecordEvent StationTappedIn = new("station.tappedIn", "Tapped in at a machine", Impact.Nobody);
    public static readonly RecordEvent StationBeamOn = new("station.beamOn", "Start of a run, at the machine", Impact.Nobody);
    public static readonly RecordEvent StationBeamOff = new("station.beamOff", "End of a run, at the machine", Impact.Nobody);
    public static readonly RecordEvent StationLapsed = new("station.lapsed", "Nobody pressed in time", Impact.Nobody);
    public static readonly RecordEvent ControllerEnrolled = new("controller.enrolled", "A machine’s controller enrolled", Impact.Nobody);
    public static readonly RecordEvent ControllerRevoked = new("controller.revoked", "A machine’s controller revoked", Impact.Nobody);
    public static readonly RecordEvent WatchHandedOver = new("watch.handedOver", "Handed over at a machine", Impact.Nobody);
    public static readonly RecordEvent FobLearnt = new("fob.learnt", "Fob learnt", Impact.Nobody);
    public static readonly RecordEvent FobRevoked = new("fob.revoked", "Fob revoked", Impact.Nobody);
    public static readonly RecordEvent ScreenEnrolled = new("screen.enrolled", "A screen enrolled at a machine", Impact.Nobody);
    public static readonly RecordEvent ScreenRevoked = new("screen.revoked", "A screen at a machine revoked", Impact.Nobody);
    public static readonly RecordEvent PaperAdded = new("paper.added", "A paper put at a machine", Impact.Nobody);
    public static readonly RecordEvent PaperRemoved = new("paper.removed", "A paper taken from a machine", Impact.Nobody);
    public static readonly RecordEvent StationTappedOut = new("station.tappedOut", "Tapped out", Impact.Nobody);

    public static readonly RecordEvent BookingMade = new("booking.made", "Booking made", Impact.Nobody);
    public static readonly RecordEvent BookingMoved = new("booking.moved", "Booking moved", Impact.Nobody);
    public static readonly RecordEvent BookingExtended = new("booking.extended", "Booking made longer", Impact.Nobody);
    public static readonly RecordEvent BookingSwapped = new("booking.swapped", "Bookings swapped", Impact.Nobody);
    public static readonly RecordEvent BookingHandedOver = new("booking.handedOver", "Booking handed over", Impact.Nobody);
    public static readonly RecordEvent FixtureOut = new("fixture.out", "Fixture handed out", Impact.Everybody);
    public static readonly RecordEvent FixtureBack = new("fixture.back", "Fixture back", Impact.Everybody);
    public static readonly RecordEvent FixtureDamaged = new("fixture.damaged", "Fixture back, damaged", Impact.Everybody);
    public static readonly RecordEvent FixtureRight = new("fixture.right", "Fixture in order again", Impact.Everybody);
    public static readonly RecordEvent BookingArrived = new("booking.arrived", "Arrived", Impact.Nobody);
    public static readonly RecordEvent BookingCancelled = new("booking.cancelled", "Booking cancelled", Impact.People);
    public static readonly RecordEvent BookingAtRisk = new("booking.atRisk", "Booking at risk", Impact.Nobody);
    public static readonly RecordEvent BookingOpenAgain = new("booking.openAgain", "Booking open again", Impact.Nobody);

    public static readonly RecordEvent GateAsked = new("gate.asked", "Request put to the stewards", Impact.Nobody);
    public static readonly RecordEvent GateWithdrawn = new("gate.withdrawn", "Request withdrawn", Impact.Nobody);
    public static readonly RecordEvent GateRefused = new("gate.refused", "Request refused", Impact.Nobody);
    public static readonly RecordEvent GateExpired = new("gate.expired", "Request not answered in time", Impact.Nobody);
    public static readonly RecordEvent GateLifted = new("gate.lifted", "Reason lifted", Impact.People);
    public static readonly RecordEvent GateTakenBack = new("gate.takenBack", "Lift taken back", Impact.People);

    public static readonly RecordEvent PersonPaused = new("person.paused", "Person paused", Impact.People);
    public static readonly RecordEvent PersonReleased = new("person.released", "Pause ended", Impact.People);
    public static readonly RecordEvent PersonReleaseAgreed = new("person.releaseAgreed", "End of a pause agreed to", Impact.Nobody);
    public static readonly RecordEvent PersonRoleGiven = new("person.roleGiven", "Role given", Impact.People);
    public static readonly RecordEvent PersonRoleEnded = new("person.roleEnded", "Role ended", Impact.People);
    public static readonly RecordEvent PersonAgreed = new("person.agreed", "House agreement signed", Impact.People);
    public static readonly RecordEvent PersonConsented = new("person.consented", "Guardian’s consent saved", Impact.People);
    public static readonly RecordEvent PersonConsentEnded = new("person.consentEnded", "Guardian’s consent ended", Impact.People);
    public static readonly RecordEvent PersonAccountEnds = new("person.accountEnds", "End of an account", Impact.People);
    public static readonly RecordEvent PersonLegalHold = new("person.legalHold", "Legal hold set", Impact.Nobody);
    public static readonly RecordEvent PersonLegalHoldEnded = new("person.legalHoldEnded", "Legal hold ended", Impact.Nobody);
    public static readonly RecordEvent PersonInvited = new("person.invited", "Link to set a password made", Impact.Nobody);
    public static readonly RecordEvent PersonInviteAgreed = new("person.inviteAgreed", "Link agreed to", Impact.Nobody);
    public static readonly RecordEvent PersonPasswordSet = new("person.passwordSet", "Password set", Impact.Nobody);
    public static readonly RecordEvent PersonSecondFactorSet = new("person.secondFactorSet", "Code from a phone set up", Impact.Nobody);
    public static readonly RecordEvent PersonSecondFactorRemoved = new(
        "person.secondFactorRemoved",
        "Code from a phone taken off",
        Impact.Nobody
    );
    public static readonly RecordEvent PersonErased = new("person.erased", "Person erased", Impact.Nobody);
    public static readonly RecordEvent PersonTextsErased = new("person.textsErased", "Texts erased", Impact.Nobody);

    public static readonly RecordEvent PeopleAdded = new("people.added", "People added", Impact.Nobody);

    public static readonly RecordEvent ConductWritten = new("conduct.written", "Conduct entry written", Impact.Nobody);
    public static readonly RecordEvent ConductAppealed = new("conduct.appealed", "Appeal put", Impact.Nobody);
    public static readonly RecordEvent ConductHeard = new("conduct.heard", "Appeal heard", Impact.Nobody);

    public static readonly RecordEvent TrainingRead = new("training.read", "Page read", Impact.People);
    public static readonly RecordEvent TrainingPublished = new("training.published", "Page changed", Impact.Everybody);
    public static readonly RecordEvent TrainingReworded = new("training.reworded", "Page reworded", Impact.Nobody);
    public static readonly RecordEvent TrainingPageAdded = new("training.pageAdded", "Page added", Impact.Nobody);
    public static readonly RecordEvent TrainingQuestionChanged = new("training.questionChanged", "Question changed", Impact.Nobody);

    public static readonly RecordEvent QuizBegun = new("quiz.begun", "Quiz begun", Impact.Nobody);
    public static readonly RecordEvent QuizEnded = new("quiz.ended", "Quiz ended", Impact.People);

    public static readonly RecordEvent PracticalBegun = new("practical.begun", "Practical begun", Impact.Nobody);
    public static readonly RecordEvent PracticalEnded = new("practical.ended", "Practical ended", Impact.People);
    public static readonly RecordEvent PracticalPublished = new("practical.published", "Practical form changed", Impact.Everybody);
    public static readonly RecordEvent PracticalReworded = new("practical.reworded", "Practical form reworded", Impact.Nobody);

    public static readonly RecordEvent InductionPlanned = new("induction.planned", "Induction planned", Impact.Nobody);
    public static readonly RecordEvent InductionCalledOff = new("induction.calledOff", "Induction called off", Impact.Everybody);
    public static readonly RecordEvent InductionPlaced = new("induction.placed", "Place taken at an induction", Impact.Nobody);
    public static readonly RecordEvent InductionLeft = new("induction.left", "Place at an induction given back", Impact.Nobody);
    public static readonly RecordEvent InductionCalled = new("induction.called", "Roll called", Impact.Nobody);

    public static readonly RecordEvent OutsideRecorded = new("outside.recorded", "Certificate from elsewhere recorded", Impact.Nobody);

    public static readonly RecordEvent TrainingSignedOff = new("training.signedOff", "Signed off", Impact.People);
    public static readonly RecordEvent TrainingPaperEntered = new("training.paperEntered", "Earlier paper entered", Impact.People);
    public static readonly RecordEvent TrainingFounded = new("training.founded", "Founding sign-off saved", Impact.People);
    public static readonly RecordEvent TrainingConfirmed = new("training.confirmed", "Founding sign-off confirmed", Impact.People);
    public static readonly RecordEvent TrainingReview = new("training.review", "Certificate under review", Impact.People);
    public static readonly RecordEvent TrainingSuspended = new("training.suspended", "Certificate suspended", Impact.People);
    public static readonly RecordEvent TrainingReinstated = new("training.reinstated", "Certificate counts again", Impact.People);
    public static readonly RecordEvent TrainingHoldAgreed = new("training.holdAgreed", "Reinstating agreed to", Impact.Nobody);
    public static readonly RecordEvent TrainingPathSet = new("training.pathSet", "Path changed", Impact.Everybody);
    public static readonly RecordEvent TrainingPathPlanned = new("training.pathPlanned", "Path planned", Impact.Nobody);
    public static readonly RecordEvent TrainingReminded = new("training.reminded", "People told of what lapses", Impact.Nobody);

    public static readonly RecordEvent RunLogged = new("run.logged", "Run logged", Impact.People);
    public static readonly RecordEvent RunConfirmed = new("run.confirmed", "Supervised run confirmed", Impact.People);
    public static readonly RecordEvent RunLookedAt = new("run.lookedAt", "Run looked at", Impact.People);

    public static readonly RecordEvent IncidentTold = new("incident.told", "Incident told", Impact.Nobody);
    public static readonly RecordEvent IncidentCarriedOver = new("incident.carriedOver", "Old incidents carried over", Impact.Nobody);
    public static readonly RecordEvent IncidentChanged = new("incident.changed", "Incident described anew", Impact.Nobody);
    public static readonly RecordEvent IncidentWords = new("incident.words", "Words added to an incident", Impact.Nobody);
    public static readonly RecordEvent IncidentInjury = new("incident.injury", "Injury written down", Impact.Nobody);
    public static readonly RecordEvent IncidentPhoto = new("incident.photo", "Photo added to an incident", Impact.Nobody);
    public static readonly RecordEvent IncidentPhotoOff = new("incident.photoOff", "Photo taken off an incident", Impact.Nobody);
    public static readonly RecordEvent IncidentHeld = new("incident.held", "Hold after an incident set", Impact.Everybody);
    public static readonly RecordEvent IncidentHoldEnded = new("incident.holdEnded", "Hold after an incident ended", Impact.Everybody);
    public static readonly RecordEvent IncidentHoldRefused = new("incident.holdRefused", "Proposed hold not needed", Impact.Nobody);
    public static readonly RecordEvent IncidentCauses = new("incident.causes", "Causes of an incident ticked", Impact.Nobody);
    public static readonly RecordEvent IncidentAction = new("incident.action", "Action after an incident set", Impact.Nobody);
    public static readonly RecordEvent IncidentActionDone = new("incident.actionDone", "Action after an incident done", Impact.Nobody);
    public static readonly RecordEvent IncidentWatchBegun = new("incident.watchBegun", "Fire watch begun", Impact.Nobody);
    public static readonly RecordEvent IncidentLooked = new("incident.looked", "Look of a fire watch made", Impact.Nobody);
    public static readonly RecordEvent IncidentWatchCalled = new(
        "incident.watchCalled",
        "Look not answered, stewards called",
        Impact.Nobody
    );
    public static readonly RecordEvent IncidentLesson = new("incident.lesson", "Teaching case published", Impact.Nobody);
    public static readonly RecordEvent IncidentClosed = new("incident.closed", "Incident closed", Impact.Nobody);
    public static readonly RecordEvent IncidentReopened = new("incident.reopened", "Incident reopened", Impact.Nobody);

    public static readonly RecordEvent NearMissesTold = new("incident.nearMisses", "Near misses of a half day or week", Impact.Nobody);
    public static readonly RecordEvent NearMissStruck = new("incident.nearMissStruck", "Names struck from a near miss", Impact.Nobody);
    public static readonly RecordEvent NearMissLooked = new(
        "incident.nearMissLooked",
        "Machine looked at after a near miss",
        Impact.Machine
    );

    public static readonly RecordEvent SheetRegistered = new("sheet.registered", "Sheets registered", Impact.Nobody);
    public static readonly RecordEvent SheetEvidence = new("sheet.evidence", "Evidence added to a sheet", Impact.Nobody);
    public static readonly RecordEvent SheetMoreWanted = new("sheet.moreWanted", "More evidence wanted for a sheet", Impact.Everybody);
    public static readonly RecordEvent SheetCleared = new("sheet.cleared", "Sheets cleared", Impact.Everybody);
    public static readonly RecordEvent SheetRefused = new("sheet.refused", "Sheets refused", Impact.Everybody);
    public static readonly RecordEvent SheetReported = new("sheet.reported", "Sheet reported", Impact.Everybody);
    public static readonly RecordEvent SheetReleased = new("sheet.released", "Sheet out of quarantine", Impact.Everybody);
    public static readonly RecordEvent SheetOffcut = new("sheet.offcut", "Offcut given a tag", Impact.Everybody);
    public static readonly RecordEvent SheetRetired = new("sheet.retired", "Sheet used up", Impact.Everybody);

    public static readonly RecordEvent RulingRequested = new("ruling.requested", "Material asked for", Impact.Nobody);
    public static readonly RecordEvent RulingAnswered = new("ruling.answered", "Request for a material answered", Impact.Nobody);
    public static readonly RecordEvent RulingProposed = new("ruling.proposed", "Ruling proposed", Impact.Nobody);
    public static readonly RecordEvent RulingRefused = new("ruling.refused", "Ruling refused", Impact.Nobody);
    public static readonly RecordEvent RulingWithdrawn = new("ruling.withdrawn", "Proposed ruling withdrawn", Impact.Nobody);
    public static readonly RecordEvent RulingChanged = new("ruling.changed", "Ruling changed", Impact.Everybody);

    public static readonly RecordEvent IdentificationFlameTested = new("identification.flameTested", "Flame test made", Impact.Nobody);

    public static readonly RecordEvent SettingAdded = new("setting.added", "Setting added to the library", Impact.Nobody);
    public static readonly RecordEvent TestPieceMade = new("piece.made", "Test piece made", Impact.Nobody);
    public static readonly RecordEvent TestPieceTold = new("piece.told", "Results of a test piece told", Impact.Machine);
    public static readonly RecordEvent SettingEnded = new("setting.ended", "Setting taken out of the library", Impact.Machine);

    public static readonly RecordEvent DrawingColoured = new("drawing.coloured", "Colour of a drawing given its operation", Impact.People);
    public static readonly RecordEvent DrawingDeleted = new("drawing.deleted", "Drawing deleted", Impact.Nobody);

    public static readonly RecordEvent MachineAdded = new("machine.added", "Machine added", Impact.Machine);
    public static readonly RecordEvent MachineTimes = new("machine.times", "Run times of a machine corrected", Impact.Machine);
    public static readonly RecordEvent MachineChanged = new("machine.changed", "Form of a machine changed", Impact.Machine);
    public static readonly RecordEvent MachineStopped = new("machine.stopped", "Machine stopped", Impact.Machine);
    public static readonly RecordEvent MachineReturned = new("machine.returned", "Machine returned", Impact.Machine);
    public static readonly RecordEvent MachineReturnAgreed = new("machine.returnAgreed", "Return agreed to", Impact.Nobody);
    public static readonly RecordEvent MachineTried = new("machine.tried", "Machine tried after work on it", Impact.Nobody);
    public static readonly RecordEvent MachineServiced = new("machine.serviced", "Work on a machine", Impact.Machine);
    public static readonly RecordEvent MachineRead = new("machine.read", "Readings of a machine", Impact.Machine);
    public static readonly RecordEvent MachineSetUp = new("machine.setUp", "Commissioning sheet of a machine written", Impact.Machine);
    public static readonly RecordEvent MachineAfterBreak = new("machine.afterBreak", "Machine looked at after a break", Impact.Machine);
    public static readonly RecordEvent MachineUpkeepPlanned = new("machine.upkeepPlanned", "Upkeep of a machine planned", Impact.Machine);
    public static readonly RecordEvent RoomUpkeepPlanned = new("room.upkeepPlanned", "Upkeep of the room planned", Impact.Nobody);
    public static readonly RecordEvent RoomUpkeepDone = new("room.upkeepDone", "Upkeep of the room done", Impact.Nobody);
    public static readonly RecordEvent UpkeepDue = new("upkeep.due", "Upkeep due", Impact.Machine);
    public static readonly RecordEvent FaultTold = new("fault.told", "Fault told", Impact.Machine);
    public static readonly RecordEvent FaultJudged = new("fault.judged", "Fault judged", Impact.Machine);
    public static readonly RecordEvent FaultClosed = new("fault.closed", "Fault closed", Impact.Machine);
    public static readonly RecordEvent MachineUpkeepDone = new("machine.upkeepDone", "Upkeep done", Impact.Machine);

    public static readonly RecordEvent HouseFounded = new("house.founded", "House founded", Impact.Everybody);
    public static readonly RecordEvent HouseRulesChanged = new("house.rulesChanged", "House rules changed", Impact.Everybody);
    public static readonly RecordEvent UpkeepPhoto = new("upkeep.photo", "Photo added to upkeep", Impact.Nobody);
    public static readonly RecordEvent UpkeepPhotoOff = new("upkeep.photoOff", "Photo taken off upkeep", Impact.Nobody);
    public static readonly RecordEvent HousePaperKept = new("house.paperKept", "Paper for inspectors entered", Impact.Nobody);
    public static readonly RecordEvent StockPlanned = new("stock.planned", "Stock of upkeep described", Impact.Nobody);
    public static readonly RecordEvent StockChanged = new("stock.changed", "Stock of upkeep changed", Impact.Nobody);
    public static readonly RecordEvent MachineLocked = new("machine.locked", "Lock hung on a machine", Impact.Nobody);
    public static readonly RecordEvent MachineUnlocked = new("machine.unlocked", "Lock taken off a machine", Impact.Nobody);
    public static readonly RecordEvent HouseKitLooked = new("house.kitLooked", "Fire kit or eyewear looked at", Impact.Everybody);
    public static readonly RecordEvent HouseRoomChanged = new("house.roomChanged", "Form of the workshop room changed", Impact.Everybody);
    public static readonly RecordEvent HouseKitChanged = new("house.kitChanged", "Fire kit changed", Impact.Everybody);
    public static readonly RecordEvent HouseEyewearChanged = new("house.eyewearChanged", "Eyewear changed", Impact.Everybody);
    public static readonly RecordEvent HousePlanned = new("house.planned", "Calendar entry made", Impact.Everybody);
    public static readonly RecordEvent HouseUnplanned = new("house.unplanned", "Calendar entry taken out", Impact.Everybody);

    public static readonly RecordEvent LedgerBaseline = new("ledger.baseline", "What stood before it was told here", Impact.Nobody);

    /// <summary>All of them, in the order above.</summary>
    public static IReadOnlyList<RecordEvent> All { get; } =
    [.. typeof(RecordEvents).GetFields().Where(f => f.FieldType == typeof(RecordEvent)).Select(f => (RecordEvent)f.GetValue(null)!)];

    private static readonly Dictionary<string, RecordEvent> ByKind = All.ToDictionary(e => e.Kind, StringComparer.Ordinal);

    /// <returns>Null for a kind that this version does not know.</returns>
    public static RecordEvent? Find(string kind) => ByKind.GetValueOrDefault(kind);
}
