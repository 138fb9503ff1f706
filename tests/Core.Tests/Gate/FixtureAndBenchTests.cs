using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Gating;

public class FixtureAndBenchTests
{
    private static IReadOnlyList<string> CodesOf(GateCase c) =>
        [.. c.Decide().Reasons.Where(r => r.Standing >= Standing.Ask).Select(r => r.Code)];

    private static readonly Span Out = new(Now - Duration.FromHours(1), Now + Duration.FromHours(3));

    /// <summary>Handed out until a quarter past one: before that it is somebody else’s, from then on it should be back.</summary>
    [Theory]
    [InlineData(-1, "fixture.out")]
    [InlineData(0, null)]
    [InlineData(60, null)]
    public void AFixtureThatIsOut_ShutsWhatBeginsBeforeItIsDue(int minutesAfterDue, string? code)
    {
        var c = Open()
            .WithFixture("pins", new FixtureFacts(Out, false, null))
            .Asking(a => a with { Start = Out.End!.Value + Duration.FromMinutes(minutesAfterDue) });
        CodesOf(c).Contains("fixture.out").ShouldBe(code is not null);
    }

    [Fact]
    public void WhoHasIt_MayRunWithIt_AndNobodyWithADamagedOne()
    {
        CodesOf(Open().WithFixture("pins", new FixtureFacts(Out, true, null)).Asking(a => a with { Start = Now }))
            .ShouldNotContain("fixture.out");
        CodesOf(Open().WithFixture("pins", new FixtureFacts(null, false, Now - Duration.FromDays(20)))).ShouldContain("fixture.out");
    }

    /// <summary>Not back at its time: whoever wants it within a day needs a steward; later there is time to fetch it.</summary>
    [Theory]
    [InlineData(23, true)]
    [InlineData(25, false)]
    public void AnOverdueFixture_IsAStewardsToFetch_WithinADay(int hoursAhead, bool asks)
    {
        var overdue = new FixtureFacts(new Span(Now - Duration.FromHours(9), Now - Duration.FromHours(2)), false, null);
        var c = Open().WithFixture("pins", overdue).Asking(a => a with { Start = Now + Duration.FromHours(hoursAhead) });
        CodesOf(c).Contains("fixture.overdue").ShouldBe(asks);
    }

    [Fact]
    public void TheCuttingGrid_IsForJobsThatCut()
    {
        var grid = Open().WithFixture("cutting grid", null);
        CodesOf(grid).ShouldNotContain("fixture.cutOnly");
        CodesOf(grid.Asking(a => a with { Items = [a.Items[0] with { Operations = [Operation.Cut, Operation.Engrave] }] }))
            .ShouldNotContain("fixture.cutOnly");
        CodesOf(grid.Asking(a => a with { Items = [a.Items[0] with { Operations = [Operation.Score] }] })).ShouldContain("fixture.cutOnly");
    }

    private static GateCase Benches(int benches, BenchWish wish, params BenchFacts[] held) =>
        Open()
            .Rules(r => r with { FinishingBenches = benches })
            .Asking(a => a with { Bench = wish })
            .With(f => f with { Time = f.Time with { Benches = held } });

    private static Instant End => Open().Ask.End;

    private static BenchFacts Held(int bench, int fromMinutes, int toMinutes) =>
        new(bench, new Span(End + Duration.FromMinutes(fromMinutes), End + Duration.FromMinutes(toMinutes)));

    [Fact]
    public void ABench_IsFreeWhereOneOfThemIs_ForTheWholeTime()
    {
        var wish = new BenchWish();
        CodesOf(Benches(1, wish)).ShouldNotContain("bench.taken");
        CodesOf(Benches(1, wish, Held(1, -60, 0), Held(1, 30, 60))).ShouldNotContain("bench.taken", "it touches, and no more");
        CodesOf(Benches(1, wish, Held(1, 29, 60))).ShouldContain("bench.taken");
        CodesOf(Benches(2, wish, Held(1, 0, 30))).ShouldNotContain("bench.taken");
        // At every instant one of two is free, and none of them for the whole time.
        CodesOf(Benches(2, wish, Held(1, 0, 15), Held(2, 15, 30))).ShouldContain("bench.taken");
        CodesOf(Benches(1, wish with { Minutes = 20 }, Held(1, 20, 60))).ShouldNotContain("bench.taken");
    }

