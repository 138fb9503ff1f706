using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using CsCheck;
using Shouldly;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

/// <summary>
/// Random losses, delays, repeats, forgeries, power cuts, opened lids, dead sensors and presses: whatever happens, the relay is never on
/// without a lease, a shut lid and fresh readings. The judge shares no code with the controller: it reads what went over the wire and what
/// the relay did.
/// </summary>
public class OracleTests
{
    private const int TickMs = 50;
    private static readonly byte[] Key = [.. Enumerable.Range(0, 32).Select(i => (byte)(i * 7))];

    /// <summary>What was seen from outside, in its order.</summary>
    private sealed record Seen(long T, string What, string Topic = "", byte[]? Payload = null, bool Retained = false);

    /// <summary>One story: machine, wire and a house that grants whatever it likes.</summary>
    private static List<Seen> Tell(Random random, int ticks)
    {
        var trace = new List<Seen>();
        var up = new List<(long At, Outgoing Message)>();
        var down = new List<(long At, string Topic, byte[] Payload, bool Retained)>();
        var everSent = new List<(string Topic, byte[] Payload)>();
        var boot = 0;
        long bootedAt = 0;
        ControllerBox box = null!;
        var sensors = new Sensors(AirflowM3PerHour: 640, LidShut: true);
        var cut = false;

        void Boot(long t)
        {
            bootedAt = t;
            box = new ControllerBox("m", "s", Key, ++boot, () => Convert.ToHexStringLower(BitConverter.GetBytes(random.NextInt64())));
            trace.Add(new(t, "boot"));
            Say(t, box.Connected(0));
        }

        void Say(long t, IReadOnlyList<Outgoing> messages)
        {
            foreach (var m in messages)
            {
                trace.Add(new(t, "sent", m.Topic, m.Payload));
                if (!cut && random.Next(10) > 0)
                    up.Add((t + Delay(), m));
            }
        }

        void Down(long t, string topic, byte[] payload, bool retained = false)
        {
            everSent.Add((topic, payload));
            if (cut || random.Next(10) == 0)
                return;
            down.Add((t + Delay(), topic, payload, retained));
            if (random.Next(8) == 0)
                down.Add((t + Delay() + random.Next(20_000), topic, payload, retained));
        }

        void House<T>(long t, string what, T message)
        {
            var topic = new WireTopic("m", "s", false, what);
            Down(t, topic.ToString(), Wire.Write(Key, topic, message), random.Next(30) == 0);
        }

        int Delay() => random.Next(4) == 0 ? random.Next(9_000) : random.Next(200);

        Boot(0);
        for (var i = 0; i < ticks; i++)
        {
            var t = (long)i * TickMs;
            var ms = t - bootedAt;
            switch (random.Next(400))
            {
                case < 12:
                    trace.Add(new(t, "press"));
                    Say(t, box.Press(ms));
                    break;
                case < 20:
                    House(t, WireKind.Ask, new Ask("x"));
                    break;
                case < 22:
                    House(t, WireKind.Drop, new Drop("stop"));
                    break;
                case 22:
                    Boot(t);
                    break;
                case < 26:
                    sensors = sensors with { LidShut = sensors.LidShut is true ? (random.Next(2) == 0 ? false : null) : true };
                    break;
                case < 31:
                    sensors = sensors with
                    {
                        AirflowM3PerHour = random.Next(3) switch
                        {
                            0 => 300,
                            1 => null,
                            _ => 640,
                        },
                    };
                    break;
                case 31:
                    sensors = sensors with { KeyOut = !sensors.KeyOut };
                    break;
                case < 34:
                    cut = !cut;
                    break;
                case 34 when everSent.Count > 0:
                    // Somebody on the line says again what was said before.
                    var old = everSent[random.Next(everSent.Count)];
                    down.Add((t, old.Topic, old.Payload, false));
                    break;
                case 35:
                    var topic = new WireTopic("m", "s", false, WireKind.Grant);
                    down.Add((t, topic.ToString(), Wire.Write(new byte[32], topic, new Grant("x", 999, 999, 999, 0)), false));
                    break;
                case < 40:
                    (sensors, cut) = (new Sensors(AirflowM3PerHour: 640, LidShut: true), false);
                    break;
            }
            foreach (var (_, message) in Due(up, t, u => u.At))
                if (WireTopic.Read(message.Topic) is { } from)
                    Answer(t, from, message.Payload);
            trace.Add(new(t, $"sensors {sensors.LidShut} {sensors.AirflowM3PerHour?.ToString() ?? "-"} {sensors.KeyOut}"));
            Say(t, box.Step(t - bootedAt, sensors));
            trace.Add(new(t, box.Relay ? "on" : "off"));
            foreach (var (_, on, payload, retained) in Due(down, t, d => d.At))
            {
                trace.Add(new(t, "received", on, payload, retained));
                Say(t, box.Receive(t - bootedAt, on, payload, retained));
                trace.Add(new(t, box.Relay ? "on" : "off"));
            }
        }
        return trace;

        void Answer(long t, WireTopic from, byte[] payload)
        {
            if (from.What == WireKind.Want && Wire.Read<Want>(Key, from, payload) is { } want && random.Next(10) > 0)
                House(t, WireKind.Grant, new Grant(want.Challenge, random.Next(60), random.Next(40), random.Next(300), 422.5m));
            if (from.What == WireKind.Event && Wire.Read<MachineEvent>(Key, from, payload) is { } told)
                House(t, WireKind.Seen, new Core.Station.Controllers.Seen(told.Boot, told.Number));
        }
    }

