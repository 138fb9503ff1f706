using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>The machine and sheet a drawing is judged for, from what was chosen and typed.</summary>
internal sealed record CheckFor(MachineSpec Machine, Material Material, decimal ThicknessMm, LengthUnit Unit)
{
    /// <returns>Null when something is wrong, which <paramref name="errors"/> then names.</returns>
    public static async Task<CheckFor?> Read(
        string? machineId,
        string? materialId,
        string? thickness,
        string? unit,
        HouseStore house,
        MaterialStore materials,
        Instant now,
        FieldErrors errors,
        CancellationToken cancel
    )
    {
        var machines = await house.MachinesHere(now, cancel);
        var machine = machines.FirstOrDefault(m => machineId is null || m.Spec.Id == machineId);
        if (machine is null)
            errors.Add("machineId", "Choose a machine of this house.");
        var shelf = await materials.Shelf(now, cancel);
        var material = shelf.Materials.FirstOrDefault(m => m.Id == (materialId ?? "birch-ply-laser"));
        if (material is null)
            errors.Add("materialId", "Choose a material of this house.");
        var shown = errors.Unit(unit);
        var mm = errors.Mm("thickness", thickness ?? "3 mm", shown);
        return errors.Any ? null : new CheckFor(machine!.Spec, material!, mm, shown);
    }

    public DrawingReport Report(DrawingSummary drawing, HouseRules rules, IReadOnlyList<Clamp>? clamps = null) =>
        DrawingReport.Of(drawing, rules.Colours, Machine, Material.CutEnergyJPerMm2, ThicknessMm, Unit, clamps, rules);
}
