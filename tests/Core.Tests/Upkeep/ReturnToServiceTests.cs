using Shouldly;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class ReturnToServiceTests
{
    private static readonly UpkeepHands Nobody = new(true, false, false);
    private static readonly UpkeepHands Repairer = new(true, false, true);
    private static readonly ReturnTests All = new(Interlock: true, AirflowM3PerHour: 640, CoolantC: 21, TestFire: true, Framed: true);

    /// <summary>The worked case: a lens changed by a plain steward, then by a repairer without airflow, then with all of it.</summary>
    [Fact]
    public void Lens_IsReturnedByARepairerWithAllOfItTried()
    {
        Code([Touched.Optics], All, Nobody, steward: true).ShouldBe("machine.repairAuthority");
        var missing = Wrong([Touched.Optics], All with { AirflowM3PerHour = null }, Repairer)!;
        (missing.Code, missing.Field).ShouldBe(("return.incomplete", "tested.airflowM3PerHour"));
        Wrong([Touched.Optics], All, Repairer).ShouldBeNull();
    }

    [Fact]
    public void NothingTouched_IsReturnedByAStewardWhoLooked()
    {
        Wrong([], new ReturnTests(), Nobody, steward: true).ShouldBeNull();
        Wrong([], new ReturnTests(), Repairer).ShouldBeNull();
        Code([], new ReturnTests(), Nobody).ShouldBe("machine.repairAuthority", "a member returns none");
        Code([], new ReturnTests(), new UpkeepHands(true, true, false)).ShouldBe("machine.repairAuthority", "nor does a trainer");
    }

    [Fact]
    public void Unsaid_IsNeverNothing() => Code(null, All, Repairer, steward: true).ShouldBe("return.incomplete");

    [Fact]
    public void EachTest_IsWanted()
    {
        foreach (
            var less in new[]
            {
                All with
                {
                    Interlock = false,
                },
                All with
                {
                    CoolantC = null,
                },
                All with
                {
                    TestFire = false,
                },
                All with
                {
                    Framed = false,
                },
            }
        )
            Code([Touched.Other], less, Repairer).ShouldBe("return.incomplete");
        var dry = GateCase.Heron with { WaterCooled = false };
        ReturnToService.Wrong([Touched.Other], All with { CoolantC = null }, dry, Repairer, false).ShouldBeNull();
    }

    [Theory]
    [InlineData(420, 21, "return.out")] // 64.6 % of 650
    [InlineData(640, 33, "return.out")]
    [InlineData(1400, 21, "reading.airflowOdd")]
    [InlineData(640, 70, "reading.coolantOdd")]
    public void OutOfRange_StaysOut(double airflow, double coolant, string code) =>
        Code([Touched.Extraction], All with { AirflowM3PerHour = (decimal)airflow, CoolantC = (decimal)coolant }, Repairer).ShouldBe(code);

    [Fact]
    public void Interlock_IsTriedByASecondPersonWithAuthority()
    {
        ReturnToService.WantsSecond([Touched.Interlock]).ShouldBeTrue();
        ReturnToService.WantsSecond([Touched.Optics]).ShouldBeFalse();
        Touched[] touched = [Touched.Interlock];
        ReturnToService.SecondWrong(touched, All, Nobody, false)!.Code.ShouldBe("machine.repairAuthority");
        ReturnToService.SecondWrong(touched, All with { Interlock = false }, Nobody, true)!.Code.ShouldBe("return.incomplete");
        ReturnToService.SecondWrong(touched, All, new UpkeepHands(true, true, false), false).ShouldBeNull();
        ReturnToService.SecondWrong([Touched.Optics], new ReturnTests(), Nobody, true).ShouldBeNull("the repairer has tried it");
    }

    [Theory]
    [InlineData(Touched.Optics, true)]
    [InlineData(Touched.Tube, true)]
    [InlineData(Touched.Alignment, true)]
    [InlineData(Touched.Coolant, false)]
    [InlineData(Touched.Extraction, false)]
    public void Settings_AreOfBeforeTheService(Touched touched, bool before) => ReturnToService.ChangesSettings([touched]).ShouldBe(before);

    [Fact]
    public void Visit_SaysWhoAndWhat()
    {
        ServiceVisits
            .Wrong([Touched.Tube], "Northlight, a fitter", "New tube.", Nobody, true)
            .ShouldBeNull("a firm’s work, written by a steward");
        ServiceVisits.Wrong([Touched.Tube], "Northlight, a fitter", "New tube.", Nobody, false)!.Code.ShouldBe("machine.repairAuthority");
        ServiceVisits.Wrong([], "A fitter", "New tube.", Repairer, false)!.Field.ShouldBe("touched");
        ServiceVisits.Wrong([Touched.Tube], " ", "New tube.", Repairer, false)!.Field.ShouldBe("by");
        ServiceVisits.Wrong([Touched.Tube], "A fitter", new string('x', 1001), Repairer, false)!.Field.ShouldBe("note");
    }

    private static Refusal? Wrong(IReadOnlyList<Touched>? touched, ReturnTests tests, UpkeepHands hands, bool steward = false) =>
        ReturnToService.Wrong(touched, tests, GateCase.Heron, hands, steward);

    private static string? Code(IReadOnlyList<Touched>? touched, ReturnTests tests, UpkeepHands hands, bool steward = false) =>
        Wrong(touched, tests, hands, steward)?.Code;
}
