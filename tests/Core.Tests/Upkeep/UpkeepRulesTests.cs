using NodaTime;
using Shouldly;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class UpkeepRulesTests
{
    private static readonly Instant Now = GateCase.Now;
    private static readonly UpkeepHands Member = new(true, false, false);
    private static readonly UpkeepHands Trainer = new(false, true, false);
    private static readonly UpkeepHands Repairer = new(false, false, true);

    [Fact]
    public void Task_IsDoneByWhomItSaysOrWhoeverMayMore()
    {
        bool[] By(UpkeepWho who) => [.. new[] { Member, Trainer, Repairer, default }.Select(h => UpkeepDone.MayDo(who, h))];
        By(UpkeepWho.Member).ShouldBe([true, true, true, false]);
        By(UpkeepWho.Trainer).ShouldBe([false, true, true, false]);
        By(UpkeepWho.Repairer).ShouldBe([false, false, true, false]);
    }

    [Fact]
    public void Untended_IsAMachineWithoutTasks_OrWithoutTheTrialItsClassRestsOn()
    {
        UpkeepMethods.IsUntended(GateCase.Heron, []).ShouldBeTrue();
        UpkeepMethods.IsUntended(GateCase.Heron, [UpkeepPart.Lens]).ShouldBeTrue();
        UpkeepMethods.IsUntended(GateCase.Heron, [UpkeepPart.Lens, UpkeepPart.Interlocks]).ShouldBeFalse();
        UpkeepMethods.IsUntended(GateCase.Heron with { LaserClass = "4" }, [UpkeepPart.Lens]).ShouldBeFalse("nothing rests on interlocks");
    }

    [Fact]
    public void Done_TwiceAtOnce_IsWrittenOnce()
    {
        Done(UpkeepMethods.Coolant, Now - Duration.FromSeconds(20)).ShouldBe("upkeep.doneJustNow");
        Done(UpkeepMethods.Coolant, Now - Duration.FromMinutes(2)).ShouldBeNull();
    }

    [Fact]
    public void Airflow_IsWrittenDownWithItsReading()
    {
        Done(UpkeepMethods.Airflow, reading: null).ShouldBe("upkeep.readingWanted");
        Done(UpkeepMethods.Airflow, reading: 620, before: 540).ShouldBeNull();
        Done(UpkeepMethods.Airflow, reading: 1301).ShouldBe("reading.airflowOdd");
        Done(UpkeepMethods.Airflow, reading: 620, before: -1).ShouldBe("reading.airflow");
        Done(UpkeepMethods.Coolant, reading: 620).ShouldBe("upkeep.noReading", "a field that changes nothing is refused");
    }

    private static string? Done(UpkeepPlan plan, Instant? since = null, decimal? reading = null, decimal? before = null) =>
        UpkeepDone
            .Wrong(
                plan: plan,
                who: plan.Who,
                hands: Trainer,
                since: since ?? Now - Duration.FromDays(9),
                machine: GateCase.Heron,
                reading: reading,
                before: before,
                note: null,
                now: Now
            )
            ?.Code;

    /// <summary>What another unit gives is asked again: 345 cfm and 162 l/s are the 586 m³/h of a healthy machine.</summary>
    [Theory]
    [InlineData(640, 21, 20, null)]
    [InlineData(0, null, null, null)]
    [InlineData(null, null, null, "reading.nothing")]
    [InlineData(1301, null, null, "reading.airflowOdd")]
    [InlineData(-5, null, null, "reading.airflow")]
    [InlineData(null, 70, null, "reading.coolantOdd")] // °F
    [InlineData(null, null, 68, "reading.roomOdd")] // °F
    [InlineData(null, -6, null, "reading.coolantOdd")]
    public void Reading_ThatNoGaugeShows_IsAskedAgain(int? airflow, int? coolant, int? room, string? code) =>
        HandReadings.Wrong(GateCase.Heron, new HandReading(airflow, coolant, room)).FirstOrDefault()?.Code.ShouldBe(code);

    [Fact]
    public void Reading_OfWhatTheMachineHasNot_IsRefused()
    {
        var dry = GateCase.Heron with { WaterCooled = false };
        HandReadings.Wrong(dry, new HandReading(null, 20, null)).Single().Code.ShouldBe("reading.notCooled");
        var never = GateCase.Heron with { AirflowM3PerHour = 0 };
        HandReadings.Wrong(never, new HandReading(500, null, null)).Single().Code.ShouldBe("reading.airflowUnknown");
    }

    /// <summary>Every machine begins with tasks that are in order, each of its kind.</summary>
    [Fact]
    public void Methods_AreInOrderAndFitTheMachine()
    {
        UpkeepMethods.All.ShouldAllBe(p => !p.Wrong(true).Any());
        UpkeepMethods.All.Select(p => p.Name).ShouldBeUnique();
        var dry = GateCase.Heron with { Kind = LaserKind.Diode, WaterCooled = false, Extraction = Extraction.Ducted };
        UpkeepMethods
            .For(dry)
            .Select(p => p.Part)
            .ShouldNotContain(p => p == UpkeepPart.Mirrors || p == UpkeepPart.Coolant || p == UpkeepPart.Carbon);
        UpkeepMethods.For(GateCase.Heron with { Extraction = Extraction.Filtered }).ShouldContain(UpkeepMethods.Carbon);
    }

    [Fact]
    public void Plan_ThatCannotBeSo_NamesItsField()
    {
        var plan = UpkeepMethods.Coolant;
        string[] Fields(UpkeepPlan p, bool machine = true) => [.. p.Wrong(machine).Select(r => r.Field!)];
        Fields(plan with { Name = " " }).ShouldBe(["name"]);
        Fields(plan with { Limit = 0 }).ShouldBe(["limit"]);
        Fields(plan with { Limit = 4000 }).ShouldBe(["limit"]);
        Fields(plan with { SlipPercent = 101 }).ShouldBe(["slipPercent"]);
        Fields(UpkeepMethods.Airflow with { SlipPercent = 5 }).ShouldBe(["slipPercent"]);
        Fields(UpkeepMethods.Mirrors, machine: false).ShouldBe(["counter"]);
        Fields(plan with { Steps = [new string('x', 201)] }).ShouldBe(["steps"]);
        Fields(plan with { Kit = new string('x', 201), Basis = new string('x', 201) }).ShouldBe(["kit", "basis"]);
    }

    /// <summary>A smell at full airflow: a filter blows it back into the room, a duct carries it out.</summary>
    [Fact]
    public void Smell_HangsOnWhereTheAirGoes()
    {
        var smell = Symptoms.Find(Symptoms.Smell)!;
        Symptoms.Judge(smell, Extraction.Filtered, false).Standing.ShouldBe(FaultStanding.Stops);
        Symptoms.Judge(smell, Extraction.Both, true).Standing.ShouldBe(FaultStanding.Stops, "nothing is tried first");
        Symptoms.Judge(smell, Extraction.Ducted, false).Standing.ShouldBe(FaultStanding.Asks);
        Symptoms.Judge(smell, Extraction.Ducted, false).Due.ShouldBe(UpkeepPart.Carbon);
    }

    /// <summary>What helped leaves nothing behind but the word; what is not sure counts as the worst.</summary>
    [Fact]
    public void Symptoms_AreWholeAndNeverMilderThanTheyLook()
    {
        Symptoms.All.Select(s => s.Key).ShouldBeUnique();
        foreach (var symptom in Symptoms.All)
        {
            (symptom.Try is null).ShouldBe(symptom.Helped is null, symptom.Key);
            var still = Symptoms.Judge(symptom, Extraction.Ducted, false);
            still.MayDo.ShouldNotBeEmpty(symptom.Key);
            (Symptoms.Judge(symptom, Extraction.Ducted, true).Standing <= still.Standing).ShouldBeTrue(symptom.Key);
            if (symptom.Try is null)
                Symptoms.Judge(symptom, Extraction.Ducted, true).Standing.ShouldBe(still.Standing, symptom.Key);
        }
        Symptoms.Judge(Symptoms.Find("notThrough")!, Extraction.Ducted, false).Due.ShouldBe(UpkeepPart.Mirrors);
        Symptoms.Judge(Symptoms.Find("notThrough")!, Extraction.Ducted, true).Due.ShouldBeNull();
    }

    [Fact]
    public void Fault_IsToldByAnybodyAndJudgedByFew()
    {
        Faults.MayTell(null, null, 0)!.Field.ShouldBe("symptom");
        Faults.MayTell(Symptoms.Find(Symptoms.Other), " ", 0)!.Field.ShouldBe("note");
        Faults.MayTell(Symptoms.Find("edge"), null, Faults.PerDay)!.Code.ShouldBe("fault.tooMany");
        Faults.MayTell(Symptoms.Find("edge"), null, 0).ShouldBeNull();
        Faults.MayJudge(FaultStanding.Caution, Trainer, false, "Looked.")!.Code.ShouldBe("machine.repairAuthority");
        Faults.MayJudge(FaultStanding.Stops, Repairer, true, "Looked.")!.Code.ShouldBe("fault.returnFirst");
        Faults.MayClose(FaultStanding.Asks, Member, true, "")!.Field.ShouldBe("note");
        Faults.MayClose(FaultStanding.Asks, Repairer, false, "A loose belt, tightened.").ShouldBeNull();
    }
}
