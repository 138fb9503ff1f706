using System.Globalization;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Settings;

/// <summary>A setting that nobody has tried: speed in mm/s, with its working.</summary>
/// <param name="From">The entry it is scaled from; null where it is from the table of energies.</param>
public sealed record GuessedSetting(decimal Watts, decimal PowerPercent, decimal SpeedMmS, int Passes, Guid? From, string Working);

/// <summary>
/// Where the library has nothing that fits: from another thickness v2 = v1 · t1 / t2, from another machine of its kind v2 = v1 · P2 / P1,
/// else from the energy that a millimetre of line takes for each millimetre of thickness. Source: common practice, rough; a test piece
/// comes first.
/// </summary>
public static class FirstGuess
{
    /// <summary>Slowest sensible cut: below it several passes are made instead of one slow one.</summary>
    private const decimal SlowestMmS = 5;

    /// <param name="entries">Of this material and operation, on any machine.</param>
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
        {
            var v = own.Values;
            var speed = LineEnergy.SpeedFor(v.SpeedMmS, v.ThicknessMm, wish.ThicknessMm);
            return Made(
                machine,
                v.Watts,
                speed,
                v.Passes,
                own.Id,
                $"from the setting for {Length.Show(v.ThicknessMm, unit)}: {Speed.Show(v.SpeedMmS)}"
                    + $" x {Number(v.ThicknessMm)} / {Number(wish.ThicknessMm)} = {Speed.Show(speed)}"
            );
        }
        var kin = like.Where(e =>
            e.Values.MachineId != wish.MachineId && machines.GetValueOrDefault(e.Values.MachineId)?.Kind == machine.Kind
        );
        if (Nearest(kin, wish) is { } other)
        {
            var v = other.Values;
            var watts = machine.PowerW * v.PowerPercent / 100;
            var speed = LineEnergy.SpeedFor(LineEnergy.SpeedWith(v.SpeedMmS, v.Watts, watts), v.ThicknessMm, wish.ThicknessMm);
            return Made(
                machine,
                watts,
                speed,
                v.Passes,
                other.Id,
                $"from {machines[v.MachineId].Name}: {Speed.Show(v.SpeedMmS)} x {Number(watts)} W / {Number(v.Watts)} W"
                    + $" x {Number(v.ThicknessMm)} / {Number(wish.ThicknessMm)} = {Speed.Show(speed)}"
            );
        }
        var full = machine.PowerW * Delivered;
        var energy = energyJPerMm2 * Lean;
        var single = full / (energy * wish.ThicknessMm);
        var passes = single >= SlowestMmS ? 1 : (int)Math.Ceiling(SlowestMmS / single);
        return Made(
            machine,
            full,
            single * passes,
            passes,
            null,
            $"{Number(full)} W / ({Number(energy)} J for each mm and mm of thickness x {Number(wish.ThicknessMm)} mm)"
                + $" = {Speed.Show(single)}"
                + (passes > 1 ? $"; slower than {Speed.Show(SlowestMmS)}, so {passes} faster passes" : "")
        );
    }

    /// <summary>
    /// A guess takes less than a run is planned with: not through is mended by another pass, too much is how sheets catch fire. Set so that
    /// a 15 W diode on 1/8 in plywood comes to the 2.36 J/mm of common practice (15 in/min).
    /// </summary>
    private const decimal Lean = 0.62m;

    /// <summary>Part of the rated power that is taken to reach the sheet.</summary>
    private const decimal Delivered = 0.8m;

    private static GuessedSetting Made(MachineSpec machine, decimal watts, decimal speed, int passes, Guid? from, string working)
    {
        var top = machine.TopSpeedMmS * 0.5m;
        return new GuessedSetting(
            Watts: Math.Round(watts, 2),
            PowerPercent: Math.Round(Math.Min(100, watts / machine.PowerW * 100), 1),
            SpeedMmS: Math.Round(Math.Min(speed, top), 2),
            Passes: passes,
            From: from,
            Working: speed > top ? $"{working}, at most half of the top speed: {Speed.Show(top)}" : working
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
