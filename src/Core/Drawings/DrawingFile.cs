using System.Buffers.Binary;
using System.IO.Compression;
using VelvetGate.Core.Drawings.Dxf;
using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Drawings.Svg;

namespace VelvetGate.Core.Drawings;

/// <summary>Reads a drawing whatever it is called: by its first bytes, not by its name.</summary>
public static class DrawingFile
{
    /// <param name="stream">The file, which can be read twice; not closed.</param>
    /// <param name="patience">Ends the reading of a file that takes too long.</param>
    /// <exception cref="UnreadableDrawingException">No drawing that is read here, or a bad one; its message says what to do.</exception>
    public static Drawing Read(Stream stream, CancellationToken patience = default)
    {
        Span<byte> first = stackalloc byte[22];
        var start = stream.Position;
        var length = stream.ReadAtLeast(first, first.Length, throwOnEndOfStream: false);
        stream.Position = start;
        first = first[..length];
        if (first is [0x1F, 0x8B, ..])
            return Zipped(stream, patience);
        if (first.StartsWith("AutoCAD Binary DXF"u8))
            throw new UnreadableDrawingException("This is a binary DXF file. Save it again as ASCII DXF.");
        if (first.StartsWith("AC10"u8))
            throw new UnreadableDrawingException("This is a DWG file, which is not read here. Save it as ASCII DXF or SVG.");
        if (first.StartsWith("%PDF"u8))
            throw new UnreadableDrawingException("This is a PDF file, which is not read here. Save the drawing as SVG or DXF.");
        if (first is [0x89, (byte)'P', (byte)'N', (byte)'G', ..] or [0xFF, 0xD8, 0xFF, ..])
            return PictureReader.Read(stream);
        if (
            first.StartsWith("GIF8"u8)
            || first.StartsWith("BM"u8)
            || first.StartsWith("RIFF"u8)
            || first.StartsWith("II*\0"u8)
            || first.StartsWith("MM\0*"u8)
        )
            throw new UnreadableDrawingException("This is a picture of a kind that is not read here. Save it as PNG or JPEG.");
        if (first.IsEmpty)
            throw new UnreadableDrawingException("The file is empty. Choose another file.");
        if (LooksLikeDxf(first))
        {
            if (first is [0xEF, 0xBB, 0xBF, ..])
                stream.Position = start + 3;
            return DxfReader.Read(stream, patience);
        }
        if (!LooksLikeXml(first))
            throw new UnreadableDrawingException(
                "This is neither an SVG nor a DXF file, nor a PNG or JPEG picture. Save the drawing as one of them."
            );
        return SvgReader.Read(stream, patience);
    }

    /// <summary>SVGZ, and DXF in the same wrapping: never more is unpacked than a file may have.</summary>
    private static Drawing Zipped(Stream stream, CancellationToken patience)
    {
        using var unpacked = new MemoryStream();
        try
        {
            using var zip = new GZipStream(stream, CompressionMode.Decompress, leaveOpen: true);
            var buffer = new byte[64 * 1024];
            for (int read; (read = zip.Read(buffer)) > 0; )
            {
                patience.ThrowIfCancellationRequested();
                unpacked.Write(buffer, 0, read);
                if (unpacked.Length > DrawingLimits.Bytes)
                    throw new UnreadableDrawingException(
                        $"Unpacked the file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Split it."
                    );
            }
        }
        catch (InvalidDataException)
        {
            throw Damaged();
        }
        catch (OperationCanceledException)
        {
            throw new UnreadableDrawingException("The file takes too long to unpack. Save it again, unpacked.");
        }
        // A file that was cut short unpacks without a word; its last four bytes are the length of the whole (RFC 1952).
        Span<byte> size = stackalloc byte[4];
        if (stream.Length < size.Length)
            throw Damaged();
        stream.Position = stream.Length - 4;
        stream.ReadExactly(size);
        if (BinaryPrimitives.ReadUInt32LittleEndian(size) != (uint)unpacked.Length)
            throw Damaged();
        unpacked.Position = 0;
        if (unpacked.Length >= 2 && unpacked.GetBuffer() is [0x1F, 0x8B, ..])
            throw new UnreadableDrawingException("The file is packed twice. Unpack it first.");
        return Read(unpacked, patience);
    }

    private static UnreadableDrawingException Damaged() => new("The packed file is damaged or cut short. Save it again, unpacked.");

    /// <summary>XML in UTF-8 or UTF-16 begins with a bracket, after a mark of its encoding and blanks.</summary>
    private static bool LooksLikeXml(ReadOnlySpan<byte> first)
    {
        if (first is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..])
            return true;
        if (first is [0xEF, 0xBB, 0xBF, ..])
            first = first[3..];
        first = first.TrimStart(" \t\r\n\0"u8);
        return first.IsEmpty || first[0] == (byte)'<';
    }

    /// <summary>A DXF file begins with a section or a comment: 0 or 999 alone on a line.</summary>
    private static bool LooksLikeDxf(ReadOnlySpan<byte> first)
    {
        if (first is [0xEF, 0xBB, 0xBF, ..])
            first = first[3..];
        first = first.TrimStart(" \t\r\n"u8);
        var end = first.IndexOfAny((byte)'\r', (byte)'\n');
        return end > 0 && (first[..end].TrimEnd((byte)' ').SequenceEqual("0"u8) || first[..end].TrimEnd((byte)' ').SequenceEqual("999"u8));
    }
}
