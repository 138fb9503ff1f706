using Shouldly;
using VelvetGate.Core.Materials;
using Xunit;

namespace VelvetGate.Core.Tests.Materials;

public class IdentificationTests
{
    private static readonly Observed Nothing = new(null, false);

    private static Density Piece(double mass, double um, double length = 50, double width = 50, double thickness = 3, double u = 0.05) =>
        Identification.DensityOf(new(mass, um), new(length, u), new(width, u), new(thickness, u)).Value;

    /// <summary>
    /// Worked by hand: 8.85 g on 50 x 50 x 3 mm; relative parts 0.05/8.85, 0.05/50 twice and 0.05/3 in quadrature give 1.7655 %.
    /// </summary>
    [Fact]
    public void WorkedExample_LeavesFourOpen()
    {
        var density = Piece(8.85, 0.05);
        density.Value.ShouldBe(1.180, 0.0005);
        density.Expanded.ShouldBe(0.042, 0.0005);
        density.Low.ShouldBe(1.138, 0.0005);
        density.High.ShouldBe(1.222, 0.0005);
        Identification
            .Exclude(density, true, Nothing)
            .Value.Possible.ShouldBe(["Acrylic (PMMA)", "Polycarbonate", "Soft PVC", "Nylon (PA6)"], ignoreOrder: true);
    }

    /// <summary>
    /// JCGM 101:2008 propagates distributions instead of formulas: a seeded run of it has to give the same standard uncertainty.
    /// </summary>
    [Theory]
    [InlineData(8.85, 0.05, 50, 50, 3, 0.05)]
    [InlineData(2.10, 0.02, 30, 30, 2, 0.02)]
    [InlineData(31.0, 0.1, 100, 100, 3, 0.03)]
    public void Uncertainty_AgreesWithPropagatingDistributions(
        double mass,
        double um,
        double length,
        double width,
        double thickness,
        double u
    )
    {
        var random = new Random(20261126);
        double Draw(double value, double sd) =>
            value + sd * Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var draws = Enumerable
            .Range(0, 200_000)
            .Select(_ => Draw(mass, um) / (Draw(length, u) * Draw(width, u) * Draw(thickness, u)) * 1000)
            .ToList();
        var mean = draws.Average();
        var sd = Math.Sqrt(draws.Sum(d => (d - mean) * (d - mean)) / (draws.Count - 1));
        var density = Piece(mass, um, length, width, thickness, u);
        density.Value.ShouldBe(mean, 0.002);
        density.StandardUncertainty.ShouldBe(sd, sd * 0.01);
    }

    /// <summary>Whatever is weighed, the outcome never permits and never clears vinyl in words.</summary>
    [Fact]
    public void Outcome_NeverPermits_AndNeverReadsNotVinyl()
    {
        for (var mass = 1.0; mass < 20; mass += 0.05)
        {
            var outcome = Identification.Exclude(Piece(mass, 0.02, u: 0.01), true, Nothing).Value;
            outcome.Says.ShouldMatch("permits nothing|stays out|Quarantine");
            $"{outcome.Says} {string.Join(" ", outcome.Warnings)}".ShouldNotContain("not PVC", Case.Insensitive);
            outcome.Possible.Count.ShouldBe(Identification.Table.Count - outcome.Excluded.Count);
        }
    }

    [Fact]
    public void Acrylic_IsNeverToldFromPolycarbonateAtABenchScale()
    {
        // A pocket scale and a calliper: the best reading of a real acrylic leaves polycarbonate or soft vinyl open.
        Identification.Exclude(Piece(8.925, 0.01, u: 0.02), true, Nothing).Value.Possible.ShouldContain("Polycarbonate");
        Identification.Exclude(Piece(8.85, 0.01, u: 0.01), true, Nothing).Value.Possible.ShouldContain("Soft PVC");
    }

    [Fact]
    public void Foamed_GetsNoStatement() =>
        Identification.Exclude(Piece(4, 0.05), false, Nothing).Refusal!.Code.ShouldBe("density.notPlain");

    [Fact]
    public void Seen_OnlyEverAddsToWhatIsRefused()
    {
        var density = Piece(8.85, 0.05);
        Identification.Exclude(density, true, new(true, false)).Value.Says.ShouldContain("Quarantine");
        Identification.Exclude(density, true, new(null, true)).Value.Says.ShouldContain("Quarantine");
        var none = Identification.Exclude(density, true, new(false, false)).Value;
        none.Warnings.Single().ShouldContain("proves nothing");
        none.Possible.ShouldBe(Identification.Exclude(density, true, Nothing).Value.Possible, "no green flame excludes nothing");
    }

    [Theory]
    [InlineData(0, 0.1, "mass")]
    [InlineData(-1, 0.1, "mass")]
    [InlineData(double.NaN, 0.1, "mass")]
    [InlineData(5, 0, "mass")]
    [InlineData(5, 6, "mass")]
    public void Reading_WithoutAnHonestUncertainty_IsRefused(double mass, double uncertainty, string field) =>
        Identification.DensityOf(new(mass, uncertainty), new(50, 0.1), new(50, 0.1), new(3, 0.1)).Refusal!.Field.ShouldBe(field);

    /// <summary>IUPAC abridged standard atomic weights 2021: C 12.011, H 1.008, Cl 35.45.</summary>
    [Fact]
    public void MolarMasses_AreIupacs()
    {
        HydrogenChloride.VinylChlorideGMol.ShouldBe(62.50, 0.005);
        HydrogenChloride.HclGMol.ShouldBe(36.46, 0.005);
        HydrogenChloride.MolarVolumeL.ShouldBe(24.055, 0.001);
        // 5 ppm of it at 25 °C is the 7 mg/m3 that the ceiling is also written as.
        (HydrogenChloride.CeilingPpm * HydrogenChloride.HclGMol / 24.465).ShouldBe(7.45, 0.01);
    }

    /// <summary>By hand: 10 cm of 3 mm at 0.25 mm kerf is 75 mm³, 103.5 mg, 1.656 mmol, 39.8 mL in 300 L.</summary>
    [Fact]
    public void TenCentimetres_InASmallBox_AreFarOverTheCeiling()
    {
        var outcome = HydrogenChloride.Of(100, 3, 0.25, 0.3, 150).Value;
        outcome.VinylMg.ShouldBe(103.5, 0.1);
        outcome.HclMg.ShouldBe(60.4, 0.1);
        outcome.EnclosurePpm.ShouldBe(133, 3);
        outcome.RoomPpm!.Value.ShouldBe(outcome.EnclosurePpm / 500, 1e-9);
        outcome.Says.ShouldStartWith("Any length is shut");
        outcome.Says.ShouldNotContain("below", Case.Insensitive);
    }

    [Theory]
    [InlineData(0, 3, 0.2, 0.3, "cut")]
    [InlineData(10, 3, 0.2, -1, "enclosure")]
    public void Chloride_NamesTheFieldAtFault(double cut, double thick, double kerf, double box, string field) =>
        HydrogenChloride.Of(cut, thick, kerf, box, null).Refusal!.Field.ShouldBe(field);
}
