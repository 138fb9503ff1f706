namespace VelvetGate.Core.Materials;

/// <summary>A reading with its standard uncertainty, both in the same unit.</summary>
public readonly record struct Reading(double Value, double Uncertainty);

/// <summary>Density of a piece, in g/cm³.</summary>
/// <param name="StandardUncertainty">One standard uncertainty.</param>
/// <param name="Low">Lower end of the interval with coverage factor 2.</param>
/// <param name="High">Upper end of the interval with coverage factor 2.</param>
public sealed record Density(double Value, double StandardUncertainty, double Low, double High)
{
    /// <summary>Expanded uncertainty, coverage factor 2: about 95 %.</summary>
    public double Expanded => 2 * StandardUncertainty;
}

/// <param name="MaterialId">Of the list; null for a stuff the list keeps under a wider name.</param>
/// <param name="Low">g/cm³.</param>
/// <param name="High">g/cm³.</param>
public sealed record DensityRange(string Name, MaterialId? MaterialId, double Low, double High);

/// <summary>What a steward saw besides the weight.</summary>
/// <param name="Flame">Copper-wire test, where a house offers it: true for a green flame, false for none, null when not made.</param>
/// <param name="CutBadly">A cut that happened already went very badly, left yellow sticky residue, or smelled choking.</param>
public sealed record Observed(bool? Flame, bool CutBadly);

/// <param name="Possible">What the density leaves open; they cannot be told apart by it.</param>
/// <param name="Excluded">What the density excludes.</param>
/// <param name="Warnings">What was seen, and what follows.</param>
/// <param name="Says">The one sentence to read out. It never permits.</param>
public sealed record IdentificationOutcome(
    Density Density,
    IReadOnlyList<string> Possible,
    IReadOnlyList<string> Excluded,
    IReadOnlyList<string> Warnings,
    string Says
);

/// <summary>
/// The identification bench: weight and size exclude, they never permit. Uncertainties combine in quadrature, coverage factor 2 (JCGM
/// 100:2008, 5.1 and 6.2).
/// Ranges are handbook values from memory; foamed, filled, coated and layered stock gets no statement.
/// </summary>
public static class Identification
{
    /// <summary>Solid, unfilled, single-layer sheet. Handbook ranges, g/cm³, from memory.</summary>
    public static IReadOnlyList<DensityRange> Table { get; } =
    [
        new("Acrylic (PMMA)", "acrylic-clear", 1.17, 1.20),
        new("Polycarbonate", "polycarbonate", 1.20, 1.22),
        new("PETG", "petg", 1.26, 1.28),
        new("Rigid PVC", "pvc-sheet", 1.30, 1.45),
        new("Soft PVC", "pvc-sheet", 1.10, 1.40),
        new("PET", "polyester-film", 1.33, 1.40),
        new("Polystyrene (HIPS)", "polystyrene", 1.03, 1.06),
        new("ABS", "abs", 1.03, 1.07),
        new("Polypropylene", "polypropylene", 0.89, 0.92),
        new("HDPE", "hdpe", 0.94, 0.97),
        new("Nylon (PA6)", "nylon", 1.12, 1.15),
        new("POM (acetal)", "pom", 1.41, 1.43),
        new("PTFE", "fluoropolymer", 2.1, 2.2),
        new("G10", "fibreglass", 1.8, 2.0),
    ];

    /// <summary>What whoever tests reads first.</summary>
    /// <param name="flameOffered">House rule; schools do not offer it.</param>
    public static IReadOnlyList<string> Cautions(bool flameOffered) =>
        [
            "Nothing here permits a sheet: tests exclude, papers decide.",
            "Nobody test-cuts an unknown to find out. Only a cut that happened already tells.",
            "Foamed, filled, coated or layered stock gets no statement by weight.",
            .. flameOffered
                ? new[]
                {
                    "Flame test: a trained steward only, in a fume cupboard or outdoors, eye protection on, never under the "
                        + "laser’s extraction. Follow your local code; when in doubt, do not make it.",
                }
                : [],
        ];

    /// <summary>m / (L·W·t), with the relative uncertainties of all four readings in quadrature.</summary>
    /// <param name="massG">g.</param>
    /// <param name="lengthMm">mm; likewise width and thickness.</param>
    /// <returns>Or why not: a reading that is not above zero, or uncertain by more than itself.</returns>
    public static Result<Density> DensityOf(Reading massG, Reading lengthMm, Reading widthMm, Reading thicknessMm)
    {
        (string Field, Reading Reading)[] readings =
        [
            ("mass", massG),
            ("length", lengthMm),
            ("width", widthMm),
            ("thickness", thicknessMm),
        ];
        foreach (var (field, reading) in readings)
        {
            if (!(reading.Value > 0) || !double.IsFinite(reading.Value))
                return MaterialsProblems.DensityReading.Refuse(field);
            // Without its uncertainty a reading excludes nothing honestly.
            if (!(reading.Uncertainty > 0) || reading.Uncertainty >= reading.Value)
                return MaterialsProblems.DensityUncertainty.Refuse(field);
        }
        var value = massG.Value / (lengthMm.Value * widthMm.Value * thicknessMm.Value) * 1000;
        var u = value * Math.Sqrt(readings.Sum(r => Math.Pow(r.Reading.Uncertainty / r.Reading.Value, 2)));
        return new Density(value, u, value - 2 * u, value + 2 * u);
    }

    /// <summary>Excludes what neither the density nor what was seen leaves possible.</summary>
    /// <param name="plain">The steward looked: solid, one layer, no foam, filler, coating or film.</param>
    public static Result<IdentificationOutcome> Exclude(Density density, bool plain, Observed seen)
    {
        if (!plain)
            return MaterialsProblems.DensityNotPlain.Refuse("plain");
        var possible = Table.Where(r => r.High >= density.Low && r.Low <= density.High).ToList();
        var warnings = new List<string>();
        if (seen.Flame == true)
            warnings.Add("Green flame: a halogen is in it. Ban and quarantine the sheet.");
        if (seen.Flame == false)
            warnings.Add("No green proves nothing: fluorine does not show, and a small share of chlorine may not.");
        if (seen.CutBadly)
            warnings.Add("It cut very badly, left sticky residue or smelled choking: stop, report the sheet, and look at lens and rails.");
        if (seen.Flame == true || seen.CutBadly)
            return new IdentificationOutcome(
                density,
                [.. possible.Select(p => p.Name)],
                Excluded(possible),
                warnings,
                "What was seen is enough to refuse it. Quarantine it."
            );
        var says = possible.Count switch
        {
            0 => "No solid plastic of the table has this density: weigh and measure again, and think of filled or layered stock. It "
                + "stays out.",
            1 => $"Of the table only {possible[0].Name} is left, but the table is not everything there is. Papers decide; this "
                + "permits nothing.",
            _ => $"It may be any of these {possible.Count}, and weight cannot tell them apart. Papers decide; this permits nothing.",
        };
        return new IdentificationOutcome(density, [.. possible.Select(p => p.Name)], Excluded(possible), warnings, says);
    }

    private static IReadOnlyList<string> Excluded(List<DensityRange> possible) => [.. Table.Except(possible).Select(r => r.Name)];
}
