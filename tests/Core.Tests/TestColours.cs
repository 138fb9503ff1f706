using VelvetGate.Core.House;

namespace VelvetGate.Core.Tests;

/// <summary>What the colours of the test drawings mean.</summary>
internal static class TestColours
{
    public static ColourMap Map { get; } = ColourMap.Parse("#ff0000=cut,#0000ff=score,#000000=engrave,#ff00ff=ignore").Value;
}
