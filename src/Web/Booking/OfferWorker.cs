using NodaTime;
using VelvetGate.Store.Booking;
using VelvetGate.Web.Ledger;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

/// <summary>Offers what came free to whoever waits for it. The record wakes it; the clock alone ends offers.</summary>
public sealed class OfferWorker(OfferRound offers, EventHub hub, IClock clock, WorkHealth health, ILogger<OfferWorker> log)
    : BackgroundWork("offers", health, log)
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(15);

    /// <summary>A busy day tells of a hundred things a second; looking once for all of them is enough.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromSeconds(1);

    private readonly EventHub.Subscription _subscription = hub.Subscribe();

    public override Task Once(CancellationToken cancel) => offers.Once(clock.GetCurrentInstant(), cancel);

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
