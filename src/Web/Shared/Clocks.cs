using NodaTime;
using VelvetGate.Store.Demo;

namespace VelvetGate.Web.Shared;

/// <summary>A clock that starts at a chosen instant and then runs as usual: the demo's <c>--now</c>.</summary>
public sealed class ShiftedClock(Instant startsAt) : IClock
{
    private readonly Duration _shift = startsAt - SystemClock.Instance.GetCurrentInstant();

    public Instant GetCurrentInstant() => SystemClock.Instance.GetCurrentInstant() + _shift;
}

/// <summary>The demo's clock: real time with the shift that its database keeps, the same on every instance.</summary>
public sealed class DemoClock : IClock
{
    private long _shiftTicks;

    public Instant GetCurrentInstant() => SystemClock.Instance.GetCurrentInstant() + Duration.FromTicks(Interlocked.Read(ref _shiftTicks));

    public void Set(Duration shift) => Interlocked.Exchange(ref _shiftTicks, shift.BclCompatibleTicks);
}

/// <summary>Reads the demo's shift before anything else starts, and again each second: a later start may have set it anew.</summary>
public sealed class DemoClockWorker(DemoClock clock, DemoClockStore store, WorkHealth health, ILogger<DemoClockWorker> log)
    : BackgroundWork("demoClock", health, log)
{
    public override async Task StartAsync(CancellationToken cancellationToken)
    {
        try
        {
            await Once(cancellationToken);
        }
        catch (Exception e) when (e is Npgsql.NpgsqlException or TimeoutException)
        {
            // The database is away: read as soon as it answers.
        }
        await base.StartAsync(cancellationToken);
    }

    public override async Task Once(CancellationToken cancel) =>
        clock.Set(await store.Read(SystemClock.Instance.GetCurrentInstant(), cancel));

    protected override Task Rest(CancellationToken cancel) => Task.Delay(TimeSpan.FromSeconds(1), cancel);
}
