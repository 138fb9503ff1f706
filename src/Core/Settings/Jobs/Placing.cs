using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Mending;

namespace VelvetGate.Core.Settings.Jobs;

/// <summary>How a drawing is laid on a sheet.</summary>
/// <param name="Copies">At least 1.</param>
/// <param name="Quarters">Turns to the right, 0 to 3; null takes the way that fits better.</param>
/// <param name="Mirror">Left and right change places, before it is turned: for stamps and printing blocks.</param>
public sealed record Placement(int Copies, SheetAnchor Anchor = SheetAnchor.LowerLeft, int? Quarters = null, bool Mirror = false)
{
    /// <returns>Null where not one copy lies on the sheet so.</returns>
    public SheetLayout? Layout((decimal Width, decimal Height) part, (decimal Width, decimal Height) sheet, decimal thicknessMm) =>
        SheetLayout.Of(part, sheet, Copies, thicknessMm, Quarters is { } q ? q % 2 == 1 : null)?.From(Anchor, part, sheet, thicknessMm);
}

/// <summary>Makes one drawing of all copies on their sheet: the page is the sheet, so that what is checked is what will run.</summary>
public static class Placing
{
    /// <param name="layout">Of this drawing on this sheet.</param>
    /// <returns>And what it does not hold of the drawing, in words.</returns>
    /// <exception cref="ArgumentException">Nothing is drawn.</exception>
    public static (Drawing Placed, IReadOnlyList<string> LeftOut) On(
        Drawing drawing,
        Placement placement,
        SheetLayout layout,
        (double Width, double Height) sheet
    )
    {
        var (plain, leftOut) = PlainDrawing.Of(drawing);
        var box = new Box();
        foreach (var shape in plain.Shapes)
            shape.Extend(ref box);
        foreach (var picture in plain.Pictures ?? [])
            if (picture.Covers is { } covers)
                box.Add(RasterRows.BoxOf(covers));
        if (box.IsEmpty)
            throw new ArgumentException("Nothing is drawn.", nameof(drawing));
        var upright = Upright(plain.Format == "dxf", box, placement, layout);
        var (height, at) = (layout.Turned ? box.Width : box.Height, layout.At);
        var places = at.Select(p => Matrix.Translate((double)p.X, sheet.Height - (double)p.Y - height).Times(upright)).ToList();
        var placed = plain with
        {
            Format = "svg",
            WidthMm = sheet.Width,
            HeightMm = sheet.Height,
            Shapes = [.. places.SelectMany(m => plain.Shapes.Select(s => s with { Subpaths = [.. s.Subpaths.Select(p => p.Map(m))] }))],
            Pictures = [.. places.SelectMany(m => (plain.Pictures ?? []).Select(p => p.Map(m)))],
            PictureFiles = [.. places.SelectMany(_ => plain.PictureFiles ?? [])],
            Images = places.Count * plain.Images,
            Asides = new DrawingAsides(PageStated: true, Hidden: 0),
        };
        return (placed, leftOut);
    }

    /// <summary>Maps the drawing, mirrored and turned, so that its box begins at 0, y downwards.</summary>
    private static Matrix Upright(bool upwards, Box box, Placement placement, SheetLayout layout)
    {
        var (w, h) = (box.Width, box.Height);
        var down = upwards ? new Matrix(1, 0, 0, -1, -box.MinX, box.MaxY) : Matrix.Translate(-box.MinX, -box.MinY);
        var mirrored = placement.Mirror ? new Matrix(-1, 0, 0, 1, w, 0).Times(down) : down;
        return (placement.Quarters ?? (layout.Turned ? 1 : 0)) switch
        {
            0 => mirrored,
            1 => new Matrix(0, 1, -1, 0, h, 0).Times(mirrored),
            2 => new Matrix(-1, 0, 0, -1, w, h).Times(mirrored),
            _ => new Matrix(0, -1, 1, 0, 0, w).Times(mirrored),
        };
    }
}
