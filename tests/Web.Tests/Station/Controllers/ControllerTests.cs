using System.Net;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Web.Tests.Station.Controllers;

/// <summary>A session at a machine with a controller, over a real broker, on a clock that the test sets.</summary>
public class ControllerTests : IAsyncLifetime
{
    private readonly ControlledHouse _house = new();
    private DrivenController _machine = null!;
    private Api _member = null!;
    private StationRun _run = null!;

    public async ValueTask InitializeAsync()
    {
        await _house.InitializeAsync();
        _member = await _house.As("member");
        _run = new StationRun(_member);
        _machine = new DrivenController(_house);
    }

    public async ValueTask DisposeAsync()
    {
        await _machine.DisposeAsync();
        _member.Dispose();
        await _house.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    private async Task TapIn(bool ahead = false)
    {
        await _run.TapIn(_house);
        await _machine.Connect(
            !ahead ? null : NodaTime.Text.InstantPattern.ExtendedIso.Format(_house.Clock.Now + Duration.FromMinutes(10))
        );
    }

    /// <summary>Up to a beam that is on.</summary>
    private async Task Running(bool ahead = false)
    {
        await TapIn(ahead);
        await _machine.Pass(1);
        await _run.Prepare();
        await _machine.Pass(92);
        await _run.Confirm();
        var started = await _run.Start();
        started.Status.ShouldBe(HttpStatusCode.OK, started.Body.ToString());
        await _machine.Becomes(relay: true);
        await _machine.Pass(1);
        await _run.Look();
    }

    private async Task<bool?> On()
    {
        await _run.Look();
        return _run.Session.GetProperty("run").GetProperty("on").GetBoolean();
    }

    [Fact]
    public async Task GoodRun_IsGrantedPressedStoppedAndLoggedWithItsReadings()
    {
        await Running();
        _run.Station.GetProperty("beam").GetBoolean().ShouldBeTrue();
        (await On()).ShouldBe(true);
        var left = _machine.LeftSeconds!.Value;
        left.ShouldBeInRange(175, 180);

        await _machine.Pass(60);
        await _run.Do("press");
        await ControlledHouse.Until(() => Task.FromResult(_machine.LeftSeconds > 179), "the press does not reach the machine");
        await _machine.Pass(30);
        await _machine.Press();
        await _machine.Pass(1);
        await _run.Look();
        _run.Station.GetProperty("secondsLeft")
            .GetDouble()
            .ShouldBeInRange(178, 180, "the button at the machine counts as the screen does");

        await _run.Do("stop", new { why = "ended" });
        await _machine.Becomes(relay: false);
        await _machine.Pass(1);
        await _run.Look();
        _run.Session.GetProperty("lid").GetProperty("seenOff").GetString().ShouldNotBeNull();
        // 640 m³/h through 0.45 m³, K 3, r 0.01: 34.97 s.
        _run.Station.GetProperty("waitSecondsLeft").GetDouble().ShouldBeInRange(30, 35);
        await _machine.Pass(36);
        await _run.Do("lidOpened");
        await _run.Do("outcome", new { result = "through", moved = true });
        (
            await _house.Ask<string>("select t.body from run.log l join ledger.text t on t.id = l.text_id order by l.at desc limit 1")
        ).ShouldBe("60 %, 23 mm/s, 1 pass. Read: airflow 640 m³/h, coolant 21.0 °C");
    }

    [Fact]
    public async Task Lead_CountsFromTheFirstGoodReading_AndABadOneSetsItBack()
    {
        await TapIn();
        _machine.Sensors = _machine.Sensors with { AirflowM3PerHour = 0 };
        await _machine.Pass(5);
        await _run.Prepare();
        (await _run.Send("air", new { assist = true })).Code.ShouldBe("start.airflow");
        _machine.Sensors = _machine.Sensors with { AirflowM3PerHour = 640 };
        await _machine.Pass(1);
        await _run.Confirm();
        await _machine.Pass(79);
        var early = await _run.Start();
        early.Code.ShouldBe("start.extractionLead");
        early.Body.GetProperty("detail").GetString()!.ShouldContain("11 s");
        _machine.Sensors = _machine.Sensors with { AirflowM3PerHour = 400 };
        await _machine.Pass(5);
        (await _run.Start()).Code.ShouldBe("start.airflow");
        _machine.Sensors = _machine.Sensors with { AirflowM3PerHour = 640 };
        await _machine.Pass(1);
        await _machine.Pass(85);
        await _machine.Pass(4);
        (await _run.Start()).Code.ShouldBe("start.extractionLead");
        await _machine.Pass(1);
        (await _run.Start()).Status.ShouldBe(HttpStatusCode.OK);
        await _machine.Becomes(relay: true);
    }

    [Fact]
    public async Task Stop_ByAnybody_TakesTheBeamFirst_AndAsksAfter()
    {
        await Running();
        using var visitor = await _house.As(null);
        var stopped = await visitor.Post($"{StationRun.At}/stop", new { id = Guid.NewGuid().ToString() });
        stopped.Status.ShouldBe(HttpStatusCode.OK, stopped.Body.ToString());
        stopped.Body.GetProperty("says").GetString()!.ShouldStartWith("Beam off, seen ");
        _machine.Relay.ShouldBeFalse();
        await _machine.Pass(40);
        await _run.Look();
        _run.Step.ShouldBe("wait");
        (await _run.Send("lidOpened")).Code.ShouldBe("stop.why");
        await _run.Do("stop", new { why = "flame" });
        _run.Session.GetProperty("held").GetString()!.ShouldContain("a flame or a glow");
        _run.Station.GetProperty("waitSecondsLeft").GetDouble().ShouldBeGreaterThan(250);
        (
            await _house.Ask<int>(
                "select count(*)::int from house.stop where machine_id = 'heron' and upper_inf(held) and upper_inf(recorded)"
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task Lapse_TakesTheBeamAlone_AndASecondWaitsForASteward()
    {
        await Running();
        await _machine.Pass(180);
        _machine.Relay.ShouldBeFalse();
        (await On()).ShouldBe(false);
        (await _run.Send("press")).Code.ShouldBe("attention.lapsed");
        await _run.Do("look");
        await _machine.Becomes(relay: true);
        await _machine.Pass(181);
        _machine.Relay.ShouldBeFalse();
        await _run.Look();
        (await _run.Send("look")).Code.ShouldBe("attention.lapsed");
        using var steward = await _house.As("steward");
        var there = new StationRun(steward);
        await there.Look();
        await there.Do("look");
        await _machine.Becomes(relay: true);
    }

    [Fact]
    public async Task Lid_TakesTheBeam_AndTheWaitBeginsWhenItIsShut()
    {
        await Running();
        _machine.Sensors = _machine.Sensors with { LidShut = false };
        await _machine.Pass(60);
        _machine.Relay.ShouldBeFalse();
        await _run.Look();
        _run.Step.ShouldBe("wait");
        _run.Session.GetProperty("lid").GetProperty("open").GetBoolean().ShouldBeTrue();
        (await _run.Send("lidOpened")).Code.ShouldBe("lid.early");
        _machine.Sensors = _machine.Sensors with { LidShut = true };
        await _machine.Pass(1);
        await _run.Look();
        _run.Station.GetProperty("waitSecondsLeft").GetDouble().ShouldBeInRange(33, 36);
        await _machine.Pass(36);
        await _run.Do("lidOpened");
        await _run.Do("outcome", new { result = "notThrough" });
        _run.Session.GetProperty("mayExtra").GetBoolean().ShouldBeFalse("a run broken off is not run again on the same lines");
    }

    [Fact]
    public async Task NetworkCut_TheButtonCounts_AndWhatHappenedIsKeptOnceInOrder()
    {
        await Running();
        _machine.Cut();
        await _machine.Pass(100);
        await _machine.Press();
        await _machine.Pass(100);
        _machine.Relay.ShouldBeTrue("pressed at the machine, without the house");
        (await _run.Send("press")).Code.ShouldBe("attention.lapsed", "the house has not heard of the press");
        await _machine.Pass(80);
        _machine.Relay.ShouldBeFalse("180 s from the press");
        (await _run.Start()).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await _machine.Connect();
        await _machine.Pass(3);
        var kinds = await _house.Ask<string>("select string_agg(kind, ' ' order by number) from station.machine_event");
        kinds.ShouldBe("lidShut relayOn press relayOff");
        (await _house.Ask<long>("select gaps from station.controller")).ShouldBeGreaterThan(50, "readings that never came are counted");
        (await On()).ShouldBe(false);
    }

    [Fact]
    public async Task Silence_StartsNothing()
    {
        await TapIn();
        await _machine.Pass(1);
        await _run.Prepare();
        await _machine.Pass(92);
        await _run.Confirm();
        _machine.Cut();
        _house.Clock.Now += Duration.FromSeconds(31);
        (await _run.Start()).Code.ShouldBe("start.offline");
        await _run.Look();
        _run.Station.GetProperty("live").GetProperty("lost").GetBoolean().ShouldBeTrue();
        _run.Session.GetProperty("open")
            .EnumerateArray()
            .Select(o => o.GetProperty("code").GetString())
            .ShouldContain("machine.airflowOut");
    }

    [Fact]
    public async Task ServerKilled_MidRun_TheRunGoesOnWithTheNextServer()
    {
        await Running();
        var next = new ControlledHouse(_house.Db, new Uri($"mqtt://house:a%20password%20of%20sixteen@{_house.ControllersAt.Authority}"));
        await next.InitializeAsync();
        next.Clock.Now = _house.Clock.Now;
        using var member = await next.As("member");
        var run = new StationRun(member);
        await run.Look();
        await run.Do("press");
        await ControlledHouse.Until(() => Task.FromResult(_machine.LeftSeconds > 179), "the next server does not grant");
        // Two servers heard each question, and one answered. A house that sees the beam late asks the box once more: questions differ then.
        await ControlledHouse.Until(
            async () => Granted().Count == await _house.Ask<int>("select count(*)::int from station.permit"),
            "not each permit is heard once"
        );
        Granted().Count.ShouldBeGreaterThanOrEqualTo(2);
        Granted().ShouldBeUnique();
        await run.Do("stop", new { why = "byMistake" });
        await _machine.Becomes(relay: false);
    }

    /// <summary>The questions that grants answered, as the machine heard them.</summary>
    private List<string> Granted() =>
        [
            .. from heard in _machine.Heard
            let to = WireTopic.Read(heard.Topic)!
            where to.What == WireKind.Grant
            select Wire.Read<Grant>(ControlledHouse.Key, to, heard.Payload)!.Challenge,
        ];

    [Fact]
    public async Task BrokerKilled_TheLeaseRunsOut_AndItGoesOnAfter()
    {
        await Running();
        await _house.KillBroker();
        await _machine.Pass(100, heard: false);
        _machine.Relay.ShouldBeTrue();
        await _machine.Pass(90, heard: false);
        _machine.Relay.ShouldBeFalse();
        await _house.StartBroker();
        _machine.Cut();
        await _machine.Connect();
        await ControlledHouse.Until(
            async () =>
            {
                await _machine.Pass(1, heard: false);
                await Task.Delay(50);
                return await _house.Ask<long>("select event_number from station.controller") == 3;
            },
            "the house does not find the broker again"
        );
        await _machine.Pass(5);
        (await On()).ShouldBe(false);
        await _run.Do("look");
        await _machine.Becomes(relay: true);
    }

    [Fact]
    public async Task PowerCut_BreaksTheRunOff_AndTheLidStaysShutForFiveMinutes()
    {
        await Running();
        _machine.Cut();
        _house.Clock.Now += Duration.FromSeconds(20);
        await using var booted = new DrivenController(_house, boot: 2);
        await booted.Connect();
        await booted.Pass(2);
        booted.Relay.ShouldBeFalse();
        await _run.Look();
        _run.Step.ShouldBe("wait");
        _run.Session.GetProperty("lid").GetProperty("why").GetString()!.ShouldStartWith("The power was gone.");
        _run.Station.GetProperty("waitSecondsLeft").GetDouble().ShouldBeInRange(290, 300);
        // Whoever says again what the boot before said is not heard.
        var numbers = await _house.Ask<long>("select event_number from station.controller");
        foreach (var old in _machine.Sent.Where(o => o.Topic.EndsWith("/event", StringComparison.Ordinal)))
            await booted.Say(old.Topic, old.Payload);
        await booted.Pass(2);
        (await _house.Ask<long>("select event_number from station.controller")).ShouldBe(numbers);
        (await _house.Ask<int>("select boot from station.controller")).ShouldBe(2);
    }

    [Fact]
    public async Task ForgedAndRepeated_ChangeNothing()
    {
        await Running();
        // The house may have asked for a question twice before the beam came on: each was another question.
        var asked = _machine.Sent.Count(o => o.Topic.EndsWith("/want", StringComparison.Ordinal));
        await ControlledHouse.Until(async () => await Permits() == asked, "a question is not answered");
        var events = await _house.Ask<int>("select count(*)::int from station.machine_event");
        var version = _run.Session.GetProperty("version").GetInt32();
        foreach (var said in _machine.Sent.ToList().Where(o => !o.Topic.EndsWith("/readings", StringComparison.Ordinal)))
        {
            await _machine.Say(said.Topic, said.Payload);
            var bent = said.Payload.ToArray();
            bent[^3] ^= 1;
            await _machine.Say(said.Topic, bent);
        }
        var topic = new WireTopic("heron", ControlledHouse.Serial, true, WireKind.Event);
        await _machine.Say(topic.ToString(), Wire.Write(new byte[32], topic, new MachineEvent(1, 99, 0, EventKind.RelayOff, OffWhy.Lid)));
        await _machine.Say($"velvetgate/heron/{ControlledHouse.Serial}/up/event", "no seal at all"u8.ToArray());
        await _machine.Pass(1);
        (await _house.Ask<int>("select count(*)::int from station.machine_event")).ShouldBe(events);
        (await Permits()).ShouldBe(asked, "a question has one answer");
        _machine.Heard.Count(h => h.Topic.EndsWith("/grant", StringComparison.Ordinal)).ShouldBe(asked, "an answer is sent once");
        await _run.Look();
        _run.Session.GetProperty("version").GetInt32().ShouldBe(version);
        _machine.Relay.ShouldBeTrue();
    }

    private Task<int> Permits() => _house.Ask<int>("select count(*)::int from station.permit");

    [Fact]
    public async Task SecondController_IsNotHeard()
    {
        using var keeper = await _house.As("keeper");
        (await keeper.Post("/api/controllers", new { machineId = "heron", serial = "heron-two" })).Code.ShouldBe("controller.bound");
        var swift = await keeper.Post("/api/controllers", new { machineId = "swift", serial = "swift-one" });
        swift.Status.ShouldBe(HttpStatusCode.OK, swift.Body.ToString());
        await Running();
        // The key of Swift’s, at Heron.
        await using var other = new DrivenController(
            _house,
            serial: "swift-one",
            key: Convert.FromBase64String(swift.Body.GetProperty("key").GetString()!)
        );
        await other.Connect();
        await ControlledHouse.Until(
            () => Task.FromResult(other.Heard.Any(h => h.Topic.EndsWith("/notYours", StringComparison.Ordinal))),
            "nobody says that it is not its machine"
        );
        (await On()).ShouldBe(true);
        (await keeper.Delete($"/api/controllers/{ControlledHouse.Serial}")).Status.ShouldBe(HttpStatusCode.NoContent);
        await _machine.Becomes(relay: false);
        (await keeper.Post("/api/controllers", new { machineId = "heron", serial = ControlledHouse.Serial })).Code.ShouldBe(
            "controller.known"
        );
    }

    [Fact]
    public async Task Clock_TenMinutesOff_IsKeptAndDecidesNothing()
    {
        await Running(ahead: true);
        using var keeper = await _house.As("keeper");
        (await keeper.Get("/api/controllers"))
            .Body.GetProperty("controllers")[0]
            .GetProperty("clockApartSeconds")
            .GetInt32()
            .ShouldBeInRange(598, 600, "the clock of the test goes on until it is heard");
        (
            await _house.Ask<double>("select extract(epoch from received_at - at) from station.machine_event order by number desc limit 1")
        ).ShouldBeInRange(0, 1);
    }

    [Fact]
    public async Task DeskStop_TakesTheBeamWithinASecond()
    {
        await Running();
        using var steward = await _house.As("steward");
        var stopped = await steward.Post("/api/machines/heron/stops", new { reason = "belt squeals" });
        stopped.Status.ShouldBe(HttpStatusCode.Created, stopped.Body.ToString());
        await _machine.Becomes(relay: false);
        await _machine.Pass(1);
        await _run.Look();
        _run.Step.ShouldBe("wait");
    }

    [Fact]
    public async Task BeamThatStaysOn_StopsTheMachine()
    {
        await Running();
        _machine.Sensors = _machine.Sensors with { TubeOn = true };
        await _run.Do("stop", new { why = "ended" });
        await _machine.Becomes(relay: false);
        await _machine.Pass(3);
        _machine.Siren.ShouldBeTrue();
        await _run.Look();
        _run.Session.GetProperty("held").GetString()!.ShouldStartWith("The beam stayed on");
        (
            await _house.Ask<int>(
                "select count(*)::int from house.stop where machine_id = 'heron' and upper_inf(held) and upper_inf(recorded)"
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task StopWithoutAnAnswer_SaysSo_AndTheWaitCountsFromTheMachinesOwnStop()
    {
        await Running();
        _machine.Cut();
        _house.Clock.Now += Duration.FromSeconds(11);
        var stopped = await _member.Post($"{StationRun.At}/stop", new { id = Guid.NewGuid().ToString() });
        stopped.Body.GetProperty("says").GetString().ShouldBe("This screen cannot stop Heron. Press Heron’s own red button.");
        await _run.Look();
        await _run.Do("stop", new { why = "sheetMoved" });
        _house.Clock.Now += Duration.FromSeconds(60);
        (await _run.Send("lidOpened")).Code.ShouldBe("lid.beam");
        await _run.Do("ownStop");
        _run.Station.GetProperty("waitSecondsLeft").GetDouble().ShouldBeGreaterThan(30);
        _house.Clock.Now += Duration.FromSeconds(60);
        await _run.Do("lidOpened");
    }
}
