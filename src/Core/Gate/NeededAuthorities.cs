using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating;

/// <summary>Which authorities a question needs: the machine, and each add-on that its stock or fixture asks for.</summary>
public static class NeededAuthorities
{
    /// <summary>The authorities a run needs: the machine, and each add-on whose need it meets.</summary>
    public static IEnumerable<string> Of(GateQuestion ask, IEnumerable<(string Authority, AddOnNeed Need)> addOns) =>
        addOns.Where(a => Meets(ask, a.Need)).Select(a => a.Authority).Prepend(ask.MachineId.Value);

    private static bool Meets(GateQuestion ask, AddOnNeed need) =>
        (need.Fixture is { } fixture && ask.Fixture == fixture)
        || (need.ThickerThanMm is { } mm && ask.Items.Any(i => i.ThicknessMm > mm))
        || (need.MaterialIds is { Count: > 0 } materials && ask.Items.Any(i => materials.Contains(i.MaterialId)));
}
