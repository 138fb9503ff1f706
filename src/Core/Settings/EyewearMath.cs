namespace VelvetGate.Core.Settings;

/// <summary>
/// Optical density that eyewear needs when a beam can reach a person. A check, not a substitute for a laser safety officer.
/// </summary>
public static class EyewearMath
{
    /// <summary>Aperture over which visible and near-infrared light is averaged: a 7 mm pupil, 0.385 cm2.</summary>
    private const double PupilCm2 = 0.385;

    /// <summary>3.5 mm aperture for far infrared, 0.0962 cm2.</summary>
    private const double FarInfraredCm2 = Math.PI * 0.35 * 0.35 / 4;

    /// <summary>OD = log10(E / MPE), the larger of the thermal and, below 500 nm, the photochemical one; never below 0.</summary>
    /// <param name="powerW">Average power in W, above 0.</param>
    /// <param name="wavelengthNm">In nm.</param>
    /// <returns>Null outside 400 to 1400 nm and 10.6 µm: there the limits are not known here.</returns>
    /// <remarks>
    /// Limits for people told to keep watching, from memory of ANSI Z136.1 / IEC 60825-1: 10.6 µm beyond 10 s 0.1 W/cm2;
    /// near infrared 10 s 1.02 mW/cm2 · C_A, with C_A = 10^(2(λ-0.7)) from 700 to 1050 nm and 5 to 1400 nm (1064 nm: 5.1 mW/cm2);
    /// 400-500 nm 10 s 1 mW/cm2 and photochemical 0.1 mW/cm2 · 10^(20(λ-0.45)), λ in µm, from 450 nm; other visible light 1 mW/cm2.
    /// 10 W at 450 nm: 4.4 thermal, 5.4 photochemical.
    /// </remarks>
    public static double? RequiredOpticalDensity(double powerW, int wavelengthNm)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(powerW);
        (double AreaCm2, double LimitWPerCm2)? known = wavelengthNm switch
        {
            >= 400 and < 500 => (PupilCm2, Math.Min(1e-3, 1e-4 * Math.Pow(10, 20 * Math.Max(0, Micrometres(wavelengthNm) - 0.45)))),
            >= 500 and < 700 => (PupilCm2, 1e-3),
            >= 700 and <= 1400 => (PupilCm2, 5.1e-3 / 5 * Math.Min(5, Math.Pow(10, 2 * (Micrometres(wavelengthNm) - 0.7)))),
            >= 10_500 and <= 10_700 => (FarInfraredCm2, 0.1),
            _ => null,
        };
        return known is { } k ? Math.Max(0, Math.Log10(powerW / k.AreaCm2 / k.LimitWPerCm2)) : null;
    }

    /// <summary>
    /// OD for a train of pulses: the larger of one pulse, with the factor for many (n^-1/4 over 10 s), and of the average power.
    /// </summary>
    /// <param name="pulseJ">Energy of one pulse in J, above 0.</param>
    /// <param name="pulseS">Its length in s, 1 ns to 0.25 s.</param>
    /// <param name="hz">Pulses a second, above 0.</param>
    /// <returns>Null where the limits are not known here.</returns>
    /// <remarks>
    /// Limits for one pulse t, from memory of ANSI Z136.1 (2007): 400-700 nm 0.5 µJ/cm2 up to 18 µs, then 1.8 t^0.75 mJ/cm2; to 1050 nm
    /// C_A times that; to 1400 nm 5 µJ/cm2 up to 50 µs, then 9 t^0.75 mJ/cm2; 10.6 µm 10 mJ/cm2 up to 100 ns, then 0.56 t^0.25 J/cm2 over
    /// an aperture of 1 mm.
    /// </remarks>
    public static double? RequiredForPulses(double pulseJ, double pulseS, double hz, int wavelengthNm)
    {
        if (pulseS is < 1e-9 or > 0.25 || RequiredOpticalDensity(pulseJ * hz, wavelengthNm) is not { } average)
            return null;
        var ca = Math.Min(5, Math.Pow(10, 2 * Math.Max(0, Micrometres(wavelengthNm) - 0.7)));
        var (areaCm2, limitJPerCm2) = wavelengthNm switch
        {
            < 1050 => (PupilCm2, pulseS <= 18e-6 ? 5e-7 * ca : 1.8e-3 * ca * Math.Pow(pulseS, 0.75)),
            <= 1400 => (PupilCm2, pulseS <= 50e-6 ? 5e-6 : 9e-3 * Math.Pow(pulseS, 0.75)),
            _ => (Math.PI * 0.1 * 0.1 / 4, pulseS <= 1e-7 ? 1e-2 : 0.56 * Math.Pow(pulseS, 0.25)),
        };
        var many = Math.Pow(Math.Max(1, hz * WatchedS), -0.25);
        return Math.Max(average, Math.Log10(pulseJ / areaCm2 / (limitJPerCm2 * many)));
    }

    /// <summary>How long somebody is taken to watch on, in s.</summary>
    private const double WatchedS = 10;

    /// <summary>Whether the photochemical limit decides: below about 484 nm it is the lower one.</summary>
    public static bool IsPhotochemical(int wavelengthNm) =>
        wavelengthNm is >= 400 and < 500 && 1e-4 * Math.Pow(10, 20 * Math.Max(0, Micrometres(wavelengthNm) - 0.45)) < 1e-3;

    private static double Micrometres(int nm) => nm / 1000.0;
}
