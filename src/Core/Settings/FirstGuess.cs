using System.Globalization;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Settings;

/// <summary>A setting that nobody has tried: speed in mm/s, with its working.</summary>
/// <param name="From">The entry it is scaled from; null where it is from the table of energies.</param>
public sealed record GuessedSetting(decimal Watts, decimal PowerPercent, decimal SpeedMmS, int Passes, Guid? From, string Working)
{
    /// <summary>As an entry would have it.</summary>
    public SettingValues As(SettingWish wish) =>
        new(
            MachineId: wish.MachineId,
            MaterialId: wish.MaterialId,
            ThicknessMm: wish.ThicknessMm,
            Operation: wish.Operation,
            PowerPercent: PowerPercent,
            Watts: Watts,
            SpeedMmS: SpeedMmS,
            Passes: Passes,
            FrequencyHz: null,
            PitchMm: null,
            Offsets: [],
            FocusOffsetMm: 0,
            FanLevel: null,
            AirAssist: true,
            Fixture: "",
            Mask: Mask.None,
            MaskOf: "",
            Origin: SettingOrigin.FirstGuess,
            Note: ""
        );
}

/// <summary>
/// Where the library has nothing that fits: a cut from another thickness v2 = v1 · t1 / t2, anything from another machine of its kind
/// v2 = v1 · P2 / P1, else from the energy that a millimetre of line takes for each millimetre of thickness. Scoring and engraving do not
/// hang on the thickness, and begin low. What comes out slow is made in several faster passes. Source: common practice, rough; a test piece
/// comes first.
/// </summary>
public static class FirstGuess
{
    /// <summary>Slowest sensible cut: below it several passes are made instead of one slow one.</summary>
    private const decimal SlowestMmS = 5;

    /// <summary>
    /// A guess takes less than a run is planned with: not through is mended by another pass, too much is how sheets catch fire. Set so that
    /// a 15 W diode on 1/8 in plywood comes to the 2.36 J/mm of common practice (15 in/min).
    /// </summary>
    private const decimal Lean = 0.62m;

    /// <summary>Part of the rated power that is taken to reach the sheet.</summary>
    private const decimal Delivered = 0.8m;

    /// <summary>Scoring begins with so much of the energy that cuts one millimetre; engraving with so much of the power.</summary>
    private const decimal ScorePart = 0.3m;
    private const decimal EngravePercent = 20;
    private const decimal EngraveMmS = 400;

    /// <param name="entries">Of this material, on any machine.</param>
    /// <param name="machines">By id: power and kind.</param>
    /// <param name="energyJPerMm2">J per mm of line and mm of thickness.</param>
    public static GuessedSetting Of(
        SettingWish wish,
        IReadOnlyList<Setting> entries,
        IReadOnlyDictionary<MachineId, MachineSpec> machines,
        decimal energyJPerMm2,
        LengthUnit unit = LengthUnit.Mm
    )
    {
        var machine = machines[wish.MachineId];
        var like = entries
            .Where(e => e.Values.Operation == wish.Operation && e.Values.MaterialId == wish.MaterialId && e.Results.Flames == 0)
            .ToList();
        if (Nearest(like.Where(e => e.Values.MachineId == wish.MachineId), wish) is { } own)
            return Scaled(own, wish, machine, own.Values.Watts, $"the setting for {Length.Show(own.Values.ThicknessMm, unit)}");
        var kin = like.Where(e =>
            e.Values.MachineId != wish.MachineId && machines.GetValueOrDefault(e.Values.MachineId)?.Kind == machine.Kind
        );
        if (Nearest(kin, wish) is { } other)
            return Scaled(other, wish, machine, machine.PowerW * other.Values.PowerPercent / 100, machines[other.Values.MachineId].Name);
        var full = machine.PowerW * Delivered;
        var energy = energyJPerMm2 * Lean;
        return wish.Operation switch
        {
            Operation.Engrave => Made(
                wish,
                machine,
                machine.PowerW * EngravePercent / 100,
                Math.Min(EngraveMmS, machine.TopSpeedMmS),
                1,
                null,
                $"engraving begins low: {Number(EngravePercent)} % at {Speed.Show(Math.Min(EngraveMmS, machine.TopSpeedMmS))}"
            ),
            Operation.Score => Made(
                wish,
                machine,
                full,
                full / (energy * ScorePart),
                1,
                null,
                $"{Number(full)} W / ({Number(ScorePart)} of the {Number(energy)} J that cut 1 mm)"
                    + $" = {Speed.Show(full / (energy * ScorePart))}"
            ),
            _ => Made(
                wish,
                machine,
                full,
                full / (energy * wish.ThicknessMm),
                1,
                null,
                $"{Number(full)} W / ({Number(energy)} J for each mm and mm of thickness x {Number(wish.ThicknessMm)} mm)"
                    + $" = {Speed.Show(full / (energy * wish.ThicknessMm))}"
            ),
        };
    }

    private static GuessedSetting Scaled(Setting entry, SettingWish wish, MachineSpec machine, decimal watts, string from)
    {
        var v = entry.Values;
        var speed = LineEnergy.SpeedWith(v.SpeedMmS, v.Watts, watts);
        var working = watts == v.Watts ? Speed.Show(v.SpeedMmS) : $"{Speed.Show(v.SpeedMmS)} x {Number(watts)} W / {Number(v.Watts)} W";
        if (wish.Operation == Operation.Cut)
        {
            speed = LineEnergy.SpeedFor(speed, v.ThicknessMm, wish.ThicknessMm);
            working += $" x {Number(v.ThicknessMm)} / {Number(wish.ThicknessMm)}";
        }
        return Made(wish, machine, watts, speed, v.Passes, entry.Id, $"from {from}: {working} = {Speed.Show(speed)}");
    }

    private static GuessedSetting Made(
        SettingWish wish,
        MachineSpec machine,
        decimal watts,
        decimal speed,
        int passes,
        Guid? from,
        string working
    )
    {
        if (wish.Operation == Operation.Cut && speed < SlowestMmS)
        {
            // The same energy, in passes that are each fast enough.
            var times = (int)Math.Ceiling(SlowestMmS / speed);
            (speed, passes) = (speed * times, passes * times);
            working += $"; slower than {Speed.Show(SlowestMmS)}, so {passes} faster passes";
        }
        var top = wish.Operation == Operation.Engrave ? machine.TopSpeedMmS : machine.TopSpeedMmS * 0.5m;
        return new GuessedSetting(
            Watts: Math.Round(watts, 2),
            PowerPercent: Math.Round(Math.Min(100, watts / machine.PowerW * 100), 1),
            SpeedMmS: Math.Round(Math.Min(speed, top), 2),
            Passes: passes,
            From: from,
            Working: speed > top ? $"{working}, at most {Speed.Show(top)} here" : working
        );
    }

    private static Setting? Nearest(IEnumerable<Setting> entries, SettingWish wish) =>
        entries
            .OrderBy(e => Math.Abs(e.Values.ThicknessMm - wish.ThicknessMm))
            .ThenBy(e => e.Values.Origin)
            .ThenByDescending(e => e.At)
            .FirstOrDefault();

    private static string Number(decimal value) => value.ToString("0.###", CultureInfo.InvariantCulture);
}
