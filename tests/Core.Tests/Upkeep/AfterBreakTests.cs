using NodaTime;
using Shouldly;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class AfterBreakTests
{
    private static readonly UpkeepHands Trainer = new(Runs: true, Trains: true, Repairs: false);
    private static readonly BreakCheck Whole = new(Interlocks: true, Outlet: true, Kit: true, AirflowM3PerHour: 640, CoolantC: 20);

    private static Refusal? Wrong(BreakCheck check, MachineSpec? machine = null, UpkeepHands? hands = null, Instant? last = null) =>
        AfterBreak.Wrong(check, machine ?? GateCase.Heron, hands ?? Trainer, last, GateCase.Now);

    [Fact]
    public void Check_TwiceAtOnce_IsWrittenOnce()
    {
        Wrong(Whole, last: GateCase.Now - Duration.FromSeconds(20))!.Code.ShouldBe("upkeep.doneJustNow");
        Wrong(Whole, last: GateCase.Now - Duration.FromMinutes(2)).ShouldBeNull();
    }

    [Fact]
    public void LastUse_IsTheLatestOfRunLookAndSheet()
    {
        var on = GateCase.WellSetUp.On!.Value;
        Breaks.LastUse(null, null, GateCase.WellSetUp).ShouldBe(on);
        Breaks.LastUse(on + Duration.FromDays(1), null, GateCase.WellSetUp).ShouldBe(on + Duration.FromDays(1));
        Breaks.LastUse(on - Duration.FromDays(1), on + Duration.FromDays(2), GateCase.WellSetUp).ShouldBe(on + Duration.FromDays(2));
        Breaks.LastUse(null, null, GateCase.WellSetUp with { On = null }).ShouldBeNull();
    }

    [Fact]
    public void Check_OfAllFive_ByATrainerOrRepairer_IsTaken()
    {
        Wrong(Whole).ShouldBeNull();
        Wrong(Whole, hands: new(false, false, Repairs: true)).ShouldBeNull();
        Wrong(Whole, hands: new(Runs: true, false, false))!.Problem.Code.ShouldBe("upkeep.notYours");
    }

    [Fact]
    public void Check_NamesAllThatIsLeft_WithTheFirstField()
    {
        var refusal = Wrong(Whole with { Outlet = false, CoolantC = null, Kit = false })!;
        refusal.Field.ShouldBe("coolantC");
        refusal.Text.ShouldContain("coolant read, the outlet looked at, the fire kit looked at");
        Wrong(new BreakCheck())!.Field.ShouldBe("interlocks");
        Wrong(Whole with { CoolantC = null }, GateCase.Heron with { WaterCooled = false }).ShouldBeNull("there is no coolant to read");
    }

    [Theory]
    [InlineData(400.0, 20.0, "airflowM3PerHour")]
    [InlineData(640.0, 3.0, "coolantC")]
    [InlineData(6400.0, 20.0, "airflowM3PerHour")]
    [InlineData(640.0, 70.0, "coolantC")]
    public void Check_WithAReadingAtWhichNothingRuns_IsNone(double airflow, double coolant, string field) =>
        Wrong(Whole with { AirflowM3PerHour = (decimal)airflow, CoolantC = (decimal)coolant })!.Field.ShouldBe(field);

    /// <summary>Ninety idle days; a closure of ten days within gives ten more.</summary>
    [Theory]
    [InlineData(89, false)]
    [InlineData(91, true)]
    public void IdleClock_StandsStillOverALongClosure(int daysAgo, bool lapsed)
    {
        var c = GateCase.Open();
        var used = c.Ask.Start - Duration.FromDays(daysAgo);
        c = c.With(f => f with { Training = f.Training with { LastUse = Fact.Known<Instant?>(used) } });
        Idle(c).ShouldBe(lapsed);
        var closed = new Span(used + Duration.FromDays(20), used + Duration.FromDays(30));
        Idle(c.With(f => f with { Machine = f.Machine with { LongClosures = [closed] } })).ShouldBeFalse();

        static bool Idle(GateCase c) => c.Decide().Posts.SelectMany(p => p.Reasons).Any(r => r.Code == "training.idle");
    }
}
