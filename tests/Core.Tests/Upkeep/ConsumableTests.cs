using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class ConsumableTests
{
    private static readonly Consumable Carbon = new(
        Name: "Carbon",
        Unit: "fills",
        Part: UpkeepPart.Carbon,
        MachineId: null,
        Place: "cupboard",
        Supplier: "",
        Reorder: 1,
        Waste: "closed bag, hazardous waste"
    );

    [Fact]
    public void Description_WantsAName_AUnit_ALevel_AndWhereTheUsedOneGoes()
    {
        Carbon.Wrong().ShouldBeEmpty();
        (Carbon with { Name = " " }).Wrong().Single().Field.ShouldBe("name");
        (Carbon with { Unit = new string('x', 21) }).Wrong().Single().Field.ShouldBe("unit");
        (Carbon with { Reorder = -1 }).Wrong().Single().Field.ShouldBe("reorder");
        (Carbon with { Waste = "" }).Wrong().Single().Code.ShouldBe("stock.waste");
        (Carbon with { Place = new string('x', 201) }).Wrong().Single().Field.ShouldBe("place");
        Consumable.Twice(true)!.Field.ShouldBe("name");
    }

    [Theory]
    [InlineData(1, 2, true, null)]
    [InlineData(2, 2, true, null)]
    [InlineData(2.5, 2, true, "stock.short")]
    [InlineData(0, 2, true, "stock.amount")]
    [InlineData(-1, 2, false, "stock.amount")]
    [InlineData(9, 0, false, null)]
    [InlineData(10001, 0, false, "stock.amount")]
    public void Change_NeverTakesMoreThanThereIs(double amount, double stock, bool used, string? code) =>
        Consumable.WrongChange((decimal)amount, (decimal)stock, used)?.Code.ShouldBe(code);

    [Fact]
    public void Change_WithoutAnAmount_IsAskedFor()
    {
        Consumable.WrongChange(null, 1, false)!.Code.ShouldBe("stock.amount");
        Consumable.WrongCount(null, 1)!.Code.ShouldBe("stock.counted");
        Consumable.WrongCount(-1, 1)!.Code.ShouldBe("stock.counted");
        Consumable.WrongCount(1, 1)!.Code.ShouldBe("stock.same");
        Consumable.WrongCount(0, 1).ShouldBeNull();
        Consumable.WrongChange(3, 2, true)!.Text.ShouldContain("Only 2 are there");
    }

    [Fact]
    public void Low_IsAtItsLevelOrBelow()
    {
        Consumable.IsLow(1, 1).ShouldBeTrue();
        Consumable.IsLow(1.01m, 1).ShouldBeFalse();
        Consumable.IsLow(0, 0).ShouldBeTrue("what is kept at none is ordered when none is left");
    }

    /// <summary>The schools of practice: who does a task that gives itself to members, by part and house.</summary>
    [Theory]
    [InlineData(UpkeepPart.Lens, MemberUpkeep.Nothing, true, UpkeepWho.Trainer)]
    [InlineData(UpkeepPart.Lens, MemberUpkeep.NozzleAndLens, false, UpkeepWho.Member)]
    [InlineData(UpkeepPart.Mirrors, MemberUpkeep.NozzleAndLens, true, UpkeepWho.Trainer)]
    [InlineData(UpkeepPart.Mirrors, MemberUpkeep.MarkedMirrors, false, UpkeepWho.Trainer)]
    [InlineData(UpkeepPart.Mirrors, MemberUpkeep.MarkedMirrors, true, UpkeepWho.Member)]
    [InlineData(UpkeepPart.Electrical, MemberUpkeep.MarkedMirrors, true, UpkeepWho.Repairer)]
    public void Who_GoesByTheHousesSchool(UpkeepPart part, MemberUpkeep school, bool marked, UpkeepWho who) =>
        (UpkeepMethods.Lens with { Part = part, Who = UpkeepWho.Member }).WhoFor(school, marked).ShouldBe(who);

    [Fact]
    public void Who_IsNeverWidenedByTheHouse()
    {
        UpkeepMethods.Coolant.WhoFor(MemberUpkeep.MarkedMirrors, true).ShouldBe(UpkeepWho.Trainer);
        UpkeepMethods.Electrical.WhoFor(MemberUpkeep.Nothing, false).ShouldBe(UpkeepWho.Repairer);
    }
}
