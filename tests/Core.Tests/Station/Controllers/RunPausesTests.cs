using NodaTime;
using Shouldly;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

/// <summary>A pause of two minutes at most: the beam is off, and comes back only by somebody who is there.</summary>
public class RunPausesTests
{
    private static readonly StationFacts Facts = SessionActsTests.Facts with
    {
        Machine = SessionActsTests.Facts.Machine with { Station = SessionActsTests.Facts.Machine.Station! with { PauseStopsBeam = true } },
        Rules = SessionActsTests.Facts.Rules with { PauseMinutes = 2 },
        FixedEnd = Instant.MaxValue,
    };

    private static readonly StationSession Told = SessionActsTests.Told();
    private static readonly Instant At = Told.TappedIn + Duration.FromMinutes(10);

    private static readonly StationSession Running = Told with
    {
        Step = StationStep.Running,
        Controlled = true,
        Run = new BeamRun(At, 400, 600, At + Duration.FromMinutes(3)) { OnAt = At, FixedEnd = At + Duration.FromHours(1) },
    };

    private static Instant After(double seconds) => At + Duration.FromSeconds(seconds);

    private static StationFacts With(double seconds) =>
        Facts with
        {
            Live = new MachineLive(
                "heron-test",
                HeardAt: After(seconds),
                Sensors: new Sensors(AirflowM3PerHour: 640, LidShut: true),
                ReadAt: After(seconds),
                AirSince: At
            ),
        };

    private static Result<StationSession> Do(StationSession s, Deed deed, double seconds) =>
        s.After(new StationAct(deed), With(seconds), After(seconds));

    [Theory]
    [InlineData(180, null)]
    [InlineData(181, "pause.over")]
    public void Paused_TheBeamIsOff_AndComesBackWithinTwoMinutes(double seconds, string? code)
    {
        var paused = Do(Running, Deed.Pause, 60).Value;
        Permits.DropWanted(paused, stopped: false).ShouldBe(OffWhy.Pause);
        Permits.For(paused, With(61), stopped: false, "c", After(61)).ShouldBeNull("nothing is granted meanwhile");
        Permits.AskWanted(paused, stopped: false, After(61)).ShouldBeFalse();
        var off = paused.Heard(EventKind.RelayOff, OffWhy.Pause, With(61), After(61));
        (off.Step, off.Run!.OffAt).ShouldBe((StationStep.Running, After(61)));
        Do(off, Deed.Press, 90).Refusal!.Code.ShouldBe("pause.on");
        off.Heard(EventKind.Press, null, With(90), After(90)).Run!.Deadline.ShouldBe(After(180), "a press renews nothing that is paused");

        var resumed = Do(off, Deed.Resume, seconds);
        resumed.Refusal?.Code.ShouldBe(code);
        if (code is not null)
            return;
        (resumed.Value.Run!.Deadline, resumed.Value.Lapses).ShouldBe((After(seconds + 180), 0));
        Permits.For(resumed.Value, With(seconds), stopped: false, "c", After(seconds)).ShouldNotBeNull();
    }

    [Fact]
    public void Paused_LidOpen_DoesNotGoOn()
    {
        var paused = Do(Running, Deed.Pause, 60).Value;
        var open = With(70) with { Live = With(70).Live! with { Sensors = new Sensors(AirflowM3PerHour: 640, LidShut: false) } };
        paused.After(new StationAct(Deed.Resume), open, After(70)).Refusal!.Code.ShouldBe("start.lidOpen");
    }

    [Fact]
    public void Paused_IsStoppedLikeAnyRun_AndIsNoLapse()
    {
        var paused = Do(Running, Deed.Pause, 60).Value;
        var stopped = paused.After(new StationAct(Deed.Stop) { Why = StopWhy.WrongSettings }, With(300), After(300)).Value;
        (stopped.Step, stopped.Lapses, stopped.Run!.BrokenOff).ShouldBe((StationStep.Wait, 0, true));
    }

    [Fact]
    public void NothingIsPaused_WhereItTakesNoBeamAway()
    {
        Do(Running with { Controlled = false }, Deed.Pause, 60).Refusal!.Code.ShouldBe("pause.none");
        Running
            .After(new StationAct(Deed.Pause), SessionActsTests.Facts, After(60))
            .Refusal!.Code.ShouldBe("pause.none", "its panel’s pause does not");
        var none = With(60) with { Rules = Facts.Rules with { PauseMinutes = 0 } };
        Running.After(new StationAct(Deed.Pause), none, After(60)).Refusal!.Code.ShouldBe("pause.none", "the house allows none");
        Do(Running, Deed.Pause, 181).Refusal!.Code.ShouldBe("attention.lapsed");
    }
}
