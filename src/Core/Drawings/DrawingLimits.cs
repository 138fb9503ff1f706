namespace VelvetGate.Core.Drawings;

/// <summary>Every bound on what a drawing may hold. Beyond one, the file is refused with a clear sentence, never half read.</summary>
public static class DrawingLimits
{
    /// <summary>64 MB of file.</summary>
    public const long Bytes = 64L * 1024 * 1024;

    /// <summary>Characters that entities may grow to: real files use a few hundred.</summary>
    public const long EntityCharacters = 1_000_000;

    public const int Depth = 512;

    public const int Elements = 500_000;

    /// <summary>Elements drawn, every <c>use</c> copy counted.</summary>
    public const int Drawn = 1_000_000;

    /// <summary>A <c>use</c> within a <c>use</c>, and so on.</summary>
    public const int UseDepth = 32;

    /// <summary>Straight and curved pieces together.</summary>
    public const int Segments = 2_000_000;

    /// <summary>Pixel pictures whose heads are read.</summary>
    public const int Pictures = 200;

    /// <summary>Pixels of one picture, and of all that are looked at: a bed of 600 x 1,000 mm at 300 to the inch has 84 million.</summary>
    public const long Pixels = 100_000_000;

    /// <summary>Of a picture that has to be decoded as a whole: a progressive JPEG takes six bytes for each.</summary>
    public const long PixelsAtOnce = 40_000_000;

    public const int StyleRules = 20_000;

    /// <summary>Selector tests in all: rules times elements.</summary>
    public const long StyleTests = 20_000_000;

    /// <summary>Largest coordinate kept, in mm: ten kilometres. Beyond it arithmetic loses the micrometre.</summary>
    public const double CoordinateMm = 1e7;
}

/// <summary>Why a file could not be read as a drawing.</summary>
public sealed class UnreadableDrawingException(string message) : Exception(message);
