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
    private static readonly TrainingModule Fumes = new("fumes", ModuleKind.Reading, "Fumes", "fumes", 1, []);
    private static readonly TrainingModule Quiz = new("laser-safety", ModuleKind.Quiz, "Quiz", "", 1, []);
    private static readonly ModuleDone[] Read = [new("fire", 1, Now), new("fumes", 1, Now), new("laser-safety", 1, Now)];

    private static readonly TrainingPath Heron = new(
        "heron",
        "",
        [
            new(ModuleKind.Reading, "fire"),
            new(ModuleKind.Reading, "fumes"),
            new(ModuleKind.Quiz, "laser-safety"),
            new(ModuleKind.Induction),
            new(ModuleKind.SupervisedRuns),
            new(ModuleKind.SignOff),
        ],
        [new(ModuleKind.SupervisedRuns, Count: 1), new(ModuleKind.SignOff)]
    );

    private static readonly Progress None = new(
        Modules: [Fire, Fumes, Quiz],
        Done: [],
        Runs: [],
        Inductions: [],
        Outside: [],
        Held: [],
        Sessions: [],
        Names: new Dictionary<string, string> { ["heron"] = "Heron" }
    );

    private static Practised At(int daysAgo, string machine = "heron") => new(machine, Now - Duration.FromDays(daysAgo));

    private static Certificate Held(string authority, int fromDaysAgo, int? toDays) =>
        new(authority, new Span(Now - Duration.FromDays(fromDaysAgo), toDays is { } d ? Now + Duration.FromDays(d) : null));

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
        LadderStep Step(LocalDate by) =>
            Ladder.Safety(
                [Fire with { Version = 2, Repeats = [new Repeat(2, by)] }],
                [new ModuleDone("fire", 1, Now)],
                null,
                18,
                Rules,
                Now
            )[0];
        (Step(new LocalDate(2026, 11, 23)).State, Step(new LocalDate(2026, 11, 23)).Text).ShouldBe(
            (StepState.Open, "It was changed since you read it: read it again.")
        );
        Step(new LocalDate(2026, 11, 24))
            .Text.ShouldBe("It was changed since you read it: read it again by 24 Nov 2026. Until then it counts.");
        Ladder
            .Safety([Fire with { Version = 2 }], [new ModuleDone("fire", 1, Now)], null, 18, Rules, Now)[0]
            .State.ShouldBe(StepState.Done, "a small change repeats nothing");
    }

    [Theory]
    [InlineData(false, false, 0, "waits waits waits")]
    [InlineData(true, false, 0, "open open waits")]
    [InlineData(true, true, 2, "done open waits")]
    [InlineData(true, true, 3, "done done open")]
    [InlineData(true, false, 3, "open done waits")]
    [InlineData(false, true, 3, "done done waits")]
    public void Of_TheoryFirst_TheSignatureLast(bool theory, bool inducted, int runs, string states)
    {
        var progress = None with
        {
            Done = theory ? Read : [],
            Inductions = inducted ? [At(3)] : [],
            Runs = [.. Enumerable.Range(1, runs).Select(i => At(i)), At(1, "wren")],
        };
        string.Join(' ', Ladder.Of(Heron, progress, Rules, Now).Select(s => s.State.ToString().ToLowerInvariant())).ShouldBe(states);
    }

    [Fact]
    public void Of_ACertificateStandsForItsSteps_AndLapsedLeavesTheShorterRefresher_CountedAnew()
    {
        var held = Ladder.Of(
            Heron,
            None with
            {
                Held = [new Certificate("heron", new Span(Now - Duration.FromDays(9), Instant.FromUtc(2027, 8, 1, 0, 0)))],
            },
            Rules,
            Now
        );
        held.ShouldAllBe(s => s.State == StepState.Done);
        held.SkipLast(1)
            .ShouldAllBe(
                s => s.Text == "Covered by the sign-off of 15 Nov 2026." && s.From == null,
                "what is done does not say what it still asks"
            );
        held[^1].Text.ShouldBe("Certificate to 1 Aug 2027.", "its last instant in summer time");
        var lapsed = None with { Held = [Held("heron", 400, -35)], Runs = [At(40)] };
        Ladder.Of(Heron, lapsed, Rules, Now).Select(s => s.Kind).ShouldBe([ModuleKind.SupervisedRuns, ModuleKind.SignOff]);
        Ladder.IsRefresher(Heron, lapsed, Now).ShouldBeTrue();
        Ladder
            .StillToDo(Heron, lapsed, null, Rules, Now)
            .Select(s => s.Title)
            .ShouldBe(["A supervised run"], "the run of before the lapse does not renew it");
        Ladder.StillToDo(Heron, lapsed with { Runs = [At(40), At(2)] }, null, Rules, Now).ShouldBeEmpty();
        Ladder.IsRefresher(Heron, lapsed with { Held = [.. lapsed.Held, Held("heron", 1, 300)] }, Now).ShouldBeFalse();
    }

    [Fact]
    public void Of_WhatComesFirst_AndPapersOfOthers()
    {
        var path = new TrainingPath(
            "kestrel",
            "",
            [new(ModuleKind.Authority, "heron"), new(ModuleKind.Outside, "University laser course"), new(ModuleKind.SignOff)],
            [new(ModuleKind.SignOff)]
        );
        var steps = Ladder.Of(path, None, Rules, Now);
        steps.Select(s => s.State).ShouldBe([StepState.Waits, StepState.Waits, StepState.Waits], "what comes first holds up the rest");
        steps[0].Text.ShouldBe("Waits for your certificate for Heron.");
        var ready = None with
        {
            Held = [Held("heron", 5, null)],
            Outside = [new OutsidePaper("University laser course", new Span(Now - Duration.FromDays(700), Now + Duration.FromDays(30)))],
        };
        Ladder.Of(path, ready with { Outside = [] }, Rules, Now)[1].State.ShouldBe(StepState.Open);
        Ladder.Of(path, ready, Rules, Now).Select(s => s.State).ShouldBe([StepState.Done, StepState.Done, StepState.Open]);
        Ladder
            .Of(path, ready with { Outside = [ready.Outside[0] with { Held = new Span(Now - Duration.FromDays(700), Now) }] }, Rules, Now)[
                1
            ]
            .State.ShouldBe(StepState.Open, "a paper that ended does not serve");
    }

    [Fact]
    public void StillToDo_GathersPages_AndSaysFromWhenTheRestCanBe()
    {
        var session = Now + Duration.FromDays(3);
        var progress = None with
        {
            Sessions =
            [
                new SessionAhead("heron", session + Duration.FromDays(9), 4),
                new SessionAhead("heron", session, 1),
                new SessionAhead("wren", Now + Duration.FromDays(1), 1),
            ],
        };
        var open = Ladder.StillToDo(Heron, progress, null, Rules, Now);
        open.Select(s => s.Title).ShouldBe(["2 pages to read: Fire, Fumes", "Quiz", "An induction", "3 supervised runs"]);
        open[2].From.ShouldBe(session);
        Ladder
            .Of(Heron, progress with { Done = Read }, Rules, Now)[0]
            .Text.ShouldBe("Next with a place: Fri 27 Nov 10:15, one place left.");
    }
}
