using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A reading, quiz or practical that a certificate's holder still owes.</summary>
/// <param name="CountsUntil">The certificate counts without it up to here; in the past, it does not any more.</param>
public sealed record OwedTheory(string Authority, string ModuleId, string Title, Instant CountsUntil);

/// <summary>
/// A certificate rests on current reading: what changed, or was never done, is owed from a day on. Source: common practice; the days are a
/// house rule.
/// </summary>
public static class Theory
{
    /// <param name="since">When the certificate began.</param>
    /// <param name="pathSince">From when the path holds as it is; null for a starting one.</param>
    /// <param name="repeats">Practical sheets that are to be shown again.</param>
    /// <returns>Empty when nothing is owed.</returns>
    public static IReadOnlyList<OwedTheory> Owed(
        TrainingPath path,
        Instant since,
        Instant? pathSince,
        IReadOnlyList<TrainingModule> modules,
        IReadOnlyList<ModuleDone> done,
        IReadOnlyList<PracticalRepeat> repeats,
        HouseRules rules
    )
    {
        var owed = new List<OwedTheory>();
        foreach (var module in modules.Where(m => path.Steps.Any(s => s.Id == m.Id && s.Kind == m.Kind)))
        {
            var versions = done.Where(d => d.ModuleId == module.Id).Select(d => d.Version).ToList();
            var ahead = module.Repeats.Where(r => versions.Count > 0 && r.Version > versions.Max()).Select(r => r.By).ToList();
            if (versions.Count > 0 && ahead.Count == 0)
                continue;
            var by =
                versions.Count > 0 ? ahead.Min() : rules.Clock.DateOf(Instant.Max(since, pathSince ?? since)).PlusDays(rules.TheoryDays);
            owed.Add(new OwedTheory(path.Authority, module.Id, module.Title, new LastDay(by).End(rules.Clock)));
        }
        // A certificate signed before a sheet changed rests on the older one; signed since, whichever way, on this one.
        var sheet = path.Steps[^1].Id;
        var again = repeats.Where(r => r.PracticalId == sheet && sheet.Length > 0 && r.At > since).MinBy(r => r.By);
        if (again is not null)
            owed.Add(new OwedTheory(path.Authority, sheet, again.Title, new LastDay(again.By).End(rules.Clock)));
        return owed;
    }
}
