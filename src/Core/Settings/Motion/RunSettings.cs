using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>How a drawing is run. Speeds in mm/s, acceleration in mm/s2, pitch in mm.</summary>
/// <param name="CornerMmS">At a corner; 0 stops there.</param>
/// <param name="RapidMmS">Between paths, beam off.</param>
/// <param name="PitchMm">Between two lines of engraving.</param>
/// <param name="StartUpSeconds">Before each layer.</param>
/// <param name="OverscanMm">Run-out beyond each end of an engraved row; null: as far as braking takes.</param>
/// <param name="Factors">How the machine's own runs compare with such an estimate.</param>
public sealed record RunSettings(
    double CutMmS,
    double ScoreMmS,
    double EngraveMmS,
    double PitchMm,
    int Passes,
    double AccelerationMmS2,
    double CornerMmS,
    double RapidMmS,
    double StartUpSeconds = 0,
    double? OverscanMm = null,
    IReadOnlyList<TimeFactor>? Factors = null
)
{
    /// <summary>Line pitch that engraving is planned with where no setting is chosen.</summary>
    public const double UsualPitchMm = 0.1;

    /// <summary>Engraving speed that is planned with where no setting is chosen.</summary>
    public const double UsualEngraveMmS = 400;

    /// <summary>Part of the rated power that is taken to reach the sheet.</summary>
    private const double Delivered = 0.8;

    /// <summary>Slowest sensible cut: below it several passes are made instead of one slow one.</summary>
    private const double SlowestMmS = 5;

    /// <summary>
    /// What a run is planned with before a setting is chosen, from line energy: v = P / (e · t). Always start with a test piece.
    /// </summary>
    /// <param name="energyJPerMm2">Energy to cut, J per mm of path and mm of thickness: from memory, rough.</param>
    public static RunSettings For(MachineSpec machine, decimal energyJPerMm2, decimal thicknessMm)
    {
        var top = (double)machine.TopSpeedMmS;
        var oneMm = Delivered * (double)machine.PowerW / (double)energyJPerMm2;
        var single = oneMm / Math.Max(0.1, (double)thicknessMm);
        var passes = single >= SlowestMmS ? 1 : (int)Math.Ceiling(SlowestMmS / single);
        return new RunSettings(
            CutMmS: Math.Min(single * passes, top * 0.5),
            ScoreMmS: Math.Min(oneMm * 2, top * 0.6),
            EngraveMmS: Math.Min(UsualEngraveMmS, top),
            PitchMm: UsualPitchMm,
            Passes: passes,
            AccelerationMmS2: (double)machine.AccelerationMmS2,
            CornerMmS: (double)(machine.Motion?.CornerMmS ?? 0),
            RapidMmS: Math.Min(top, (double)(machine.Motion?.RapidMmS ?? machine.TopSpeedMmS)),
            StartUpSeconds: (double)(machine.Motion?.StartUpSeconds ?? 0),
            OverscanMm: (double?)machine.Motion?.OverscanMm,
            Factors: machine.TimeFactors
        );
    }
}
