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
        standing ? MachinesProblems.StopYours.Refuse()
        : today >= StopsPerDay ? MachinesProblems.StopTooMany.Refuse()
        : null;

    /// <param name="standing">Whether the sheet is put away by a report of the same person.</param>
    public static Refusal? MayReport(bool standing, int today) =>
        standing ? MachinesProblems.ReportYours.Refuse()
        : today >= ReportsPerDay ? MachinesProblems.ReportTooMany.Refuse()
        : null;
}
