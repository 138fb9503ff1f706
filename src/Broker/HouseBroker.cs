using System.Net;
using System.Security.Cryptography;
using System.Text;
using MQTTnet.Protocol;
using MQTTnet.Server;

namespace VelvetGate.Broker;

/// <summary>
/// Carries messages between controllers and the house, on loopback. Whoever signs in as the house hears all and speaks to all; anybody else
/// hears and speaks for the one controller that its client id names, <c>machine:serial:boot</c>. What is carried is sealed from end to end:
/// nobody trusts this process with a beam.
/// </summary>
public sealed class HouseBroker : IAsyncDisposable
{
    private const string House = "house";
    private const int MostQueued = 1_000;
    private readonly MqttServer _server;

    /// <param name="port">Of loopback; 0 lets nobody in.</param>
    public HouseBroker(int port, string password)
    {
        _server = new MqttServerFactory().CreateMqttServer(
            new MqttServerOptionsBuilder()
                .WithDefaultEndpoint()
                .WithDefaultEndpointBoundIPAddress(IPAddress.Loopback)
                .WithDefaultEndpointBoundIPV6Address(IPAddress.None)
                .WithDefaultEndpointPort(port)
                .WithMaxPendingMessagesPerClient(MostQueued)
                .Build()
        );
        _server.ValidatingConnectionAsync += e =>
        {
            var isHouse = e.UserName == House;
            if (isHouse ? !Same(e.Password, password) : e.ClientId.Split(':') is not [{ Length: > 0 }, { Length: > 0 }, { Length: > 0 }])
                e.ReasonCode = MqttConnectReasonCode.NotAuthorized;
            e.SessionItems[House] = isHouse;
            return Task.CompletedTask;
        };
        _server.InterceptingPublishAsync += e =>
        {
            e.ProcessPublish = MaySpeak(e.SessionItems[House] is true, e.ClientId, e.ApplicationMessage.Topic, e.ApplicationMessage.Retain);
            if (!e.ProcessPublish)
                e.Response.ReasonCode = MqttPubAckReasonCode.NotAuthorized;
            return Task.CompletedTask;
        };
        _server.InterceptingSubscriptionAsync += e =>
        {
            e.ProcessSubscription = e.SessionItems[House] is true || e.TopicFilter.Topic == $"{Own(e.ClientId)}/down/#";
            if (!e.ProcessSubscription)
                e.Response.ReasonCode = MqttSubscribeReasonCode.NotAuthorized;
            return Task.CompletedTask;
        };
    }

    public Task Start() => _server.StartAsync();

    private static bool MaySpeak(bool house, string client, string topic, bool retain) =>
        house
            ? !retain
            : topic.StartsWith($"{Own(client)}/up/", StringComparison.Ordinal)
                && (!retain || topic.EndsWith("/presence", StringComparison.Ordinal));

    /// <summary>Topics of a controller, by its client id.</summary>
    private static string Own(string client) => client.Split(':') is [var machine, var serial, _] ? $"velvetgate/{machine}/{serial}" : "-";

    private static bool Same(string? given, string password) =>
        CryptographicOperations.FixedTimeEquals(
            SHA256.HashData(Encoding.UTF8.GetBytes(given ?? "")),
            SHA256.HashData(Encoding.UTF8.GetBytes(password))
        );

    public async ValueTask DisposeAsync()
    {
        if (_server.IsStarted)
            await _server.StopAsync();
        _server.Dispose();
    }
}
