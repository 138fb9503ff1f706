using System.Buffers.Binary;

namespace VelvetGate.Core.Drawings.Pictures;

/// <summary>
/// What the head of a PNG or JPEG file says of its size. No pixel is read, so that a small file cannot claim more memory than it has.
/// </summary>
/// <param name="Width">Pixels across, as claimed.</param>
/// <param name="PpiX">Pixels to the inch as the file states them; null when it states none.</param>
/// <param name="Whole">Its rows do not follow one another: interlaced, or in the scans of a progressive JPEG. It takes all its memory at
/// once.</param>
/// <remarks>Sources: W3C PNG (third edition), sections 5.3, 11.2.1 and 11.3.4.3; ITU-T T.81, annex B; JFIF 1.02.</remarks>
public sealed record PictureHeader(string Format, int Width, int Height, double? PpiX, double? PpiY, bool Whole = false)
{
    private const double MmPerInch = 25.4;

    /// <summary>As it is shown when the camera that took it lay on its side.</summary>
    public PictureHeader Turned() => new(Format, Height, Width, PpiY, PpiX, Whole);

    /// <returns>Null for what is neither, or breaks off before its size.</returns>
    public static PictureHeader? Read(ReadOnlySpan<byte> bytes) =>
        bytes is [0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10, ..] ? Png(bytes[8..])
        : bytes is [0xFF, 0xD8, 0xFF, ..] ? Jpeg(bytes[2..])
        : null;

    private static PictureHeader? Png(ReadOnlySpan<byte> rest)
    {
        PictureHeader? found = null;
        while (rest.Length >= 8)
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(rest);
            var type = rest[4..8];
            if (length > rest.Length - 8)
                break;
            var data = rest.Slice(8, (int)length);
            if (type.SequenceEqual("IHDR"u8) && data.Length >= 8)
                found = Sized(
                    "png",
                    BinaryPrimitives.ReadUInt32BigEndian(data),
                    BinaryPrimitives.ReadUInt32BigEndian(data[4..]),
                    whole: data.Length >= 13 && data[12] != 0
                );
            // Unit 1 is the metre; 0 gives a ratio alone.
            else if (type.SequenceEqual("pHYs"u8) && data.Length >= 9 && data[8] == 1)
                found = found is null ? null : found with { PpiX = PerMetre(data), PpiY = PerMetre(data[4..]) };
            if (found is null || type.SequenceEqual("IDAT"u8))
                break;
            if (rest.Length < 12 + length)
                break;
            rest = rest[(12 + (int)length)..];
        }
        return found;
    }

    private static PictureHeader? Jpeg(ReadOnlySpan<byte> rest)
    {
        (double X, double Y)? ppi = null;
        while (rest.Length >= 4 && rest[0] == 0xFF)
        {
            var marker = rest[1];
            if (marker == 0xFF)
            {
                rest = rest[1..];
                continue;
            }
            // Restart markers and TEM stand alone.
            if (marker is 0x01 or (>= 0xD0 and <= 0xD7))
            {
                rest = rest[2..];
                continue;
            }
            var length = BinaryPrimitives.ReadUInt16BigEndian(rest[2..]);
            if (length < 2 || rest.Length < 2 + length)
                return null;
            var data = rest.Slice(4, length - 2);
            if (marker == 0xE0 && data.Length >= 12 && data.StartsWith("JFIF\0"u8))
                ppi = Density(data[7], BinaryPrimitives.ReadUInt16BigEndian(data[8..]), BinaryPrimitives.ReadUInt16BigEndian(data[10..]));
            // A frame begins, in any of its codings; C4, C8 and CC are tables.
            if (marker is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC))
            {
                if (data.Length < 5)
                    return null;
                var sized = Sized(
                    "jpeg",
                    BinaryPrimitives.ReadUInt16BigEndian(data[3..]),
                    BinaryPrimitives.ReadUInt16BigEndian(data[1..]),
                    whole: marker is 0xC2 or 0xC6 or 0xCA or 0xCE
                );
                return sized is null ? null : sized with { PpiX = ppi?.X, PpiY = ppi?.Y };
            }
            rest = rest[(2 + length)..];
        }
        return null;
    }

    /// <summary>JFIF: 1 is dots to the inch, 2 to the centimetre, 0 a ratio alone.</summary>
    private static (double, double)? Density(byte unit, int x, int y) =>
        (unit, x, y) switch
        {
            (_, 0, _) or (_, _, 0) => null,
            (1, _, _) => (x, y),
            (2, _, _) => (x * 2.54, y * 2.54),
            _ => null,
        };

    private static double? PerMetre(ReadOnlySpan<byte> data) =>
        BinaryPrimitives.ReadUInt32BigEndian(data) is var n and > 0 ? n * MmPerInch / 1000 : null;

    private static PictureHeader? Sized(string format, uint width, uint height, bool whole) =>
        width is 0 or > int.MaxValue || height is 0 or > int.MaxValue
            ? null
            : new PictureHeader(format, (int)width, (int)height, null, null, whole);
}
