using NodaTime;
using Shouldly;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Training;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Booking;

public class FreeTimesTests
{
    private static Instant At(int hour, int minute, int day = 24) => Instant.FromUtc(2026, 11, day, hour, minute);

    private static Span From(int hour, int minute, int toHour, int toMinute, int day = 24) =>
        new(At(hour, minute, day), At(toHour, toMinute, day));

    /// <summary>3 mm birch ply on one machine, asked on Tuesday at 10:15, with the person certified there.</summary>
    private static MachineTimes On(string id, LaserKind kind, int leadSeconds, decimal run, bool tested, params Span[] taken)
    {
        var c = Open()
            .Asking(a => a with { MachineId = id, Minutes = 0, Items = [a.Items[0] with { RunMinutes = run, DrawingId = null }] })
            .With(f =>
                f with
                {
                    Drawings = [new DrawingFacts(false, Fact.Known<Core.Drawings.DrawingSummary?>(null))],
                    Machine = f.Machine with
                    {
                        Spec = Heron with { Id = id, Name = id, Kind = kind, ExtractionLeadSeconds = leadSeconds },
                        Tested = tested ? f.Machine.Tested : [],
                    },
                    Training = f.Training with { Certificates = Fact.Known<IReadOnlyList<Certificate>>([new Certificate(id, Always)]) },
                    Sheets =
                        kind == LaserKind.Fibre ? [f.Sheets[0] with { Rulings = Fact.Known<IReadOnlyList<HeldRuling>>([]) }] : f.Sheets,
                    Time = f.Time with { MachineTaken = Spans(taken) },
                }
            );
        return FreeTimes.On(c.Ask, c.Facts, TimeWish.Any);
    }

    /// <summary>
    /// Worked by hand: checks 10, lead, twice (run + 35 s for 0.45 m³ at 650 m³/h + reload 3), clean-down 10; Swift with a test piece.
    /// </summary>
    [Fact]
    public void Sorted_TheWorkedCase_WrenFirst_ThenHeron_ThenWhatCannotBeBooked()
    {
        var table = FreeTimes.Sorted([
            On(
                "heron",
                LaserKind.Co2,
                90,
                25,
                true,
                From(11, 15, 12, 15),
                From(12, 45, 14, 15),
                From(16, 15, 17, 30),
                From(17, 45, 19, 15)
            ),
            On("kestrel", LaserKind.Fibre, 15, 25, true),
            On("swift", LaserKind.Co2, 15, 200, false),
            On("wren", LaserKind.Co2, 20, 50, true, From(17, 45, 19, 15)),
        ]);
        table.Select(t => t.MachineId.Value).ShouldBe(["wren", "heron", "swift", "kestrel"]);
        var (wren, heron, swift, kestrel) = (table[0], table[1], table[2], table[3]);
        (wren.Choices[0].Start, wren.Choices[0].End, wren.Minutes).ShouldBe((At(10, 15), At(12, 30), 135));
        (heron.Choices[0].Start, heron.Choices[0].End, heron.Minutes).ShouldBe((At(14, 15), At(15, 45), 90));
        heron.Length.NeededMinutes.ShouldBe(78.67m);
        heron.RunMinutes.ShouldBe(25);
        wren.Choices.Select(c => c.Start).ShouldBe([At(10, 15), At(12, 30), At(14, 45)]);
        swift.Length.NeededMinutes.ShouldBe(437.42m);
        swift.Minutes.ShouldBe(450);
        swift.Choices.ShouldBeEmpty();
        swift.Reasons.ShouldContain(r => r.Code == "time.limit");
        swift.Verdict.ShouldBe(Verdict.Ask);
        kestrel.Choices.ShouldBeEmpty();
        kestrel.Verdict.ShouldBe(Verdict.Shut);
    }

    [Fact]
    public void On_WhatCannotBeSaid_IsNeverATime()
    {
        var c = Open()
            .Asking(a => a with { Minutes = 0, Items = [a.Items[0] with { DrawingId = null }] })
            .With(f => f with { Drawings = [new DrawingFacts(false, Fact.Known<Core.Drawings.DrawingSummary?>(null))] });
        var found = FreeTimes.On(c.Ask, c.Facts, TimeWish.Any);
        found.Choices.ShouldBeEmpty();
        found.RunMinutes.ShouldBeNull();
        found.Reasons.ShouldContain(r => r.Code == "time.unknownRun");
    }

