using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using Npgsql;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Ledger;

/// <summary>
/// One listening connection for all pages of this instance. A notification only wakes; what happened is read from the ledger.
/// </summary>
public sealed class EventHub(NpgsqlDataSource db, WorkHealth health, ILogger<EventHub> log) : BackgroundWork("events", health, log)
{
    private readonly ConcurrentDictionary<Guid, Channel<long>> _subscribers = new();

    public Subscription Subscribe()
    {
        var id = Guid.NewGuid();
        var channel = Channel.CreateBounded<long>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        _subscribers[id] = channel;
        return new Subscription(channel.Reader, () => _subscribers.TryRemove(id, out _));
    }

    /// <summary>Listens until the connection breaks.</summary>
    public override async Task Once(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        connection.Notification += (_, n) => Wake(long.Parse(n.Payload, CultureInfo.InvariantCulture));
        await using (var listen = new NpgsqlCommand("listen ledger", connection))
            await listen.ExecuteNonQueryAsync(cancel);
        GoesWell();
        // What was written while this was away is found by the pages themselves.
        Wake(long.MaxValue);
        while (true)
            await connection.WaitAsync(cancel);
    }

    protected override Task Rest(CancellationToken cancel) => Task.CompletedTask;

    private void Wake(long seq)
    {
        foreach (var channel in _subscribers.Values)
            channel.Writer.TryWrite(seq);
    }

    public sealed class Subscription(ChannelReader<long> reader, Action end) : IDisposable
    {
        /// <returns>False when the stream is to end.</returns>
        public async Task<bool> Wait(long after, CancellationToken cancel)
        {
            try
            {
                while (await reader.ReadAsync(cancel) <= after) { }
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
