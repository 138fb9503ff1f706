namespace VelvetGate.Core.Materials;

/// <summary>A sheet sold as 3 mm measures 2.7 to 3.4: more than this part off its tag is another sheet. Common practice.</summary>
public static class SheetThickness
{
    private const decimal Tolerance = 0.15m;

    public static bool IsOf(decimal tagMm, decimal measuredMm) => Math.Abs(tagMm - measuredMm) <= tagMm * Tolerance;
}
