using MathNet.Numerics.Distributions;

namespace VelvetGate.Core.Incidents;

/// <summary>How often something happened for so much running with the beam on, and how far chance alone may have moved it.</summary>
/// <param name="Count">How many happened.</param>
/// <param name="Hours">Laser hours; null where nobody knows them, and then there is no rate.</param>
/// <param name="Per100">For each 100 laser hours.</param>
/// <param name="Low">The lowest rate that fits what was counted, at 95 %.</param>
/// <param name="High">The highest.</param>
public sealed record Rate(int Count, double? Hours, double? Per100, double? Low, double? High)
{
    private const double Sure = 0.95;

    /// <param name="hours">Laser hours, more than none; null where they are not known.</param>
    /// <exception cref="ArgumentOutOfRangeException">Fewer than no events, or hours that are not more than none.</exception>
    public static Rate Of(int count, double? hours)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(count);
        if (hours is not { } known)
            return new Rate(count, null, null, null, null);
        MustBeHours(known);
        var (low, high) = Limits(count);
        var hundreds = known / 100;
        return new Rate(count, known, count / hundreds, low / hundreds, high / hundreds);
    }

    /// <summary>
    /// Exact limits of the number to expect where so many were counted, at 95 %: half the quantile of chi-squared at 2.5 % with 2n
    /// degrees of freedom, and at 97.5 % with 2n + 2 (F. Garwood, Fiducial limits for the Poisson distribution, Biometrika 28, 1936).
    /// </summary>
    public static (double Low, double High) Limits(int count)
    {
        const double Tail = (1 - Sure) / 2;
        var low = count == 0 ? 0 : ChiSquared.InvCDF(2.0 * count, Tail) / 2;
        return (low, ChiSquared.InvCDF(2.0 * count + 2, 1 - Tail) / 2);
    }

    /// <summary>
    /// How likely chance alone parts two counts as far as these or further, if both had the same rate: given the sum of both, the
    /// first is binomial (J. Przyborowski and H. Wilenski, Homogeneity of results in testing samples from Poisson series, Biometrika
    /// 31, 1940). Two-sided: every division of the sum that is no likelier than the one seen.
    /// </summary>
    /// <param name="hours">Laser hours of the first, more than none.</param>
    /// <param name="otherHours">Of the second.</param>
    /// <returns>From 0 to 1; 1 where nothing happened in either.</returns>
    /// <exception cref="ArgumentOutOfRangeException">Fewer than no events, or hours that are not more than none.</exception>
    public static double ByChance(int count, double hours, int otherCount, double otherHours)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(count);
        ArgumentOutOfRangeException.ThrowIfNegative(otherCount);
        MustBeHours(hours);
        MustBeHours(otherHours);
        var all = count + otherCount;
        if (all == 0)
            return 1;
        var binomial = new Binomial(hours / (hours + otherHours), all);
        // Divisions that are as likely as the one seen are not parted by rounding.
        var seen = binomial.ProbabilityLn(count) + 1e-7;
        var sum = 0.0;
        for (var first = 0; first <= all; first++)
        {
            var likely = binomial.ProbabilityLn(first);
            if (likely <= seen)
                sum += Math.Exp(likely);
        }
        return Math.Min(1, sum);
    }

    private static void MustBeHours(double hours)
    {
        if (!double.IsFinite(hours))
            throw new ArgumentOutOfRangeException(nameof(hours));
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(hours);
    }
}
