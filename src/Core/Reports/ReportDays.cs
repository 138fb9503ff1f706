using NodaTime;

namespace VelvetGate.Core.Reports;

/// <summary>Days that a report is over, both included.</summary>
public sealed record ReportDays(LocalDate First, LocalDate Last)
{
    /// <summary>Eight weeks: what is usual. House practice.</summary>
    public const int UsualDays = 56;

    public const int MostDays = 400;

    /// <param name="first">Null for eight weeks before the last.</param>
    /// <param name="last">Null for today.</param>
    public static Result<ReportDays> Of(LocalDate? first, LocalDate? last, LocalDate today)
    {
        var to = last ?? today;
        var from = first ?? to.PlusDays(1 - UsualDays);
        return from > to ? ReportsProblems.Backwards.Refuse("to")
            : Period.DaysBetween(from, to) >= MostDays ? ReportsProblems.TooLong.Refuse("from", MostDays)
            : new ReportDays(from, to);
    }

    public Interval Span(HouseClock clock) => new(clock.Day(First).Start, clock.Day(Last).End);
}
