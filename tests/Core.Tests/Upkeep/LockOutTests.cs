using Shouldly;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class LockOutTests
{
    private static readonly UpkeepHands Repairer = new(Runs: true, Trains: false, Repairs: true);

    [Fact]
    public void Lock_HangsOnWhatIsStopped_OncePerPlace_ByWhoMayWorkOnIt()
    {
        LockOut.Wrong("padlock 4 on the plug", stopped: true, twice: false, Repairer).ShouldBeNull();
        LockOut.Wrong("padlock 4 on the plug", stopped: false, twice: false, Repairer)!.Code.ShouldBe("lock.runs");
        LockOut.Wrong(" ", stopped: true, twice: false, Repairer)!.Field.ShouldBe("where");
        LockOut.Wrong(new string('x', 121), stopped: true, twice: false, Repairer)!.Field.ShouldBe("where");
        LockOut.Wrong("padlock 4", stopped: true, twice: true, Repairer)!.Code.ShouldBe("lock.twice");
        LockOut.Wrong("padlock 4", stopped: true, twice: false, new(true, false, false))!.Code.ShouldBe("upkeep.notYours");
    }

    [Fact]
    public void Lock_ComesOff_ByItsHolder_OrByAStewardWithAReason()
    {
        LockOut.WrongOff(holder: true, steward: false, null).ShouldBeNull();
        LockOut.WrongOff(holder: false, steward: false, "They left.")!.Code.ShouldBe("lock.notYours");
        LockOut.WrongOff(holder: false, steward: true, " ")!.Code.ShouldBe("lock.why");
        LockOut.WrongOff(holder: false, steward: true, "Rung up: on the train, agreed; machine looked over.").ShouldBeNull();
    }

    [Fact]
    public void Return_IsRefused_WhileALockHangs()
    {
        LockOut.Hangs([]).ShouldBeNull();
        LockOut.Hangs(["padlock 4 on the plug", "clamp on the duct"])!.Text.ShouldContain("padlock 4 on the plug, clamp on the duct");
    }
}
