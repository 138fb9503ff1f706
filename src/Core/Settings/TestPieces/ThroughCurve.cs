using MathNet.Numerics.LinearAlgebra;

namespace VelvetGate.Core.Settings.TestPieces;

/// <summary>
/// How likely a cell is cut through over the logarithm of its energy: a logistic curve, fitted with the penalty of D. Firth (Bias reduction
/// of maximum likelihood estimates, Biometrika 80, 1993), which gives an answer also where few cells part cleanly.
/// </summary>
/// <param name="Intercept">a in 1 / (1 + exp(−(a + b ln E))).</param>
/// <param name="Slope">b.</param>
/// <param name="LogLikelihood">Penalised: ln L + ½ ln |I|.</param>
public sealed record ThroughCurve(double Intercept, double Slope, double LogLikelihood)
{
    private const int MostSteps = 200;
    private const double Close = 1e-10;

    /// <summary>Half of the quantile of chi-squared with one degree of freedom at 95 %.</summary>
    private const double HalfDrop = 3.841458820694124 / 2;

    /// <summary>ln E at which one in two is through.</summary>
    public double Half => -Intercept / Slope;

    /// <summary>Newton on the penalised score, with steps halved until the likelihood grows.</summary>
    /// <param name="x">ln of the energy of each cell.</param>
    /// <param name="through">Whether it was through.</param>
    public static ThroughCurve Fit(IReadOnlyList<double> x, IReadOnlyList<bool> through)
    {
        var middle = x.Average();
        var at = Vector<double>.Build.Dense(2);
        var design = Matrix<double>.Build.Dense(x.Count, 2, (r, c) => c == 0 ? 1 : x[r] - middle);
        var seen = Vector<double>.Build.Dense(x.Count, r => through[r] ? 1 : 0);
        var best = Penalised(design, seen, at);
        for (var step = 0; step < MostSteps; step++)
        {
            var p = Chances(design, at);
            var weights = p.PointwiseMultiply(1 - p);
            var information = design.TransposeThisAndMultiply(Matrix<double>.Build.DenseOfDiagonalVector(weights) * design);
            var inverse = information.Inverse();
            var leverage = Vector<double>.Build.Dense(x.Count, r => weights[r] * (design.Row(r) * inverse * design.Row(r)));
            var score = design.TransposeThisAndMultiply(seen - p + leverage.PointwiseMultiply(0.5 - p));
            var move = inverse * score;
            var (size, next) = (1.0, best);
            while (size > 1e-6 && (next = Penalised(design, seen, at + size * move)) < best)
                size /= 2;
            at += size * move;
            var grown = next - best;
            best = Math.Max(best, next);
            if (grown < Close && move.L2Norm() < 1e-8)
                break;
        }
        return new ThroughCurve(at[0] - at[1] * middle, at[1], best);
    }

    /// <summary>
    /// From where to where <see cref="Half"/> may lie, at 95 %: the profile of the penalised likelihood. Null where an end lies beyond what
    /// the cells can say.
    /// </summary>
    public (double? Low, double? High) Interval(IReadOnlyList<double> x, IReadOnlyList<bool> through)
    {
        var reach = x.Max() - x.Min();
        return (End(-1), End(+1));

        double? End(int way)
        {
            double near = Half,
                far = Half;
            for (var step = reach / 64; ; step *= 1.5)
            {
                far += way * step;
                if (Math.Abs(far - Half) > 3 * reach)
                    return null;
                if (Profile(x, through, far) < LogLikelihood - HalfDrop)
                    break;
                near = far;
            }
            for (var i = 0; i < 60; i++)
            {
                var between = (near + far) / 2;
                if (Profile(x, through, between) < LogLikelihood - HalfDrop)
                    far = between;
                else
                    near = between;
            }
            return (near + far) / 2;
        }
    }

    /// <summary>The greatest penalised likelihood with the half at one place: over the slope alone, by golden sections.</summary>
    private static double Profile(IReadOnlyList<double> x, IReadOnlyList<bool> through, double half)
    {
        var design = Matrix<double>.Build.Dense(x.Count, 2, (r, c) => c == 0 ? 1 : x[r] - half);
        var seen = Vector<double>.Build.Dense(x.Count, r => through[r] ? 1 : 0);
        double Of(double logSlope) => Penalised(design, seen, Vector<double>.Build.DenseOfArray([0, Math.Exp(logSlope)]));
        var golden = (Math.Sqrt(5) - 1) / 2;
        var (low, high) = (Math.Log(0.01), Math.Log(1000));
        var (a, b) = (high - golden * (high - low), low + golden * (high - low));
        var (fa, fb) = (Of(a), Of(b));
        for (var i = 0; i < 80; i++)
        {
            if (fa > fb)
            {
                (high, b, fb) = (b, a, fa);
                a = high - golden * (high - low);
                fa = Of(a);
            }
            else
            {
                (low, a, fa) = (a, b, fb);
                b = low + golden * (high - low);
                fb = Of(b);
            }
        }
        return Math.Max(fa, fb);
    }

    private static Vector<double> Chances(Matrix<double> design, Vector<double> at) => (design * at).Map(t => 1 / (1 + Math.Exp(-t)));

    private static double Penalised(Matrix<double> design, Vector<double> seen, Vector<double> at)
    {
        var line = design * at;
        var sum = 0.0;
        // ln(1 + e^t) without overflow.
        for (var r = 0; r < line.Count; r++)
            sum += seen[r] * line[r] - (Math.Max(0, line[r]) + Math.Log(1 + Math.Exp(-Math.Abs(line[r]))));
        var p = Chances(design, at);
        var weights = Matrix<double>.Build.DenseOfDiagonalVector(p.PointwiseMultiply(1 - p));
        var size = design.TransposeThisAndMultiply(weights * design).Determinant();
        return size <= 0 ? double.NegativeInfinity : sum + 0.5 * Math.Log(size);
    }
}
