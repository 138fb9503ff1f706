using NodaTime;
using Npgsql;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Web.Ledger;

namespace VelvetGate.Web.Booking;

/// <summary>Follows the record: decides standing bookings again, and refuses asks that nobody answered in time. Any number of instances may run it.</summary>
public sealed partial class StandingWorker(StandingStore standing, AskStore asks, EventHub hub, IClock clock, ILogger<StandingWorker> log) : BackgroundService
{
    /// <summary>How often the clock alone is looked at; the record wakes it sooner.</summary>
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    /// <summary>What happens together is read together: on a busy day the record grows a hundred times a second.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(250);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var subscription = hub.Subscribe();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                var now = clock.GetCurrentInstant();
                await asks.Expire(now, stoppingToken);
                await standing.Follow(now, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException or IOException or InvalidOperationException)
            {
                Failed(log, e.Message);
            }
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken);
            patience.CancelAfter(Round);
            await subscription.Wait(0, patience.Token);
            await Task.Delay(Gather, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Standing bookings could not be decided again, trying later: {Why}")]
    private static partial void Failed(ILogger log, string why);
}
