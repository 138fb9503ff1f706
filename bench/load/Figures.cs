using System.Diagnostics;
using System.Globalization;

namespace VelvetGate.Bench;

/// <summary>Median and spread of a few runs, and times of single requests.</summary>
internal static class Figures
{
    public static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return sorted.Count % 2 == 1 ? sorted[sorted.Count / 2] : (sorted[sorted.Count / 2 - 1] + sorted[sorted.Count / 2]) / 2;
    }

    public static double Percentile(IReadOnlyList<double> sorted, double share) =>
        sorted[Math.Min(sorted.Count - 1, (int)Math.Ceiling(sorted.Count * share) - 1)];

    public static double Milliseconds(Action act)
    {
        var clock = Stopwatch.StartNew();
        act();
        return clock.Elapsed.TotalMilliseconds;
    }

    public static string Spread(IReadOnlyCollection<double> values, string unit) =>
        string.Create(CultureInfo.InvariantCulture, $"{Median(values):0.0} {unit} ({values.Min():0.0} to {values.Max():0.0})");

    public static void Say(string text) => Console.WriteLine(text);

    /// <returns>In ms.</returns>
    public static async Task<double> Timed(Func<Task> act)
    {
        var clock = Stopwatch.StartNew();
        await act();
        return clock.Elapsed.TotalMilliseconds;
    }
}
