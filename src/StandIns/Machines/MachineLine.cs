using System.Buffers;
using MQTTnet;
using MQTTnet.Exceptions;
using MQTTnet.Protocol;
using VelvetGate.Core.Station.Controllers;

namespace VelvetGate.StandIns.Machines;

/// <summary>The line between a simulated controller and the broker; cut when its dial says so, and tied again after.</summary>
public sealed class MachineLine(StandInMachine machine, Uri broker, TimeProvider time) : IAsyncDisposable
{
    private static readonly TimeSpan StepEvery = TimeSpan.FromMilliseconds(50);
    private readonly MqttClientFactory _factory = new();
    private readonly SemaphoreSlim _one = new(1);
    private IMqttClient? _client;
    private int? _boot;

    /// <summary>Steps the controller, and keeps the line up, until it is ended.</summary>
    public async Task Run(CancellationToken cancel)
    {
        using var tick = new PeriodicTimer(StepEvery, time);
        var triedAt = long.MinValue;
        while (await tick.WaitForNextTickAsync(cancel))
        {
            await Send(machine.Step(), cancel);
            var (boot, wanted) = (machine.State.Boot, machine.Dials is { Network: true, Power: true });
            if (!wanted || boot != _boot)
                await Cut();
            if (wanted && _client is null && (triedAt == long.MinValue || time.GetElapsedTime(triedAt) > TimeSpan.FromMilliseconds(500)))
            {
                triedAt = time.GetTimestamp();
                await Tie(boot, cancel);
            }
        }
    }

    public Task Press(CancellationToken cancel) => Send(machine.With((box, ms) => box.Press(ms)), cancel);

    public Task Fob(string code, CancellationToken cancel) => Send(machine.With((box, ms) => box.Fob(ms, code)), cancel);

    private async Task Tie(int? boot, CancellationToken cancel)
    {
        var (at, serial) = (machine.SetUp.Machine, machine.SetUp.Serial);
        var client = _factory.CreateMqttClient();
        client.ApplicationMessageReceivedAsync += e =>
            Send(
                machine.With(
                    (box, ms) =>
                        box.Receive(ms, e.ApplicationMessage.Topic, e.ApplicationMessage.Payload.ToArray(), e.ApplicationMessage.Retain)
                ),
                cancel
            );
        try
        {
            var presence = new WireTopic(at, serial, true, WireKind.Presence).ToString();
            var options = new MqttClientOptionsBuilder()
                .WithClientId($"{at}:{serial}:{boot}")
                .WithTcpServer(broker.Host, broker.Port)
                .WithCleanStart()
                .WithKeepAlivePeriod(TimeSpan.FromSeconds(5))
                .WithTimeout(TimeSpan.FromSeconds(2))
                .WithWillTopic(presence)
                .WithWillPayload("gone")
                .WithWillRetain();
            if (broker.UserInfo.Split(':', 2) is [var user, var password])
                options.WithCredentials(Uri.UnescapeDataString(user), Uri.UnescapeDataString(password));
            await client.ConnectAsync(options.Build(), cancel);
            await client.SubscribeAsync(WireTopic.AllDown(at, serial), MqttQualityOfServiceLevel.AtLeastOnce, cancel);
            await client.PublishStringAsync(presence, "here", MqttQualityOfServiceLevel.AtLeastOnce, retain: true, cancel);
            (_client, _boot) = (client, boot);
            await Send(machine.With((box, ms) => box.Connected(ms, time.GetUtcNow().ToString("O").Replace("+00:00", "Z"))), cancel);
        }
        catch (Exception e) when (e is MqttCommunicationException or OperationCanceledException or MqttClientDisconnectedException)
        {
            client.Dispose();
        }
    }

    /// <summary>As a cable is pulled: nobody says goodbye.</summary>
    private async Task Cut()
    {
        if (Interlocked.Exchange(ref _client, null) is not { } client)
            return;
        client.Dispose();
        await Task.CompletedTask;
    }

    private async Task Send(IReadOnlyList<Outgoing> messages, CancellationToken cancel)
    {
        if (messages.Count == 0 || _client is not { } client || !machine.Dials.Network)
            return;
        await _one.WaitAsync(cancel);
        try
        {
            foreach (var message in messages)
                await client.PublishAsync(
                    new MqttApplicationMessageBuilder()
                        .WithTopic(message.Topic)
                        .WithPayload(message.Payload)
                        .WithQualityOfServiceLevel(
                            message.AtLeastOnce ? MqttQualityOfServiceLevel.AtLeastOnce : MqttQualityOfServiceLevel.AtMostOnce
                        )
                        .Build(),
                    cancel
                );
        }
        catch (Exception e) when (e is MqttCommunicationException or MqttClientDisconnectedException or ObjectDisposedException)
        {
            // Lost; what matters is told again once the line is tied.
            if (!client.IsConnected)
                await Cut();
        }
        finally
        {
            _one.Release();
        }
    }

    public async ValueTask DisposeAsync()
    {
        await Cut();
        _one.Dispose();
    }
}
