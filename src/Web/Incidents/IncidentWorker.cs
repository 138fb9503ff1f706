using NodaTime;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>
/// What the clock alone brings about: stewards called for a look that nobody made, near misses told to the record once their half day is
/// over, words about injuries let go in their time. Safe on any number of instances.
/// </summary>
public sealed class IncidentWorker(
    FireWatchStore watches,
    NearMissStore nearMisses,
    IncidentPapers papers,
    HouseStore house,
    IClock clock,
    WorkHealth health,
    ILogger<IncidentWorker> log
) : BackgroundWork("incidents", health, log)
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    public override async Task Once(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await watches.Call(now, cancel);
        await papers.Forget(now, cancel);
        if (await house.Rules(now, cancel) is { } rules)
            await nearMisses.TellRecord(rules, now, cancel);
    }

    protected override Task Rest(CancellationToken cancel) => Task.Delay(Round, cancel);
}
