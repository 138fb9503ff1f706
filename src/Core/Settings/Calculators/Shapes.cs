namespace VelvetGate.Core.Settings.Calculators;

/// <summary>Round things and bent sheets. Lengths in mm.</summary>
public static class Shapes
{
    /// <summary>Taper above which a page wraps crooked on a level rotary. Source: common practice.</summary>
    public const decimal TaperMost = 0.02m;

    /// <summary>Once around: π · d, not rounded, so that both ends meet.</summary>
    public static double Around(double diameterMm) => Math.PI * diameterMm;

    /// <summary>(d1 − d2) / d1, of the wider to the narrower end.</summary>
    public static decimal Taper(decimal oneMm, decimal otherMm) =>
        (Math.Max(oneMm, otherMm) - Math.Min(oneMm, otherMm)) / Math.Max(oneMm, otherMm);

    /// <summary>Height of an arc over its chord: R − √(R² − b²/4).</summary>
    /// <param name="radiusMm">Radius R.</param>
    /// <param name="widthMm">Chord b, at most 2 R.</param>
    public static double Sag(double radiusMm, double widthMm)
    {
        if (widthMm > 2 * radiusMm)
            throw new ArgumentOutOfRangeException(nameof(widthMm), widthMm, "Wider than the circle.");
        return radiusMm - Math.Sqrt(radiusMm * radiusMm - widthMm * widthMm / 4);
    }
}

/// <summary>Kerf and what follows from it. Lengths in mm.</summary>
public static class Kerfs
{
    /// <summary>
    /// Width that the beam takes away, from parts cut side by side with a line between each two and one at both ends: what the parts lack
    /// together, over their number. Source: common practice.
    /// </summary>
    public static decimal OfComb(int parts, decimal nominalMm, decimal measuredMm) => (parts * nominalMm - measuredMm) / parts;

    /// <summary>How a slot is drawn that a sheet of this thickness fills: the beam widens it by one kerf.</summary>
    public static decimal Slot(decimal sheetMm, decimal kerfMm) => sheetMm - kerfMm;
}

/// <summary>A focused beam. Lengths in mm.</summary>
/// <param name="SpotMm">Diameter 2 w0 at the focus.</param>
/// <param name="RayleighMm">z_R: how far from the focus the spot is √2 as wide.</param>
public sealed record FocusedBeam(double SpotMm, double RayleighMm)
{
    /// <summary>
    /// 2 w0 = 4 M² λ f / (π D); z_R = π w0² / (M² λ). Source: Gaussian beams, as in ISO 11146-1 and A. E. Siegman, Lasers (1986).
    /// </summary>
    /// <param name="focalMm">Focal length f.</param>
    /// <param name="beamMm">Diameter D of the beam at the lens.</param>
    /// <param name="m2">Beam quality M², 1 for a perfect beam.</param>
    /// <param name="wavelengthNm">λ.</param>
    public static FocusedBeam Of(double focalMm, double beamMm, double m2, double wavelengthNm)
    {
        var wavelengthMm = wavelengthNm * 1e-6;
        var spot = 4 * m2 * wavelengthMm * focalMm / (Math.PI * beamMm);
        return new FocusedBeam(spot, Math.PI * spot * spot / 4 / (m2 * wavelengthMm));
    }

    /// <summary>Diameter of the spot at so much out of focus: 2 w0 √(1 + (z / z_R)²).</summary>
    public double At(double defocusMm) => SpotMm * Math.Sqrt(1 + Math.Pow(defocusMm / RayleighMm, 2));
}

/// <summary>Line energy: how much of the beam each millimetre of line gets.</summary>
public static class LineEnergy
{
    /// <summary>E = P · passes / v, in J/mm.</summary>
    /// <param name="watts">Delivered, not rated.</param>
    public static decimal Of(decimal watts, decimal speedMmS, int passes = 1) => watts * passes / speedMmS;

    /// <summary>The speed that gives this energy with other watts, in mm/s: v2 = v1 · P2 / P1. Source: common practice.</summary>
    public static decimal SpeedWith(decimal speedMmS, decimal watts, decimal otherWatts) => speedMmS * otherWatts / watts;

    /// <summary>The speed for another thickness, in mm/s: v2 = v1 · t1 / t2. Source: common practice, a first guess.</summary>
    public static decimal SpeedFor(decimal speedMmS, decimal mm, decimal otherMm) => speedMmS * mm / otherMm;
}
