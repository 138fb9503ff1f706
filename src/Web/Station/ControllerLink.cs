using System.Buffers;
using System.Globalization;
using MQTTnet;
using MQTTnet.Protocol;
using NodaTime;
using NodaTime.Text;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.House;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>Where the broker is, and the key of the house; each may be missing, and then no machine has a controller.</summary>
/// <param name="Keys">Null without <c>VELVETGATE_STATION_KEY</c>.</param>
/// <param name="Broker">Null without <c>VELVETGATE_MQTT</c>: <c>mqtt://</c> or <c>mqtts://</c>, with user and password.</param>
public sealed record ControllerSettings(StationKeys? Keys, Uri? Broker)
{
    public static ControllerSettings Read(IConfiguration config) =>
        new(
            config["VELVETGATE_STATION_KEY"] is { Length: > 0 } key ? new StationKeys(key) : null,
            config["VELVETGATE_MQTT"] is { Length: > 0 } broker ? new Uri(broker) : null
        );

    public bool IsOn => Keys is not null && Broker is not null;
}

/// <summary>
/// Speaks with the controllers of the machines over MQTT. What it hears goes to the store, which keeps each thing once; so every instance
/// of the server may listen. It grants only what the store has committed, and can take a beam away at any time.
/// </summary>
public sealed partial class ControllerLink(
    ControllerSettings settings,
    ControllerStore store,
    StationTaps taps,
    HouseStore house,
    IClock clock,
    WorkHealth health,
    ILogger<ControllerLink> log
) : BackgroundWork("controllers", health, log)
{
    private static readonly TimeSpan LookEvery = TimeSpan.FromSeconds(1);
    private readonly MqttClientFactory _factory = new();
    private readonly SemaphoreSlim _one = new(1);
    private Dictionary<string, (ControllerRow Row, byte[] Key)> _known = [];
    private volatile IMqttClient? _client;

    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        settings.IsOn ? base.ExecuteAsync(stoppingToken) : Task.CompletedTask;

    protected override Task Rest(CancellationToken cancel) => Task.Delay(LookEvery, cancel);

    /// <summary>Connects where it is not connected, takes away every beam that should not be on, and asks for those that should.</summary>
    public override async Task Once(CancellationToken cancel)
    {
        await Refresh(cancel);
        while (!await Connected(cancel))
            await Task.Delay(LookEvery, cancel);
        foreach (var beam in await store.BeamsApart(clock.GetCurrentInstant(), cancel))
            await (
                beam.Drop is { } why
                    ? Send(beam.MachineId.Value, beam.Serial, WireKind.Drop, new Drop(why), cancel)
                    : Ask(beam.MachineId, cancel)
            );
    }

    /// <summary>Asks a machine’s controller to ask for the beam: after a start, a press or a look was committed.</summary>
    public Task Ask(MachineId machine, CancellationToken cancel) =>
        ToMachine(machine, WireKind.Ask, new Ask(Guid.NewGuid().ToString("N")), cancel);

    /// <summary>Takes the beam away.</summary>
    public Task Drop(MachineId machine, string why, CancellationToken cancel) => ToMachine(machine, WireKind.Drop, new Drop(why), cancel);

    private async Task ToMachine<T>(MachineId machine, string what, T message, CancellationToken cancel)
    {
        if (settings.IsOn && _known.Values.FirstOrDefault(k => k.Row.MachineId == machine) is { Row: { } row })
            await Send(machine.Value, row.Serial, what, message, cancel);
    }

    private async Task Refresh(CancellationToken cancel) =>
        _known = (await store.Enrolled(cancel)).ToDictionary(r => r.Serial, r => (r, settings.Keys!.Controller(r.Serial, r.Salt)));

    /// <summary>Tries every second: a machine waits for nothing but this.</summary>
    private async Task<bool> Connected(CancellationToken cancel)
    {
        try
        {
            await Connect(cancel);
            return true;
        }
        catch (MQTTnet.Exceptions.MqttCommunicationException e)
        {
            GoesBadly(e);
            return false;
        }
    }

    private async Task Connect(CancellationToken cancel)
    {
        if (_client is { IsConnected: true })
            return;
        _client?.Dispose();
        var client = _factory.CreateMqttClient();
        client.ApplicationMessageReceivedAsync += async e =>
        {
            e.AutoAcknowledge = false;
            // One after the other: what a machine tells has an order.
            await _one.WaitAsync(cancel);
            try
            {
                await Heard(e.ApplicationMessage, cancel);
            }
            catch (Exception failed) when (failed is not OperationCanceledException)
            {
                // A controller tells again what nobody has seen.
                Unheard(log, e.ApplicationMessage.Topic, failed);
            }
            finally
            {
                _one.Release();
            }
            await e.AcknowledgeAsync(cancel);
        };
        var broker = settings.Broker!;
        var options = new MqttClientOptionsBuilder()
            .WithClientId($"house-{Guid.NewGuid():N}")
            .WithTcpServer(
                broker.Host,
                broker.Port > 0 ? broker.Port
                    : broker.Scheme == "mqtts" ? 8883
                    : 1883
            )
            .WithCleanStart()
            .WithKeepAlivePeriod(TimeSpan.FromSeconds(10))
            .WithTimeout(TimeSpan.FromSeconds(5));
        if (broker.UserInfo.Split(':', 2) is [var user, var password])
            options.WithCredentials(Uri.UnescapeDataString(user), Uri.UnescapeDataString(password));
        if (broker.Scheme == "mqtts")
            options.WithTlsOptions(tls => tls.UseTls());
        await client.ConnectAsync(options.Build(), cancel);
        await client.SubscribeAsync(WireTopic.AllUp, MqttQualityOfServiceLevel.AtLeastOnce, cancel);
        _client = client;
    }

    private async Task Heard(MqttApplicationMessage message, CancellationToken cancel)
    {
        // Retained, it was said at another time; presence decides nothing.
        if (message.Retain || WireTopic.Read(message.Topic) is not { Up: true } topic || topic.What == WireKind.Presence)
            return;
        if (!_known.TryGetValue(topic.Serial, out var known))
        {
            await Refresh(cancel);
            if (!_known.TryGetValue(topic.Serial, out known))
                return;
        }
        var (row, key) = known;
        if (row.MachineId.Value != topic.Machine)
        {
            await Send(topic.Machine, topic.Serial, WireKind.NotYours, new NotYours(), cancel);
            return;
        }
        var payload = message.Payload.ToArray();
        var now = clock.GetCurrentInstant();
        switch (topic.What)
        {
            case WireKind.Hello when Wire.Read<Hello>(key, topic, payload) is { } hello:
                if (await store.Booted(row.Serial, hello.Boot, hello.Ms, Apart(hello.Clock, now), now, cancel))
                    await Send(topic.Machine, row.Serial, WireKind.Seen, new Seen(hello.Boot, 0), cancel);
                break;
            case WireKind.Readings when Wire.Read<Readings>(key, topic, payload) is { } reading:
                if (
                    await store.Booted(row.Serial, reading.Boot, reading.Ms, null, now, cancel)
                    && (await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == row.MachineId) is { Spec: var spec }
                    && await house.Rules(now, cancel) is { } rules
                )
                    await store.Read(row.Serial, reading, spec, rules, now, cancel);
                break;
            case WireKind.Event when Wire.Read<MachineEvent>(key, topic, payload) is { Kind: not null } told:
                if (
                    await store.Booted(row.Serial, told.Boot, told.Ms, null, now, cancel)
                    && await store.Heard(row.Serial, told, now, cancel) is { } kept
                )
                {
                    await Send(topic.Machine, row.Serial, WireKind.Seen, new Seen(told.Boot, kept.Number), cancel);
                    // What was pressed at the machine lengthens its lease there; the house’s own word follows.
                    if (told.Kind == EventKind.Press)
                        await Ask(row.MachineId, cancel);
                    if (told is { Kind: EventKind.Fob, Value: { } code } && kept.At is { } at)
                        await taps.AtReader(row.MachineId, code, at, cancel);
                }
                break;
            case WireKind.Want when Wire.Read<Want>(key, topic, payload) is { } want:
                if (
                    await store.Booted(row.Serial, want.Boot, want.Ms, null, now, cancel)
                    && await store.Asked(row.Serial, want, now, cancel) is { } grant
                )
                    await Send(topic.Machine, row.Serial, WireKind.Grant, grant, cancel);
                break;
            default:
                Unreadable(log, message.Topic);
                break;
        }
    }

    /// <returns>Seconds that a controller’s clock is ahead of the house’s; null where it has none.</returns>
    private static int? Apart(string? said, Instant now) =>
        said is not null && InstantPattern.ExtendedIso.Parse(said) is { Success: true, Value: var at }
            ? (int)Math.Clamp(Math.Round((at - now).TotalSeconds), int.MinValue, int.MaxValue)
            : null;

    private async Task Send<T>(string machine, string serial, string what, T message, CancellationToken cancel)
    {
        if (_client is not { IsConnected: true } client || !_known.TryGetValue(serial, out var known))
            return;
        var topic = new WireTopic(machine, serial, false, what);
        try
        {
            await client.PublishAsync(
                new MqttApplicationMessageBuilder()
                    .WithTopic(topic.ToString())
                    .WithPayload(Wire.Write(known.Key, topic, message))
                    .WithQualityOfServiceLevel(MqttQualityOfServiceLevel.AtLeastOnce)
                    .Build(),
                cancel
            );
        }
        catch (MQTTnet.Exceptions.MqttCommunicationException e)
        {
            // A lost drop is said again within a second; anything else the controller asks for again.
            Unheard(log, string.Create(CultureInfo.InvariantCulture, $"{topic}"), e);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "A message for {Topic} was lost")]
    private static partial void Unheard(ILogger log, string topic, Exception e);

    [LoggerMessage(Level = LogLevel.Warning, Message = "Nobody here wrote the message for {Topic}")]
    private static partial void Unreadable(ILogger log, string topic);
}
