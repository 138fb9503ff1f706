using Shouldly;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

/// <summary>The controller by itself, message by message.</summary>
public class ControllerBoxTests
{
    private static readonly byte[] Key = [.. Enumerable.Range(0, 32).Select(i => (byte)i)];
    private static readonly Sensors Good = new(AirflowM3PerHour: 640, CoolantC: 21, CoolantLPerMin: 2.4m, LidShut: true);

    /// <summary>A bench with one box: time is set, and what it sends is kept.</summary>
    private sealed class Bench
    {
        private int _challenges;

        public Bench(int boot = 1) => Box = new("heron", "h-1", Key, boot, () => $"challenge-{boot}-{++_challenges}");

        public ControllerBox Box { get; }
        public long Ms { get; set; }
        public Sensors Sensors { get; set; } = Good;
        public List<Outgoing> Sent { get; } = [];
        public IEnumerable<MachineEvent> Events => Of<MachineEvent>(WireKind.Event).DistinctBy(e => e.Number).OrderBy(e => e.Number);
        public IEnumerable<string> Told => Events.Select(e => e.Value is null ? e.Kind : $"{e.Kind} {e.Value}");

        public IEnumerable<T> Of<T>(string what)
            where T : class =>
            Sent.Where(o => WireTopic.Read(o.Topic)!.What == what).Select(o => Wire.Read<T>(Key, WireTopic.Read(o.Topic)!, o.Payload)!);

        public Bench To(long ms)
        {
            for (; Ms < ms; Ms = Math.Min(ms, Ms + 100))
                Sent.AddRange(Box.Step(Ms, Sensors));
            Sent.AddRange(Box.Step(Ms, Sensors));
            return this;
        }

        public Bench Hears<T>(string what, T message, bool retained = false, byte[]? key = null, string serial = "h-1")
        {
            var topic = new WireTopic("heron", serial, false, what);
            Sent.AddRange(Box.Receive(Ms, topic.ToString(), Wire.Write(key ?? Key, topic, message), retained));
            return this;
        }

        public string Challenge => Of<Want>(WireKind.Want).Last().Challenge;

        public Bench Asked()
        {
            To(Ms);
            return Hears(WireKind.Ask, new Ask("1"));
        }

        public Bench Granted(decimal seconds = 180, decimal end = 3600, bool retained = false) =>
            Hears(WireKind.Grant, Grant(seconds, end), retained);

        public Grant Grant(decimal seconds = 180, decimal end = 3600) =>
            new(Challenge, seconds, AttentionSeconds: 180, end, AirflowAtLeast: 422.5m, CoolantAtMostC: 32, CoolantAtLeastC: 5);

        public Bench On()
        {
            Asked().Granted().Box.Relay.ShouldBeTrue();
            return this;
        }

        public Bench Press()
        {
            Sent.AddRange(Box.Press(Ms));
            return this;
        }
    }

    [Fact]
    public void Boot_LeavesTheRelayOff_AndNothingBringsItBack()
    {
        var bench = new Bench().To(2_000).Press();
        bench.Box.Relay.ShouldBeFalse();
        bench.Hears(WireKind.Seen, new Seen(1, 9)).Hears(WireKind.Ask, new Ask("1")).Box.Relay.ShouldBeFalse();
    }

    [Fact]
    public void Grant_ForItsOwnQuestion_LetsTheBeamOn_AndIsTold()
    {
        var bench = new Bench().On();
        bench.To(100).Told.ShouldBe(["lidShut", "relayOn"]);
        bench.Of<Readings>(WireKind.Readings).Last().Beam.ShouldBeFalse("it was read before the grant");
        bench.To(1_100).Of<Readings>(WireKind.Readings).Last().Beam.ShouldBeTrue();
    }

    /// <summary>Permit 14:10:00, pressed 14:12:20: off 14:15:20. Without a press: off at 14:13:00.</summary>
    [Fact]
    public void Attention_RunsFromTheQuestion_AndFromEachPress()
    {
        var pressed = new Bench().On().To(140_000).Press().To(319_900);
        pressed.Box.Relay.ShouldBeTrue();
        pressed.To(320_000).Box.Relay.ShouldBeFalse();
        pressed.Told.Last().ShouldBe("relayOff attention.lapsed");

        var alone = new Bench().On().To(179_900);
        alone.Box.Relay.ShouldBeTrue();
        alone.To(180_000).Box.Relay.ShouldBeFalse();
    }

