using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Gating;

public class LiftsTests
{
    private static readonly Guid AskId = Guid.Parse("22222222-2222-4222-8222-222222222222");

    private static GateCase Untagged() => Open().Asking(a => a with { Items = [a.Items[0] with { SheetTag = null }] });

    private static GateCase Lifted(GateCase c, Func<LiftFacts, LiftFacts>? change = null)
    {
        var lift = new LiftFacts(
            AskId,
            c.Ask.MemberId,
            c.Ask.MachineId,
            new Span(c.Ask.Start, c.Ask.End),
            c.Ask.Items,
            StewardRequests.ToLift(c.Decide()).Value
        );
        return c.With(f => f with { Lifts = [(change ?? (l => l))(lift)] });
    }

    [Fact]
    public void Decide_LiftedReason_IsAConditionAndSaysSo()
    {
        var decision = Lifted(Untagged()).Decide();
        decision.Verdict.ShouldBe(Verdict.Conditions);
        decision.Lifted.ShouldBe([AskId]);
        var reason = decision.Reasons.Single(r => r.Code == "sheet.untagged");
        reason.Standing.ShouldBe(Standing.Caution);
        reason.Text.ShouldContain("lifted this, once");
    }

    /// <summary>At the machine the same sheet is measured anew: 3.1 mm is about 3, and 4 mm is another.</summary>
    [Theory]
    [InlineData(3.1, true)]
    [InlineData(4, false)]
    public void Decide_MeasuredAtTheMachine_IsTheSheetThatWasLifted(double mm, bool served)
    {
        var there = Lifted(Untagged())
            .With(f => f with { Machine = f.Machine with { Readings = Fact.Known(true) } })
            .Asking(a => a with { Phase = Phase.AtMachine, Items = [a.Items[0] with { ThicknessMm = (decimal)mm }] });
        there.Decide().Reasons.Single(r => r.Code == "sheet.untagged").Standing.ShouldBe(served ? Standing.Caution : Standing.Ask);
    }

