namespace VelvetGate.Core.Gating;

/// <summary>What is refused about questions put to the gate and to stewards, each once.</summary>
public static class GateProblems
{
    public static readonly Problem AskSelf = new(
        "ask.self",
        ProblemKind.Forbidden,
        "Nobody lifts or refuses for themselves. Ask another steward, or the countersigner."
    );
    public static readonly Problem AskSingleHanded = new(
        "ask.singleHanded",
        ProblemKind.Conflict,
        "You are this house’s only steward, and it has no countersigner: the request waits {0:0} hours, and "
            + "the record says you decided alone."
    );
    public static readonly Problem AskNotYours = new(
        "ask.notYours",
        ProblemKind.Forbidden,
        "A steward answers this. A countersigner does only where the house has no other steward."
    );
    public static readonly Problem AskForOthers = new("ask.notYours", ProblemKind.Forbidden, "Members ask for themselves only.");
    public static readonly Problem AskTooLate = new(
        "ask.tooLate",
        ProblemKind.Conflict,
        "It starts in less than {0:0} minutes, so it counts as refused. The person may ask for another time."
    );
    public static readonly Problem AskShut = new(
        "ask.shut",
        ProblemKind.Conflict,
        "The gate is shut now, and no steward can lift that: {0}"
    );
    public static readonly Problem AskCannotLift = new("ask.cannotLift", ProblemKind.Conflict, "A steward cannot lift this: {0}");
    public static readonly Problem AskNotNeeded = new("ask.notNeeded", ProblemKind.Conflict, "The gate is open: book it.");
    public static readonly Problem AskOfAShutGate = new(
        "ask.notNeeded",
        ProblemKind.Conflict,
        "The gate is shut: no steward can lift it. Ask the gate what would open it."
    );
    public static readonly Problem AskAnswered = new("ask.answered", ProblemKind.Conflict, "This request is {0}.");
    public static readonly Problem AskLiftOver = new("ask.answered", ProblemKind.Conflict, "Only a lift that holds can be taken back.");
    public static readonly Problem HouseNoRules = new(
        "house.noRules",
        ProblemKind.Conflict,
        "No house rules hold at that time. A keeper sets them first."
    );
    public static readonly Problem HouseNoRulesYet = new(
        "house.noRules",
        ProblemKind.Conflict,
        "This house has no rules yet. A keeper sets it up first."
    );
    public static readonly Problem AskNote = new("ask.note", ProblemKind.Invalid, "The note is longer than 2000 characters. Shorten it.");
    public static readonly Problem AskUnknownMember = new("ask.unknownId", ProblemKind.Invalid, "There is no member “{0}”.");
    public static readonly Problem AskUnknownMachine = new("ask.unknownId", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem AskUnknownMaterial = new("ask.unknownId", ProblemKind.Invalid, "There is no material “{0}”.");
}