    /// <summary>Four seconds on the way are four seconds less; six are none at all.</summary>
    [Fact]
    public void Delay_OnlyShortens()
    {
        var late = new Bench().Asked();
        late.Ms += 4_000;
        late.Hears(WireKind.Grant, late.Grant(seconds: 10));
        late.Box.LeftMs(late.Ms).ShouldBe(6_000);

        var older = new Bench().Asked();
        older.Ms += 5_001;
        older.Hears(WireKind.Grant, older.Grant()).Box.Relay.ShouldBeFalse();
    }

    [Fact]
    public void Grant_ThatIsRetainedRepeatedForgedOrForAnother_IsNone()
    {
        new Bench().Asked().Granted(retained: true).Box.Relay.ShouldBeFalse();
        var forged = new Bench().Asked();
        forged.Hears(WireKind.Grant, forged.Grant(), key: new byte[32]).Box.Relay.ShouldBeFalse();
        var other = new Bench().Asked();
        other.Hears(WireKind.Grant, other.Grant(), serial: "h-2").Box.Relay.ShouldBeFalse();
        other.Hears(WireKind.Grant, other.Grant() with { Challenge = "guessed" }).Box.Relay.ShouldBeFalse();

        var again = new Bench().Asked();
        var grant = again.Grant(seconds: 10);
        again.Hears(WireKind.Grant, grant).To(2_000);
        again.Hears(WireKind.Grant, grant with { Seconds = 900 }).To(10_000).Box.Relay.ShouldBeFalse("a question has one answer");

        var boot = new Bench(boot: 2).Asked();
        boot.Hears(WireKind.Grant, boot.Grant() with { Challenge = "challenge-1-1" }).Box.Relay.ShouldBeFalse("of the boot before");
    }

    [Fact]
    public void Drop_NeedsNoQuestion_AndAGrantOnItsWayCountsNoMore()
    {
        var bench = new Bench().On().Asked();
        var onItsWay = bench.Grant();
        bench.Hears(WireKind.Drop, new Drop("stop")).Box.Relay.ShouldBeFalse();
        bench.Hears(WireKind.Grant, onItsWay).Box.Relay.ShouldBeFalse();
        bench.Press().Box.Relay.ShouldBeFalse();
        bench.Told.ShouldContain("relayOff stop");
    }

    [Fact]
    public void Press_NeverGoesBeyondTheFixedEnd()
    {
        var bench = new Bench().Asked().Granted(seconds: 180, end: 200).To(170_000).Press().To(199_900);
        bench.Box.Relay.ShouldBeTrue();
        bench.To(200_000).Told.Last().ShouldBe("relayOff permit.over");
    }

    [Fact]
    public void Press_WithoutTheHouse_CountsThreeTimes()
    {
        var bench = new Bench().On();
        foreach (var at in new[] { 100_000L, 200_000, 300_000, 400_000 })
            bench.To(at).Press();
        bench.To(479_900).Box.Relay.ShouldBeTrue();
        bench.To(480_000).Box.Relay.ShouldBeFalse("the fourth press counted nothing: 300 s and 180 s");
    }

    [Fact]
    public void Press_WhichTheHouseHasSeen_CountsAnew()
    {
        var bench = new Bench().On();
        for (var at = 100_000L; at <= 800_000; at += 100_000)
        {
            bench.To(at).Press();
            bench.Hears(WireKind.Seen, new Seen(1, bench.Events.Last().Number));
        }
        bench.To(900_000).Box.Relay.ShouldBeTrue();
    }

    [Fact]
    public void Lid_TakesTheBeam_AndShuttingItBringsNothingBack()
    {
        var bench = new Bench().On().To(5_000);
        bench.Sensors = Good with { LidShut = false };
        bench.To(5_100).Box.Relay.ShouldBeFalse();
        bench.Sensors = Good;
        bench.To(9_000).Box.Relay.ShouldBeFalse();
        bench.Told.ShouldBe(["lidShut", "relayOn", "lidOpened", "relayOff beam.lid", "lidShut"]);
    }

