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

    private static double Micrometres(int nm) => nm / 1000.0;
}
