using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;

namespace VelvetGate.Core.Settings;

/// <summary>What a setting may be, and who may add which. Limits: typing errors; the words on tape are common practice.</summary>
public static class SettingRules
{
    public const int NoteLongest = 500;
    public const int WordsLongest = 80;
    public const int MostPasses = 100;
    public const int MostOffsets = 3;
    public const decimal LeastSpeedMmS = 0.1m;

    /// <summary>All that is wrong with it, each with its field.</summary>
    /// <param name="staff">Stewards and trainers.</param>
    public static IEnumerable<Refusal> Check(SettingValues s, MachineSpec machine, bool staff, bool membersMayAdd)
    {
        if (MayAdd(staff, membersMayAdd) is { } notYours)
            yield return notYours;
        if (!staff && s.Origin == SettingOrigin.Technician)
            yield return SettingsProblems.SettingOriginStaff.Refuse("origin");
        if (s.PowerPercent is <= 0 or > 100)
            yield return SettingsProblems.SettingPower.Refuse("powerPercent");
        if (s.Watts <= 0 || s.Watts > machine.PowerW * 1.5m)
            yield return SettingsProblems.SettingWatts.Refuse("watts", machine.PowerW);
        if (s.SpeedMmS < LeastSpeedMmS || s.SpeedMmS > machine.TopSpeedMmS)
            yield return SettingsProblems.SettingSpeed.Refuse("speed", machine.Name, Speed.Show(machine.TopSpeedMmS));
        if (s.Passes is < 1 or > MostPasses)
            yield return SettingsProblems.SettingPasses.Refuse("passes", MostPasses);
        if (s.FrequencyHz is <= 0 or > 1_000_000)
            yield return SettingsProblems.SettingFrequency.Refuse("frequencyHz");
        if (s.PitchMm is <= 0 or > 10)
            yield return SettingsProblems.SettingPitch.Refuse("pitch");
        if (s.Operation == Operation.Engrave && s.PitchMm is null)
            yield return SettingsProblems.SettingPitchMissing.Refuse("pitch");
        if (s.Offsets.Count > MostOffsets || s.Offsets.Any(o => Math.Abs(o) > 100))
            yield return SettingsProblems.SettingOffsets.Refuse("offsets", MostOffsets);
        if (Math.Abs(s.FocusOffsetMm) > 50)
            yield return SettingsProblems.SettingFocus.Refuse("focusOffset");
        if (s.FanLevel is < 0 or > 10)
            yield return SettingsProblems.SettingFan.Refuse("fanLevel");
        if (s.Mask != Mask.None && string.IsNullOrWhiteSpace(s.MaskOf))
            yield return SettingsProblems.SettingMaskOf.Refuse("maskOf");
        else if (s.Mask != Mask.None && IsVinyl(s.MaskOf))
            yield return SettingsProblems.SettingVinyl.Refuse("maskOf");
    }

    public static Refusal? MayAdd(bool staff, bool membersMayAdd) => staff || membersMayAdd ? null : SettingsProblems.SettingStaff.Refuse();

    /// <summary>
    /// What no ruling permits has no setting: none is added, suggested, guessed or tried. What nobody has ruled on is not permitted.
    /// </summary>
    /// <param name="rulings">Of the material, as they hold.</param>
    /// <returns>Null where a sheet may be run, if only by arrangement.</returns>
    public static Refusal? Ruled(MachineSpec machine, IEnumerable<Ruling> rulings, Operation operation, decimal thicknessMm) =>
        Shelf.At(machine, rulings, operation, thicknessMm) switch
        {
            RulingStatus.Never => SettingsProblems.SettingNever.Refuse("materialId"),
            RulingStatus.Banned => SettingsProblems.SettingBanned.Refuse("materialId"),
            RulingStatus.Cannot => SettingsProblems.SettingCannot.Refuse(
                "thickness",
                machine.Name,
                operation.ToString().ToLowerInvariant()
            ),
            _ => null,
        };

    /// <summary>Whoever added it, or staff, takes an entry out; once.</summary>
    public static Refusal? MayEnd(PersonId by, PersonId addedBy, bool staff, bool ended) =>
        !staff && by != addedBy ? SettingsProblems.SettingNotYours.Refuse()
        : ended ? SettingsProblems.SettingEnded.Refuse()
        : null;

    /// <summary>Vinyl tape gives off hydrogen chloride, as every PVC does.</summary>
    public static bool IsVinyl(string words) =>
        new[] { "vinyl", "pvc", "v.c.", "chlorid" }.Any(w => words.Contains(w, StringComparison.OrdinalIgnoreCase));
}
