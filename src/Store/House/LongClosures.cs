using VelvetGate.Core.House;

namespace VelvetGate.Store.House;

/// <summary>Closures so long that idle clocks stand still over them.</summary>
internal static class LongClosures
{
    /// <summary>An hour less, since the clocks may be put forward within.</summary>
    private const int Hours = HouseRules.LongClosureDays * 24 - 1;

    /// <summary>Of an occurrence <c>o</c>, as its index has it.</summary>
    public static readonly string Is = $"upper(o.during) - lower(o.during) >= interval '{Hours} hours'";
}
