using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class KitRoundTests
{
    private static readonly UpkeepHands Trainer = new(Runs: true, Trains: true, Repairs: false);
    private static readonly UpkeepHands Member = new(Runs: true, Trains: false, Repairs: false);

    [Fact]
    public void Look_SaysInOrderOrWhatIsWrong_AndNeverBothOrNeither()
    {
        KitRound.Wrong(new KitLook(true, [], null), Trainer).ShouldBeNull();
        KitRound.Wrong(new KitLook(false, [KitFault.Seal], "pin gone"), Trainer).ShouldBeNull();
        KitRound.Wrong(new KitLook(false, [], null), Trainer)!.Code.ShouldBe("kit.unsaid");
        KitRound.Wrong(new KitLook(true, [KitFault.Seal], null), Trainer)!.Code.ShouldBe("kit.unsaid");
        KitRound.Wrong(new KitLook(true, [], new string('x', 201)), Trainer)!.Field.ShouldBe("note");
        KitRound.Wrong(new KitLook(true, [], null), Member)!.Code.ShouldBe("upkeep.notYours");
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(4, true)]
    [InlineData(5, false)]
    [InlineData(-1, false)]
    [InlineData(null, false)]
    public void Eyewear_DamagedPairs_AreOfThoseThatAreThere(int? damaged, bool right)
    {
        (KitRound.WrongEyewear(damaged, 4, null, Trainer) is null).ShouldBe(right);
        KitRound.WrongEyewear(damaged, 4, null, Member)!.Code.ShouldBe("upkeep.notYours");
    }

    /// <summary>Whole once each item was looked at within a week, and since the task was last done.</summary>
    [Fact]
    public void Round_IsWhole_OnceEachItemWasLookedAt()
    {
        var now = GateCase.Now;
        var since = now - Duration.FromDays(30);
        RoundItem Item(string id, int? daysAgo) => new(false, id, daysAgo is { } d ? now - Duration.FromDays(d) : null);
        KitRound.IsWhole([Item("a", 0), Item("b", 6)], since, now).ShouldBeTrue();
        KitRound.IsWhole([Item("a", 0), Item("b", 8)], since, now).ShouldBeFalse("a look of before belongs to another round");
        KitRound.IsWhole([Item("a", 0), Item("b", null)], since, now).ShouldBeFalse("unknown is never looked at");
        KitRound.IsWhole([Item("a", 0)], now - Duration.FromHours(-1), now).ShouldBeFalse("it was done meanwhile");
        KitRound.IsWhole([], since, now).ShouldBeFalse("a house without fire kit has no round");
    }

    [Fact]
    public void Item_IsDue_WhenNobodyEverLooked_OrTheDaysAreOver()
    {
        var now = GateCase.Now;
        KitRound.IsDue(null, 30, now).ShouldBeTrue();
        KitRound.IsDue(now - Duration.FromDays(30), 30, now).ShouldBeFalse();
        KitRound.IsDue(now - Duration.FromDays(30.01), 30, now).ShouldBeTrue();
    }

    [Fact]
    public void Faults_AreSaidInWords_EachOnce()
    {
        KitFaults.Says([KitFault.Damaged, KitFault.Missing, KitFault.Damaged]).ShouldBe("not there, damaged");
        KitFaults.Says([KitFault.Seal, KitFault.Date]).ShouldBe("not sealed any more, out of date");
        KitFaults.Of("seal").ShouldBe(KitFault.Seal);
    }

    /// <summary>What a look found shuts the gate until it is right; a date that is over is said beside it.</summary>
    [Fact]
    public void Gate_IsShut_WhileKitIsNotInOrder()
    {
        var blanket = new KitFacts("fire blanket", null, "not there", GateCase.Now);
        var wrong = GateCase
            .Open()
            .With(f => f with { Room = f.Room with { FireKit = Fact.Known<IReadOnlyList<KitFacts>>([blanket]) } })
            .Decide();
        wrong.Verdict.ShouldBe(Verdict.Shut);
        var reason = wrong.Reasons.Single(r => r.Code == "room.kitOut");
        reason.Text.ShouldBe("The fire blanket is not there, found 24 Nov 2026.");
        reason.Remedy!.Action.ShouldBe("kit.look");
    }
}
