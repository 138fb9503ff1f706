using Shouldly;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

/// <summary>Days without the house: a steward’s key, and the button at the machine. Everything else counts as ever.</summary>
public class PaperDayTests
{
    private static readonly byte[] Key = [.. Enumerable.Range(0, 32).Select(i => (byte)i)];
    private static readonly Sensors Good = new(AirflowM3PerHour: 640, LidShut: true, PaperKey: true);

    /// <summary>Of the last grant that the house gave, before it went.</summary>
    private static readonly Grant Kept = new("long ago", 60, AttentionSeconds: 120, 600, AirflowAtLeast: 422.5m);

    private static ControllerBox Box(Grant? kept) => new("m", "s", Key, 7, () => "challenge", kept);

    [Fact]
    public void Press_LetsTheBeamOn_OnlyWithKeyLimitsAndALongSilence()
    {
        Pressed(Kept, Good, ControllerBox.PaperAfterMs).ShouldBeTrue();
        Pressed(Kept, Good, ControllerBox.PaperAfterMs - 1).ShouldBeFalse("the house may only have coughed");
        Pressed(null, Good, ControllerBox.PaperAfterMs).ShouldBeFalse("nobody ever said its limits");
        Pressed(Kept, Good with { PaperKey = false }, ControllerBox.PaperAfterMs).ShouldBeFalse("no steward turned the key");
        Pressed(Kept, Good with { LidShut = false }, ControllerBox.PaperAfterMs).ShouldBeFalse();
        Pressed(Kept, Good with { AirflowM3PerHour = 400 }, ControllerBox.PaperAfterMs).ShouldBeFalse();
        Pressed(Kept, Good with { KeyOut = true }, ControllerBox.PaperAfterMs).ShouldBeFalse("the service key is out");

        static bool Pressed(Grant? kept, Sensors sensors, long ms)
        {
            var box = Box(kept);
            box.Step(ms, sensors);
            box.Press(ms);
            return box.Relay;
        }
    }

    [Fact]
    public void KeyTurnedBack_AttentionOver_OrTheHouseAgain_EndIt()
    {
        var box = On(out var ms);
        box.Step(ms + 100, Good with { PaperKey = false });
        box.Relay.ShouldBeFalse("turned back");

        box = On(out ms);
        box.Step(ms + 119_900, Good);
        box.Relay.ShouldBeTrue();
        box.Step(ms + 120_000, Good);
        box.Relay.ShouldBeFalse("nobody pressed for two minutes");

        box = On(out ms);
        for (var i = 1; i <= 6; i++)
        {
            box.Step(ms + (i * 100_000), Good);
            box.Press(ms + (i * 100_000));
        }
        box.Relay.ShouldBeTrue("as often as somebody presses");
        var topic = new WireTopic("m", "s", false, WireKind.Seen);
        box.Receive(ms + 610_000, topic.ToString(), Wire.Write(Key, topic, new Seen(7, 1)));
        box.Press(ms + 620_000);
        box.Step(ms + 720_000, Good);
        box.Relay.ShouldBeFalse("the house is back: its leave counts, and the button alone renews no paper lease");
    }

    /// <summary>Lids, airflow, keys and presses at random: the judge knows the rule from its page alone.</summary>
    [Fact]
    public void Relay_IsNeverOn_WithoutKeyLidAirAndAPress()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var random = new Random(seed);
            var box = Box(Kept);
            var (sensors, pressed, low) = (Good, long.MinValue, -1L);
            var on = 0;
            for (var ms = ControllerBox.PaperAfterMs + 0L; ms < ControllerBox.PaperAfterMs + 1_200_000; ms += 100)
            {
                sensors = random.Next(400) switch
                {
                    0 => sensors with { LidShut = sensors.LidShut != true },
                    1 => sensors with { AirflowM3PerHour = random.Next(2) == 0 ? 300 : 640 },
                    2 => sensors with { PaperKey = !sensors.PaperKey },
                    3 => sensors with { KeyOut = !sensors.KeyOut },
                    < 20 => Good,
                    _ => sensors,
                };
                low =
                    sensors.AirflowM3PerHour >= 422.5m ? -1
                    : low < 0 ? ms
                    : low;
                box.Step(ms, sensors);
                if (random.Next(300) == 0)
                {
                    box.Press(ms);
                    pressed = ms;
                }
                if (!box.Relay)
                    continue;
                on++;
                (sensors is { LidShut: true, PaperKey: true, KeyOut: false }).ShouldBeTrue($"{seed} at {ms}: {sensors}");
                (ms - pressed).ShouldBeLessThan(120_000, $"{seed} at {ms}");
                (low < 0 || ms - low < ControllerBox.OutMs).ShouldBeTrue($"{seed} at {ms}: airflow low since {low}");
            }
            on.ShouldBeGreaterThan(100, "or the test would say nothing");
        }
    }

    private static ControllerBox On(out long ms)
    {
        ms = ControllerBox.PaperAfterMs;
        var box = Box(Kept);
        box.Step(ms, Good);
        var told = box.Press(ms);
        box.Relay.ShouldBeTrue();
        told.Select(o => Wire.Read<MachineEvent>(Key, WireTopic.Read(o.Topic)!, o.Payload))
            .ShouldContain(e => e!.Kind == EventKind.RelayOn && e.Value == EventKind.Paper);
        return box;
    }
}
