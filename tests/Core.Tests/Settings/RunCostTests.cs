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
}
