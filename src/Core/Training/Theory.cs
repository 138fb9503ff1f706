using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A reading or quiz that a certificate's holder still owes.</summary>
/// <param name="CountsUntil">The certificate counts without it up to here; in the past, it does not any more.</param>
public sealed record OwedTheory(string Authority, string ModuleId, string Title, Instant CountsUntil);

/// <summary>A certificate rests on current reading: what changed, or was never done, is owed from a day on. Source: common practice; the days are a house rule.</summary>
public static class Theory
{
    /// <param name="since">When the certificate began.</param>
    /// <param name="pathSince">From when the path holds as it is; null for a starting one.</param>
    /// <returns>Empty when nothing is owed.</returns>
    public static IReadOnlyList<OwedTheory> Owed(TrainingPath path, Instant since, Instant? pathSince, IReadOnlyList<TrainingModule> modules, IReadOnlyList<ModuleDone> done, HouseRules rules)
    {
        var owed = new List<OwedTheory>();
        foreach (var module in modules.Where(m => path.Steps.Any(s => s.Id == m.Id && s.Kind == m.Kind)))
        {
            var versions = done.Where(d => d.ModuleId == module.Id).Select(d => d.Version).ToList();
            var ahead = module.Repeats.Where(r => versions.Count > 0 && r.Version > versions.Max()).Select(r => r.By).ToList();
            if (versions.Count > 0 && ahead.Count == 0) continue;
            var by = versions.Count > 0 ? ahead.Min() : rules.Clock.DateOf(Instant.Max(since, pathSince ?? since)).PlusDays(rules.TheoryDays);
            owed.Add(new OwedTheory(path.Authority, module.Id, module.Title, rules.Clock.Day(by).End));
        }
        return owed;
    }
}
