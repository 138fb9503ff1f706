using System.Globalization;
using System.Text;

namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// Writes the lines of a drawing as ASCII DXF of release 12, which every program reads: polylines in mm, one layer for each colour. Curves
/// become chords
/// that leave them by no more than 0.003 mm; a fill becomes its outline on a layer of its own, since the release has no plain fill.
/// </summary>
/// <remarks>Source: DXF reference, sections HEADER, TABLES and ENTITIES.</remarks>
public static class DxfWriter
{
    private const double SagMm = 0.003;

    public static string Write(Drawing drawing)
    {
        var text = new StringBuilder();
        // Upright: y grows upwards here.
        var turn = drawing.Format == "dxf" ? Matrix.Identity : new Matrix(1, 0, 0, -1, 0, drawing.HeightMm);
        var layers = drawing.Shapes.Select(LayerOf).Distinct().OrderBy(l => l.Name, StringComparer.Ordinal).ToList();
        Groups(text, (0, "SECTION"), (2, "HEADER"), (9, "$ACADVER"), (1, "AC1009"), (9, "$INSUNITS"), (70, "4"), (0, "ENDSEC"));
        Groups(text, (0, "SECTION"), (2, "TABLES"), (0, "TABLE"), (2, "LAYER"), (70, layers.Count.ToString(CultureInfo.InvariantCulture)));
        foreach (var (name, colour) in layers)
            Groups(text, (0, "LAYER"), (2, name), (70, "0"), (62, Index(colour)), (6, "CONTINUOUS"));
        Groups(text, (0, "ENDTAB"), (0, "ENDSEC"), (0, "SECTION"), (2, "ENTITIES"));
        foreach (var shape in drawing.Shapes)
        {
            foreach (var path in shape.Subpaths)
                Write(text, path.Map(turn), LayerOf(shape));
        }
        Groups(text, (0, "ENDSEC"), (0, "EOF"));
        return text.ToString();
    }

    private static (string Name, string Colour) LayerOf(Shape shape) =>
        shape.Stroke is { } stroke
            ? ($"LINES_{stroke[1..].ToUpperInvariant()}", stroke)
            : ($"FILLS_{(shape.Fill ?? "#000000")[1..].ToUpperInvariant()}", shape.Fill ?? "#000000");

    private static void Write(StringBuilder text, Subpath path, (string Name, string Colour) layer)
    {
        var points = Points(path);
        var closed = path.IsClosed;
        if (closed && points.Count > 2 && (points[^1] - points[0]).Length <= Subpath.ClosedWithinMm)
            points.RemoveAt(points.Count - 1);
        var colour = Index(layer.Colour);
        Groups(text, (0, "POLYLINE"), (8, layer.Name), (62, colour));
        // Where the index has no such colour the true one is given beside it.
        if (DxfColours.Of(int.Parse(colour, CultureInfo.InvariantCulture)) != layer.Colour)
            Groups(text, (420, Convert.ToInt32(layer.Colour[1..], 16).ToString(CultureInfo.InvariantCulture)));
        Groups(text, (66, "1"), (10, "0.0"), (20, "0.0"), (30, "0.0"), (70, closed ? "1" : "0"));
        foreach (var p in points)
            Groups(text, (0, "VERTEX"), (8, layer.Name), (10, Number(p.X)), (20, Number(p.Y)), (30, "0.0"));
        Groups(text, (0, "SEQEND"), (8, layer.Name));
    }

    private static List<Point> Points(Subpath path)
    {
        var points = new List<Point> { path.Start };
        for (var i = 0; i < path.Count; i++)
        {
            var s = path[i];
            var chords = s.Straight ? 1 : Chords(s);
            for (var c = 1; c <= chords; c++)
                points.Add(c == chords ? s.End : s.At((double)c / chords));
        }
        return points;
    }

    /// <summary>A chord of a cubic leaves it by at most an eighth of its second derivative, over the square of their number.</summary>
    private static int Chords(in Segment s)
    {
        var bend = 6 * Math.Max((s.Start - 2 * s.C1 + s.C2).Length, (s.C1 - 2 * s.C2 + s.End).Length);
        return (int)Math.Clamp(Math.Ceiling(Math.Sqrt(bend / (8 * SagMm))), 1, 2000);
    }

    /// <summary>The nearest colour of the index.</summary>
    private static string Index(string colour)
    {
        var rgb = Convert.ToInt32(colour[1..], 16);
        var best = Enumerable.Range(1, 255).MinBy(i => Apart(Convert.ToInt32(DxfColours.Of(i)[1..], 16), rgb));
        return best.ToString(CultureInfo.InvariantCulture);

        static int Apart(int a, int b) =>
            Square((a >> 16) - (b >> 16)) + Square((a >> 8 & 255) - (b >> 8 & 255)) + Square((a & 255) - (b & 255));

        static int Square(int x) => x * x;
    }

    private static string Number(double value) => value.ToString("0.0#####", CultureInfo.InvariantCulture);

    private static void Groups(StringBuilder text, params (int Code, string Value)[] groups)
    {
        foreach (var (code, value) in groups)
            text.Append(CultureInfo.InvariantCulture, $"{code, 3}\n{value}\n");
    }
}
