using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class LadderTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly HouseRules Rules = Packs.Start(Packs.School, "House", "Europe/London");
    private static readonly TrainingModule Fire = new("fire", ModuleKind.Reading, "Fire", "fire", 1, []);
    private static readonly TrainingModule Quiz = new("laser-safety", ModuleKind.Quiz, "Quiz", "", 1, []);

    private static MachineProgress Heron(int runs, Span? held = null) => new("heron", "Heron", runs, runs > 0 ? Now - Duration.FromDays(1) : null, held);

    [Fact]
    public void Safety_QuizWaitsForTheReadings_ThenOpens_ThenForTheNextDayAfterAFail()
    {
        Ladder.Safety([Fire, Quiz], [], null, 18, Rules, Now).Select(s => s.State).ShouldBe([StepState.Open, StepState.Waits]);
        var read = new ModuleDone("fire", 1, Now);
        Ladder.Safety([Fire, Quiz], [read], null, 18, Rules, Now).Select(s => s.State).ShouldBe([StepState.Done, StepState.Open]);
        var failed = Ladder.Safety([Fire, Quiz], [read], Now, 18, Rules, Now)[1];
        (failed.State, failed.From).ShouldBe((StepState.Waits, (Instant?)Instant.FromUtc(2026, 11, 25, 0, 0)));
    }

    [Fact]
    public void Safety_AChangedPage_OpensAgainAndSaysSo()
    {
        LadderStep Step(LocalDate by) => Ladder.Safety([Fire with { Version = 2, Repeats = [new Repeat(2, by)] }], [new ModuleDone("fire", 1, Now)], null, 18, Rules, Now)[0];
        (Step(new LocalDate(2026, 11, 23)).State, Step(new LocalDate(2026, 11, 23)).Text).ShouldBe((StepState.Open, "It was changed since you read it: read it again."));
        Step(new LocalDate(2026, 11, 24)).Text.ShouldBe("It was changed since you read it: read it again by 24 Nov 2026. Until then it counts.");
        Ladder.Safety([Fire with { Version = 2 }], [new ModuleDone("fire", 1, Now)], null, 18, Rules, Now)[0].State.ShouldBe(StepState.Done, "a small change repeats nothing");
    }

    [Theory]
    [InlineData(false, 0, StepState.Waits, StepState.Waits)]
    [InlineData(true, 0, StepState.Open, StepState.Waits)]
    [InlineData(true, 2, StepState.Open, StepState.Waits)]
    [InlineData(true, 3, StepState.Done, StepState.Open)]
    [InlineData(false, 3, StepState.Done, StepState.Waits)]
    public void Machine_RunsBeforeTheSignature_AndSafetyBeforeBoth(bool safety, int runs, StepState first, StepState second) =>
        Ladder.Machine(Heron(runs), safety, Rules, Now).Select(s => s.State).ShouldBe([first, second]);

    [Fact]
    public void Machine_ACertificateStandsForItsSteps_UntilItEnds()
    {
        var held = new Span(Now - Duration.FromDays(9), Instant.FromUtc(2027, 8, 1, 0, 0));
        var steps = Ladder.Machine(Heron(0, held), safetyDone: false, Rules, Now);
        steps.ShouldAllBe(s => s.State == StepState.Done);
        steps[1].Text.ShouldBe("Certificate to 1 Aug 2027.", "its last instant in summer time");
        Ladder.Machine(Heron(0, held with { End = Now }), safetyDone: true, Rules, Now).Select(s => s.State).ShouldBe([StepState.Open, StepState.Waits]);
    }
}