    [Fact]
    public void On_NotCertified_SaysTheInductionThatOpensIt()
    {
        var induction = At(18, 0, 27);
        var c = Open()
            .With(f =>
                f with
                {
                    Training = f.Training with
                    {
                        Certificates = Fact.Known<IReadOnlyList<Certificate>>([]),
                        Ways = [new WayFacts("heron", [new WayStep("An induction", induction)])],
                    },
                }
            );
        var found = FreeTimes.On(c.Ask, c.Facts, TimeWish.Any);
        found.Choices.ShouldBeEmpty();
        found.Opens.ShouldBe([new WayStep("An induction", induction)]);
    }

    [Fact]
    public void On_SettingsOfAnotherMachine_AreLeftOut()
    {
        var there = Entry(3) with { MachineId = "wren" };
        var c = Open().Set(there);
        c.Decide().Verdict.ShouldBe(Verdict.Shut, "chosen for another machine");
        FreeTimes.On(c.Ask, c.Facts, TimeWish.Any).Choices.Count.ShouldBe(FreeTimes.MostChoices);
    }

    [Fact]
    public void On_Wishes_AreKept()
    {
        var c = Open();
        var evening = FreeTimes.On(c.Ask, c.Facts, new TimeWish(From: new LocalTime(17, 0), To: new LocalTime(19, 0)));
        evening.Choices.Select(x => x.Start).ShouldBe([At(17, 0), At(17, 0, 25), At(17, 0, 26)]);
        var later = FreeTimes.On(c.Ask, c.Facts, new TimeWish(After: At(0, 0, 27), NotOn: [IsoDayOfWeek.Friday, IsoDayOfWeek.Saturday]));
        later.Choices[0].Start.ShouldBeGreaterThan(At(0, 0, 29), "Friday 27 and Saturday 28 are left out");
        var none = FreeTimes.On(c.Ask, c.Facts, new TimeWish(Before: At(11, 0)));
        none.Choices.ShouldBeEmpty("90 minutes from 10:15 are past eleven");
        none.Reasons.ShouldHaveSingleItem().Text.ShouldBe("No 90 min are left on Heron in that time.");
        none.Verdict.ShouldBe(Verdict.Shut, "and never without a reason");
    }

    /// <summary>Clocks go back on 25 October 2026: a day of 25 hours, and no time is offered twice or out of hours.</summary>
    [Theory]
    [InlineData(2026, 10, 24)]
    [InlineData(2027, 3, 27)]
    public void On_ClocksChange_EveryTimeIsInOpeningHours(int year, int month, int day)
    {
        var now = Instant.FromUtc(year, month, day, 20, 0);
        var c = Open()
            .With(f =>
                f with
                {
                    Now = now,
                    Training = f.Training with
                    {
                        LastUse = Fact.Known<Instant?>(now - Duration.FromDays(3)),
                        Certificates = Fact.Known<IReadOnlyList<Certificate>>([new Certificate("heron", Always)]),
                    },
                    Room = f.Room with { RotaUntil = now + Duration.FromDays(90) },
                    Machine = f.Machine with { Tested = [f.Machine.Tested[0] with { At = now - Duration.FromDays(3) }] },
                }
            );
        var found = FreeTimes.On(c.Ask, c.Facts, TimeWish.Any);
        found.Choices.Count.ShouldBe(FreeTimes.MostChoices);
        var clock = c.Facts.Rules.Clock;
        foreach (var choice in found.Choices)
        {
            var open = c.Facts.Rules.OpenOn(clock.DateOf(choice.Start)).ShouldNotBeNull();
            (choice.Start >= open.Start && choice.End <= open.End).ShouldBeTrue();
            clock.At(choice.Start).TimeOfDay.Minute.ShouldBeOneOf(0, 15, 30, 45);
        }
    }

    /// <summary>Every start of three weeks asked one by one, against the search that leaves most of them out.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void On_RandomHouses_FindsWhatAskingForEveryStartFinds(int seed)
    {
        var random = new Random(seed);
        for (var n = 0; n < 25; n++)
        {
            var c = RandomHouse(random);
            var wish = RandomWish(random);
            FreeTimes
                .On(c.Ask, c.Facts, wish)
                .Choices.Select(x => (x.Start, x.End, x.Verdict))
                .ShouldBe(OneByOne(c.Ask, c.Facts, wish), $"case {n} of seed {seed}");
        }
    }

