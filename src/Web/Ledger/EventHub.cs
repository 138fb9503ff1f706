using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using Npgsql;

namespace VelvetGate.Web.Ledger;

/// <summary>One listening connection for all pages of this instance. A notification only wakes; what happened is read from the ledger.</summary>
public sealed partial class EventHub(NpgsqlDataSource db, ILogger<EventHub> log) : BackgroundService
{
    private static readonly TimeSpan Again = TimeSpan.FromSeconds(2);
    private readonly ConcurrentDictionary<Guid, Channel<long>> _subscribers = new();

    public Subscription Subscribe()
    {
        var id = Guid.NewGuid();
        var channel = Channel.CreateBounded<long>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        _subscribers[id] = channel;
        return new Subscription(channel.Reader, () => _subscribers.TryRemove(id, out _));
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var connection = await db.OpenConnectionAsync(stoppingToken);
                connection.Notification += (_, n) => Wake(long.Parse(n.Payload, CultureInfo.InvariantCulture));
                await using (var listen = new NpgsqlCommand("listen ledger", connection)) await listen.ExecuteNonQueryAsync(stoppingToken);
                // What was written while this was away is found by the pages themselves.
                Wake(long.MaxValue);
                while (true) await connection.WaitAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or IOException or TimeoutException or InvalidOperationException)
            {
                Lost(log, e.Message);
                await Task.Delay(Again, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private void Wake(long seq)
    {
        foreach (var channel in _subscribers.Values) channel.Writer.TryWrite(seq);
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The listening connection was lost, trying again: {Why}")]
    private static partial void Lost(ILogger log, string why);

    public sealed class Subscription(ChannelReader<long> reader, Action end) : IDisposable
    {
        /// <returns>False when the stream is to end.</returns>
        public async Task<bool> Wait(long after, CancellationToken cancel)
        {
            try
            {
                while (await reader.ReadAsync(cancel) <= after)
                {
                }
                return true;
            }
            catch (OperationCanceledException)
            {
                return false;
            }
        }

        public void Dispose() => end();
    }
}
