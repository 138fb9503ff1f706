using System.Globalization;
using System.Text;
using VelvetGate.Core.Drawings.Pictures;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>Writes the lines, fills and pictures of a drawing as plain SVG in mm, to a millionth.</summary>
public static class SvgWriter
{
    public static string Write(Drawing drawing)
    {
        var (turn, page) = (Matrix.Identity, new Box());
        page.Add(new Point(0, 0));
        page.Add(new Point(drawing.WidthMm, drawing.HeightMm));
        if (drawing.Format == "dxf")
        {
            // Upright: what grows upwards there grows downwards here, from the top left corner of all there is.
            page = new Box();
            foreach (var shape in drawing.Shapes)
                shape.Extend(ref page);
            if (page.IsEmpty)
                page.Add(new Point(0, 0));
            turn = new Matrix(1, 0, 0, -1, -page.MinX, page.MaxY);
        }
        var (width, height) = (Math.Max(page.Width, 0.001), Math.Max(page.Height, 0.001));
        var text = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        text.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width:0.######}mm\" height=\"{height:0.######}mm\" viewBox=\"0 0 "
                + $"{width:0.######} {height:0.######}\">\n"
        );
        foreach (var shape in drawing.Shapes)
        {
            text.Append("<path d=\"");
            foreach (var path in shape.Subpaths)
                Write(text, path.Map(turn));
            text.Append("\" fill=\"").Append(shape.Fill ?? "none").Append('"');
            if (shape is { Fill: not null, EvenOdd: true })
                text.Append(" fill-rule=\"evenodd\"");
            if (shape.Stroke is { } stroke)
                text.Append(CultureInfo.InvariantCulture, $" stroke=\"{stroke}\" stroke-width=\"{shape.WidthMm ?? 0.1:0.####}\"");
            text.Append("/>\n");
        }
        AddPictures(text, drawing);
        return text.Append("</svg>\n").ToString();
    }

    /// <summary>
    /// A unit square, placed by a matrix: it comes to lie where it was however it was placed before. Of copies the file stands there once.
    /// </summary>
    private static void AddPictures(StringBuilder text, Drawing drawing)
    {
        var placed = (drawing.Pictures ?? [])
            .Zip(drawing.PictureFiles ?? [])
            .Where(p => p is { First.Place: not null, Second: not null })
            .GroupBy(p => p.Second!);
        foreach (var (places, number) in placed.Select((p, i) => (p.ToList(), i)))
        {
            const string square = "<image width=\"1\" height=\"1\" preserveAspectRatio=\"none\"";
            var href = DataUri.Write(places[0].Second!);
            if (places is [var only])
            {
                text.Append(square)
                    .Append(" transform=\"")
                    .Append(Matrix(only.First.Place!))
                    .Append("\" href=\"")
                    .Append(href)
                    .Append("\"/>\n");
                continue;
            }
            text.Append(CultureInfo.InvariantCulture, $"<defs>{square} id=\"picture{number}\" href=\"")
                .Append(href)
                .Append("\"/></defs>\n");
            foreach (var copy in places)
                text.Append(CultureInfo.InvariantCulture, $"<use href=\"#picture{number}\" transform=\"{Matrix(copy.First.Place!)}\"/>\n");
        }

        static string Matrix(IReadOnlyList<double> place) =>
            $"matrix({string.Join(' ', place.Select(n => n.ToString("0.#########", CultureInfo.InvariantCulture)))})";
    }

    internal static void Write(StringBuilder text, Subpath path)
    {
        text.Append('M');
        At(path.Start);
        for (var i = 0; i < path.Count; i++)
        {
            var s = path[i];
            text.Append(s.Straight ? 'L' : 'C');
            if (!s.Straight)
            {
                At(s.C1);
                text.Append(' ');
                At(s.C2);
                text.Append(' ');
            }
            At(s.End);
        }
        if (path.IsClosed)
            text.Append('Z');

        void At(Point p) => text.Append(CultureInfo.InvariantCulture, $"{p.X:0.######} {p.Y:0.######}");
    }
}
