using System.Buffers;
using System.Collections.Concurrent;
using MQTTnet;
using MQTTnet.Protocol;
using NodaTime;
using VelvetGate.Core.Station.Controllers;

namespace VelvetGate.Web.Tests.Station.Controllers;

/// <summary>A controller whose clock, sensors and line the test sets; the house’s clock goes along.</summary>
public sealed class DrivenController(ControlledHouse house, int boot = 1, string serial = ControlledHouse.Serial, byte[]? key = null)
    : IAsyncDisposable
{
    private readonly Lock _lock = new();
    private readonly ControllerBox _box = new("heron", serial, key ?? ControlledHouse.Key, boot, () => Guid.NewGuid().ToString("N"));
    private IMqttClient? _client;
    private long _ms;

    public Sensors Sensors { get; set; } =
        new(AirflowM3PerHour: 640, CoolantC: 21, CoolantLPerMin: 2.4m, RoomC: 20, HumidityPercent: 45, LidShut: true);

    /// <summary>Everything that came, and everything that was sent: topic and payload.</summary>
    public ConcurrentQueue<(string Topic, byte[] Payload)> Heard { get; } = new();
    public ConcurrentQueue<Outgoing> Sent { get; } = new();

    public bool Relay
    {
        get
        {
            lock (_lock)
                return _box.Relay;
        }
    }

    public double? LeftSeconds
    {
        get
        {
            lock (_lock)
                return _box.LeftMs(_ms) / 1000.0;
        }
    }

    public bool Siren => _box.Siren;

    public async Task Connect(string? clock = null)
    {
        _client = await Line();
        await Send(With(ms => _box.Connected(ms, clock)));
    }

    private async Task<IMqttClient> Line()
    {
        var client = new MqttClientFactory().CreateMqttClient();
        client.ApplicationMessageReceivedAsync += e =>
        {
            var (topic, payload) = (e.ApplicationMessage.Topic, e.ApplicationMessage.Payload.ToArray());
            Heard.Enqueue((topic, payload));
            return Send(With(ms => _box.Receive(ms, topic, payload, e.ApplicationMessage.Retain)));
        };
        var options = new MqttClientOptionsBuilder()
            .WithClientId($"heron:{serial}:{boot}")
            .WithTcpServer(house.ControllersAt.Host, house.ControllersAt.Port)
            .WithCleanStart();
        if (house.ControllersAt.UserInfo.Split(':') is [var user, var password])
            options.WithCredentials(user, password);
        await client.ConnectAsync(options.Build());
        await client.SubscribeAsync(WireTopic.AllDown("heron", serial), MqttQualityOfServiceLevel.AtLeastOnce);
        return client;
    }

    /// <summary>As a cable is pulled.</summary>
    public void Cut()
    {
        _client?.Dispose();
        _client = null;
    }

    /// <summary>Time passes for machine and house, some seconds at a time, and what is told is heard before the next.</summary>
    public async Task Pass(double seconds, bool heard = true)
    {
        var most = seconds > 20 ? 5.0 : 1;
        for (var left = seconds; left > 0; left -= most)
        {
            var step = Math.Min(left, most);
            house.Clock.Now += Duration.FromSeconds(step);
            lock (_lock)
                _ms += (long)(step * 1000);
            await Send(With(ms => _box.Step(ms, Sensors)));
            if (heard && _client is not null)
                await ControlledHouse.Until(AllHeard, "the house does not hear");
        }
    }

    /// <summary>The house has kept all that was told.</summary>
    private async Task<bool> AllHeard()
    {
        var numbers = Sent.Select(o => WireTopic.Read(o.Topic)!)
            .Zip(Sent)
            .Where(o => o.First.What == WireKind.Event)
            .Select(o => Wire.Read<MachineEvent>(key ?? ControlledHouse.Key, o.First, o.Second.Payload)!.Number);
        var readings = Sent.Where(o => o.Topic.EndsWith("/readings", StringComparison.Ordinal))
            .Select(o => Wire.Read<Readings>(key ?? ControlledHouse.Key, WireTopic.Read(o.Topic)!, o.Payload)!.Number);
        return await house.Ask<bool>(
            $"select boot = {boot} and event_number >= {numbers.DefaultIfEmpty(0).Max()} "
                + $"and reading_number >= {readings.DefaultIfEmpty(0).Max()} from station.controller where serial = '{serial}'"
        );
    }

    public Task Press() => Send(With(ms => _box.Press(ms)));

    public Task Fob(string code) => Send(With(ms => _box.Fob(ms, code)));

    /// <summary>Somebody says on the line what he likes.</summary>
    public async Task Say(string topic, byte[] payload) =>
        await _client!.PublishAsync(
            new MqttApplicationMessageBuilder()
                .WithTopic(topic)
                .WithPayload(payload)
                .WithQualityOfServiceLevel(MqttQualityOfServiceLevel.AtLeastOnce)
                .Build()
        );

    public Task Becomes(bool relay) =>
        ControlledHouse.Until(() => Task.FromResult(Relay == relay), $"the relay does not go {(relay ? "on" : "off")}");

    private IReadOnlyList<Outgoing> With(Func<long, IReadOnlyList<Outgoing>> act)
    {
        lock (_lock)
            return act(_ms);
    }

    private async Task Send(IReadOnlyList<Outgoing> messages)
    {
        foreach (var message in messages)
        {
            if (_client is not { IsConnected: true })
                continue;
            Sent.Enqueue(message);
            try
            {
                await Say(message.Topic, message.Payload);
            }
            catch (MQTTnet.Exceptions.MqttCommunicationException)
            {
                // Lost, as on any line; it is told again.
            }
        }
    }

    public ValueTask DisposeAsync()
    {
        Cut();
        return ValueTask.CompletedTask;
    }
}
