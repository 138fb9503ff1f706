using System.Globalization;
using MathNet.Numerics.Statistics;
using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>An airflow that was read, in m³/h.</summary>
/// <param name="ByHand">Off a gauge; else by the machine’s controller, the median of a run.</param>
public sealed record AirflowRead(Instant At, decimal M3PerHour, bool ByHand);

/// <summary>What was read on one day: the median of its readings, and the least.</summary>
public sealed record DayOfReadings(LocalDate Day, decimal Median, decimal Least, int Count);

/// <summary>An airflow that falls, and when it comes under the limit at which cleaning is due.</summary>
/// <param name="PerDay">m³/h; less than nothing.</param>
/// <param name="Crosses">By the median of slopes; <paramref name="Soonest"/> and <paramref name="Latest"/> by its interval at 95 %.</param>
/// <param name="BySquares">By least squares; null where that line does not fall.</param>
public sealed record AirflowFall(decimal PerDay, LocalDate Crosses, LocalDate Soonest, LocalDate Latest, LocalDate? BySquares)
{
    /// <summary>For whoever plans the cleaning.</summary>
    public string Says(string machine) =>
        $"The airflow of {machine} falls by {Math.Abs(PerDay).ToString("0.#", CultureInfo.InvariantCulture)} m³/h a day: cleaning is due "
        + $"around {On(Crosses)}{(Soonest == Latest ? "" : $", between {On(Soonest)} and {On(Latest)}")}. Plan it before then."
        + (LinesDiffer ? " With every reading weighed alike it would be another day: look whether one of them is off." : "");

    // Then a single reading has turned the line of least squares.
    private bool LinesDiffer => BySquares is not { } by || Math.Abs(Period.DaysBetween(Crosses, by)) > DifferDays;

    /// <summary>House practice.</summary>
    private const int DifferDays = 5;

    private static string On(LocalDate day) => day.ToString("d MMMM", CultureInfo.InvariantCulture);
}

/// <summary>
/// Where an airflow is going. A fall is foretold, before it is due, so that it is cleaned on a quiet day: a filter that fills does so
/// steadily. The extraction engineer decides what it means.
/// </summary>
public static class AirflowTrend
{
    /// <summary>Days of readings that a fall is judged by: six rounds, where airflow is read once a week.</summary>
    public const int Days = 42;

    /// <summary>A fall is said when it comes under the limit within so many days.</summary>
    public const int Ahead = 14;

    /// <summary>Fewer days with readings say nothing. House practice.</summary>
    public const int LeastDays = 5;

    /// <summary>A gauge and a sensor that lie further apart than this part of the gauge are said. House practice.</summary>
    public const decimal DriftPart = 0.1m;

    /// <summary>How far from a reading by hand a sensor is held against it.</summary>
    public static readonly Duration DriftNear = Duration.FromDays(7);

    /// <summary>A day counts once, however often it was read.</summary>
    public static IReadOnlyList<DayOfReadings> ByDay(IEnumerable<AirflowRead> reads, HouseClock clock) =>
        [
            .. reads
                .GroupBy(r => clock.DateOf(r.At))
                .OrderBy(g => g.Key)
                .Select(g => new DayOfReadings(g.Key, Median(g.Select(r => r.M3PerHour)), g.Min(r => r.M3PerHour), g.Count())),
        ];

    /// <param name="days">Since the machine was last cleaned or serviced.</param>
    /// <returns>Null where it does not fall for sure, is under the limit already, or comes there later than a fortnight.</returns>
    public static AirflowFall? Fall(decimal commissioned, IEnumerable<DayOfReadings> days, LocalDate today)
    {
        var lately = days.Where(d => d.Day > today.PlusDays(-Days) && d.Day <= today).ToList();
        if (commissioned <= 0 || lately.Count < LeastDays)
            return null;
        var x = lately.Select(d => (double)Period.DaysBetween(today, d.Day)).ToArray();
        var y = lately.Select(d => (double)d.Median).ToArray();
        var limit = (double)(commissioned * ReadingRules.DuePart);
        var line = TrendLine.TheilSen(x, y);
        if (line.High >= 0 || line.At(0) < limit || Crossing(line, line.Slope, limit) is not { } crosses || crosses > Ahead)
            return null;
        var squares = TrendLine.LeastSquares(x, y);
        return new(
            PerDay: decimal.Round((decimal)line.Slope, 2),
            Crosses: On(today, crosses),
            Soonest: On(today, Crossing(line, line.Low, limit)!.Value),
            Latest: On(today, Crossing(line, line.High, limit)!.Value),
            BySquares: squares.Slope < 0 && Crossing(squares, squares.Slope, limit) is { } by ? On(today, by) : null
        );
    }

    /// <summary>What is to be said of a machine by its readings since it was last cleaned or serviced.</summary>
    public static IEnumerable<string> Foreseen(MachineSpec machine, IReadOnlyCollection<AirflowRead> reads, Instant now, HouseClock clock)
    {
        if (Fall(machine.AirflowM3PerHour, ByDay(reads, clock), clock.DateOf(now)) is { } fall)
            yield return fall.Says(machine.Name);
        if (Drift(machine.Name, reads) is { } drift)
            yield return drift;
    }

    /// <summary>What a sensor says beside what was read by hand.</summary>
    /// <returns>A sentence where both lie apart by more than a tenth; null where they agree, or nothing near was read.</returns>
    public static string? Drift(string machine, IReadOnlyCollection<AirflowRead> reads)
    {
        if (reads.Where(r => r.ByHand).MaxBy(r => r.At) is not { } hand)
            return null;
        var near = reads.Where(r => !r.ByHand && Abs(r.At - hand.At) <= DriftNear).Select(r => r.M3PerHour).ToList();
        if (near.Count == 0 || Median(near) is var sensor && Math.Abs(sensor - hand.M3PerHour) <= hand.M3PerHour * DriftPart)
            return null;
        return $"The sensor of {machine} says {Say(Median(near))} m³/h where {Say(hand.M3PerHour)} was read by hand: one of the two is "
            + "wrong. Read it again by hand, and have the sensor looked at.";
    }

    /// <summary>Days from now at which a line through the middle of the readings comes under the limit.</summary>
    private static double? Crossing(TrendLine line, double slope, double limit)
    {
        var middle = line.At(line.MiddleX);
        return slope < 0 ? Math.Max(0, line.MiddleX + (limit - middle) / slope) : null;
    }

    // What lies years off is a line drawn too far.
    private static LocalDate On(LocalDate today, double days) => today.PlusDays((int)Math.Min(UpkeepUse.ForecastMost, Math.Ceiling(days)));

    private static decimal Median(IEnumerable<decimal> values) => decimal.Round((decimal)values.Select(v => (double)v).Median(), 2);

    private static Duration Abs(Duration span) => span < Duration.Zero ? -span : span;

    private static string Say(decimal value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
