using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

/// <summary>Heron: 0.45 m³, K 3, r 0.01, commissioned at 650 m³/h. The seconds by hand: 3 · 0.45 / (Q / 3600) · ln 100.</summary>
public class LidWaitTests
{
    private static readonly HouseRules Rules = GateCase.Open().Facts.Rules;

    [Theory]
    [InlineData(650, 35)]
    [InlineData(520, 44)]
    [InlineData(422.5, 53)]
    public void Of_AirflowThatWasRead_IsRoundedUp(double airflow, int seconds) =>
        LidWait.Of(GateCase.Heron, Rules, (decimal)airflow, BeamLeft.Smoke).Seconds.ShouldBe(seconds);

    [Fact]
    public void Of_NoReading_TakesTheAirflowAtWhichTheGateIsShut()
    {
        var wait = LidWait.Of(GateCase.Heron, Rules, null, BeamLeft.Smoke);
        (wait.Seconds, wait.AirflowM3PerHour).ShouldBe((53, 422.5m));
        wait.Why.ShouldContain("422.5 m³/h");
    }

    [Fact]
    public void Of_FlameOrGlow_IsTheLongWait_OrThreeTimesTheOther()
    {
        LidWait.Of(GateCase.Heron, Rules, null, BeamLeft.FlameOrGlow).Seconds.ShouldBe(300);
        LidWait.Of(GateCase.Heron with { EnclosureM3 = 2 }, Rules, 650, BeamLeft.FlameOrGlow).Seconds.ShouldBe(3 * 154);
    }

    [Fact]
    public void Of_Choking_CountsNothingDown() => LidWait.Of(GateCase.Heron, Rules, 650, BeamLeft.Choking).Seconds.ShouldBeNull();

    [Fact]
    public void Of_HouseMinimumAndUnknownFlow_NeverShorten()
    {
        LidWait.Of(GateCase.Heron, Rules with { AirClearingFloorSeconds = 120 }, 650, BeamLeft.Smoke).Seconds.ShouldBe(120);
        LidWait.Of(GateCase.Heron with { AirflowM3PerHour = 0 }, Rules, null, BeamLeft.Smoke).Seconds.ShouldBe(300);
    }
}
