using Shouldly;
using VelvetGate.Core.Reports;
using Xunit;

namespace VelvetGate.Core.Tests.Reports;

public class FairnessTests
{
    /// <summary>
    /// Example of the R package <i>ineq</i> (A. Zeileis), which its page computes as 0.4620911; the ten incomes and the figure are from
    /// memory.
    /// </summary>
    [Fact]
    public void Gini_OfAPublishedExample() =>
        Fairness.Gini([541, 1463, 2445, 3438, 4437, 5401, 6392, 8304, 11904, 22261])!.Value.ShouldBe(0.4620911, 1e-7);

    /// <summary>Closed forms: 1..n has (n - 1)/(3n); a Pareto distribution of index a has 1/(2a - 1); an exponential one a half.</summary>
    [Theory]
    [InlineData(2)]
    [InlineData(10)]
    [InlineData(1001)]
    public void Gini_OfOneToN(int n) =>
        Fairness.Gini([.. Enumerable.Range(1, n).Select(i => (double)i)])!.Value.ShouldBe((n - 1.0) / (3 * n), 1e-12);

    [Theory]
    [InlineData(2.0)]
    [InlineData(3.5)]
    public void Gini_OfPareto(double a) =>
        Fairness.Gini([.. Quantiles(200_000).Select(p => Math.Pow(1 - p, -1 / a))])!.Value.ShouldBe(1 / (2 * a - 1), 3e-3);

    [Fact]
    public void Gini_OfExponential() => Fairness.Gini([.. Quantiles(100_000).Select(p => -Math.Log(1 - p))])!.Value.ShouldBe(0.5, 1e-4);

    /// <summary>By its definition: the mean difference of all pairs over twice the mean.</summary>
    [Fact]
    public void Gini_IsTheMeanDifferenceOfAllPairs()
    {
        var random = new Random(1912);
        for (var i = 0; i < 200; i++)
        {
            var hours = Enumerable.Range(0, random.Next(1, 40)).Select(_ => Math.Round(random.NextDouble() * 20, 2)).ToList();
            if (hours.Sum() == 0)
                continue;
            var pairs = hours.SelectMany(a => hours.Select(b => Math.Abs(a - b))).Average();
            Fairness.Gini(hours)!.Value.ShouldBe(pairs / (2 * hours.Average()), 1e-12);
        }
    }

    [Fact]
    public void NobodyAndNothing_HaveNoFigure_AndEqualSharesHaveNone()
    {
        Fairness.Gini([]).ShouldBeNull();
        Fairness.Gini([0, 0]).ShouldBeNull();
        Fairness.TopShare([]).ShouldBeNull();
        Fairness.Gini([3, 3, 3])!.Value.ShouldBe(0, 1e-12);
        Fairness.TopShare([1, 1]).ShouldBe(1);
        Fairness.TopShare([.. Enumerable.Repeat(1.0, 40)]).ShouldBe(0.25);
    }

    private static IEnumerable<double> Quantiles(int n) => Enumerable.Range(0, n).Select(i => (i + 0.5) / n);
}
