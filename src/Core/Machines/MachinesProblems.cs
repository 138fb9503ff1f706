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
}