    [Fact]
    public void ABench_IsNotBeforeTheRun_NorWhileTheHouseIsClosed_AndMayBeAnotherDay()
    {
        CodesOf(Benches(1, new BenchWish(End - Duration.FromMinutes(1)))).ShouldContain("bench.taken");
        CodesOf(Benches(1, new BenchWish(End + Duration.FromDays(1)))).ShouldNotContain("bench.taken");
        CodesOf(Benches(1, new BenchWish(End + Duration.FromHours(12)))).ShouldContain("bench.taken");
        CodesOf(Benches(0, new BenchWish())).ShouldContain("bench.taken", "a house without benches to book");
    }

    /// <summary>Worked by hand: 5 checks, 1.5 lead, twice (4 run + 3 reload), air, 5 clean-down.</summary>
    [Fact]
    public void AShortJob_TakesShortChecksAndCleanDown_AndNothingElseDoes()
    {
        var c = Open().Rules(r => r with { ShortJobs = true }).Asking(a => a with { Items = [a.Items[0] with { RunMinutes = 4 }] });
        var length = c.Decide().Length;
        length.Parts.Single(p => p.Part == PartKind.Checks).Minutes.ShouldBe(5);
        length.Parts[^1].ShouldBe(new BookingPart(PartKind.CleanDown, 5));
        var air = length.Parts.Single(p => p.Part == PartKind.Clearing).Minutes;
        length.NeededMinutes.ShouldBe(5 + 1.5m + 14 + air + 5);
        length.SlotMinutes.ShouldBe(30);

        Checks(c.Asking(a => a with { Items = [a.Items[0] with { RunMinutes = 10 }] })).ShouldBe(5);
        Checks(c.Asking(a => a with { Items = [a.Items[0] with { RunMinutes = 10.1m }] })).ShouldBe(10);
        Checks(c.WithSheet(s => s with { HeavyResidue = true })).ShouldBe(10);
        Checks(c.With(f => f with { Machine = f.Machine with { Tested = [] } })).ShouldBe(10, "a test piece comes first");
        Checks(c.Rules(r => r with { ShortJobs = false })).ShouldBe(10);

        static decimal Checks(GateCase c) => c.Decide().Length.Parts.Single(p => p.Part == PartKind.Checks).Minutes;
    }

    [Fact]
    public void WhatRunsInAClass_CountsForNobodysLimits_WhereTheHouseSaysSo()
    {
        var mine = Enumerable
            .Range(1, 3)
            .Select(i => new Span(Now + Duration.FromDays(i), Now + Duration.FromDays(i) + Duration.FromHours(1)));
        var c = Open().With(f => f with { Time = f.Time with { PersonBooked = Spans([.. mine]), InClass = [.. mine.Take(1)] } });
        CodesOf(c).ShouldContain("time.limit");
        CodesOf(c.Rules(r => r with { ClassesOutsideLimits = true })).ShouldNotContain("time.limit");
        var full = c.With(f => f with { Time = f.Time with { InClass = [] } }).Rules(r => r with { ClassesOutsideLimits = true });
        CodesOf(full).ShouldContain("time.limit");
        var lesson = new ClassFacts(Guid.NewGuid(), "Lesson", Around(2, 4), "m-9", OnRoster: true, AtOnce: 1, Running: []);
        CodesOf(full.With(f => f with { Time = f.Time with { Classes = [lesson] } })).ShouldNotContain("time.limit");
    }
}
