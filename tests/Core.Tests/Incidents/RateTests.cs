using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class RateTests
{
    /// <summary>
    /// Exact 95 % limits as tables of the Poisson distribution print them (E. S. Pearson and H. O. Hartley, Biometrika Tables for
    /// Statisticians, volume 1, table 40). From memory.
    /// </summary>
    [Theory]
    [InlineData(0, 0, 3.689)]
    [InlineData(1, 0.0253, 5.572)]
    [InlineData(2, 0.242, 7.225)]
    [InlineData(3, 0.619, 8.767)]
    [InlineData(5, 1.623, 11.668)]
    [InlineData(10, 4.795, 18.390)]
    [InlineData(20, 12.217, 30.888)]
    [InlineData(50, 37.111, 65.919)]
    [InlineData(100, 81.364, 121.627)]
    public void Limits_AreThoseOfPrintedTables(int count, double low, double high)
    {
        var (l, h) = Rate.Limits(count);
        l.ShouldBe(low, 6e-4);
        h.ShouldBe(high, 1.1e-3);
    }

    [Theory]
    [InlineData(2, 412.5, 0.48, 0.06, 1.75)]
    [InlineData(7, 412.5, 1.70, 0.68, 3.50)]
    [InlineData(0, 96, 0, 0, 3.84)]
    public void Per100Hours_WithItsLimits(int count, double hours, double per100, double low, double high)
    {
        var rate = Rate.Of(count, hours);
        (rate.Count, rate.Hours).ShouldBe((count, hours));
        rate.Per100!.Value.ShouldBe(per100, 0.005);
        rate.Low!.Value.ShouldBe(low, 0.005);
        rate.High!.Value.ShouldBe(high, 0.005);
    }

    /// <summary>Hours that nobody knows give no rate, never none.</summary>
    [Fact]
    public void Hours_NotKnown_GiveNoRate() => Rate.Of(4, null).ShouldBe(new Rate(4, null, null, null, null));

    [Theory]
    [InlineData(-1, 10)]
    [InlineData(1, 0)]
    [InlineData(1, -2)]
    [InlineData(1, double.NaN)]
    [InlineData(1, double.PositiveInfinity)]
    public void Nonsense_IsRefused(int count, double hours)
    {
        Should.Throw<ArgumentOutOfRangeException>(() => Rate.Of(count, hours));
        Should.Throw<ArgumentOutOfRangeException>(() => Rate.ByChance(count, hours, 1, 10));
        Should.Throw<ArgumentOutOfRangeException>(() => Rate.ByChance(1, 10, count, hours));
    }

    /// <summary>
    /// The worked example of the comparison of Poisson rates in the documentation of R's <c>stats</c> package: 11 cases in 800 years
    /// against 21 in 3,011, p = 0.07967. From memory.
    /// </summary>
    [Fact]
    public void ByChance_IsThePublishedExample() => Rate.ByChance(11, 800, 21, 3011).ShouldBe(0.07967, 5e-6);

    [Fact]
    public void ByChance_TwoAlike_IsOne_AndGoesBothWays()
    {
        Rate.ByChance(0, 10, 0, 300).ShouldBe(1);
        Rate.ByChance(5, 100, 5, 100).ShouldBe(1, 1e-9);
        Rate.ByChance(9, 120, 2, 200).ShouldBe(Rate.ByChance(2, 200, 9, 120), 1e-12);
    }
}
