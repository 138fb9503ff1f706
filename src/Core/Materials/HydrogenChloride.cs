namespace VelvetGate.Core.Materials;

/// <param name="VinylMg">Vinyl chloride units burnt away in the kerf, in mg.</param>
/// <param name="HclMg">Hydrogen chloride from it, in mg: one for each unit.</param>
/// <param name="EnclosurePpm">Spread in the enclosure alone.</param>
/// <param name="RoomPpm">Spread in the room; null when its size is not known.</param>
/// <param name="CeilingPpm">NIOSH ceiling, for people who work with the acid knowingly.</param>
public sealed record ChlorideOutcome(
    double VinylMg,
    double HclMg,
    double EnclosurePpm,
    double? RoomPpm,
    double CeilingPpm,
    IReadOnlyList<string> Assumptions,
    string Says
);

/// <summary>
/// Why vinyl is never allowed, as arithmetic: all chlorine of the kerf leaves as hydrogen chloride. Teaching, never a limit. Molar masses
/// from the IUPAC
/// standard atomic weights (2021, abridged); the ceiling of 5 ppm is NIOSH's, from memory.
/// </summary>
public static class HydrogenChloride
{
    /// <summary>C₂H₃Cl, g/mol: 2·12.011 + 3·1.008 + 35.45.</summary>
    public const double VinylChlorideGMol = 2 * 12.011 + 3 * 1.008 + 35.45;

    /// <summary>HCl, g/mol.</summary>
    public const double HclGMol = 1.008 + 35.45;

    /// <summary>NIOSH ceiling for hydrogen chloride, ppm by volume. From memory.</summary>
    public const double CeilingPpm = 5;

    /// <summary>Density taken for vinyl sheet, g/cm³: the middle of rigid PVC.</summary>
    public const double DensityGCm3 = 1.38;

    /// <summary>Molar volume of a gas at 20 °C and 101.325 kPa, L/mol: R·T/p.</summary>
    public const double MolarVolumeL = 8.314462618 * 293.15 / 101.325;

    /// <param name="cutMm">Length of the cut, mm.</param>
    /// <param name="thicknessMm">mm.</param>
    /// <param name="kerfMm">mm.</param>
    /// <param name="enclosureM3">m³.</param>
    /// <param name="roomM3">m³; null when not known.</param>
    /// <returns>Or the field that is not above zero.</returns>
    public static Result<ChlorideOutcome> Of(double cutMm, double thicknessMm, double kerfMm, double enclosureM3, double? roomM3)
    {
        foreach (
            var (field, value) in new[]
            {
                ("cut", cutMm),
                ("thickness", thicknessMm),
                ("kerf", kerfMm),
                ("enclosure", enclosureM3),
                ("room", roomM3 ?? 1),
            }
        )
            if (!(value > 0) || !double.IsFinite(value))
                return MaterialsProblems.ChlorideValue.Refuse(field);
        var vinylG = cutMm * thicknessMm * kerfMm / 1000 * DensityGCm3;
        var mol = vinylG / VinylChlorideGMol;
        var litres = mol * MolarVolumeL;
        var box = litres / (enclosureM3 * 1000) * 1e6;
        return new ChlorideOutcome(
            VinylMg: vinylG * 1000,
            HclMg: mol * HclGMol * 1000,
            EnclosurePpm: box,
            RoomPpm: roomM3 is { } room ? litres / (room * 1000) * 1e6 : null,
            CeilingPpm: CeilingPpm,
            Assumptions:
            [
                $"All of the kerf is pure vinyl chloride units of {DensityGCm3} g/cm³; plasticiser and filler would make it less.",
                "Every unit gives one hydrogen chloride, all at once, and nothing is drawn away.",
                "It spreads evenly; beside the cut there is far more.",
                "20 °C and 101.325 kPa.",
            ],
            Says: "Any length is shut. The ceiling is for people who work with the acid knowingly; it eats optics, rails and "
                + "fans at far less."
        );
    }
}