    private static List<T> Due<T>(List<T> queue, long t, Func<T, long> at)
    {
        var due = queue.Where(q => at(q) <= t).OrderBy(at).ToList();
        queue.RemoveAll(q => at(q) <= t);
        return due;
    }

    /// <summary>Reads the trace alone, with a reader of its own.</summary>
    private sealed class Judge
    {
        private readonly Dictionary<string, long> _open = [];
        private long _until = -1;
        private long _end = -1;
        private double _attention;
        private int _alone;
        private (bool? Shut, decimal? Airflow, bool Key) _machine = (null, null, false);
        private long _lidAt = -1_000_000;
        private long _airAt = -1_000_000;
        private long _lowSince = -1;

        public int TicksOn { get; private set; }

        public string? Sees(Seen s)
        {
            switch (s.What)
            {
                case "boot":
                    _open.Clear();
                    (_until, _alone, _lidAt, _airAt) = (-1, 0, s.T - 1_000_000, s.T - 1_000_000);
                    break;
                case "sent" when s.Topic.EndsWith("/up/want", StringComparison.Ordinal):
                    // Only the last question is open.
                    _open.Clear();
                    _open[Read(s)!.Value.GetProperty("challenge").GetString()!] = s.T;
                    break;
                case "received" when !s.Retained && Read(s) is { } message:
                    Hears(s, message);
                    break;
                case "press" when s.T < Math.Min(_until, _end) && _alone < 3:
                    _alone++;
                    _until = s.T + (long)(_attention * 1000);
                    break;
                case "on":
                    TicksOn++;
                    return Wrong(s.T);
                case "off":
                    _until = -1;
                    break;
                case var what when what.StartsWith("sensors ", StringComparison.Ordinal):
                    var w = what.Split(' ');
                    _machine = (w[1] == "" ? null : bool.Parse(w[1]), w[2] == "-" ? null : decimal.Parse(w[2]), bool.Parse(w[3]));
                    if (_machine.Shut is not null)
                        _lidAt = s.T;
                    if (_machine.Airflow is not null)
                        _airAt = s.T;
                    _lowSince =
                        _machine.Airflow < 422.5m ? (_lowSince < 0 ? s.T : _lowSince)
                        : _machine.Airflow is null ? _lowSince
                        : -1;
                    break;
            }
            return null;
        }

        private void Hears(Seen s, JsonElement m)
        {
            if (s.Topic.EndsWith("/down/drop", StringComparison.Ordinal))
            {
                _open.Clear();
                _until = -1;
            }
            if (s.Topic.EndsWith("/down/seen", StringComparison.Ordinal))
                _alone = 0;
            if (!s.Topic.EndsWith("/down/grant", StringComparison.Ordinal))
                return;
            if (!_open.Remove(m.GetProperty("challenge").GetString()!, out var asked) || s.T - asked > 5_000)
                return;
            _until = asked + (long)(m.GetProperty("seconds").GetDouble() * 1000);
            _end = asked + (long)(m.GetProperty("endSeconds").GetDouble() * 1000);
            _attention = m.GetProperty("attentionSeconds").GetDouble();
            _alone = 0;
        }

        private string? Wrong(long t) =>
            t >= Math.Min(_until, _end) + TickMs ? "no lease"
            : _machine.Shut == false ? "lid open"
            : _machine.Key ? "service key out"
            : t - _lidAt > 30_000 + TickMs ? "lid silent"
            : t - _airAt > 30_000 + TickMs ? "airflow silent"
            : _lowSince >= 0 && _machine.Airflow is not null && t - _lowSince > 3_000 + 2 * TickMs ? "airflow low"
            : null;

        /// <summary>Null for what the holder of the key did not write.</summary>
        private static JsonElement? Read(Seen s)
        {
            var parts = Encoding.UTF8.GetString(s.Payload!).Split('\n', 2);
            var seal = Convert.ToHexStringLower(HMACSHA256.HashData(Key, Encoding.UTF8.GetBytes($"{s.Topic}\n{parts[1]}")));
            return seal == parts[0] ? JsonDocument.Parse(parts[1]).RootElement : null;
        }
    }

    private static (string? Wrong, int On) Judged(IEnumerable<Seen> trace)
    {
        var judge = new Judge();
        foreach (var seen in trace)
            if (judge.Sees(seen) is { } wrong)
                return ($"{wrong} at {seen.T} ms", judge.TicksOn);
        return (null, judge.TicksOn);
    }

    [Fact]
    public void Relay_IsNeverOnWithoutALease()
    {
        var on = 0;
        var stories = 0;
        Gen.Int.Sample(
            seed =>
            {
                var (wrong, ticksOn) = Judged(Tell(new Random(seed), 6_000));
                wrong.ShouldBeNull($"seed {seed}");
                Interlocked.Add(ref on, ticksOn);
                Interlocked.Increment(ref stories);
            },
            iter: 150
        );
        // Stories in which the beam is never on would prove nothing.
        (on / (double)stories).ShouldBeGreaterThan(100);
    }

    /// <summary>The judge finds what a careless controller would do.</summary>
    [Fact]
    public void Judge_FindsABeamThatOutlivesItsLease()
    {
        var trace = Tell(new Random(5), 6_000);
        var last = trace.FindLastIndex(s => s.What == "on");
        last.ShouldBeGreaterThan(0);
        var bent = trace.Take(last + 1).Append(new Seen(trace[last].T + 400_000, "on")).ToList();
        Judged(bent).Wrong.ShouldNotBeNull();
    }
}
