using SkiaSharp;

namespace VelvetGate.Core.Drawings.Pictures;

/// <summary>Looks at the pixels of a picture, row by row, so that a large one takes no more memory than a row.</summary>
public static class PictureTones
{
    /// <summary>Of 255: this near to black or white is black or white, as soft edges and JPEG leave it.</summary>
    private const int Near = 40;

    /// <summary>Its head tells a decoder how to begin: no more is read.</summary>
    public static bool CanBegin(PictureFile file)
    {
        using var codec = Open(file);
        return codec is not null;
    }

    /// <summary>
    /// The camera notes that the picture is to be turned by a quarter (Exif 2.32, tag 0x0112, 5 to 8), which browsers and drawing programs
    /// do.
    /// </summary>
    public static bool LiesOnItsSide(byte[] bytes)
    {
        if (bytes is not [0xFF, 0xD8, ..])
            return false;
        using var codec = SKCodec.Create(new SKMemoryStream(bytes));
        return codec?.EncodedOrigin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
    }

    /// <returns>The share of pixels, 0 to 1, that are neither black nor white on a white ground; null when the file cannot be read to its
    /// end, or has more pixels than <paramref name="mostPixels"/>.</returns>
    public static double? Between(PictureFile file, long mostPixels, CancellationToken patience = default)
    {
        using var codec = Open(file);
        if (
            codec is null
            || (long)codec.Info.Width * codec.Info.Height
                > (file.Header.Whole ? Math.Min(mostPixels, DrawingLimits.PixelsAtOnce) : mostPixels)
        )
            return null;
        var info = new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul);
        return codec.StartScanlineDecode(info) == SKCodecResult.Success && codec.ScanlineOrder == SKCodecScanlineOrder.TopDown
            ? ByRows(codec, info, patience)
            : Whole(codec, info, patience);
    }

    private static SKCodec? Open(PictureFile file) => SKCodec.Create(new SKMemoryStream(file.Bytes));

    private static double? ByRows(SKCodec codec, SKImageInfo info, CancellationToken patience)
    {
        using var rows = new SKBitmap(info.WithSize(info.Width, Math.Min(64, info.Height)));
        long between = 0;
        for (var y = 0; y < info.Height; y += rows.Height)
        {
            patience.ThrowIfCancellationRequested();
            var wanted = Math.Min(rows.Height, info.Height - y);
            if (codec.GetScanlines(rows.GetPixels(), wanted, rows.RowBytes) < wanted)
                return null;
            between += Count(rows.GetPixelSpan()[..(wanted * rows.RowBytes)]);
        }
        return (double)between / info.Width / info.Height;
    }

    /// <summary>An interlaced PNG has no first rows.</summary>
    private static double? Whole(SKCodec codec, SKImageInfo info, CancellationToken patience)
    {
        patience.ThrowIfCancellationRequested();
        using var map = new SKBitmap(info);
        return codec.GetPixels(info, map.GetPixels()) == SKCodecResult.Success
            ? (double)Count(map.GetPixelSpan()) / info.Width / info.Height
            : null;
    }

    private static long Count(ReadOnlySpan<byte> rgba)
    {
        long between = 0;
        for (var i = 0; i + 3 < rgba.Length; i += 4)
        {
            var alpha = rgba[i + 3];
            int r = Over(rgba[i], alpha),
                g = Over(rgba[i + 1], alpha),
                b = Over(rgba[i + 2], alpha);
            var (low, high) = (Math.Min(r, Math.Min(g, b)), Math.Max(r, Math.Max(g, b)));
            if (high > Near && low < 255 - Near)
                between++;
        }
        return between;
    }

    /// <summary>As it looks on white: what is clear is not engraved.</summary>
    private static int Over(byte value, byte alpha) => alpha == 255 ? value : 255 + (value - 255) * alpha / 255;
}
