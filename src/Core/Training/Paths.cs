using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Training;

/// <summary>One requirement of a path.</summary>
/// <param name="Id">Reading and quiz: the module. Authority: what has to be held first. Outside: what the paper is called. Sign-off: the
/// practical sheet, or empty for a note.</param>
/// <param name="Count">Supervised runs; 0 takes the house rule.</param>
public sealed record PathStep(ModuleKind Kind, string Id = "", int Count = 0);

/// <summary>When a run needs an add-on: any of these is enough.</summary>
/// <param name="ThickerThanMm">Stock thicker than this, in mm.</param>
/// <param name="ForSigning">No run needs it; whoever signs others off on the machine does.</param>
public sealed record AddOnNeed(
    string? Fixture = null,
    decimal? ThickerThanMm = null,
    IReadOnlyList<MaterialId>? MaterialIds = null,
    bool ForSigning = false
);

/// <summary>The steps to one authority, in their order. Source: common practice; the steps themselves are house practice.</summary>
/// <param name="Authority">A machine, or a machine and an add-on: <c>heron</c>, <c>heron/rotary</c>.</param>
/// <param name="Name">What people call the add-on; empty for a machine.</param>
/// <param name="Refresher">Shorter: what renews a certificate that lapsed.</param>
/// <param name="Need">For an add-on, when the gate asks for it; null never does.</param>
public sealed record TrainingPath(
    string Authority,
    string Name,
    IReadOnlyList<PathStep> Steps,
    IReadOnlyList<PathStep> Refresher,
    AddOnNeed? Need = null
)
{
    public string MachineId => SignOffs.MachineOf(Authority);

    public bool IsAddOn => Authority.Contains('/');
}

/// <summary>Paths that a house starts from, and what an edited one has to keep to.</summary>
public static class Paths
{
    public const int MostSteps = 30;
    public const int MostRuns = 20;
    public const int NameLongest = 60;

    /// <summary>
    /// Starting paths of a machine: laser safety (all readings and the quiz), an induction where the house gives one, supervised runs,
    /// sign-off on the practical sheet;
    /// rotary as an add-on where the machine takes it.
    /// </summary>
    /// <param name="modules">The modules of the course, in their order; pages that the house wrote itself are put in by hand.</param>
    public static IReadOnlyList<TrainingPath> Starting(
        MachineSpec machine,
        IEnumerable<string> fixtures,
        IReadOnlyList<TrainingModule> modules,
        HouseRules rules
    )
    {
        var sheet = new PathStep(ModuleKind.SignOff, StartingPracticals.For(machine.Kind));
        List<PathStep> practice = [new(ModuleKind.SupervisedRuns), sheet];
        if (rules.Pack != Packs.MemberRun)
            practice.Insert(0, new PathStep(ModuleKind.Induction));
        List<TrainingPath> paths =
        [
            new(
                machine.Id.Value,
                "",
                [
                    .. modules.Where(m => m.Kind == ModuleKind.Quiz || m.Topic.Length > 0).Select(m => new PathStep(m.Kind, m.Id)),
                    .. practice,
                ],
                [new(ModuleKind.SupervisedRuns, Count: 1), sheet]
            ),
        ];
        if (fixtures.Contains(Fixtures.Rotary))
            paths.Add(
                new(
                    $"{machine.Id}/{Fixtures.Rotary}",
                    "Rotary",
                    [new(ModuleKind.Authority, machine.Id.Value), new(ModuleKind.SupervisedRuns, Count: 1), new(ModuleKind.SignOff)],
                    [new(ModuleKind.SignOff)],
                    new AddOnNeed(Fixtures.Rotary)
                )
            );
        return paths;
    }

    /// <summary>The paths that hold: the house's own, and the starting ones where it set none.</summary>
    public static IReadOnlyList<TrainingPath> All(IEnumerable<TrainingPath> starting, IReadOnlyList<TrainingPath> own) =>
        [.. starting.Where(s => own.All(o => o.Authority != s.Authority)).Concat(own).OrderBy(p => p.Authority, StringComparer.Ordinal)];

