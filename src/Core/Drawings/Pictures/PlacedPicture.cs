using System.Text.Json.Serialization;

namespace VelvetGate.Core.Drawings.Pictures;

/// <summary>A pixel picture where a drawing places it.</summary>
/// <param name="X">Of its middle, in mm.</param>
/// <param name="WidthMm">As drawn, along its own edges.</param>
/// <param name="Pixels">Pixels across; 0 where the file is not in the drawing or cannot be read.</param>
/// <param name="Place">The six numbers of the matrix that maps the unit square, y downwards in the picture, to mm; null where its pixels
/// are not known, and in drawings read before this was kept.</param>
/// <param name="Greys">Share of its pixels that are neither black nor white; null where they were not looked at.</param>
public sealed record PlacedPicture(
    double X,
    double Y,
    double WidthMm,
    double HeightMm,
    int Pixels,
    int Rows,
    IReadOnlyList<double>? Place = null,
    double? Greys = null
)
{
    /// <summary>What it covers, upright; null where that is not known.</summary>
    [JsonIgnore]
    public Extent? Covers
    {
        get
        {
            if (Place is not [var a, var b, var c, var d, var e, var f])
                return null;
            var box = new Box();
            var matrix = new Matrix(a, b, c, d, e, f);
            foreach (var corner in new Point[] { new(0, 0), new(1, 0), new(0, 1), new(1, 1) })
                box.Add(matrix.Map(corner));
            return Extent.Of(box);
        }
    }

    public PlacedPicture Map(in Matrix by)
    {
        if (Place is not [var a, var b, var c, var d, var e, var f])
            return this;
        var (middle, to) = (by.Map(new Point(X, Y)), by.Times(new Matrix(a, b, c, d, e, f)));
        return this with
        {
            X = middle.X,
            Y = middle.Y,
            WidthMm = new Point(to.A, to.B).Length,
            HeightMm = new Point(to.C, to.D).Length,
            Place = [to.A, to.B, to.C, to.D, to.E, to.F],
        };
    }

    /// <summary>Pixels to the inch as placed, in the direction that has fewer; null where they are not known.</summary>
    public double? Ppi() => Pixels > 0 && WidthMm > 0 && HeightMm > 0 ? Math.Min(Pixels / WidthMm, Rows / HeightMm) * 25.4 : null;

    /// <summary>
    /// Where a picture comes to lie that an SVG places at a box of its own coordinates; within the box it keeps its proportions.
    /// </summary>
    /// <param name="header">Null where its pixels are not known.</param>
    /// <param name="aspect">SVG's preserveAspectRatio: none stretches, slice fills, else it fits (SVG 2, section 8.7).</param>
    public static PlacedPicture Of(
        PictureHeader? header,
        double x,
        double y,
        double? width,
        double? height,
        string? aspect,
        in Matrix matrix
    )
    {
        var (w, h) = (width, height) switch
        {
            ({ } a, { } b) => (a, b),
            ({ } a, null) => (a, header is null ? a : a * header.Height / header.Width),
            (null, { } b) => (header is null ? b : b * header.Width / header.Height, b),
            _ => (header?.Width ?? 0, header?.Height ?? 0),
        };
        var middle = matrix.Map(new Point(x + w / 2, y + h / 2));
        if (header is not null && aspect?.Contains("none", StringComparison.Ordinal) != true)
        {
            var (across, down) = (w / header.Width, h / header.Height);
            var scale = aspect?.Contains("slice", StringComparison.Ordinal) == true ? Math.Max(across, down) : Math.Min(across, down);
            (w, h) = (scale * header.Width, scale * header.Height);
        }
        var (right, under) = (new Point(matrix.A, matrix.B).Length, new Point(matrix.C, matrix.D).Length);
        // The left upper corner lies half of it from the middle.
        var (left, top) = (middle.X - (matrix.A * w + matrix.C * h) / 2, middle.Y - (matrix.B * w + matrix.D * h) / 2);
        return new PlacedPicture(
            X: middle.X,
            Y: middle.Y,
            WidthMm: w * right,
            HeightMm: h * under,
            Pixels: header?.Width ?? 0,
            Rows: header?.Height ?? 0,
            Place: header is null ? null : [matrix.A * w, matrix.B * w, matrix.C * h, matrix.D * h, left, top]
        );
    }
}
