namespace VelvetGate.Core.Machines;

/// <summary>
/// Stopping and reporting are everybody's, once for each thing: more is noise that keeps the stewards from seeing. Source: house practice.
/// </summary>
public static class StopLimits
{
    /// <summary>Stops one person may set in a day, over all machines; their own buttons work all the same.</summary>
    public const int StopsPerDay = 12;

    /// <summary>Sheets one person may report in a day.</summary>
    public const int ReportsPerDay = 20;

    /// <param name="standing">Whether a stop of the same person stands on the machine.</param>
    /// <param name="today">Stops they set within a day.</param>
    public static Refusal? MayStop(bool standing, int today) =>
        standing
            ? new("stop.yours", "You have stopped it already; it stays stopped until a steward returns it. Tell them what else you saw.")
        : today >= StopsPerDay
            ? new("stop.tooMany", "You set many stops today. Stop the machine by its own button, and call the steward on duty.")
        : null;

    /// <param name="standing">Whether the sheet is put away by a report of the same person.</param>
    public static Refusal? MayReport(bool standing, int today) =>
        standing ? new("report.yours", "You have reported it already; it is put away until a steward looks. Tell them what else you saw.")
        : today >= ReportsPerDay ? new("report.tooMany", "You reported many sheets today. Put them aside, and call the steward on duty.")
        : null;
}
