using Shouldly;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class HoldsTests
{
    [Theory]
    [InlineData(null, "m-5", false, "m-2", "", HoldEnding.Ends)] // a member stopped it: any steward returns it
    [InlineData(null, "m-2", true, "m-2", "", HoldEnding.Ends)] // its setter
    [InlineData(null, "m-2", true, "m-6", "", HoldEnding.NeedsAnother)]
    [InlineData(null, "m-2", true, "m-6", "m-6", HoldEnding.NeedsAnother)] // twice by the same is one
    [InlineData(null, "m-2", true, "m-7", "m-6", HoldEnding.Ends)]
    [InlineData("m-4", "m-2", true, "m-7", "m-6", HoldEnding.Ends)]
    public void End_BySetterOrTwoOthers(
        string? concerned,
        string setBy,
        bool setterIsSteward,
        string by,
        string agreed,
        HoldEnding ending
    ) =>
        Holds
            .End(Ids.From<PersonId>(concerned), setBy, setterIsSteward, by, [.. agreed.Split(' ', StringSplitOptions.RemoveEmptyEntries)])
            .Value.ShouldBe(ending);

    [Fact]
    public void End_ByThePersonConcerned_IsRefused() => Holds.End("m-6", "m-2", true, "m-6", ["m-7"]).Refusal!.Code.ShouldBe("hold.self");
}
