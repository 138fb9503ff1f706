using NodaTime;

namespace VelvetGate.Web.Shared;

/// <summary>A clock that starts at a chosen instant and then runs as usual: the demo's <c>--now</c>.</summary>
public sealed class ShiftedClock(Instant startsAt) : IClock
{
    private readonly Duration _shift = startsAt - SystemClock.Instance.GetCurrentInstant();

    public Instant GetCurrentInstant() => SystemClock.Instance.GetCurrentInstant() + _shift;
}
