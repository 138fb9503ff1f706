namespace VelvetGate.Core.Drawings;

/// <summary>How a line turns.</summary>
internal static class Turns
{
    /// <summary>A joint that turns more than this, in degrees, is a corner: the head brakes there. Rough, common practice.</summary>
    private const double CornerDegrees = 15;

    /// <summary>The same in radians.</summary>
    public const double Corner = CornerDegrees * Math.PI / 180;

    /// <summary>From one direction to another, in radians from 0 to π; 0 where one of them has no length.</summary>
    public static double Of(Point a, Point b) =>
        a.Length * b.Length <= 0 ? 0 : Math.Abs(Math.Atan2(a.X * b.Y - a.Y * b.X, a.X * b.X + a.Y * b.Y));
}
