using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Motion;

namespace VelvetGate.Core.Gating;

/// <summary>What the settings chosen say of the sheet measured, and what was tested before.</summary>
internal static class ChosenSettings
{
    /// <summary>
    /// This operation came out clean on this machine, on stock of about this thickness, not too long ago: with the setting chosen, where
    /// one is chosen.
    /// </summary>
    public static bool IsTested(GateQuestion ask, GateItem item, Operation operation, GateFacts facts)
    {
        var chosen = Of(item, facts).Where(s => s.Operation == operation).ToList();
        return chosen.Count > 0
            ? chosen.All(s => s.Clean.Any(c => Tested.Serves(c.ThicknessMm, c.At, item.ThicknessMm, ask.Start)))
            : Serve(facts.Machine.Tested, ask, item, operation);
    }

    /// <summary>The same came out clean, before the machine's optics were last touched.</summary>
    public static bool WasTested(GateQuestion ask, GateItem item, Operation operation, GateFacts facts) =>
        Serve(facts.Machine.TestedBefore ?? [], ask, item, operation);

    private static bool Serve(IReadOnlyList<TestedFacts> tested, GateQuestion ask, GateItem item, Operation operation) =>
        tested.Any(t =>
            t.MaterialId == item.MaterialId
            && t.Operation == operation
            && t.At is { } at
            && Tested.Serves(t.ThicknessMm, at, item.ThicknessMm, ask.Start)
        );

    /// <summary>The entries named that the library has.</summary>
    public static IEnumerable<SettingFacts> Of(GateItem item, GateFacts facts) =>
        (item.SettingIds ?? []).Distinct().Select(id => facts.Settings?.FirstOrDefault(s => s.Id == id)).OfType<SettingFacts>();

    /// <summary>Those named that are not known here.</summary>
    public static IEnumerable<Guid> Unknown(GateItem item, GateFacts facts) =>
        (item.SettingIds ?? []).Distinct().Where(id => facts.Settings?.Any(s => s.Id == id) != true);

    /// <summary>Why an entry is not for this machine, material, work and time; null where it is.</summary>
    public static string? NotFor(SettingFacts s, GateQuestion ask, GateItem item, string machine) =>
        s.MachineId != ask.MachineId ? $"is for another machine than {machine}"
        : s.MaterialId != item.MaterialId ? "is for another material"
        : !item.Operations.Contains(s.Operation) ? $"is to {Posts.Say.Verb(s.Operation)}, which the question does not ask for"
        : s.Held.End is { } end && end < ask.End ? "was taken out of the library"
        : null;

    /// <summary>
    /// A cut held against the sheet: by the thickness it is for and, where the house has tested cuts of about this thickness, by the
    /// energy that the least of them needs. The harder word governs.
    /// </summary>
    /// <returns>Null for anything but a cut: how deep an engraving goes does not hang on the sheet.</returns>
    public static SettingsMatch? Match(SettingFacts chosen, GateQuestion ask, GateItem item, GateFacts facts)
    {
        if (chosen.Operation != Operation.Cut)
            return null;
        var byThickness = SettingsMatch.Of(chosen.ThicknessMm, item.ThicknessMm);
        var needed = (facts.Settings ?? [])
            .Where(s =>
                s.MachineId == ask.MachineId
                && s.MaterialId == item.MaterialId
                && s.Operation == Operation.Cut
                && s.Flames == 0
                && s.Clean.Any(c => Tested.Serves(c.ThicknessMm, c.At, item.ThicknessMm, ask.Start))
            )
            // What cut a sheet of about this thickness needs this much for each millimetre of thickness.
            .Select(s => s.JPerMm * item.ThicknessMm / s.ThicknessMm)
            .Order()
            .FirstOrDefault();
        if (needed <= 0)
            return byThickness;
        var byEnergy = SettingsMatch.Of(chosen.JPerMm, needed);
        return byEnergy.Standing > byThickness.Standing ? byEnergy : byThickness;
    }

    /// <summary>What a run is planned with, once this entry is chosen.</summary>
    public static RunSettings Into(RunSettings planned, SettingFacts chosen) =>
        chosen.Operation switch
        {
            Operation.Cut => planned with { CutMmS = (double)chosen.SpeedMmS, Passes = chosen.Passes },
            // Scoring and engraving are one pass in the estimate: several take as many times as long.
            Operation.Score => planned with { ScoreMmS = (double)chosen.SpeedMmS / chosen.Passes },
            _ => planned with
            {
                EngraveMmS = (double)chosen.SpeedMmS,
                PitchMm = (double)(chosen.PitchMm ?? (decimal)RunSettings.UsualPitchMm) / chosen.Passes,
            },
        };

    /// <summary>A test piece on this very sheet came out clean: with its tag, or without one on stock of about this thickness.</summary>
    public static bool IsProved(SettingFacts chosen, GateQuestion ask, GateItem item) =>
        chosen.Clean.Any(c =>
            (item.SheetTag is null || c.Tag == item.SheetTag) && Tested.Serves(c.ThicknessMm, c.At, item.ThicknessMm, ask.Start)
        );
}
