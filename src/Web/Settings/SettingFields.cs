using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Core.Settings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Settings;

/// <summary>What settings and test pieces are asked with: a machine, a material and a thickness.</summary>
internal static class SettingFields
{
    public static Task<bool> IsStaff(CurrentUser user) => user.Is(Role.Steward, Role.Trainer);

    public static MachineSpec? Known(FieldErrors errors, string? id, Dictionary<MachineId, MachineSpec> machines)
    {
        if (Ids.From<MachineId>(Texts.NullIfBlank(id)) is not { } wanted)
            errors.Add("machineId", "Choose the machine.");
        else if (machines.TryGetValue(wanted, out var found))
            return found;
        else
            errors.Add("machineId", SettingsProblems.SettingUnknown.Refuse(null, "machine").Text);
        return null;
    }

    public static Material? MaterialOf(FieldErrors errors, string? id, IReadOnlyList<Material> shelf)
    {
        if (shelf.FirstOrDefault(m => m.Id.Value == id) is { } found)
            return found;
        errors.Add("materialId", "Choose the material.");
        return null;
    }

    public static decimal Mm(FieldErrors errors, decimal? mm, string? typed, LengthUnit unit)
    {
        if (typed is not null || mm is null)
            return errors.Mm("thickness", typed, unit);
        if (mm is > 0 and <= 1000)
            return mm.Value;
        errors.Add("thicknessMm", SettingsProblems.SettingThickness.Text);
        return 1;
    }
}
