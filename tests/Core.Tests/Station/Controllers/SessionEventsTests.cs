using NodaTime;
using Shouldly;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

/// <summary>What a machine’s word changes of a session, whichever of word and press comes first.</summary>
public class SessionEventsTests
{
    private static readonly Instant At = Instant.FromUtc(2026, 11, 24, 14, 10);
    private static readonly GateCase Case = GateCase.Open();
    private static readonly MachineSpec Heron = GateCase.Heron with { AirflowM3PerHour = 650 };

    private static readonly StationFacts Facts = new(
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
    )
    {
        Live = new MachineLive("h-1", At, new Sensors(AirflowM3PerHour: 520, LidShut: true), At, At - Duration.FromMinutes(5)),
        FixedEnd = At + Duration.FromMinutes(60),
    };

    private static readonly StationSession Running = new()
    {
        Id = Guid.NewGuid(),
        MachineId = "heron",
        Person = "m-4",
        Booking = Guid.NewGuid(),
        TappedIn = At - Duration.FromMinutes(10),
        Until = At + Duration.FromMinutes(60),
        Items = Case.Ask.Items,
        Places = [],
        Step = StationStep.Running,
        Controlled = true,
        Run = new BeamRun(At, 400, 600, At + Duration.FromMinutes(3)) { FixedEnd = At + Duration.FromMinutes(60) },
    };

    private static Instant After(int seconds) => At + Duration.FromSeconds(seconds);

    private static StationSession Do(StationSession s, Deed deed, StopWhy? why, int seconds)
    {
        var after = s.After(new StationAct(deed) { Why = why }, Facts, After(seconds));
        after.Refusal.ShouldBeNull(after.Refusal?.Text);
        return after.Value;
    }

    /// <summary>14:12:20 pressed: 14:15:20, whenever it is heard of.</summary>
    [Fact]
    public void Press_CountsFromWhenItWasPressed()
    {
        var s = Running.Heard(EventKind.RelayOn, null, Facts, At).Heard(EventKind.Press, null, Facts, After(140));
        s.Run!.Deadline.ShouldBe(After(320));
        s.Heard(EventKind.Press, null, Facts, After(100)).Run!.Deadline.ShouldBe(After(320), "an older press takes nothing back");
        s.Heard(EventKind.Press, null, Facts, After(321)).Run!.Deadline.ShouldBe(After(320), "too late");
    }

    [Fact]
    public void Stop_AndTheWordOfTheMachine_AgreeInEitherOrder()
    {
        var wordFirst = Running.Heard(EventKind.RelayOff, OffWhy.Stop, Facts, After(30));
        wordFirst.Run!.AsksWhy.ShouldBeTrue();
        var pressFirst = Do(Running, Deed.Stop, null, 30).Heard(EventKind.RelayOff, OffWhy.Stop, Facts, After(31));
        foreach (var s in new[] { wordFirst, pressFirst })
        {
            s.BeamUnknown.ShouldBeFalse();
            var told = Do(s, Deed.Stop, StopWhy.SheetMoved, 40);
            told.Run!.AsksWhy.ShouldBeFalse();
            told.Run.BrokenOff.ShouldBeTrue();
            Do(s, Deed.Stop, StopWhy.Ended, 40).Run!.BrokenOff.ShouldBeFalse("it had come to its end");
            Do(s, Deed.Stop, StopWhy.Flame, 40).Lid!.Until.ShouldBe(s.Lid!.From + Duration.FromSeconds(300));
        }
        // 520 m³/h: 43.04 s, counted from the machine’s own word.
        pressFirst.Lid!.Until.ShouldBe(After(31 + 44));
    }

    [Fact]
    public void Lid_OpenedWhileItIsToStayShut_BeginsTheWaitAnew()
    {
        var s = Do(Running, Deed.Stop, StopWhy.Ended, 0).Heard(EventKind.RelayOff, OffWhy.Stop, Facts, At);
        s = s.Heard(EventKind.LidOpened, null, Facts, After(20));
        s.Lid!.Early.ShouldBeTrue();
        s.After(new StationAct(Deed.LidOpened), Facts, After(60)).Refusal!.Problem.Code.ShouldBe("lid.early");
        s = s.Heard(EventKind.LidShut, null, Facts, After(70));
        s.Lid!.Until.ShouldBe(After(70 + 44));
        s.Heard(EventKind.LidOpened, null, Facts, After(114)).Step.ShouldBe(StationStep.Unload);
    }

