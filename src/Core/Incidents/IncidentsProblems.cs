namespace VelvetGate.Core.Incidents;

/// <summary>What is refused about incidents and near misses, each once.</summary>
public static class IncidentsProblems
{
    public static readonly Problem Future = new(
        "incident.future",
        ProblemKind.Invalid,
        "That is still to come. Give the time at which it happened."
    );
    public static readonly Problem NotHereYet = new(
        "incident.notHere",
        ProblemKind.Invalid,
        "{0} was not in this house then. Check the day, or choose another machine."
    );
    public static readonly Problem TooOld = new(
        "incident.old",
        ProblemKind.Invalid,
        "That is more than {0} years ago. Check the day, or bring an old list in as a file."
    );
    public static readonly Problem UnknownMachine = new("incident.unknownId", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem UnknownRun = new("incident.unknownId", ProblemKind.Invalid, "There is no such run on this machine.");
    public static readonly Problem UnknownSheet = new("incident.unknownId", ProblemKind.Invalid, "There is no sheet “{0}”.");
    public static readonly Problem UnknownPerson = new(
        "incident.unknownId",
        ProblemKind.Invalid,
        "One of these people has no account here."
    );
    public static readonly Problem SeverityLow = new(
        "incident.severity",
        ProblemKind.Invalid,
        "Somebody was hurt: that is damage or first aid (3) at least."
    );
    public static readonly Problem Self = new(
        "incident.self",
        ProblemKind.Forbidden,
        "You were involved in it: somebody who was not says so. You may add words."
    );
    public static readonly Problem NotYours = new(
        "incident.notYours",
        ProblemKind.Forbidden,
        "Whoever was there and the stewards may read this incident and add to it."
    );
    public static readonly Problem CloseNotYours = new(
        "incident.notYours",
        ProblemKind.Forbidden,
        "A steward who was not involved closes it; where there is no other steward, the countersigner."
    );
    public static readonly Problem Open = new("incident.open", ProblemKind.Conflict, "It cannot be closed yet: {0}.");
    public static readonly Problem Closed = new(
        "incident.closed",
        ProblemKind.Conflict,
        "It is closed. A steward reopens it with a reason; then it can be changed."
    );
    public static readonly Problem OpenAlready = new("incident.open", ProblemKind.Conflict, "It is open already.");
    public static readonly Problem CauseUnknown = new("cause.unknown", ProblemKind.Invalid, "There is no cause “{0}”.");
    public static readonly Problem CauseOpen = new(
        "cause.open",
        ProblemKind.Invalid,
        "Tick a cause, or write what was looked at and why it stays open."
    );
    public static readonly Problem CauseMixed = new(
        "cause.open",
        ProblemKind.Invalid,
        "A cause that is known and “not known yet” do not go together. Leave one out."
    );
    public static readonly Problem HoldNone = new(
        "hold.notProposed",
        ProblemKind.Conflict,
        "This incident speaks for no such hold: {0}, {1}."
    );
    public static readonly Problem HoldOver = new("hold.over", ProblemKind.Conflict, "That hold has ended already.");
    public static readonly Problem HoldNotYours = new(
        "hold.notYours",
        ProblemKind.Forbidden,
        "A steward ends it; a machine’s hold, whoever holds the repair role for it as well."
    );
    public static readonly Problem HoldList = new("hold.list", ProblemKind.Invalid, "Go through the whole list first. Still missing: {0}.");
    public static readonly Problem WatchRunning = new(
        "watch.running",
        ProblemKind.Conflict,
        "The fire watch is not over: its last look comes first."
    );
    public static readonly Problem WatchBegun = new("watch.begun", ProblemKind.Conflict, "Somebody watches already: {0}.");
    public static readonly Problem LookNone = new("look.none", ProblemKind.Invalid, "There is no such look. They are at {0} minutes.");
    public static readonly Problem LookEarly = new("look.early", ProblemKind.Conflict, "It is not time for that look yet.");
    public static readonly Problem LookDone = new("look.done", ProblemKind.Conflict, "Somebody made that look already.");
    public static readonly Problem LookMissed = new(
        "look.missed",
        ProblemKind.Conflict,
        "Its time is over, and it stays down as missed. Make the next one."
    );
    public static readonly Problem ActionDone = new("action.done", ProblemKind.Conflict, "That action is done, or given up, already.");
    public static readonly Problem ActionDay = new("action.day", ProblemKind.Invalid, "The day lies in the past. Give one to come.");
    public static readonly Problem NearMissWhat = new(
        "nearMiss.what",
        ProblemKind.Invalid,
        "Say what it was. A choking smell or a beam with the lid open is told with a name: somebody has to act on it now."
    );
    public static readonly Problem NearMissNote = new("nearMiss.note", ProblemKind.Invalid, "Keep the words to {0} characters.");
    public static readonly Problem NearMissDay = new(
        "nearMiss.day",
        ProblemKind.Invalid,
        "A near miss is told within {0} days, and not before it happened. Write the day like 2026-11-24 afternoon."
    );
    public static readonly Problem NearMissMany = new(
        "nearMiss.many",
        ProblemKind.TooMany,
        "That many near misses in an hour are taken from no one place. Tell a steward, or try again in an hour."
    );
    public static readonly Problem NearMissForm = new(
        "nearMiss.form",
        ProblemKind.Forbidden,
        "Near misses are told from the page of this house, as JSON."
    );
    public static readonly Problem RateNoHours = new(
        "rate.noHours",
        ProblemKind.Unprocessable,
        "Nobody knows the laser hours of that time, so there is no rate for each 100 of them."
    );
    public static readonly Problem RatePeriod = new(
        "rate.period",
        ProblemKind.Invalid,
        "The end lies before the start. Give two days in order."
    );
}
