namespace VelvetGate.Core.Machines;

/// <summary>Fixtures that rules know by name.</summary>
public static class Fixtures
{
    /// <summary>Turns a round thing under the head: the page's height is its circumference, and the flat bed's is not judged.</summary>
    public const string Rotary = "rotary";

    /// <summary>Lies below what is cut through; other work leaves it to those who cut (common practice).</summary>
    public const string CuttingGrid = "cutting grid";
}
