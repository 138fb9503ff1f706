using Shouldly;
using VelvetGate.Core.Settings;
using Xunit;

namespace VelvetGate.Core.Tests.Run;

public class AirClearingTests
{
    /// <summary>
    /// CDC 2003, Guidelines for Environmental Infection Control in Health-Care Facilities, table B.1 (K = 1): minutes to remove
    /// 99 % and 99.9 % of an airborne contaminant. The table's values are from memory of that publication.
    /// </summary>
    [Theory]
    [InlineData(2, 138, 207)]
    [InlineData(4, 69, 104)]
    [InlineData(6, 46, 69)]
    [InlineData(8, 35, 52)]
    [InlineData(10, 28, 41)]
    [InlineData(12, 23, 35)]
    [InlineData(15, 18, 28)]
    [InlineData(20, 14, 21)]
    [InlineData(50, 6, 8)]
    public void Seconds_AtAirChangesAnHour_AgreeWithTheTable(int changesPerHour, int minutes99, int minutes999)
    {
        Math.Round(AirClearing.Seconds(1, changesPerHour, 1, 0.01) / 60, MidpointRounding.AwayFromZero).ShouldBe(minutes99);
        Math.Round(AirClearing.Seconds(1, changesPerHour, 1, 0.001) / 60, MidpointRounding.AwayFromZero).ShouldBe(minutes999);
    }

    [Fact]
    public void Used_NeverShorterThanTheHouseMinimum_AndNoneWithoutAirflow()
    {
        var rules = Core.House.Packs.Start(Core.House.Packs.StaffedWorkshop, "h", "Europe/London");
        var heron = Gating.GateCase.Heron;
        AirClearing.Used(heron with { AirflowM3PerHour = 5000 }, rules).ShouldBe(30);
        AirClearing.Used(heron, rules)!.Value.ShouldBe(3 * 0.45 / (650 / 3600.0) * Math.Log(100), 1e-9);
        AirClearing.Used(heron with { AirflowM3PerHour = 0 }, rules).ShouldBeNull();
    }

    [Fact]
    public void Seconds_WithoutAirflow_IsACallersBug() =>
        Should.Throw<ArgumentOutOfRangeException>(() => AirClearing.Seconds(1, 0, 3, 0.01));
}

public class EyewearMathTests
{
    /// <summary>
    /// 10 W at 450 nm: 4.4 thermal, 5.4 photochemical, the larger counts (limits from memory of ANSI Z136.1 / IEC 60825-1).
    /// </summary>
    [Fact]
    public void RequiredOpticalDensity_BlueDiode_TakesThePhotochemicalLimit()
    {
        EyewearMath.RequiredOpticalDensity(10, 450)!.Value.ShouldBe(5.4, 0.05);
        EyewearMath.RequiredOpticalDensity(10, 520)!.Value.ShouldBe(4.4, 0.05);
    }

    [Theory]
    [InlineData(80, 10600, 3.92)] // log10(80 / 0.0962 / 0.1)
    [InlineData(30, 1064, 4.18)] // log10(30 / 0.385 / 0.0051)
    [InlineData(30, 1050, 4.18)]
    [InlineData(10, 808, 4.19)] // C_A = 10^(2 x 0.108) = 1.64: log10(10 / 0.385 / 0.00168), about 0.5 above what 1064 nm would ask for
    [InlineData(10, 700, 4.41)] // C_A = 1
    public void RequiredOpticalDensity_Infrared(double watts, int nm, double od) =>
        EyewearMath.RequiredOpticalDensity(watts, nm)!.Value.ShouldBe(od, 0.01);

    /// <summary>C_A rises without a step to 1050 nm, and stays.</summary>
    [Fact]
    public void RequiredOpticalDensity_OverTheNearInfrared_FallsSteadily()
    {
        for (var nm = 701; nm <= 1400; nm++)
            EyewearMath
                .RequiredOpticalDensity(10, nm)!
                .Value.ShouldBeLessThanOrEqualTo(EyewearMath.RequiredOpticalDensity(10, nm - 1)!.Value);
    }

    [Theory]
    [InlineData(355)]
    [InlineData(399)]
    [InlineData(1401)]
    [InlineData(1550)]
    [InlineData(9300)]
    public void RequiredOpticalDensity_WhereNoLimitIsKnown_IsNotGuessed(int nm) =>
        EyewearMath.RequiredOpticalDensity(10, nm).ShouldBeNull();
}