    /// <summary>The authority of a new add-on, from what it is called.</summary>
    public static string NewAddOn(MachineId machineId, string name) => $"{machineId}/{NewPages.IdOf(name, [])}";

    /// <summary>What stands against a path as edited.</summary>
    /// <param name="others">The paths that hold beside it, for circles.</param>
    public static IReadOnlyList<Refusal> Check(
        TrainingPath path,
        IReadOnlyList<TrainingPath> others,
        IReadOnlyList<TrainingModule> modules,
        IReadOnlyList<string> practicals,
        IReadOnlyList<MaterialId> materials
    )
    {
        var found = new List<Refusal>();
        void Against(string text, string field) => found.Add(new Refusal(TrainingProblems.PathStep, text, field));
        if (
            path.Authority.Split('/') is { Length: > 2 } or [_, { Length: 0 or > NameLongest }]
            || path.Authority.Any(c => !(char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c is '-' or '/'))
        )
            Against("An authority is a machine, or a machine and an add-on.", "authority");
        if (path.IsAddOn && string.IsNullOrWhiteSpace(path.Name))
            Against("Give the add-on a name.", "name");
        if (path.Name.Length > NameLongest)
            Against($"The name is longer than {NameLongest} characters.", "name");
        if (path.Need is { ThickerThanMm: <= 0 })
            Against("A thickness is more than 0.", "need");
        foreach (var material in (path.Need?.MaterialIds ?? []).Except(materials))
            Against($"There is no material “{material}”.", "need");
        foreach (var (steps, field) in new[] { (path.Steps, "steps"), (path.Refresher, "refresher") })
        {
            if (steps.Count is 0 or > MostSteps)
                Against($"Between one and {MostSteps} steps.", field);
            if (steps.Count(s => s.Kind == ModuleKind.SignOff) != 1 || steps[^1].Kind != ModuleKind.SignOff)
                Against("The last step, and only the last, is the sign-off.", field);
            if (steps.Where(s => s.Kind != ModuleKind.SignOff).GroupBy(s => (s.Kind, s.Id)).Any(g => g.Count() > 1))
                Against("A step stands there twice.", field);
            foreach (var step in steps)
            {
                if (step.Count is < 0 or > MostRuns)
                    Against($"Between 1 and {MostRuns} supervised runs; 0 takes the house rule.", field);
                if (step.Kind is ModuleKind.Reading or ModuleKind.Quiz && !modules.Any(m => m.Id == step.Id && m.Kind == step.Kind))
                    Against($"There is no {step.Kind.ToString().ToLowerInvariant()} “{step.Id}”.", field);
                if (step.Kind == ModuleKind.SignOff && step.Id.Length > 0 && !practicals.Contains(step.Id))
                    Against($"There is no practical form “{step.Id}”.", field);
                if (step.Kind == ModuleKind.Outside && (string.IsNullOrWhiteSpace(step.Id) || step.Id.Length > NameLongest))
                    Against("Say what the outside certificate is called.", field);
                if (step.Kind == ModuleKind.Authority && step.Id != path.Authority && others.All(o => o.Authority != step.Id))
                    Against($"There is no authority “{step.Id}”.", field);
                if (step.Kind == ModuleKind.Authority && Leads(step.Id, path.Authority, others, []))
                    Against($"{step.Id} waits for this one: a circle has no beginning.", field);
            }
        }
        return found;
    }

    private static bool Leads(string from, string to, IReadOnlyList<TrainingPath> paths, HashSet<string> seen) =>
        from == to
        || (
            seen.Add(from)
            && paths.FirstOrDefault(p => p.Authority == from) is { } path
            && path.Steps.Any(s => s.Kind == ModuleKind.Authority && Leads(s.Id, to, paths, seen))
        );
}
