namespace VelvetGate.Core.Settings.Calculators;

/// <summary>
/// A living hinge: rows of slots across a strip, so that the webs between them twist. Each web turns by an equal part of the bend; its
/// corners need the width of the slots to turn in, and its fibres shear as it twists. Lengths in mm.
/// </summary>
/// <param name="Webs">Webs across the bend.</param>
/// <param name="TwistDegrees">How far each web turns.</param>
/// <param name="NeededGapMm">The slot, kerf included, that a web turning in it needs.</param>
/// <param name="Shear">Greatest shear strain in a web.</param>
public sealed record Hinge(int Webs, double TwistDegrees, double NeededGapMm, double Shear)
{
    /// <summary>Shear above which plywood, board and acrylic are likely to crack. A cautious value from memory of wood handbooks.</summary>
    public const double MostShear = 0.015;

    /// <summary>More than any strip has: a typing error.</summary>
    private const int MostWebs = 100_000;

    /// <param name="sheetMm">Thickness t.</param>
    /// <param name="webMm">Width w of a web between two rows of slots.</param>
    /// <param name="gapMm">Width of a slot, kerf included.</param>
    /// <param name="slotMm">Length of a slot; a web twists over about half of it, from bridge to bridge.</param>
    /// <param name="radiusMm">Radius of the bend at the middle of the sheet.</param>
    /// <param name="degrees">Angle of the bend.</param>
    public static Hinge Of(double sheetMm, double webMm, double gapMm, double slotMm, double radiusMm, double degrees)
    {
        var bend = degrees * Math.PI / 180;
        var webs = (int)Math.Clamp(Math.Floor(radiusMm * bend / (webMm + gapMm)), 1, MostWebs);
        var twist = bend / webs;
        // Two neighbours turn against each other by the twist: their corners on the inside come nearer by t sin(θ/2) and so much less by
        // w (1 − cos(θ/2)).
        var gap = sheetMm * Math.Sin(twist / 2) + webMm * (1 - Math.Cos(twist / 2));
        // A thin bar of a × b (a the smaller) shears most at the middle of its long side: a θ / l · k;
        // Timoshenko and Goodier, Theory of Elasticity, torsion of a rectangular bar.
        var (small, large) = (Math.Min(sheetMm, webMm), Math.Max(sheetMm, webMm));
        var shear = Strip(large / small) * small * twist / (slotMm / 2);
        return new Hinge(webs, twist * 180 / Math.PI, gap, shear);
    }

    /// <summary>
    /// k in γ = k · θ′ · a for a rectangular bar: 1 − (8/π²) Σ 1 / (n² cosh(n π b / 2a)), n odd. 0.675 for a square, 1 for a thin strip.
    /// </summary>
    public static double Strip(double ratio)
    {
        var sum = 0.0;
        for (var n = 1; n < 20; n += 2)
            sum += 1 / (n * n * Math.Cosh(n * Math.PI * ratio / 2));
        return 1 - 8 / (Math.PI * Math.PI) * sum;
    }
}
