using NodaTime;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Web.Ledger;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

/// <summary>
/// Follows the record: decides standing bookings again, refuses asks that nobody answered in time, and tells who is still on a machine
/// that their time ends. Any number of instances may run it.
/// </summary>
public sealed class ActiveBookingsWorker(
    ActiveBookings standing,
    StewardRequestStore asks,
    EndingRound endings,
    TryStore tries,
    EventHub hub,
    IClock clock,
    WorkHealth health,
    ILogger<ActiveBookingsWorker> log
) : BackgroundWork("standing", health, log)
{
    /// <summary>How often the clock alone is looked at; the record wakes it sooner.</summary>
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    /// <summary>What happens together is read together: on a busy day the record grows a hundred times a second.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(250);

    /// <summary>What only the clock brings about is not looked at with each line of the record.</summary>
    private static readonly Duration ByClock = Duration.FromSeconds(15);

    private readonly EventHub.Subscription _subscription = hub.Subscribe();
    private Instant? _looked;

    public override async Task Once(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await asks.Expire(now, cancel);
        // A clock that was set back is looked at anew.
        if (_looked is not { } looked || now < looked || now - looked >= ByClock)
        {
            await endings.Once(now, cancel);
            await tries.Forget(now, cancel);
            _looked = now;
        }
        await standing.Follow(now, cancel);
    }

    public override void Dispose()
    {
        _subscription.Dispose();
        base.Dispose();
    }

    protected override async Task Rest(CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Round);
        await _subscription.Wait(0, patience.Token);
        await Task.Delay(Gather, cancel).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
    }
}