    /// <summary>520 m³/h: 44 s; 422.5 or unread: 53 s; 650 again shortens nothing.</summary>
    [Fact]
    public void Wait_GrowsWithLessAir_AndNeverShrinks()
    {
        var s = Do(Running, Deed.Stop, StopWhy.Ended, 0).Heard(EventKind.RelayOff, OffWhy.Stop, Facts, At);
        s.Lid!.Until.ShouldBe(After(44));
        s.Reckoned(Heron, Facts.Rules, 650).ShouldBeSameAs(s);
        var less = s.Reckoned(Heron, Facts.Rules, null);
        less.Lid!.Until.ShouldBe(After(53));
        less.Reckoned(Heron, Facts.Rules, 650).ShouldBeSameAs(less);
        Running.Reckoned(Heron, Facts.Rules, null).ShouldBeSameAs(Running);
    }

    [Fact]
    public void Boot_BreaksARunOff_AndNothingElse()
    {
        var s = Running.PowerLost(Facts, After(50));
        (s.Step, s.Run!.BrokenOff).ShouldBe((StationStep.Wait, true));
        s.Lid!.Until.ShouldBe(After(350));
        var idle = Running with { Step = StationStep.Sheet, Run = null };
        idle.PowerLost(Facts, After(50)).ShouldBeSameAs(idle);
    }

    [Fact]
    public void Permit_IsForARunThatWasStarted_AndEndsWithItsDeadline()
    {
        var grant = Permits.For(Running, Facts, stopped: false, "c", After(60)).ShouldNotBeNull();
        (grant.Seconds, grant.EndSeconds, grant.AttentionSeconds, grant.AirflowAtLeast).ShouldBe((120m, 3540m, 180m, 422.5m));
        Permits.For(Running, Facts, stopped: true, "c", After(60)).ShouldBeNull();
        Permits.For(Running, Facts, stopped: false, "c", After(180)).ShouldBeNull("the deadline is there");
        Permits.For(Running with { Step = StationStep.Confirm, Run = null }, Facts, stopped: false, "c", At).ShouldBeNull();
        Permits.For(null, Facts, stopped: false, "c", At).ShouldBeNull();
        var lapsed = Running.Heard(EventKind.RelayOff, OffWhy.Lapsed, Facts, After(180));
        Permits.For(lapsed, Facts, stopped: false, "c", After(181)).ShouldBeNull("somebody has to look first");
        Permits.DropWanted(lapsed, stopped: false).ShouldBeNull();
        Permits.DropWanted(Running, stopped: true).ShouldBe("machine.stopped");
        Permits.DropWanted(null, stopped: false).ShouldBe("session");
    }

    [Fact]
    public void FixedEnd_IsTheEarliestOfClosingCertificateDutyAndTheLongestBooking()
    {
        var facts = Case.Facts;
        var now = Case.Ask.Start;
        var closing = facts.Rules.OpenOn(facts.Rules.Clock.DateOf(now))!.Value.End;
        Permits.FixedEnd(facts, now).ShouldBeLessThanOrEqualTo(closing);
        var soon = now + Duration.FromMinutes(20);
        var lapses = facts with
        {
            Training = facts.Training with
            {
                Certificates = Fact.Known<IReadOnlyList<Core.Training.Certificate>>([
                    .. facts.Training.Certificates.Value.Select(c => c with { Held = new Span(c.Held.Start, soon) }),
                ]),
            },
        };
        Permits.FixedEnd(lapses, now).ShouldBe(soon);
        Permits
            .FixedEnd(facts with { Rules = facts.Rules with { LongestBookingMinutes = 15 } }, now)
            .ShouldBe(now + Duration.FromMinutes(15));
    }
}
