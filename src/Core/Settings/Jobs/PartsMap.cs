using System.Globalization;
using System.Text;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Jobs;

/// <summary>One part that comes free. Lengths in mm.</summary>
/// <param name="Number">From the top left, row by row.</param>
public sealed record MappedPart(int Number, Extent Box);

/// <summary>
/// A numbered map of the parts of a drawing, to know them by once they lie on the table: outlines of parts dark, everything else pale. It
/// is for people, and never for the machine. Source: common practice.
/// </summary>
public static class PartsMap
{
    /// <summary>Closed cut lines with an even number of others round them: what lies in a hole of a part is a part again.</summary>
    public static IReadOnlyList<MappedPart> Of(Drawing drawing, ColourMap colours)
    {
        var pieces = new LinePieces(drawing);
        var depth = DrawingReading.Depths(pieces, new Nesting(pieces));
        var boxes = drawing
            .Shapes.Where(s => s.Stroke is { } stroke && colours.Of(stroke) == StrokeMeaning.Cut)
            .SelectMany(s => s.Subpaths)
            .Where(p => p.IsClosed && depth(p) % 2 == 0)
            .Select(BoxOf)
            .ToList();
        if (boxes.Count == 0)
            return [];
        // Parts whose middles lie in one band are read as one row.
        var band = boxes.Select(b => b.Height).Order().ElementAt(boxes.Count / 2);
        var upwards = drawing.Format == "dxf" ? -1 : 1;
        return
        [
            .. boxes
                .OrderBy(b => band > 0 ? Math.Round(upwards * (b.MinY + b.MaxY) / 2 / band) : 0)
                .ThenBy(b => b.MinX)
                .Select((b, i) => new MappedPart(i + 1, Extent.Of(b)!)),
        ];
    }

    /// <summary>The map as SVG in mm.</summary>
    public static string ToSvg(Drawing drawing, ColourMap colours)
    {
        var flip = drawing.Format == "dxf";
        var page = new Box();
        foreach (var shape in drawing.Shapes)
            shape.Extend(ref page);
        if (page.IsEmpty)
            page.Add(new Point(0, 0));
        var text = new StringBuilder();
        var (width, height) = (page.Width + 10, page.Height + 10);
        text.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width:0.##}mm\" height=\"{height:0.##}mm\" viewBox=\"0 0 {width:0.##} "
                + $"{height:0.##}\"><title>Map of parts: for people, not for the machine</title><g fill=\"none\" stroke-width=\"0.3\">\n"
        );
        var upright = flip ? new Matrix(1, 0, 0, -1, 5 - page.MinX, page.MaxY + 5) : Matrix.Translate(5 - page.MinX, 5 - page.MinY);
        foreach (var shape in drawing.Shapes)
        {
            var cut = shape.Stroke is { } stroke && colours.Of(stroke) == StrokeMeaning.Cut;
            text.Append("<path d=\"");
            foreach (var path in shape.Subpaths)
                VelvetGate.Core.Drawings.Svg.SvgWriter.Write(text, path.Map(upright));
            text.Append(CultureInfo.InvariantCulture, $"\" stroke=\"{(cut ? "#24121f" : "#cdbb9b")}\"/>\n");
        }
        text.Append("</g><g font-family=\"sans-serif\" font-weight=\"bold\" text-anchor=\"middle\" fill=\"#57204f\">\n");
        foreach (var (number, box) in Of(drawing, colours))
        {
            var size = Math.Clamp(Math.Min(box.Width, box.Height) / 3, 2, 10);
            var at = upright.Map(new Point((box.MinX + box.MaxX) / 2, (box.MinY + box.MaxY) / 2));
            text.Append(
                CultureInfo.InvariantCulture,
                $"<text x=\"{at.X:0.##}\" y=\"{at.Y + size / 3:0.##}\" font-size=\"{size:0.##}\">{number}</text>\n"
            );
        }
        return text.Append("</g></svg>\n").ToString();
    }

    private static Box BoxOf(Subpath path)
    {
        var box = new Box();
        for (var i = 0; i < path.Count; i++)
            path[i].Extend(ref box);
        return box;
    }
}
