namespace VelvetGate.Core.Run;

/// <summary>What is refused about runs and arriving, each once.</summary>
public static class RunProblems
{
    public static readonly Problem RunNotYours = new(
        "run.notYours",
        ProblemKind.Forbidden,
        "Members log their own runs. The desk logs for others."
    );
    public static readonly Problem RunEnd = new("run.end", ProblemKind.Invalid, "The end lies before the start. Check both times.");
    public static readonly Problem RunFuture = new("run.future", ProblemKind.Invalid, "A run is logged once it is over. Check the end.");
    public static readonly Problem RunLong = new("run.long", ProblemKind.Invalid, "That is longer than {0:0} hours. Check both times.");
    public static readonly Problem RunOperations = new("run.operations", ProblemKind.Invalid, "Say what was done: cut, score or engrave.");
    public static readonly Problem RunSettings = new(
        "run.settings",
        ProblemKind.Invalid,
        "The settings are longer than {0} characters. Shorten them."
    );
    public static readonly Problem RunNotSupervised = new("run.notSupervised", ProblemKind.Forbidden, "That run had no booked supervisor.");
    public static readonly Problem NoShowCancelled = new("noShow.cancelled", ProblemKind.Conflict, "That booking was given back already.");
    public static readonly Problem NoShowArrived = new("noShow.arrived", ProblemKind.Conflict, "They arrived.");
    public static readonly Problem NoShowOver = new("noShow.over", ProblemKind.Conflict, "That time is over.");
    public static readonly Problem NoShowGrace = new("noShow.grace", ProblemKind.Conflict, "House rules wait {0} minutes after the start.");
    public static readonly Problem ArriveCancelled = new(
        "arrive.cancelled",
        ProblemKind.Conflict,
        "That booking was cancelled. Ask the gate for another time."
    );
    public static readonly Problem ArriveEarly = new(
        "arrive.early",
        ProblemKind.Conflict,
        "Arriving is marked from {0:0} minutes before the start."
    );
    public static readonly Problem ArriveOver = new("arrive.over", ProblemKind.Conflict, "That time is over.");
    public static readonly Problem RunSelf = new("run.self", ProblemKind.Forbidden, "Nobody looks at their own run: another steward does.");
    public static readonly Problem RunNotAllowed = new(
        "run.notAllowed",
        ProblemKind.Invalid,
        "No rule allowed that run, so it cannot count as practice. Say what you found without counting it."
    );
    public static readonly Problem RunLookedAt = new(
        "run.lookedAt",
        ProblemKind.Conflict,
        "Somebody has looked at that run already. Load the page again."
    );
    public static readonly Problem RunUnknownBooking = new(
        "run.unknownId",
        ProblemKind.Invalid,
        "There is no such booking of this person on this machine."
    );
    public static readonly Problem RunUnknownMaterial = new("run.unknownId", ProblemKind.Invalid, "There is no material “{0}”.");
    public static readonly Problem RunUnknownMachine = new("run.unknownId", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem RunUnknownMember = new("run.unknownId", ProblemKind.Invalid, "There is no member “{0}”.");
    public static readonly Problem RunUnknownSetting = new(
        "run.unknownId",
        ProblemKind.Invalid,
        "There is no such setting for this machine, material and thickness."
    );
}
