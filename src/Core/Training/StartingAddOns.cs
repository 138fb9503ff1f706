using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;

namespace VelvetGate.Core.Training;

/// <summary>
/// Add-ons that a steward may start from. Source: common practice; thickness, runs and steps are house practice and are changed before they
/// hold.
/// </summary>
public static class StartingAddOns
{
    /// <summary>
    /// Above this, in mm, one pass is no longer usual on a bench cutter, edges char, and flames last longer. From memory; a house sets its
    /// own.
    /// </summary>
    public const decimal ThickAboveMm = 6;

    /// <summary>
    /// What fits the machine: thick stock on one that cuts, metal under a marking compound or bare where it marks metal, and teaching
    /// others.
    /// </summary>
    public static IReadOnlyList<TrainingPath> For(MachineSpec machine)
    {
        PathStep first = new(ModuleKind.Authority, machine.Id.Value),
            note = new(ModuleKind.SignOff);
        TrainingPath AddOn(string name, int runs, AddOnNeed need) =>
            new(Paths.NewAddOn(machine.Id, name), name, [first, new(ModuleKind.SupervisedRuns, Count: runs), note], [note], need);
        List<TrainingPath> all =
        [
            AddOn("Metal marking", 1, new AddOnNeed(MaterialIds: Metals)),
            AddOn("Trainer", 3, new AddOnNeed(ForSigning: true)),
        ];
        if (machine.Kind != LaserKind.Fibre)
            all.Insert(0, AddOn("Thick stock", 1, new AddOnNeed(ThickerThanMm: ThickAboveMm)));
        return all;
    }

    private static IReadOnlyList<MaterialId> Metals { get; } =
    [
        .. MaterialTable
            .Materials.Where(m =>
                m.Family == "metal" && MaterialTable.Rulings.Any(r => r.MaterialId == m.Id && r.Standing != RulingStatus.Never)
            )
            .Select(m => m.Id),
    ];
}
