using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Run;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

public class SessionActsTests
{
    private static readonly Instant At = Instant.FromUtc(2026, 11, 24, 14, 0);
    private static readonly GateCase Case = GateCase.Open();
    private static readonly MachineSpec Heron = GateCase.Heron with { ExtractionLeadSeconds = 90, AirflowM3PerHour = 650 };

    internal static readonly StationFacts Facts = new(
        Machine: Heron,
        Rules: Case.Facts.Rules with
        {
            AttentionMinutes = 3,
        },
        Against: [],
        Time: (400, 600),
        TagMm: 3,
        CareMeasure: false,
        HeavyResidue: false
    );

    internal static StationSession TappedIn(LastSession? last = null) =>
        new()
        {
            Id = Guid.NewGuid(),
            MachineId = "heron",
            Person = "m-4",
            Booking = Guid.NewGuid(),
            TappedIn = At,
            Until = At + Duration.FromMinutes(90),
            Items = Case.Ask.Items,
            Places = PlaceChecks.For(Heron, last, "m-4", At),
        };

    /// <summary>Goes through acts, a second each, and fails on the first that is refused.</summary>
    private sealed class Walk(StationSession session, StationFacts? facts = null)
    {
        public StationSession Session { get; private set; } = session;
        public Instant Now { get; set; } = At;
        public StationFacts Facts { get; set; } = facts ?? SessionActsTests.Facts;
        public int Taps { get; private set; }

        public Walk Do(params StationAct[] acts)
        {
            foreach (var act in acts)
            {
                var after = Session.After(act, Facts, Now);
                after.Refusal.ShouldBeNull($"{act.Deed} at {Session.Step}: {after.Refusal?.Text}");
                Session = after.Value;
                Now += Duration.FromSeconds(1);
                Taps++;
            }
            return this;
        }

        public Walk Later(double seconds)
        {
            Now += Duration.FromSeconds(seconds);
            return this;
        }

        public string? Refused(StationAct act) => Session.After(act, Facts, Now).Refusal?.Problem.Code;

        public Walk Looked() => Do([.. Session.Places.Select(p => new StationAct(Deed.Check) { Item = p.Id, Ok = true })]);
    }

    private static readonly StationAct Sheet = new(Deed.Sheet) { Tag = "S-0097", ThicknessMm = [3.02m] };
    private static readonly StationAct Gauge = new(Deed.Focus) { Method = "gauge", GaugeBack = true };
    private static readonly StationAct Set60 = new(Deed.Settings) { Set = new SetTo(null, 60, 20, 1) };
    private static readonly StationAct Frame = new(Deed.Frame);

    private static readonly StationAct Air = new(Deed.Air)
    {
        Seen = true,
        Assist = true,
        LidShut = true,
    };

    private static readonly StationAct Three = new(Deed.Confirm)
    {
        Height = true,
        Material = true,
        Stay = true,
    };

    private static readonly StationAct Go = new(Deed.Start) { Stay = true };

    private static Walk Ready() => new Walk(TappedIn()).Looked().Do(Sheet, Gauge, Set60, Frame, Air, Three).Later(90);

    /// <summary>A clean run was told, and the sheet lies there.</summary>
    internal static StationSession Told() =>
        Ready().Session with
        {
            Step = StationStep.Next,
            Runs = [new RunTold(Guid.NewGuid(), 0, At, At + Duration.FromMinutes(5), Outcome.Clean, Moved: false, Extra: false)],
        };

    private static Walk Running() => Ready().Do(Go);

    private static StationAct Told(PartResult result, bool moved = false) =>
        new(Deed.Outcome)
        {
            Result = result,
            Moved = moved,
            RunId = Guid.NewGuid(),
        };

