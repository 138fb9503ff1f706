using NodaTime;

namespace VelvetGate.Core.Gating;

/// <summary>Benches for finishing, each for one at a time.</summary>
public static class Finishing
{
    public const int MostMinutes = 480;

    public static string Resource(int bench) => $"bench:{bench}";

    /// <returns>The first bench that is free for the whole time; null where none is.</returns>
    public static int? Free(IReadOnlyList<BenchFacts> held, int benches, Interval at)
    {
        for (var n = 1; n <= benches; n++)
        {
            if (!held.Any(h => h.Number == n && h.Held.Overlaps(at.Start, at.End)))
                return n;
        }
        return null;
    }
}