    /// <summary>A lift serves one person, machine, item and window, and the reasons that stood then.</summary>
    [Fact]
    public void Decide_AnythingElseThanWhatWasLifted_StaysAsItWas()
    {
        Lifted(Untagged(), l => l with { MemberId = "m-9" }).Decide().Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged(), l => l with { MachineId = "wren" }).Decide().Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged()).Asking(a => a with { Minutes = a.Minutes + 1 }).Decide().Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged()).Asking(a => a with { Start = a.Start - Duration.FromMinutes(1) }).Decide().Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged()).Asking(a => a with { Items = [a.Items[0] with { ThicknessMm = 3.1m }] }).Decide().Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged())
            .Asking(a => a with { Items = [a.Items[0] with { Operations = [Operation.Cut, Operation.Score] }] })
            .Decide()
            .Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged())
            .With(f =>
                f with
                {
                    Machine = f.Machine with { Upkeep = Fact.Known<IReadOnlyList<UpkeepFacts>>([new("Mirror clean", Start)]) },
                }
            )
            .Decide()
            .Verdict.ShouldBe(Verdict.Ask);
        Lifted(Untagged())
            .With(f => f with { Person = f.Person with { Pauses = Spans(new Span(Now)) } })
            .Decide()
            .Verdict.ShouldBe(Verdict.Shut);
    }

    [Fact]
    public void Decide_ShorterTimeWithinTheWindow_IsCovered() =>
        Lifted(Untagged())
            .Asking(a => a with { Start = a.Start + Duration.FromMinutes(15), Minutes = 75 })
            .Decide()
            .Verdict.ShouldBe(Verdict.Conditions);

    [Fact]
    public void ToLift_ShutOrOpenGates_HaveNothingToLift()
    {
        StewardRequests.ToLift(Open().Decide()).Refusal!.Code.ShouldBe("ask.notNeeded");
        StewardRequests
            .ToLift(Untagged().With(f => f with { Person = f.Person with { Pauses = Spans(new Span(Now)) } }).Decide())
            .Refusal!.Code.ShouldBe("ask.shut");
    }

    /// <summary>Whatever the facts, nothing that nobody may lift can be lifted.</summary>
    [Fact]
    public void Codes_ThatReadAsk_MayBeLifted_AndNoOthers()
    {
        foreach (var rule in Codes.All)
            (rule.LiftedBy == LiftedBy.Steward).ShouldBe(
                // Only a test piece on that sheet clears it.
                rule.AtBooking == Standing.Ask
                    && rule != Codes.SettingsHot,
                rule.Code
            );
        Codes.Of("material.never").LiftedBy.ShouldBe(LiftedBy.Nobody);
    }

    [Theory]
    [InlineData("m-2", true, false, 1, 31, "why", null)]
    [InlineData("m-2", true, false, 1, 30, "why", "ask.tooLate")] // thirty minutes before it counts as refused
    [InlineData("m-4", true, false, 1, 600, "why", "ask.self")]
    [InlineData("m-8", false, true, 1, 600, "why", "ask.notYours")] // a countersigner, but there is another steward
    [InlineData("m-8", false, true, 0, 600, "why", null)]
    [InlineData("m-8", false, false, 0, 600, "why", "ask.notYours")]
    [InlineData("m-2", true, false, 1, 600, "  ", "reason.missing")]
    public void MayAnswer(string by, bool steward, bool countersigner, int otherStewards, int minutesBefore, string reason, string? code)
    {
        var refusal = StewardRequests.MayAnswer(
            StewardReply.Lift,
            "m-4",
            by,
            steward,
            countersigner,
            otherStewards,
            1,
            Start,
            Start - Duration.FromHours(40),
            Start - Duration.FromMinutes(minutesBefore),
            reason
        );
        (refusal?.Code).ShouldBe(code);
    }

    [Fact]
    public void MayAnswer_TakingBack_IsNeverTooLate() =>
        StewardRequests
            .MayAnswer(
                StewardReply.TakeBack,
                "m-4",
                "m-2",
                true,
                false,
                1,
                1,
                Start,
                Start - Duration.FromHours(40),
                Start - Duration.FromMinutes(1),
                "A doubt."
            )
            .ShouldBeNull();

    /// <summary>A house of one: the only steward's own ask waits a day, unless somebody else could answer it.</summary>
    [Theory]
    [InlineData(0, 0, 24, null)]
    [InlineData(0, 0, 23, "ask.singleHanded")]
    [InlineData(1, 0, 30, "ask.self")]
    [InlineData(0, 1, 30, "ask.self")]
    public void MayAnswer_OwnAskOfTheOnlySteward_WaitsADay(int otherStewards, int countersigners, int hoursWaited, string? code) =>
        (
            StewardRequests
                .MayAnswer(
                    StewardReply.Lift,
                    "m-2",
                    "m-2",
                    true,
                    false,
                    otherStewards,
                    countersigners,
                    Start,
                    Start - Duration.FromHours(60),
                    Start - Duration.FromHours(60 - hoursWaited),
                    "Seen."
                )
                ?.Code
        ).ShouldBe(code);

    [Fact]
    public void MayAnswer_OwnAskOfAMember_IsNeverTheirs() =>
        (
            StewardRequests
                .MayAnswer(
                    StewardReply.Lift,
                    "m-4",
                    "m-4",
                    false,
                    false,
                    0,
                    0,
                    Start,
                    Start - Duration.FromHours(60),
                    Start - Duration.FromHours(2),
                    "Please."
                )
                ?.Code
        ).ShouldBe("ask.self");
}

public class RecordImpactTests
{
    [Fact]
    public void By_ReadsPeopleMachinesOrAll()
    {
        var touched = RecordImpact.Of([
            (1, "person.paused", """{"person":7}"""),
            (2, "machine.stopped", """{"by":3,"machine":"heron"}"""),
            (3, "booking.made", """{"person":9}"""),
        ]);
        touched.People.ShouldBe([7]);
        touched.Machines.ShouldBe(["heron"]);
        touched.All.ShouldBeFalse();
        RecordImpact.Of([(1, "house.rulesChanged", "{}")]).All.ShouldBeTrue();
        RecordImpact.Of([(1, "drawing.coloured", """{"person":7,"others":[4,9]}""")]).People.Order().ShouldBe([4, 7, 9]);
        RecordImpact.Of([(1, "booking.atRisk", """{"person":7}"""), (2, "gate.asked", """{"person":7}""")]).Nothing.ShouldBeTrue();
    }

    /// <summary>What cannot be read may have changed anything.</summary>
    [Theory]
    [InlineData("no JSON at all")]
    [InlineData("""{"person":"seven"}""")]
    [InlineData("[1]")]
    public void By_AnOddLine_TouchesEverythingAndIsNamed(string body)
    {
        var touched = RecordImpact.Of([(41, "person.paused", """{"person":7}"""), (42, "person.paused", body)]);
        touched.All.ShouldBeTrue();
        touched.Unreadable.ShouldBe([42]);
        touched.People.ShouldBe([7]);
    }

    /// <summary>More evidence wanted ends a clearance, and so touches whoever booked with the sheet.</summary>
    [Fact]
    public void By_MoreEvidenceWanted_IsNotSilent() =>
        RecordImpact.Of([(1, "sheet.moreWanted", """{"sheet":"S-0097"}""")]).Nothing.ShouldBeFalse();
}
