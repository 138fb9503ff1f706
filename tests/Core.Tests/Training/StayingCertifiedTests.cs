using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class StayingCertifiedTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");

    private static Instant Day(int days) => Now + Duration.FromDays(days);

    [Fact]
    public void LapsesAt_StandsStillWhileTheMachineIsOut()
    {
        Idleness.LapsesAt(Day(-80), [], 90).ShouldBe(Day(10));
        Idleness.LapsesAt(Day(-80), [new Span(Day(-70), Day(-60))], 90).ShouldBe(Day(20));
        Idleness
            .LapsesAt(Day(-80), [new Span(Day(-70), Day(-60)), new Span(Day(-65), Day(-55))], 90)
            .ShouldBe(Day(25), "what two stops share counts once");
        Idleness.LapsesAt(Day(-80), [new Span(Day(-90), Day(-75))], 90).ShouldBe(Day(15), "only what came after the last run");
        Idleness.LapsesAt(Day(-80), [new Span(Day(11), Day(20))], 90).ShouldBe(Day(10), "a stop after the lapse comes too late");
        Idleness
            .LapsesAt(Day(-80), [new Span(Day(-70), Day(-60)), new Span(Day(15), Day(16))], 90)
            .ShouldBe(Day(21), "a stop within the time that the first one gave");
        Idleness.LapsesAt(Day(-80), [new Span(Day(-1))], 90).ShouldBeNull("out without an end");
        Idleness.LapsesAt(Day(-100), [new Span(Day(-5))], 90).ShouldBe(Day(-10), "lapsed before it went out");
    }

    /// <summary>Against counting hour by hour.</summary>
    [Fact]
    public void LapsesAt_RandomStops_AsCountedHourByHour()
    {
        var random = new Random(11);
        for (var round = 0; round < 200; round++)
        {
            var stops = Enumerable
                .Range(0, random.Next(6))
                .Select(_ => random.Next(-50, 300))
                .Select(h => new Span(Now + Duration.FromHours(h), Now + Duration.FromHours(h + 1 + random.Next(80))))
                .ToList();
            var (left, at) = (5 * 24, Now);
            while (left > 0)
            {
                if (!stops.Any(s => s.Holds(at)))
                    left--;
                at += Duration.FromHours(1);
            }
            Idleness.LapsesAt(Now, stops, 5).ShouldBe(at);
        }
    }

    [Fact]
    public void Ahead_TheSoonerOfDateAndIdleness()
    {
        Lapses.Ahead(Day(30), Day(-80), [], Rules).ShouldBe(new Lapse(Day(10), LapseCause.Idle));
        Lapses.Ahead(Day(5), Day(-80), [], Rules).ShouldBe(new Lapse(Day(5), LapseCause.Date));
        Lapses
            .Ahead(Day(5), Day(-80), [new Span(Day(-10))], Rules)
            .ShouldBe(new Lapse(Day(5), LapseCause.Date), "a date does not stand still");
        Lapses.Ahead(null, null, [], Rules).ShouldBeNull();
    }

    [Fact]
    public void Reminders_OneMessage_ForAllThatLapseSoon_AndTheSameKeyUntilSomethingNewDoes()
    {
        LapsingCertificate[] held =
        [
            new("wren", "Wren", new Lapse(Day(9), LapseCause.Date)),
            new("heron", "Heron", new Lapse(Day(3), LapseCause.Idle)),
            new("swift", "Swift", new Lapse(Day(15), LapseCause.Date)),
            new("kestrel", "Kestrel", new Lapse(Day(-1), LapseCause.Idle)),
        ];
        var told = Reminders.For(held, Rules, Now).ShouldNotBeNull();
        told.Title.ShouldBe("2 of your certificates lapse soon");
        told.Text.Split('\n').Length.ShouldBe(2);
        told.Text.ShouldStartWith("Heron: nothing run for a while; it lapses after 27 Nov 2026");
        Reminders.For(held, Rules, Now + Duration.FromHours(20))!.Key.ShouldBe(told.Key);
        Reminders.For(held, Rules, Day(2))!.Key.ShouldNotBe(told.Key, "Swift has come into sight");
        Reminders.For([held[2]], Rules, Now).ShouldBeNull();
        Reminders.For(held, Rules with { RemindDays = 0 }, Now).ShouldBeNull("a house that does not remind");
    }

    [Theory]
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "", ConductStep.Note)]
    [InlineData(Conduct.WarningLadder, ConductMatter.LeftRunning, "", ConductStep.Warning)]
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "n", ConductStep.Warning)]
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "nw", ConductStep.LastWarning)]
    [InlineData(Conduct.WarningLadder, ConductMatter.NeverStock, "l", ConductStep.Pause)]
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "p", ConductStep.Pause)]
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "W", ConductStep.Note)] // lifted on appeal
    [InlineData(Conduct.WarningLadder, ConductMatter.Other, "o", ConductStep.Note)] // older than a year
    [InlineData(Conduct.LadderAndPause, ConductMatter.InterlockBypassed, "", ConductStep.Pause)]
    [InlineData(Conduct.LadderAndPause, ConductMatter.Other, "", ConductStep.Note)]
    [InlineData(Conduct.PauseAtOnce, ConductMatter.LeftRunning, "", ConductStep.Pause)]
    public void Next_ByTheHousesSchool(Conduct school, ConductMatter matter, string earlier, ConductStep next)
    {
        var entries = earlier.Select(c => new ConductEntry(
            ConductMatter.Other,
            char.ToLowerInvariant(c) switch
            {
                'n' => ConductStep.Note,
                'w' or 'o' => ConductStep.Warning,
                'l' => ConductStep.LastWarning,
                _ => ConductStep.Pause,
            },
            Day(c == 'o' ? -367 : -20),
            char.IsUpper(c)
        ));
        ConductLadder.Next(matter, entries, Rules with { Conduct = school }, Now).ShouldBe(next);
    }

    [Fact]
    public void Involved_NeitherWritesNorHears()
    {
        ConductLadder.MayWrite("m-5", "m-5")!.Code.ShouldBe("conduct.self");
        ConductLadder.MayWrite("m-5", "m-6").ShouldBeNull();
        ConductLadder.MayHear("m-5", "m-6", "m-5")!.Code.ShouldBe("appeal.involved");
        ConductLadder.MayHear("m-5", "m-6", "m-6")!.Code.ShouldBe("appeal.involved");
        ConductLadder.MayHear("m-5", "m-6", "m-7").ShouldBeNull();
    }

    [Fact]
    public void Holds_ConditionsAreMetOrNamed()
    {
        CertificateHolds
            .Unmet(new HoldConditions(2, true), 1, false)
            .ShouldBe(["1 of 2 supervised runs are logged", "the quiz has not been passed since"]);
        CertificateHolds.Unmet(new HoldConditions(2, true), 2, true).ShouldBeEmpty();
        CertificateHolds.Wrong(CertificateHoldKind.Review, new HoldConditions(1)).ShouldHaveSingleItem().Field.ShouldBe("kind");
        CertificateHolds
            .Wrong(CertificateHoldKind.Suspended, new HoldConditions(-1))
            .ShouldHaveSingleItem()
            .Field.ShouldBe("supervisedRuns");
        CertificateHolds.Wrong(CertificateHoldKind.Suspended, new HoldConditions(3, true)).ShouldBeEmpty();
    }

    [Fact]
    public void Inductions_WithinTheHouse_ByItsTrainer_RollCalledByAnother()
    {
        var start = Instant.FromUtc(2026, 11, 25, 18, 0);
        Inductions.Wrong(start, 90, 4, Rules, Now).ShouldBeEmpty();
        Inductions.Wrong(Now, 90, 4, Rules, Now).ShouldHaveSingleItem().Field.ShouldBe("start");
        Inductions.Wrong(start, 10, 5, Rules, Now).Select(r => r.Field).ShouldBe(["minutes", "places"], "four learners a trainer");
        Inductions.Wrong(start, 200, 4, Rules, Now).ShouldHaveSingleItem().Code.ShouldBe("induction.closed");
        var session = new Induction("heron", "m-3", new Interval(start, start + Duration.FromMinutes(90)), 4);
        Inductions
            .MayTeach(session, [new Span(Now, start + Duration.FromMinutes(89))])!
            .Code.ShouldBe("induction.authority", "over all of it");
        Inductions.MayTeach(session, [new Span(Now)]).ShouldBeNull();
        Inductions.MayTake(false, start, 1, false, Now).ShouldBeNull();
        Inductions.MayTake(false, start, 0, false, Now)!.Code.ShouldBe("induction.full");
        Inductions.MayTake(true, start, 1, false, Now)!.Code.ShouldBe("induction.off");
        Inductions.MayTake(false, start, 1, true, Now)!.Code.ShouldBe("induction.self");
        Inductions.MayTake(false, start, 1, false, start)!.Code.ShouldBe("induction.begun");
        Inductions.MayCall(false, start, true, ["m-9"], ["m-9"], "m-3", start).ShouldBeNull();
        Inductions.MayCall(false, start, true, ["m-9"], ["m-9"], "m-3", Now)!.Code.ShouldBe("induction.early");
        Inductions.MayCall(false, start, true, ["m-3"], ["m-3"], "m-3", start)!.Code.ShouldBe("induction.selfCall");
        Inductions.MayCall(false, start, true, ["m-8"], ["m-9"], "m-3", start)!.Code.ShouldBe("induction.noPlace");
        Inductions.MayCall(false, start, false, ["m-9"], ["m-9"], "m-3", start)!.Code.ShouldBe("induction.notYours");
    }

    [Fact]
    public void OutsidePapers_WhatIsMissingIsNamed()
    {
        var today = new LocalDate(2026, 11, 24);
        OutsidePapers
            .Wrong(
                "m-2",
                "m-5",
                "Laser course",
                "Northgate College",
                new LocalDate(2026, 3, 1),
                null,
                "Card 118, copy in the binder.",
                today
            )
            .ShouldBeEmpty();
        OutsidePapers
            .Wrong("m-5", "m-5", " ", null, null, new LocalDate(2026, 11, 23), "", today)
            .Select(r => r.Field)
            .ShouldBe(["personId", "title", "issuer", "from", "to", "evidence"]);
        OutsidePapers
            .Wrong("m-2", "m-5", "x", "y", new LocalDate(2026, 11, 25), null, "z", today)
            .ShouldHaveSingleItem()
            .Field.ShouldBe("from");
    }
}
