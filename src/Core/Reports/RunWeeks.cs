using NodaTime;

namespace VelvetGate.Core.Reports;

/// <summary>A run at a machine, as a week counts it.</summary>
/// <param name="Through">False where it did not come through; null where it was given up.</param>
/// <param name="EstimateToActual">Null where nobody planned it, or it is not among the newest.</param>
public sealed record WeighedRun(Instant Start, Instant End, bool? Through, double? EstimateToActual);

/// <summary>What ran at a machine in a week.</summary>
/// <param name="Hours">Of runs.</param>
/// <param name="Ended">Runs that were not given up; <paramref name="NotThrough"/> of them did not come through.</param>
/// <param name="EstimateToActual">The middle of the week’s runs; null where none was planned.</param>
public sealed record RunWeek(LocalDate Monday, double Hours, int Ended, int NotThrough, double? EstimateToActual);

/// <summary>Runs of a machine by weeks: wear shows here before it shows on a gauge.</summary>
public static class RunWeeks
{
    /// <summary>Every week from the first day to the last, those without runs too; a run counts where it began.</summary>
    public static IReadOnlyList<RunWeek> Of(IEnumerable<WeighedRun> runs, LocalDate first, LocalDate last, HouseClock clock)
    {
        var byWeek = runs.ToLookup(r => Monday(clock.DateOf(r.Start)));
        var weeks = new List<RunWeek>();
        for (var monday = Monday(first); monday <= last; monday = monday.PlusWeeks(1))
        {
            var ran = byWeek[monday].ToList();
            weeks.Add(
                new(
                    Monday: monday,
                    Hours: Math.Round(ran.Sum(r => (r.End - r.Start).TotalHours), 2),
                    Ended: ran.Count(r => r.Through is not null),
                    NotThrough: ran.Count(r => r.Through == false),
                    EstimateToActual: Spread.Of(ran.Select(r => r.EstimateToActual).OfType<double>())?.Median
                )
            );
        }
        return weeks;
    }

    /// <summary>On which the week of a day begins.</summary>
    public static LocalDate Monday(LocalDate day) => day.PlusDays(1 - (int)day.DayOfWeek);
}