    /// <summary>Fob and three ticks are a press each; an act that is told with one tick and one press counts as it is pressed.</summary>
    [Fact]
    public void Taps_AreFew()
    {
        const int fob = 1,
            threeTicks = 2;
        var walk = Running();
        (fob + threeTicks + walk.Taps).ShouldBeLessThanOrEqualTo(16);

        walk.Later(100).Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended }).Later(60).Do(new StationAct(Deed.LidOpened));
        var piece = walk.Taps;
        walk.Do(Told(PartResult.Through), new StationAct(Deed.Next) { Next = NextWhat.Piece }, Gauge, Go);
        (walk.Taps - piece).ShouldBeLessThanOrEqualTo(4);

        walk.Later(100).Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended }).Later(60).Do(new StationAct(Deed.LidOpened));
        var sheet = walk.Taps;
        walk.Do(Told(PartResult.Through), new StationAct(Deed.Next) { Next = NextWhat.Sheet }, Sheet, Gauge, Frame, Air, Three, Go);
        (walk.Taps - sheet + threeTicks).ShouldBeLessThanOrEqualTo(12);

        walk.Later(100)
            .Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended })
            .Later(60)
            .Do(new StationAct(Deed.LidOpened), Told(PartResult.Through));
        walk.Do(new StationAct(Deed.Next) { Next = NextWhat.Finish });
        var close = walk.Taps;
        walk.Do([.. SessionActs.Closing.Select(c => new StationAct(Deed.Close) { Item = c.Id }), new StationAct(Deed.TapOut)]);
        (walk.Taps - close).ShouldBeLessThanOrEqualTo(4);
        walk.Session.TappedOut.ShouldNotBeNull();
    }

    [Fact]
    public void Start_BeforeTheExtractionRanLongEnough_SaysHowLongIsLeft()
    {
        var walk = new Walk(TappedIn()).Looked().Do(Sheet, Gauge, Set60, Frame, Air, Three);
        walk.Now = walk.Session.FanOn!.Value + Duration.FromSeconds(80);
        var refused = walk.Session.After(Go, walk.Facts, walk.Now).Refusal!;
        (refused.Problem.Code, refused.Text.Contains("10 s")).ShouldBe(("start.extractionLead", true));
        walk.Now = walk.Session.FanOn!.Value + Duration.FromSeconds(90);
        walk.Refused(Go).ShouldBeNull();
    }

    /// <summary>Each fault alone shuts the start, and says so by its code.</summary>
    [Fact]
    public void Start_NeedsEverything()
    {
        Ready().Refused(Go).ShouldBeNull();
        Ready().Later(600).Refused(Go).ShouldBe("start.air");
        Ready().Refused(new StationAct(Deed.Start)).ShouldBe("start.confirm");
        new Walk(TappedIn()).Looked().Do(Sheet, Gauge, Set60, Frame, Air).Later(90).Refused(Go).ShouldBe("start.confirm");
        var late = Ready();
        late.Now = At + Duration.FromMinutes(5);
        late.Facts = Facts with { Time = (3000, 4500) };
        late.Refused(Go).ShouldBe("start.noTime");
        late.Facts = Facts with { Time = null };
        late.Refused(Go).ShouldBe("station.shut");
        late.Facts = Facts with { Against = [new Reason("machine.stopped", Standing.Shut, "Heron is stopped.", "")] };
        late.Refused(Go).ShouldBe("station.shut");
    }

    [Fact]
    public void Air_LidOpenOrNoAssist_IsRefused()
    {
        var walk = new Walk(TappedIn()).Looked().Do(Sheet, Gauge, Set60, Frame);
        walk.Refused(Air with { LidShut = false }).ShouldBe("start.lidOpen");
        walk.Refused(Air with { Seen = false }).ShouldBe("start.air");
        walk.Facts = Facts with { Machine = Heron with { Station = Heron.Station! with { AirAssist = AirAssist.PumpSwitch } } };
        walk.Refused(Air with { Assist = false }).ShouldBe("start.airAssist");
        walk.Facts = Facts with { Machine = Heron with { Station = Heron.Station! with { AirAssist = AirAssist.None } } };
        walk.Refused(Air with { Assist = false }).ShouldBeNull();
    }

    /// <summary>Permit 14:10:00, a press at 14:12:20: by 14:15:20. Without another, it is looked at, and a second time waits.</summary>
    [Fact]
    public void Attention_IsCountedFromThePress()
    {
        var walk = Ready();
        walk.Now = At + Duration.FromMinutes(10);
        walk.Do(Go);
        walk.Session.Run!.Deadline.ShouldBe(At + Duration.FromMinutes(13));
        walk.Now = At + Duration.FromSeconds(12 * 60 + 20);
        walk.Do(new StationAct(Deed.Press));
        walk.Session.Run!.Deadline.ShouldBe(At + Duration.FromSeconds(15 * 60 + 20));
        walk.Refused(new StationAct(Deed.Look)).ShouldBe("station.step");
        walk.Now = At + Duration.FromSeconds(15 * 60 + 21);
        walk.Refused(new StationAct(Deed.Press)).ShouldBe("attention.lapsed");
        walk.Do(new StationAct(Deed.Look));
        walk.Session.Lapses.ShouldBe(1);
        walk.Later(200)
            .Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended })
            .Later(60)
            .Do(new StationAct(Deed.LidOpened), Told(PartResult.Through));
        walk.Session.Lapses.ShouldBe(2);
        walk.Do(new StationAct(Deed.Next) { Next = NextWhat.Piece }, Gauge).Refused(Go).ShouldBe("attention.lapsed");
    }

    [Fact]
    public void Attention_ShorterOfHouseAndMachine()
    {
        Attention.Minutes(Heron with { Station = Heron.Station! with { AttentionMinutes = 2 } }, Facts.Rules).ShouldBe(2);
        Attention.Minutes(Heron with { Station = Heron.Station! with { AttentionMinutes = 5 } }, Facts.Rules).ShouldBe(3);
    }

    [Fact]
    public void Lid_StaysShutToTheSecond_AndLongerWhileSmokeIsSeen()
    {
        var walk = Running().Later(60);
        var off = walk.Now;
        walk.Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended });
        walk.Session.Lid!.Until.ShouldBe(off + Duration.FromSeconds(53));
        walk.Now = off + Duration.FromSeconds(52);
        walk.Refused(new StationAct(Deed.LidOpened)).ShouldBe("lid.early");
        walk.Now = off + Duration.FromSeconds(53);
        walk.Do(new StationAct(Deed.StillSmoke));
        walk.Now = off + Duration.FromSeconds(82);
        walk.Refused(new StationAct(Deed.LidOpened)).ShouldBe("lid.early");
        walk.Now = off + Duration.FromSeconds(83);
        walk.Do(new StationAct(Deed.LidOpened));
    }

    [Fact]
    public void Flame_WaitsLong_AndHoldsTheSession()
    {
        var walk = Running().Do(new StationAct(Deed.Stop) { Why = StopWhy.Flame });
        (walk.Session.Lid!.Until!.Value - walk.Session.Lid.From).ShouldBe(Duration.FromSeconds(300));
        walk.Later(300).Do(new StationAct(Deed.LidOpened), Told(PartResult.Flame));
        walk.Refused(new StationAct(Deed.Next) { Next = NextWhat.Piece }).ShouldBe("check.open");
        walk.Do(new StationAct(Deed.Next) { Next = NextWhat.Finish }, new StationAct(Deed.TapOut));
        walk.Session.Runs[0].Outcome.ShouldBe(Outcome.Flame);
    }

    [Fact]
    public void Choking_NobodyOpensTheLid()
    {
        var walk = Running().Do(new StationAct(Deed.Stop) { Why = StopWhy.Smell }).Later(100_000);
        walk.Refused(new StationAct(Deed.LidOpened)).ShouldBe("lid.wait");
        walk.Refused(new StationAct(Deed.StillSmoke)).ShouldBe("lid.wait");
    }

    /// <summary>Once, only where nothing moved, with at most half the energy: 60 % at 20 mm/s is 3.0, so 60 % at 40 mm/s is 1.5.</summary>
    [Fact]
    public void ExtraPass_OnceAndWithHalfTheEnergy()
    {
        var walk = Running().Later(60).Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended }).Later(60).Do(new StationAct(Deed.LidOpened));
        walk.Do(Told(PartResult.NotThrough), new StationAct(Deed.Next) { Next = NextWhat.Extra });
        walk.Refused(Set60).ShouldBe("rerun.energy");
        walk.Refused(Set60 with { Set = new SetTo(null, 60, 39.9m, 1) }).ShouldBe("rerun.energy");
        walk.Do(Set60 with { Set = new SetTo(null, 60, 40, 1) }, Go);
        walk.Session.Run!.HighSeconds.ShouldBe(300);
        walk.Later(60)
            .Do(new StationAct(Deed.Stop) { Why = StopWhy.Ended })
            .Later(60)
            .Do(new StationAct(Deed.LidOpened), Told(PartResult.NotThrough));
        walk.Refused(new StationAct(Deed.Next) { Next = NextWhat.Extra }).ShouldBe("rerun.second");
    }

    [Theory]
    [InlineData(PartResult.NotThrough, true, StopWhy.Ended, "rerun.moved")]
    [InlineData(PartResult.Through, false, StopWhy.Ended, "rerun.partial")]
    [InlineData(PartResult.NotThrough, false, StopWhy.ByMistake, "rerun.partial")]
    public void ExtraPass_NotOnWhatMovedOrWasBrokenOff(PartResult result, bool moved, StopWhy why, string code)
    {
        var walk = Running().Later(60).Do(new StationAct(Deed.Stop) { Why = why }).Later(60);
        walk.Do(new StationAct(Deed.LidOpened), Told(result, moved));
        walk.Refused(new StationAct(Deed.Next) { Next = NextWhat.Extra }).ShouldBe(code);
    }

    [Fact]
    public void Sheet_AnotherTagOrThickness_IsRefused()
    {
        var walk = new Walk(TappedIn()).Looked();
        walk.Refused(Sheet with { Tag = "S-0101" }).ShouldBe("sheet.other");
        walk.Refused(Sheet with { Tag = null }).ShouldBe("sheet.other");
        walk.Refused(Sheet with { ThicknessMm = [] }).ShouldBe("sheet.measure");
        walk.Refused(Sheet with { ThicknessMm = [3.46m] }).ShouldBe("sheet.thickness");
        walk.Refused(Sheet with { ThicknessMm = [3.45m] }).ShouldBeNull();
        walk.Facts = Facts with { CareMeasure = true };
        walk.Refused(Sheet).ShouldBe("sheet.measure");
        walk.Do(Sheet with { ThicknessMm = [2.9m, 3.0m, 3.2m] });
        (walk.Session.Sheet!.Thickest, walk.Session.Sheet.Thinnest).ShouldBe((3.2m, 2.9m));
    }

    [Fact]
    public void Focus_AutomaticNeverOnAFixture_AndTheGaugeGoesBack()
    {
        var walk = new Walk(TappedIn() with { Fixture = "rotary" }).Looked().Do(Sheet);
        walk.Facts = Facts with { Machine = Heron with { Station = Heron.Station! with { FocusMethods = ["gauge", "automatic"] } } };
        walk.Refused(new StationAct(Deed.Focus) { Method = "automatic" }).ShouldBe("focus.automatic");
        walk.Refused(Gauge with { GaugeBack = false }).ShouldBe("focus.gauge");
        walk.Refused(new StationAct(Deed.Focus) { Method = "by eye" }).ShouldBe("focus.method");
        walk.Refused(Gauge).ShouldBeNull();
    }

    /// <summary>Wrong is said in two taps, and nothing starts after it.</summary>
    [Fact]
    public void Check_Wrong_HoldsTheStart()
    {
        var walk = new Walk(TappedIn());
        walk.Refused(new StationAct(Deed.Check) { Item = "bed", Ok = true }).ShouldBe("station.step");
        walk.Do(new StationAct(Deed.Check) { Item = "walk", Note = "The blanket is gone." });
        walk.Session.Held.ShouldNotBeNull().ShouldContain("blanket");
        walk.Session.Step.ShouldBe(StationStep.Checks);
        walk.Do(new StationAct(Deed.TapOut));
    }

    [Fact]
    public void Places_LongListOnlyWhenItIsNeeded()
    {
        string[] Ids(LastSession? last) => [.. PlaceChecks.For(Heron, last, "m-4", At).Select(p => p.Id)];
        Ids(null).ShouldBe(["walk", "bed", "head", "power"]);
        Ids(new("m-4", At - Duration.FromHours(1), 20)).ShouldBe(["walk", "bed"]);
        Ids(new("m-9", At - Duration.FromHours(1), 20)).Length.ShouldBe(4);
        Ids(new("m-4", At - Duration.FromHours(5), 20)).Length.ShouldBe(4);
        Ids(new("m-4", At - Duration.FromHours(1), 60)).Length.ShouldBe(4);
    }

    /// <summary>Whatever is pressed in whatever order: no beam without every look, a confirmed sheet, the lead, and time.</summary>
    [Fact]
    public void Sequences_NeverStartWithoutWhatItTakes()
    {
        var random = new Random(19);
        Func<StationSession, StationAct>[] deeds =
        [
            s => new(Deed.Check) { Item = s.Places[random.Next(s.Places.Count)].Id, Ok = random.Next(6) > 0 },
            _ => Sheet with { ThicknessMm = [2 + random.Next(20) / 10m] },
            _ => Gauge with { GaugeBack = random.Next(4) > 0 },
            _ => Set60 with { Set = random.Next(5) == 0 ? null : new SetTo(null, 60, 20 * random.Next(1, 4), 1) },
            _ => Frame,
            _ => Air with { LidShut = random.Next(4) > 0 },
            _ => Three with { Stay = random.Next(3) > 0 },
            _ => Go,
            _ => new(Deed.Press),
            _ => new(Deed.Look),
            _ => new(Deed.Stop) { Why = random.Next(9) == 0 ? StopWhy.Flame : StopWhy.Ended },
            _ => new(Deed.LidOpened),
            _ => new(Deed.StillSmoke),
            _ => Told((PartResult)random.Next(5), random.Next(3) == 0),
            _ => new(Deed.Next) { Next = (NextWhat)random.Next(4) },
        ];
        var starts = 0;
        for (var round = 0; round < 100; round++)
        {
            var (s, now) = (TappedIn(), At);
            for (var i = 0; i < 2000; i++)
            {
                // What is refused takes no time here: else the booking is over before much happens.
                var next = now + Duration.FromSeconds(random.Next(1, 40));
                if (s.After(deeds[random.Next(deeds.Length)](s), Facts, next) is not { Refusal: null, Value: var after })
                    continue;
                now = next;
                if (after.Beam && !s.Beam)
                {
                    starts++;
                    s.Step.ShouldBe(StationStep.Confirm);
                    (s.Held, s.Confirmed, s.Looked.Count).ShouldBe((null, true, s.Places.Count));
                    s.Looked.ShouldAllBe(l => l.Wrong == null);
                    (s.Sheet, s.Focus, s.Set).ShouldSatisfyAllConditions(
                        x => x.Sheet.ShouldNotBeNull(),
                        x => x.Focus.ShouldNotBeNull(),
                        x => x.Set.ShouldNotBeNull()
                    );
                    (now - s.FanOn!.Value).TotalSeconds.ShouldBeGreaterThanOrEqualTo(90);
                    (now - s.AirSeen!.Value).TotalMinutes.ShouldBeLessThanOrEqualTo(10);
                    (now + Duration.FromSeconds(after.Run!.HighSeconds)).ShouldBeLessThan(s.Until);
                }
                if (s.Step == StationStep.Wait && after.Step == StationStep.Unload)
                    now.ShouldBeGreaterThanOrEqualTo(s.Lid!.Until!.Value);
                after.Version.ShouldBe(s.Version + 1);
                s = after;
            }
        }
        starts.ShouldBeGreaterThan(10);
    }

    [Fact]
    public void Learner_StartsOnlyWhileTheSupervisorTapped()
    {
        var learner = new Walk(TappedIn() with { Supervisor = "m-3" }).Looked().Do(Sheet, Gauge, Set60, Frame, Air, Three).Later(90);
        learner.Refused(Go).ShouldBe("start.supervisor");
        var by = new Tapper("m-3", Steward: false, Certified: true);
        var tapped = new Walk(learner.Session.Tapped(by, learner.Now)) { Now = learner.Now };
        tapped.Later(600).Refused(Go).ShouldNotBe("start.supervisor");
        tapped.Later(1).Refused(Go).ShouldBe("start.supervisor", "ten minutes and a second");
    }

    [Fact]
    public void SecondLapse_TheNextStartWaitsForSomebodyWhoStandsBy()
    {
        var ready = Ready();
        var lapsed = new Walk(ready.Session with { Lapses = 2 }) { Now = ready.Now };
        lapsed.Refused(Go).ShouldBe("attention.lapsed");
        var beside = lapsed.Session.Tapped(new Tapper("m-3", Steward: false, Certified: true), lapsed.Now);
        new Walk(beside) { Now = lapsed.Now }
            .Do(Go)
            .Session.Beam.ShouldBeTrue();
    }

    [Fact]
    public void AnotherPiece_IsFocusedAnew_UnlessTheHouseLeavesItOut()
    {
        var piece = new StationAct(Deed.Next) { Next = NextWhat.Piece };
        Told().After(piece, Facts, At).Value.Step.ShouldBe(StationStep.Focus);
        var kept = Told().After(piece, Facts with { Rules = Facts.Rules with { RefocusPieces = false } }, At).Value;
        (kept.Step, kept.Focus).ShouldBe((StationStep.Settings, "gauge"));
    }

    [Fact]
    public void ShortClosing_LeavesHeadAndFixtureToTheLastOfTheDay()
    {
        var closing = new Walk(Told() with { Step = StationStep.Close, ShortClosing = true });
        closing.Refused(new StationAct(Deed.Close) { Item = "head" }).ShouldBe("station.step");
        closing.Do(new StationAct(Deed.Close) { Item = "bed" });
        closing.Session.LeftOpen.ShouldBe(["Fan, computer, stick"]);
        closing.Do(new StationAct(Deed.Close) { Item = "fan" }, new StationAct(Deed.TapOut)).Session.TappedOut.ShouldNotBeNull();
    }

    /// <summary>Back after an alarm: the long wait, then all looks anew, and a fresh piece.</summary>
    [Fact]
    public void Alarm_TheWorkWasLeftHot_AndEverythingIsLookedAtAnew()
    {
        var left = Running().Later(60).Do(new StationAct(Deed.Stop) { Why = StopWhy.Alarm });
        (left.Session.Held, left.Session.Lid!.Seconds).ShouldBe((null, 300));
        left.Later(299).Do(new StationAct(Deed.LidOpened), new StationAct(Deed.Outcome) { Result = PartResult.Charred });
        left.Refused(new StationAct(Deed.Next) { Next = NextWhat.Extra }).ShouldBe("rerun.partial");
        foreach (var what in new[] { NextWhat.Sheet, NextWhat.Job })
        {
            var two = left.Session with { Items = [left.Session.Items[0], left.Session.Items[0]] };
            two.After(new StationAct(Deed.Next) { Next = what }, Facts, left.Now).Value.Step.ShouldBe(StationStep.Checks, $"{what}");
        }
        var back = left.Do(new StationAct(Deed.Next) { Next = NextWhat.Piece }).Session;
        (back.Step, back.Looked.Count, back.Places.Count, back.Sheet, back.LooksAgain).ShouldBe((StationStep.Checks, 0, 4, null, false));
        left.Looked().Session.Step.ShouldBe(StationStep.Sheet);
    }

    [Fact]
    public void Looks_UnderOneSupervisor_ComeWholeOnceALesson()
    {
        var before = new LastSession("m-8", At, 5, Supervisor: "m-3");
        PlaceChecks.For(Heron, before, "m-9", At, supervisor: "m-3").Count.ShouldBe(2);
        PlaceChecks.For(Heron, before, "m-9", At, supervisor: "m-2").Count.ShouldBe(4);
        PlaceChecks.For(Heron, before, "m-9", At).Count.ShouldBe(4);
        PlaceChecks.For(Heron, before with { Supervisor = null }, "m-9", At).Count.ShouldBe(4, "nobody is not the same as nobody");
    }
}
