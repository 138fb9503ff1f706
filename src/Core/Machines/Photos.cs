using SkiaSharp;

namespace VelvetGate.Core.Machines;

/// <summary>A photo as it is kept.</summary>
/// <param name="Bytes">Written anew from its pixels alone: nothing that a camera or a program put beside them is left.</param>
public sealed record CleanPhoto(string MediaType, byte[] Bytes, int Width, int Height);

/// <summary>
/// Photos of faults, of work and of incidents. A camera writes where, when and with what a picture was taken beside it (Exif 2.32, CIPA
/// DC-008); what is kept is made from the pixels alone, turned as they were meant to be seen.
/// </summary>
public static class Photos
{
    /// <summary>Pixels along the longer side of what is kept: enough to read a gauge.</summary>
    private const int LongSide = 2400;
    private const long MostPixels = 120_000_000;
    private const int Quality = 86;

    /// <summary>Largest photo that is taken, in bytes.</summary>
    public const int Largest = 15 * 1024 * 1024;

    /// <param name="length">In bytes; null or 0 where none was sent.</param>
    public static Refusal? MayRead(long? length) =>
        length is null or 0 ? MachinesProblems.PhotoMissing.Refuse("file")
        : length > Largest ? MachinesProblems.PhotoLarge.Refuse("file", Largest / 1024 / 1024)
        : null;

    /// <returns>Or why it is not taken: told by its bytes, whatever its name says.</returns>
    public static Result<CleanPhoto> Clean(byte[] bytes)
    {
        if (MayRead(bytes.Length) is { } refusal)
            return refusal;
        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        if (
            codec is null
            || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png)
            || (long)codec.Info.Width * codec.Info.Height is <= 0 or > MostPixels
        )
            return MachinesProblems.PhotoKind.Refuse("file");
        // The codec makes it smaller while it reads, so that a large photo takes no more memory than it has to.
        var scale = Math.Min(1f, (float)LongSide / Math.Max(codec.Info.Width, codec.Info.Height));
        var size = codec.GetScaledDimensions(scale);
        using var read = new SKBitmap(new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        if (codec.GetPixels(read.Info, read.GetPixels()) != SKCodecResult.Success)
            return MachinesProblems.PhotoKind.Refuse("file");
        using var upright = Upright(read, codec.EncodedOrigin);
        var png = codec.EncodedFormat == SKEncodedImageFormat.Png;
        using var image = SKImage.FromBitmap(upright);
        using var written = image.Encode(png ? SKEncodedImageFormat.Png : SKEncodedImageFormat.Jpeg, Quality);
        return new CleanPhoto(png ? "image/png" : "image/jpeg", written.ToArray(), upright.Width, upright.Height);
    }

    /// <summary>Turned and mirrored as the camera said (Exif tag 274).</summary>
    private static SKBitmap Upright(SKBitmap read, SKEncodedOrigin origin)
    {
        var turned =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (longest, w, h) = (Math.Max(read.Width, read.Height), read.Width, read.Height);
        var small = Math.Min(1f, (float)LongSide / longest);
        var upright = new SKBitmap((int)Math.Ceiling((turned ? h : w) * small), (int)Math.Ceiling((turned ? w : h) * small));
        using var canvas = new SKCanvas(upright);
        canvas.Clear(SKColors.White.WithAlpha(0));
        canvas.Scale(small);
        var matrix = origin switch
        {
            SKEncodedOrigin.TopRight => Affine(-1, 0, w, 0, 1, 0),
            SKEncodedOrigin.BottomRight => Affine(-1, 0, w, 0, -1, h),
            SKEncodedOrigin.BottomLeft => Affine(1, 0, 0, 0, -1, h),
            SKEncodedOrigin.LeftTop => Affine(0, 1, 0, 1, 0, 0),
            SKEncodedOrigin.RightTop => Affine(0, -1, h, 1, 0, 0),
            SKEncodedOrigin.RightBottom => Affine(0, -1, h, -1, 0, w),
            SKEncodedOrigin.LeftBottom => Affine(0, 1, 0, -1, 0, w),
            _ => SKMatrix.Identity,
        };
        canvas.Concat(matrix);
        using var paint = new SKPaint();
        using var image = SKImage.FromBitmap(read);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear), paint);
        return upright;
    }

    private static SKMatrix Affine(float scaleX, float skewX, float moveX, float skewY, float scaleY, float moveY) =>
        new()
        {
            ScaleX = scaleX,
            SkewX = skewX,
            TransX = moveX,
            SkewY = skewY,
            ScaleY = scaleY,
            TransY = moveY,
            Persp2 = 1,
        };
}
