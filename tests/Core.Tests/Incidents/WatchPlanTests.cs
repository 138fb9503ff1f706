using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class WatchPlanTests
{
    private static readonly Instant Began = Instant.FromUtc(2026, 11, 24, 18, 18);

    private static string States(int atMinute, params int[] done) =>
        string.Join(' ', WatchPlan.Looks(Began, 60, done, Began + Duration.FromMinutes(atMinute)).Select(l => $"{l.Minute}:{l.State}"));

    [Theory]
    [InlineData(60, new[] { 0, 10, 20, 30, 45, 60 })]
    [InlineData(30, new[] { 0, 10, 20, 30 })]
    [InlineData(40, new[] { 0, 10, 20, 30, 40 })]
    [InlineData(120, new[] { 0, 10, 20, 30, 45, 60, 120 })]
    public void Looks_AreAtTheirMinutes_AndAtTheLast(int minutes, int[] looks) => WatchPlan.Of(minutes).ShouldBe(looks);

    [Fact]
    public void ALook_IsDueUntilTheNextOne()
    {
        States(0).ShouldBe("0:Due 10:ToCome 20:ToCome 30:ToCome 45:ToCome 60:ToCome");
        States(9, 0).ShouldBe("0:Done 10:ToCome 20:ToCome 30:ToCome 45:ToCome 60:ToCome");
        States(21, 0).ShouldBe("0:Done 10:Missed 20:Due 30:ToCome 45:ToCome 60:ToCome");
        States(500, 0).ShouldBe("0:Done 10:Missed 20:Missed 30:Missed 45:Missed 60:Due", "the last is never missed, only late");
    }

    [Fact]
    public void TheWatch_RunsUntilItsLastLook()
    {
        WatchPlan.Runs(60, [0, 10, 20, 30, 45]).ShouldBeTrue();
        WatchPlan.Runs(60, [60]).ShouldBeFalse();
    }

    [Theory]
    [InlineData(4, false)]
    [InlineData(5, true)]
    public void Nobody_CallsTheStewardsAfterFiveMinutes(int minutes, bool called) =>
        WatchPlan
            .WantsACall(WatchPlan.Looks(Began, 60, [], Began + Duration.FromMinutes(minutes)), Began + Duration.FromMinutes(minutes))
            .ShouldBe(called);

    [Theory]
    [InlineData(20, 21, null)]
    [InlineData(30, 21, "look.early")]
    [InlineData(0, 21, "look.done")]
    [InlineData(10, 21, "look.missed")]
    [InlineData(17, 21, "look.none")]
    public void ALook_IsMadeInItsTime(int minute, int now, string? refused) =>
        (WatchPlan.MayLook(WatchPlan.Looks(Began, 60, [0], Began + Duration.FromMinutes(now)), minute)?.Code).ShouldBe(refused);

    [Theory]
    [InlineData(60, "", null)]
    [InlineData(59, " ", "watch.short")]
    [InlineData(45, "Policy 12, clause 4", null)]
    public void Shorter_OnlyWithTheInsurersPaper(int minutes, string paper, string? refused) =>
        (FireWatch.MayLast(minutes, paper)?.Code).ShouldBe(refused);
}
