using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Upkeep;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Upkeep;

/// <summary>Lines through readings, and the intervals of their slopes, against scipy.stats: theilslopes and linregress.</summary>
public class OutsideTrendTests
{
    private const string Script = """
        import json, sys
        import numpy as np
        from scipy import stats
        out = []
        for s in json.load(sys.stdin):
            x, y = np.array(s['x'], float), np.array(s['y'], float)
            t = stats.theilslopes(y, x, 0.95)
            r = stats.linregress(x, y)
            half = stats.t.ppf(0.975, len(x) - 2) * r.stderr
            out.append([t[0], t[1], t[2], t[3], r.slope, r.intercept, r.slope - half, r.slope + half])
        json.dump(out, sys.stdout)
        """;

    [Fact]
    public void LinesAndIntervals_OfRandomReadings_AreThoseOfScipy()
    {
        var random = new Random(1968);
        var series = Enumerable
            .Range(0, 60)
            .Select(n =>
            {
                var days = Enumerable.Range(-27, 28).Where(_ => random.NextDouble() < 0.3 + 0.01 * n).Select(d => (double)d).ToArray();
                // Whole numbers, as a gauge is read: many of them are the same. Some days are read twice, some readings are slips.
                double[] x = [-28, -27.5, .. days, .. days.Take(n % 3), 0];
                var slope = 6 * random.NextDouble() - 5;
                return new
                {
                    x,
                    y = x.Select(d => Math.Round(600 + slope * d + 12 * (random.NextDouble() - 0.5) + (random.Next(15) == 0 ? -200 : 0)))
                        .ToArray(),
                };
            })
            .ToList();
        series.ShouldContain(s => s.y.Distinct().Count() < s.y.Length);
        series.ShouldContain(s => s.x.Distinct().Count() < s.x.Length);
        var theirs = JsonSerializer.Deserialize<double[][]>(Outside.Python(Script, JsonSerializer.Serialize(series)))!;
        foreach (var (s, t) in series.Zip(theirs))
        {
            var (sen, squares) = (TrendLine.TheilSen(s.x, s.y), TrendLine.LeastSquares(s.x, s.y));
            foreach (var (line, at) in new[] { (sen, 0), (squares, 4) })
            {
                line.Slope.ShouldBe(t[at], 1e-9);
                line.Intercept.ShouldBe(t[at + 1], 1e-6);
                line.Low.ShouldBe(t[at + 2], 1e-7);
                line.High.ShouldBe(t[at + 3], 1e-7);
            }
        }
    }
}
