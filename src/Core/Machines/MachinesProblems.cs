namespace VelvetGate.Core.Machines;

/// <summary>What is refused about stopping machines and reporting sheets, each once.</summary>
public static class MachinesProblems
{
    public static readonly Problem StopYours = new(
        "stop.yours",
        ProblemKind.Conflict,
        "You have stopped it already; it stays stopped until somebody who may returns it. Tell them what else you saw."
    );
    public static readonly Problem StopTooMany = new(
        "stop.tooMany",
        ProblemKind.TooMany,
        "You set many stops today. Stop the machine by its own button, and call the steward on duty."
    );
    public static readonly Problem ReportYours = new(
        "report.yours",
        ProblemKind.Conflict,
        "You have reported it already; it is put away until a steward looks. Tell them what else you saw."
    );
    public static readonly Problem ReportTooMany = new(
        "report.tooMany",
        ProblemKind.TooMany,
        "You reported many sheets today. Put them aside, and call the steward on duty."
    );

    public static readonly Problem PhotoMany = new("photo.many", ProblemKind.Full, "There are {0} photos already. Take one off first.");
    public static readonly Problem PhotoKind = new(
        "photo.kind",
        ProblemKind.Unsupported,
        "That is no PNG or JPEG that can be read. Take the photo again, or save it as JPEG."
    );
    public static readonly Problem PhotoLarge = new(
        "photo.large",
        ProblemKind.TooLarge,
        "The photo is larger than {0} MB. Send a smaller one."
    );
    public static readonly Problem PhotoMissing = new("photo.missing", ProblemKind.Invalid, "Choose a photo.");
}
