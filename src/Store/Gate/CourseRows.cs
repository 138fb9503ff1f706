using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Training;

namespace VelvetGate.Store.Gate;

/// <summary>What was read of the course for one machine, until the rest of the facts says what it means.</summary>
/// <param name="Paths">The house's own, with the instant each holds from.</param>
internal sealed record CourseRows(
    IReadOnlyList<TrainingModule> Modules,
    IReadOnlyList<ModuleDone> Done,
    IReadOnlyList<(TrainingPath Path, Instant Since)> Paths,
    IReadOnlyList<CertificateHold> Holds,
    IReadOnlyList<PracticalRepeat> Repeats
)
{
    public TrainingFacts Into(TrainingFacts training, MachineSpec machine, IReadOnlyList<string> fixtures, HouseRules rules, Instant start)
    {
        var all = Core.Training.Paths.All(Core.Training.Paths.Starting(machine, fixtures, Modules, rules), [.. Paths.Select(p => p.Path)]);
        var owed = all.SelectMany(path =>
        {
            var held = training
                .Certificates.Value.Where(c => c.Authority == path.Authority && c.Held.Holds(start))
                .MaxBy(c => c.Held.Start);
            Instant? since = Paths.Any(p => p.Path.Authority == path.Authority)
                ? Paths.First(p => p.Path.Authority == path.Authority).Since
                : null;
            return held is null ? [] : Theory.Owed(path, held.Held.Start, since, Modules, Done, Repeats, rules);
        });
        return training with
        {
            Owed = [.. owed],
            AddOns = [.. all.Where(p => p is { IsAddOn: true, Need: not null }).Select(p => new AddOnFacts(p.Authority, p.Name, p.Need!))],
            Holds = Holds,
        };
    }
}
