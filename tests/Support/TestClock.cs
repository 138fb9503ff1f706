using NodaTime;

namespace VelvetGate.Tests.Support;

/// <summary>A clock that stands until it is moved.</summary>
public sealed class TestClock(Instant now) : IClock
{
    public Instant Now { get; set; } = now;

    public Instant GetCurrentInstant() => Now;
}
