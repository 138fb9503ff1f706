namespace VelvetGate.Core.Run;

/// <summary>Optical density that eyewear needs when a beam can reach a person. A check, not a substitute for a laser safety officer.</summary>
public static class EyewearMath
{
    /// <summary>Aperture over which visible and near-infrared light is averaged: a 7 mm pupil, 0.385 cm2.</summary>
    private const double PupilCm2 = 0.385;

    /// <summary>3.5 mm aperture for far infrared, 0.0962 cm2.</summary>
    private const double FarInfraredCm2 = Math.PI * 0.35 * 0.35 / 4;

    /// <summary>OD = log10(E / MPE), the larger of the thermal and, below 500 nm, the photochemical one; never below 0.</summary>
    /// <param name="powerW">Average power in W, above 0.</param>
    /// <param name="wavelengthNm">400-500, 500-700, 700-1400 or above, in nm.</param>
    /// <remarks>
    /// Limits for people told to keep watching, from memory of ANSI Z136.1 / IEC 60825-1: far infrared beyond 10 s 0.1 W/cm2;
    /// 1064 nm 10 s 5.1 mW/cm2; 400-500 nm 10 s 1 mW/cm2 and photochemical 0.1 mW/cm2 · 10^(20(λ-0.45)), λ in µm, from 450 nm;
    /// other visible light 1 mW/cm2. 10 W at 450 nm: 4.4 thermal, 5.4 photochemical.
    /// </remarks>
    public static double RequiredOpticalDensity(double powerW, int wavelengthNm)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(powerW);
        var (area, limitWPerCm2) = wavelengthNm switch
        {
            > 1400 => (FarInfraredCm2, 0.1),
            > 700 => (PupilCm2, 5.1e-3),
            _ => (PupilCm2, 1e-3),
        };
        if (wavelengthNm is >= 400 and < 500)
            limitWPerCm2 = Math.Min(limitWPerCm2, 1e-4 * Math.Pow(10, 20 * Math.Max(0, wavelengthNm / 1000.0 - 0.45)));
        return Math.Max(0, Math.Log10(powerW / area / limitWPerCm2));
    }
}
