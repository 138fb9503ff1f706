namespace VelvetGate.Core.House;

/// <summary>How much of what a house lets pass in a drawing. Kerf and thickness come from machine and sheet.</summary>
/// <param name="NearStopMm">Nearly doubled cuts up to this length together are weighed up; more of them stop. 5 mm: house practice.</param>
/// <param name="CrowdedPercent">Part of the cut length that may run nearer than the sheet is thick before somebody is asked: hinges do this
/// by design. 20 %: house practice.</param>
/// <param name="LowestPpi">Pixels to the inch that engraving wants at the size placed. 300: common practice.</param>
/// <param name="GreyPercent">Pixels of a picture that may be neither black nor white, as soft edges are; 100 where machines have grey
/// levels. 5 %: house practice.</param>
public sealed record DrawingTolerances(decimal NearStopMm, decimal CrowdedPercent, int LowestPpi, decimal GreyPercent)
{
    public static DrawingTolerances Usual { get; } = new(5, 20, 300, 5);
}
