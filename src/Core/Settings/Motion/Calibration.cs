using MathNet.Numerics.Statistics;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>A logged run beside the estimate of its drawing, in seconds. The estimate is the plain one, without any factor.</summary>
public sealed record TimedRun(DrawingTime Estimate, double ActualSeconds);

/// <summary>How runs of an operation compare with their estimates.</summary>
/// <param name="Now">What a steward accepted; null while the estimate stands as it is.</param>
/// <param name="Proposed">Null with too few runs, or where they are too far away.</param>
/// <param name="ErrorNow">Median part of the true time by which the estimate is off as it stands; null without runs.</param>
/// <param name="ErrorThen">The same with what is proposed.</param>
/// <param name="WhyNot">Why nothing is proposed; null where something is.</param>
public sealed record TimeComparison(
    Operation Operation,
    int Runs,
    double? Ratio,
    TimeFactor? Now,
    TimeFactor? Proposed,
    double? ErrorNow,
    double? ErrorThen,
    string? WhyNot
);

/// <summary>
/// Holds estimates against the machine's own logged runs: the median of actual ÷ estimate by operation. A run speaks for the operation
/// that takes nearly all of it; one of several speaks for none. Source: common practice.
/// </summary>
public static class Calibration
{
    public const int FewestRuns = 5;

    /// <summary>Newest runs that are looked at.</summary>
    public const int MostRuns = 60;

    /// <summary>Further away than this, something in the machine's form is wrong, or runs were logged with their pauses.</summary>
    public const double Least = 0.5;
    public const double Most = 2;

    /// <summary>Part of the estimate that one operation takes where a run speaks for it.</summary>
    private const double NearlyAll = 0.8;

    /// <summary>However well a few runs agree, no time is given closer than this.</summary>
    private const double Closest = 0.05;

    public static IReadOnlyList<TimeComparison> Of(IEnumerable<TimedRun> runs, IReadOnlyList<TimeFactor>? accepted)
    {
        var told = runs.Where(r => r.ActualSeconds > 0 && r.Estimate.Seconds > 0)
            .Select(r => (Operation: Of(r.Estimate), Ratio: r.ActualSeconds / r.Estimate.Seconds))
            .Where(r => r.Operation is not null)
            .ToLookup(r => r.Operation!.Value, r => r.Ratio);
        return [.. Enum.GetValues<Operation>().Select(o => Compare(o, [.. told[o]], accepted?.FirstOrDefault(f => f.Operation == o)))];
    }

    /// <summary>What a steward accepts is what the runs say by now.</summary>
    /// <param name="factor">As it was read; null takes an accepted one away.</param>
    public static Result<TimeFactor?> Accept(IEnumerable<TimeComparison> compared, Operation operation, decimal? factor)
    {
        if (factor is null)
            return (TimeFactor?)null;
        var proposed = compared.First(c => c.Operation == operation).Proposed;
        return proposed?.Factor == factor ? proposed : SettingsProblems.TimesMoved.Refuse();
    }

    /// <summary>The operation that takes nearly all of a run, and null where none does.</summary>
    public static Operation? Of(DrawingTime estimate)
    {
        var on = estimate.Layers.Sum(l => l.Seconds);
        return estimate
            .Layers.GroupBy(l => l.Operation)
            .Where(g => g.Sum(l => l.Seconds) >= NearlyAll * on)
            .Select(g => (Operation?)g.Key)
            .FirstOrDefault();
    }

    private static TimeComparison Compare(Operation operation, double[] ratios, TimeFactor? now)
    {
        double? ratio = ratios.Length > 0 ? ratios.Median() : null;
        var why =
            ratio is null ? "No run of it was logged on a booking with a drawing."
            : ratios.Length < FewestRuns ? $"Runs so far: {ratios.Length}. {FewestRuns} are needed."
            : ratio is < Least or > Most ? "Too far away for a factor. Look at acceleration and speeds in the machine’s form."
            : null;
        var proposed = why is null ? Propose(operation, ratios, ratio!.Value) : null;
        return new TimeComparison(
            Operation: operation,
            Runs: ratios.Length,
            Ratio: ratio,
            Now: now,
            Proposed: proposed,
            ErrorNow: ratio is null ? null : Error(ratios, (double)(now?.Factor ?? 1)),
            ErrorThen: proposed is null ? null : Error(ratios, (double)proposed.Factor),
            WhyNot: why
        );
    }

    private static TimeFactor Propose(Operation operation, double[] ratios, double ratio)
    {
        var factor = Math.Round((decimal)ratio, 2);
        decimal Part(double quantile, double usual, Func<double, double, double> wider) =>
            Math.Round((decimal)wider(ratios.Quantile(quantile) / (double)factor, usual), 2);
        return new TimeFactor(
            operation,
            factor,
            Low: Part(0.05, 1 - Closest, Math.Min),
            High: Part(0.95, 1 + Closest, Math.Max),
            ratios.Length
        );
    }

    private static double Error(double[] ratios, double factor) => ratios.Select(r => Math.Abs(r - factor) / r).Median();
}
