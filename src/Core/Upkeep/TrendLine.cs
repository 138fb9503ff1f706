using MathNet.Numerics.Distributions;
using MathNet.Numerics.LinearRegression;
using MathNet.Numerics.Statistics;

namespace VelvetGate.Core.Upkeep;

/// <summary>A line through readings, with the interval of its slope at 95 %.</summary>
/// <param name="Slope">Per unit of x.</param>
/// <param name="Intercept">At x = 0.</param>
/// <param name="Low">The least slope that the readings allow; <paramref name="High"/>: the greatest.</param>
/// <param name="MiddleX">Where the line is best known; it turns about this point within its interval.</param>
public sealed record TrendLine(double Slope, double Intercept, double Low, double High, double MiddleX)
{
    private const double Level = 0.95;

    public double At(double x) => Intercept + Slope * x;

    /// <summary>The line of least squares; the interval of its slope from Student’s t with n − 2 degrees of freedom.</summary>
    /// <param name="x">At least three, not all the same.</param>
    /// <remarks>Source: the usual simple linear regression; the line itself is MathNet.Numerics’.</remarks>
    public static TrendLine LeastSquares(double[] x, double[] y)
    {
        var (intercept, slope) = SimpleRegression.Fit(x, y);
        var middle = x.Mean();
        var left = x.Zip(y, (a, b) => b - intercept - slope * a).Sum(e => e * e);
        var error = Math.Sqrt(left / (x.Length - 2) / x.Sum(a => (a - middle) * (a - middle)));
        var half = StudentT.InvCDF(0, 1, x.Length - 2, 1 - (1 - Level) / 2) * error;
        return new(slope, intercept, slope - half, slope + half, middle);
    }

    /// <summary>
    /// The median of the slopes of all pairs, through the medians of both: one wrong reading does not turn it. The interval counts pairs by
    /// the variance of Kendall’s score, ties of x and of y taken off.
    /// </summary>
    /// <param name="x">At least two that differ.</param>
    /// <remarks>Source: Sen 1968, J. Am. Stat. Assoc. 63, 1379; held against scipy.stats.theilslopes.</remarks>
    public static TrendLine TheilSen(double[] x, double[] y)
    {
        var slopes = new List<double>(x.Length * (x.Length - 1) / 2);
        for (var i = 0; i < x.Length; i++)
        for (var j = 0; j < x.Length; j++)
            if (x[j] > x[i])
                slopes.Add((y[j] - y[i]) / (x[j] - x[i]));
        slopes.Sort();
        var (slope, middle) = (slopes.Median(), x.Median());
        var z = Normal.InvCDF(0, 1, (1 - Level) / 2);
        var n = (double)x.Length;
        var sigma = Math.Sqrt((n * (n - 1) * (2 * n + 5) - Ties(x) - Ties(y)) / 18);
        var above = Math.Min((int)Math.Round((slopes.Count - z * sigma) / 2), slopes.Count - 1);
        var below = Math.Max((int)Math.Round((slopes.Count + z * sigma) / 2) - 1, 0);
        return new(slope, y.Median() - slope * middle, slopes[below], slopes[above], middle);
    }

    private static double Ties(double[] values) =>
        values.GroupBy(v => v).Select(g => (double)g.Count()).Where(k => k > 1).Sum(k => k * (k - 1) * (2 * k + 5));
}
