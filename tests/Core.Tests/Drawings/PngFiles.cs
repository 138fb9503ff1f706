using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>
/// Writes whole PNG files by the standard: W3C PNG (third edition), sections 5.3 (chunks and their CRC), 8.1 (interlacing) and 9 (filters).
/// </summary>
internal static class PngFiles
{
    /// <param name="at">Grey of each pixel, 0 to 255.</param>
    /// <param name="ppi">0 states none.</param>
    /// <param name="interlaced">In the seven passes of section 8.1.</param>
    public static byte[] Grey(int width, int height, Func<int, int, byte> at, double ppi = 0, bool interlaced = false) =>
        Write(width, height, colourType: 0, Rows(width, height, interlaced, (x, y, row) => row.Add(at(x, y))), ppi, interlaced);

    public static byte[] Rgba(int width, int height, Func<int, int, (byte R, byte G, byte B, byte A)> at) =>
        Write(width, height, colourType: 6, Rows(width, height, false, (x, y, row) =>
            {
                var (r, g, b, a) = at(x, y);
                row.AddRange([r, g, b, a]);
            }), 0, false);

    /// <summary>A head that claims a size, and not a pixel of it.</summary>
    public static byte[] Claim(uint width, uint height) =>
        [.. Start, .. Chunk("IHDR", Head(width, height, 0, 0)), .. Chunk("IDAT", Zip([0, 0])), .. Chunk("IEND", [])];

    private static readonly byte[] Start = [0x89, .. "PNG"u8, 13, 10, 26, 10];

    private static readonly (int X, int Y, int Across, int Down)[] Passes =
    [
        (0, 0, 8, 8),
        (4, 0, 8, 8),
        (0, 4, 4, 8),
        (2, 0, 4, 4),
        (0, 2, 2, 4),
        (1, 0, 2, 2),
        (0, 1, 1, 2),
    ];

    private static byte[] Rows(int width, int height, bool interlaced, Action<int, int, List<byte>> pixel)
    {
        var bytes = new List<byte>();
        foreach (var (x0, y0, across, down) in interlaced ? Passes : [(0, 0, 1, 1)])
        {
            for (var y = y0; y < height && x0 < width; y += down)
            {
                bytes.Add(0);
                for (var x = x0; x < width; x += across)
                    pixel(x, y, bytes);
            }
        }
        return [.. bytes];
    }

    private static byte[] Write(int width, int height, byte colourType, byte[] rows, double ppi, bool interlaced)
    {
        var metre = new byte[9];
        BinaryPrimitives.WriteUInt32BigEndian(metre, (uint)Math.Round(ppi / 0.0254));
        BinaryPrimitives.WriteUInt32BigEndian(metre.AsSpan(4), (uint)Math.Round(ppi / 0.0254));
        metre[8] = 1;
        return
        [
            .. Start,
            .. Chunk("IHDR", Head((uint)width, (uint)height, colourType, (byte)(interlaced ? 1 : 0))),
            .. ppi > 0 ? Chunk("pHYs", metre) : [],
            .. Chunk("IDAT", Zip(rows)),
            .. Chunk("IEND", []),
        ];
    }

    private static byte[] Head(uint width, uint height, byte colourType, byte interlace)
    {
        var head = new byte[13];
        BinaryPrimitives.WriteUInt32BigEndian(head, width);
        BinaryPrimitives.WriteUInt32BigEndian(head.AsSpan(4), height);
        (head[8], head[9], head[12]) = (8, colourType, interlace);
        return head;
    }

    private static byte[] Zip(byte[] bytes)
    {
        using var packed = new MemoryStream();
        using (var zip = new ZLibStream(packed, CompressionLevel.Fastest))
            zip.Write(bytes);
        return packed.ToArray();
    }

    private static byte[] Chunk(string type, byte[] data)
    {
        byte[] body = [.. Encoding.ASCII.GetBytes(type), .. data];
        var (length, crc) = (new byte[4], new byte[4]);
        BinaryPrimitives.WriteUInt32BigEndian(length, (uint)data.Length);
        BinaryPrimitives.WriteUInt32BigEndian(crc, Crc(body));
        return [.. length, .. body, .. crc];
    }

    private static uint Crc(byte[] bytes)
    {
        var c = uint.MaxValue;
        foreach (var b in bytes)
        {
            c ^= b;
            for (var k = 0; k < 8; k++)
                c = (c & 1) == 1 ? 0xEDB88320 ^ (c >> 1) : c >> 1;
        }
        return ~c;
    }
}
