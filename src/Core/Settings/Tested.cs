using NodaTime;

namespace VelvetGate.Core.Settings;

/// <summary>
/// When a clean run serves as a test for another: the same machine, material and operation, about the same thickness, not too long ago. A
/// service
/// that touched the optics ends it. Source: common practice; a tenth and twelve months are house practice.
/// </summary>
public static class Tested
{
    /// <summary>Part of the thickness that two sheets may differ by.</summary>
    public const decimal ThicknessPart = 0.1m;

    /// <summary>How long a test serves.</summary>
    public static readonly Duration Lasts = Duration.FromDays(365);

    /// <summary>Whether a thickness is about another.</summary>
    public static bool IsNear(decimal otherMm, decimal mm) => Math.Abs(otherMm - mm) <= mm * ThicknessPart;

    /// <param name="testedMm">Measured thickness of the sheet that came out clean.</param>
    /// <param name="mm">Measured thickness now.</param>
    /// <param name="start">Start of the run that would rest on it.</param>
    public static bool Serves(decimal testedMm, Instant at, decimal mm, Instant start) => IsNear(testedMm, mm) && start - at <= Lasts;
}
