using NodaTime;
using Shouldly;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

public class LiveTests
{
    private static readonly MachineSpec Heron = GateCase.Heron with { AirflowM3PerHour = 650, ExtractionLeadSeconds = 90 };

    private static Instant At(int minute, int second) => Instant.FromUtc(2026, 11, 24, 14, minute, second);

    private static MachineLive Read(MachineLive live, decimal? airflow, Instant at, long number = 1) =>
        live.With(new Readings(1, number, 0, false, new Sensors(AirflowM3PerHour: airflow, LidShut: true)), Heron, at, at);

    /// <summary>640 from 14:00:00; 400 at 14:01:25 sets the lead back; 640 again from 14:01:30.</summary>
    [Fact]
    public void AirSince_IsSetBackByOneReadingBelowTheLimit()
    {
        var live = new MachineLive("h-1");
        for (var s = 0; s <= 80; s++)
            live = Read(live, 640, At(0, 0) + Duration.FromSeconds(s));
        live.AirSince.ShouldBe(At(0, 0));
        for (var s = 81; s < 85; s++)
            live = Read(live, 640, At(0, 0) + Duration.FromSeconds(s));
        Read(live, 400, At(1, 25)).AirSince.ShouldBeNull();
        live = Read(Read(live, 400, At(1, 25)), 640, At(1, 30));
        live.AirSince.ShouldBe(At(1, 30));
        Read(live, 422.4m, At(1, 31)).AirSince.ShouldBeNull();
        Read(live, 422.5m, At(1, 31)).AirSince.ShouldBe(At(1, 30));
        Read(live, null, At(1, 31)).AirSince.ShouldBeNull();
    }

    [Fact]
    public void AirSince_StartsAnewAfterAGap()
    {
        var live = Read(new MachineLive("h-1"), 640, At(0, 0));
        Read(live, 640, At(0, 10)).AirSince.ShouldBe(At(0, 0));
        Read(live, 640, At(0, 11)).AirSince.ShouldBe(At(0, 11), "nobody knows what was in between");
    }

    [Fact]
    public void Silence_IsShownAfterTenSeconds_AndStartsNothingAfterThirty()
    {
        var live = Read(new MachineLive("h-1"), 640, At(0, 0));
        live.IsSilent(At(0, 10)).ShouldBeFalse();
        live.IsSilent(At(0, 11)).ShouldBeTrue();
        live.Fresh(At(0, 30)).ShouldNotBeNull();
        live.Fresh(At(0, 31)).ShouldBeNull();
        new MachineLive("h-1").IsLost(At(0, 0)).ShouldBeTrue();
    }

    /// <summary>A slow message never makes the clock late; a clock that was set is taken anew after ten readings.</summary>
    [Fact]
    public void BootClock_TakesTheQuickest_AndASetClockAnew()
    {
        var clock = BootClock.Heard(null, 1_000, At(0, 1) + Duration.FromMilliseconds(800));
        clock = BootClock.Heard(clock, 2_000, At(0, 2) + Duration.FromMilliseconds(20));
        clock.At(0).ShouldBe(At(0, 0) + Duration.FromMilliseconds(20));
        clock = BootClock.Heard(clock, 3_000, At(0, 7));
        clock.At(3_000).ShouldBe(At(0, 3) + Duration.FromMilliseconds(20));
        for (var i = 4; i < 13; i++)
            clock = BootClock.Heard(clock, i * 1_000, At(10, i));
        clock.At(13_000).ShouldBe(At(0, 13) + Duration.FromMilliseconds(20));
        BootClock.Heard(clock, 13_000, At(10, 13)).At(13_000).ShouldBe(At(10, 13));
    }

    /// <summary>
    /// Table of dew points at 20 and 25 °C: 50 % gives 9.3 and 13.9 °C, 100 % the room’s own. Source: the psychrometric tables in use,
    /// to a tenth (from memory).
    /// </summary>
    [Theory]
    [InlineData(20, 50, 9.3)]
    [InlineData(25, 50, 13.9)]
    [InlineData(25, 100, 25.0)]
    [InlineData(30, 80, 26.2)]
    public void DewPoint_IsThatOfTheTables(int room, int humidity, double dew) =>
        ((double)ReadingRules.DewPoint(room, humidity)).ShouldBe(dew, 0.1);

    [Theory]
    [InlineData(553.0, null)]
    [InlineData(552.4, "machine.airflowDue")]
    [InlineData(487.5, "machine.airflowDue")]
    [InlineData(487.4, "machine.airflowLow")]
    [InlineData(422.5, "machine.airflowLow")]
    [InlineData(422.4, "machine.airflowOut")]
    [InlineData(0.0, "machine.airflowOut")]
    [InlineData(null, "machine.airflowOut")]
    public void Airflow_IsHeldAgainstCommissioning(double? flow, string? code) =>
        ReadingRules.Of(Heron, new LiveReadings(true, (decimal?)flow))[0].Code.ShouldBe(code);

    [Fact]
    public void Airflow_SaysNothingBeforeTheExtractionIsMeantToRun() =>
        ReadingRules.Of(Heron, new LiveReadings(false, 0))[0].Code.ShouldBeNull();

    [Theory]
    [InlineData(21.0, null)]
    [InlineData(25.1, "machine.coolantWarm")]
    [InlineData(28.1, "machine.coolantHot")]
    [InlineData(32.1, "machine.coolantOut")]
    [InlineData(14.9, "machine.coolantCold")]
    [InlineData(4.9, "machine.coolantOut")]
    [InlineData(null, "machine.coolantOut")]
    public void Coolant_IsHeldAgainstTheMachinesLimits(double? coolant, string? code) =>
        ReadingRules.Of(Cooled, new LiveReadings(true, 650, (decimal?)coolant)).Single(r => r.What == "Coolant").Code.ShouldBe(code);

    [Fact]
    public void Coolant_NearTheDewPoint_IsCold()
    {
        var humid = new LiveReadings(true, 650, CoolantC: 20, RoomC: 25, HumidityPercent: 70);
        ReadingRules.Of(Cooled, humid).Single(r => r.What == "Coolant").Code.ShouldBe("machine.coolantCold", "19.2 °C is the dew point");
        ReadingRules.Of(Cooled, humid with { HumidityPercent = 50 }).Single(r => r.What == "Coolant").Code.ShouldBeNull();
    }

    [Fact]
    public void Coolant_ThatDoesNotFlow_IsOut() =>
        ReadingRules
            .Of(Cooled, new LiveReadings(true, 650, CoolantC: 21, CoolantLPerMin: 0))
            .Select(r => r.Code)
            .ShouldContain("machine.coolantOut");

    private static MachineSpec Cooled =>
        Heron with
        {
            WaterCooled = true,
            Station = GateCase.Heron.Station! with { CoolantCautionC = 25, CoolantAskC = 28, CoolantShutC = 32, CoolantColdC = 5 },
        };
}