    private static List<(Instant, Instant, Verdict)> OneByOne(GateQuestion ask, GateFacts facts, TimeWish wish)
    {
        var found = new List<(Instant Start, Instant End, Verdict)>();
        var rules = facts.Rules;
        var today = rules.Clock.DateOf(facts.Now);
        for (var d = 0; d <= rules.BookAheadDays; d++)
        {
            if (rules.OpenOn(today.PlusDays(d)) is not { } open)
                continue;
            for (var start = open.Start; start < open.End; start += Duration.FromMinutes(rules.SlotMinutes))
            {
                var end = start + Duration.FromMinutes(ask.Minutes);
                if (start < facts.Now || (found.Count > 0 && start < found[^1].End) || !wish.Allows(start, end, rules.Clock))
                    continue;
                var decision = Core.Gating.Gate.Decide(ask with { Start = start }, facts);
                if (decision.Verdict <= Verdict.Conditions)
                    found.Add((start, end, decision.Verdict));
                if (found.Count == FreeTimes.MostChoices)
                    return found;
            }
        }
        return found;
    }

    private static GateCase RandomHouse(Random random)
    {
        Span[] Some(int most, int longest) =>
            [
                .. Enumerable
                    .Range(0, random.Next(most))
                    .Select(_ =>
                    {
                        var start = Now + Duration.FromMinutes(random.Next(-600, 21 * 1440));
                        return new Span(start, start + Duration.FromMinutes(random.Next(1, longest)));
                    }),
            ];
        Span[] Most() => random.Next(3) > 0 ? [Always] : Some(4, 9000);
        return Open()
            .Asking(a =>
                a with
                {
                    Minutes = random.Next(4, 14) * 15,
                    Fixture = random.Next(3) == 0 ? "rotary" : null,
                    Bench = random.Next(3) switch
                    {
                        0 => new BenchWish(null, random.Next(1, 120)),
                        1 => new BenchWish(Now + Duration.FromMinutes(random.Next(21 * 1440))),
                        _ => null,
                    },
                }
            )
            .Rules(r =>
                r with
                {
                    SameDayBooking = random.Next(2) == 0,
                    WalkUp = random.Next(2) == 0,
                    BookLeadMinutes = random.Next(3) * 90,
                    FinishingBenches = random.Next(1, 3),
                }
            )
            .With(f =>
                f with
                {
                    Person = f.Person with
                    {
                        Active = Spans(Most()),
                        Pauses = Spans(Some(2, 4000)),
                        Attending = Spans(Some(4, 300)),
                        Duties = Some(3, 300),
                    },
                    Training = f.Training with
                    {
                        Certificates = Fact.Known<IReadOnlyList<Certificate>>([.. Most().Select(s => new Certificate("heron", s))]),
                    },
                    Machine = f.Machine with
                    {
                        Stops = Spans(Some(2, 3000)),
                        Fixture = Some(2, 3000).Select(s => new FixtureFacts(s, random.Next(4) == 0, null)).FirstOrDefault(),
                    },
                    Time = f.Time with
                    {
                        MachineTaken = Spans(Some(60, 500)),
                        PersonBooked = Spans(Some(3, 120)),
                        Closures = [.. Some(3, 3000).Select(s => new ClosureFacts(Guid.NewGuid(), "Holiday", s))],
                        Benches = [.. Some(60, 300).Select(s => new BenchFacts(random.Next(1, 3), s))],
                    },
                    Room = f.Room with { OnDuty = Spans(Most()), Shut = [.. Some(2, 2000).Select(s => new IncidentHold(s, 1))] },
                }
            );
    }

    private static TimeWish RandomWish(Random random) =>
        random.Next(3) switch
        {
            0 => TimeWish.Any,
            1 => new TimeWish(From: new LocalTime(random.Next(9, 15), 0), NotOn: [(IsoDayOfWeek)random.Next(1, 8)]),
            _ => new TimeWish(
                After: Now + Duration.FromHours(random.Next(72)),
                Before: Now + Duration.FromHours(random.Next(100, 500)),
                To: new LocalTime(random.Next(15, 24), 0)
            ),
        };
}
