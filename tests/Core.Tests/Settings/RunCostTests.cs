using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

public class RunCostTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");

    /// <summary>327 s at 0.30 a minute: 1.635, half goes up.</summary>
    [Fact]
    public void Of_APriceForEachMinute_ToTwoPlaces() =>
        RunCost.Of(327, Rules with { RunMinutePrice = 0.30m, Currency = "£" }).ShouldBe(new RunCost(1.64m, "£", 0.30m));

    [Fact]
    public void Of_NoPrice_IsNull()
    {
        RunCost.Of(327, Rules).ShouldBeNull();
        RunCost.Of(327, Rules with { RunMinutePrice = 0 }).ShouldBeNull();
    }

    /// <summary>By hand: 1,450 W for 327 s are 131.7 Wh. Nothing is made up where nobody measured it.</summary>
    [Fact]
    public void Energy_FromWhatTheMachineTakes()
    {
        var machine = Gating.GateCase.Heron;
        RunEnergy.Of(327, machine).ShouldBeNull();
        RunEnergy.Of(327, machine with { Station = machine.Station! with { WallW = 1450 } }).ShouldBe(new RunEnergy(131.7m, 1450));
        RunEnergy.Of(327, machine with { Station = null }).ShouldBeNull();
    }
}