    [Theory]
    [InlineData(422, 3_000)]
    [InlineData(0, 3_000)]
    public void Airflow_TooLow_TakesTheBeamAfterThreeSeconds(int airflow, int afterMs)
    {
        var bench = new Bench().On().To(5_000);
        bench.Sensors = Good with { AirflowM3PerHour = airflow };
        bench.To(5_000 + afterMs - 100).Box.Relay.ShouldBeTrue();
        bench.To(5_000 + afterMs + 100).Told.Last().ShouldBe("relayOff beam.readings");
    }

    [Fact]
    public void Airflow_TooLowForTwoSeconds_IsAGust()
    {
        var bench = new Bench().On().To(5_000);
        bench.Sensors = Good with { AirflowM3PerHour = 300 };
        bench.To(7_000).Sensors = Good;
        bench.To(8_000).Sensors = Good with { AirflowM3PerHour = 300 };
        bench.To(10_000).Box.Relay.ShouldBeTrue("each gust by itself");
    }

    [Fact]
    public void Silence_OfASensor_TakesTheBeamAfterHalfAMinute()
    {
        foreach (var silent in new[] { Good with { AirflowM3PerHour = null }, Good with { CoolantC = null }, Good with { LidShut = null } })
        {
            var bench = new Bench().On().To(5_000);
            bench.Sensors = silent;
            bench.To(34_900).Box.Relay.ShouldBeTrue();
            bench.To(35_100).Box.Relay.ShouldBeFalse();
        }
    }

    [Fact]
    public void Coolant_OutOfTheGrantsLimits_TakesTheBeam()
    {
        foreach (var bad in new[] { Good with { CoolantC = 32.1m }, Good with { CoolantC = 4.9m }, Good with { CoolantLPerMin = 0 } })
        {
            var bench = new Bench().On().To(5_000);
            bench.Sensors = bad;
            bench.To(8_100).Box.Relay.ShouldBeFalse();
            bench.Asked().Granted().Box.Relay.ShouldBeFalse("and nothing brings it back while it is so");
        }
    }

    [Fact]
    public void Beam_ThatStaysOn_IsToldAndSeen()
    {
        var bench = new Bench().On().To(5_000).Hears(WireKind.Drop, new Drop("stop"));
        bench.Sensors = Good with { TubeOn = true };
        bench.To(5_900).Box.Siren.ShouldBeFalse();
        bench.To(6_100).Box.Siren.ShouldBeTrue();
        bench.Told.Count(t => t == EventKind.Stuck).ShouldBe(1);
        bench.Sensors = Good;
        bench.To(6_300).Box.Siren.ShouldBeFalse();
    }

    [Fact]
    public void ServiceKey_TakesTheBeam_AndRaisesNoSiren()
    {
        var bench = new Bench().On().To(1_000);
        bench.Sensors = Good with { KeyOut = true, TubeOn = true };
        bench.To(9_000).Box.Relay.ShouldBeFalse();
        bench.Box.Siren.ShouldBeFalse("whoever has the key works on the beam");
        bench.Asked().Granted().Box.Relay.ShouldBeFalse();
    }

    [Fact]
    public void Events_AreToldAgainUntilSeen_InTheirOrder()
    {
        var bench = new Bench().On().To(10_000);
        var told = bench.Of<MachineEvent>(WireKind.Event).ToList();
        told.Count(e => e.Kind == EventKind.RelayOn).ShouldBeGreaterThan(3);
        told.Select(e => e.Number).Distinct().ShouldBe([1, 2]);
        bench.Hears(WireKind.Seen, new Seen(1, 2)).Sent.Clear();
        bench.To(20_000).Of<MachineEvent>(WireKind.Event).ShouldBeEmpty();
        bench.Hears(WireKind.Seen, new Seen(2, 99)).Press().Events.Single().Number.ShouldBe(3);
    }

    [Fact]
    public void NotYours_AsksForNoBeam()
    {
        var bench = new Bench().On().Hears(WireKind.NotYours, new NotYours());
        bench.Box.Relay.ShouldBeFalse();
        bench.Sent.Clear();
        bench.Asked().Of<Want>(WireKind.Want).ShouldBeEmpty();
    }

    [Fact]
    public void Question_WithoutAnswer_IsAskedThreeTimes_EachForItself()
    {
        var bench = new Bench().Asked().To(30_000);
        var wants = bench.Of<Want>(WireKind.Want).ToList();
        wants.Count.ShouldBe(3);
        wants.Select(w => w.Challenge).Distinct().Count().ShouldBe(3);
    }
}
