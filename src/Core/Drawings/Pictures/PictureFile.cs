namespace VelvetGate.Core.Drawings.Pictures;

/// <summary>A PNG or JPEG file that stands in a drawing, or is all of it. Two are equal when they share their bytes.</summary>
public sealed record PictureFile(PictureHeader Header, byte[] Bytes)
{
    public string MediaType => "image/" + Header.Format;

    /// <returns>Null for what is neither, or breaks off before its size.</returns>
    public static PictureFile? Of(byte[]? bytes) =>
        bytes is not null && PictureHeader.Read(bytes) is { } header
            ? new PictureFile(PictureTones.LiesOnItsSide(bytes) ? header.Turned() : header, bytes)
            : null;
}

/// <summary>Reads a PNG or JPEG file as a drawing that holds nothing else, at the size the file states.</summary>
public static class PictureReader
{
    /// <summary>Pixels to the inch of a file that states none: those of CSS.</summary>
    public const double AssumedPpi = 96;

    /// <exception cref="UnreadableDrawingException">The file is damaged, or claims too much.</exception>
    public static Drawing Read(Stream stream)
    {
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        if (copy.Length > DrawingLimits.Bytes)
            throw new UnreadableDrawingException(
                $"The file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Save the picture smaller."
            );
        if (PictureFile.Of(copy.ToArray()) is not { } file)
            throw new UnreadableDrawingException(
                "The picture is damaged or cut short before its size is stated. Save it again as PNG or JPEG."
            );
        var header = file.Header;
        if ((long)header.Width * header.Height > DrawingLimits.Pixels)
            throw new UnreadableDrawingException(
                $"The picture claims {header.Width} x {header.Height} pixels; up to {DrawingLimits.Pixels / 1_000_000} million are "
                    + "read. Make it smaller: 300 pixels to the inch are enough."
            );
        if (!PictureTones.CanBegin(file))
            throw new UnreadableDrawingException("The picture is damaged or cut short. Save it again as PNG or JPEG.");
        var (x, y) = (header.PpiX ?? AssumedPpi, header.PpiY ?? AssumedPpi);
        var (width, height) = (header.Width / x * 25.4, header.Height / y * 25.4);
        if (width > DrawingLimits.CoordinateMm || height > DrawingLimits.CoordinateMm)
            throw new UnreadableDrawingException(
                "At the density it states the picture would be kilometres wide. Save it with 300 pixels to the inch."
            );
        return new Drawing(
            Format: header.Format,
            WidthMm: width,
            HeightMm: height,
            Shapes: [],
            TextAt: [],
            Images: 1,
            Broken: 0,
            Pictures:
            [
                new PlacedPicture(
                    X: width / 2,
                    Y: height / 2,
                    WidthMm: width,
                    HeightMm: height,
                    Pixels: header.Width,
                    Rows: header.Height,
                    Place: [width, 0, 0, height, 0, 0]
                ),
            ],
            Asides: new DrawingAsides(SizeAssumed: header.PpiX is null, Hidden: 0),
            PictureFiles: [file]
        );
    }
}
