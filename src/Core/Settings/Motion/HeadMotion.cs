using System.Runtime.InteropServices;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>How a head moves. Speeds in mm/s, acceleration in mm/s2.</summary>
/// <param name="SpeedMmS">Along a straight line.</param>
/// <param name="CornerMmS">At a corner; 0 stops there.</param>
public sealed record HeadLimits(double SpeedMmS, double AccelerationMmS2, double CornerMmS);

/// <summary>
/// Seconds along a path with one acceleration, looking ahead over every joint: the greatest speed at each place from which the head can
/// still slow down in time. On a curve of radius r it goes at most √(a r), so that it is not pushed aside harder than it is braked.
/// </summary>
/// <remarks>Source: kinematics of even acceleration; backwards and forwards over the joints is common practice.</remarks>
public static class HeadMotion
{
    /// <summary>From rest to rest along the whole path.</summary>
    /// <param name="each">Takes the seconds of each piece, where somebody wants to know.</param>
    /// <exception cref="ArgumentOutOfRangeException">A speed or acceleration that is not above 0.</exception>
    public static double Seconds(IReadOnlyList<MotionPiece> path, HeadLimits limits, List<double>? each = null)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(limits.SpeedMmS);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(limits.AccelerationMmS2);
        ArgumentOutOfRangeException.ThrowIfNegative(limits.CornerMmS);
        if (path.Count == 0)
            return 0;
        var pieces = path is List<MotionPiece> list ? CollectionsMarshal.AsSpan(list) : [.. path];
        var speeds = new double[pieces.Length + 1];
        for (var i = 0; i < pieces.Length - 1; i++)
        {
            var joint = pieces[i].Joint == 0 ? limits.CornerMmS : Math.Max(limits.CornerMmS, Curved(pieces[i].Joint, limits));
            speeds[i + 1] = Math.Min(joint, Math.Min(Curved(pieces[i].RadiusMm, limits), Curved(pieces[i + 1].RadiusMm, limits)));
        }
        var twice = 2 * limits.AccelerationMmS2;
        for (var i = pieces.Length - 1; i >= 0; i--)
            speeds[i] = Math.Min(speeds[i], Math.Sqrt(speeds[i + 1] * speeds[i + 1] + twice * pieces[i].Mm));
        var seconds = 0.0;
        for (var i = 0; i < pieces.Length; i++)
        {
            speeds[i + 1] = Math.Min(speeds[i + 1], Math.Sqrt(speeds[i] * speeds[i] + twice * pieces[i].Mm));
            var own = Piece(pieces[i].Mm, speeds[i], speeds[i + 1], Curved(pieces[i].RadiusMm, limits), limits.AccelerationMmS2);
            each?.Add(own);
            seconds += own;
        }
        return seconds;
    }

    /// <summary>From rest to rest over a distance: a trapezoid of speed, or a triangle where it is short.</summary>
    public static double Hop(double mm, double speedMmS, double accelerationMmS2) =>
        mm <= 0 ? 0 : Piece(mm, 0, 0, speedMmS, accelerationMmS2);

    private static double Curved(double radiusMm, HeadLimits limits) =>
        double.IsInfinity(radiusMm) ? limits.SpeedMmS : Math.Min(limits.SpeedMmS, Math.Sqrt(limits.AccelerationMmS2 * radiusMm));

    /// <summary>One piece: faster up to its top speed, on, and slower to the speed at its end.</summary>
    private static double Piece(double mm, double from, double to, double top, double a)
    {
        // The speed that it would reach without a top: v² = (u² + w²) / 2 + a s.
        var peak = Math.Sqrt((from * from + to * to) / 2 + a * mm);
        if (peak <= top)
            return (peak - from + (peak - to)) / a;
        var (rise, fall) = ((top * top - from * from) / (2 * a), (top * top - to * to) / (2 * a));
        return (top - from + (top - to)) / a + (mm - rise - fall) / top;
    }
}
