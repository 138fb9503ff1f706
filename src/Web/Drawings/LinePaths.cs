using System.Globalization;
using System.Text;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;

namespace VelvetGate.Web.Drawings;

/// <summary>Writes the lines of a drawing as SVG path data for the screen.</summary>
internal static class LinePaths
{
    private const int MostCharacters = 6_000_000;

    public static LinesResponse Of(Drawing drawing, ColourMap colours)
    {
        var texts = new Dictionary<(string Colour, bool Filled), StringBuilder>();
        var total = 0;
        var cut = false;
        foreach (var shape in drawing.Shapes)
        {
            if (cut)
                break;
            if (shape.Fill is { } fill)
                Add((fill, true), shape);
            if (shape.Stroke is { } stroke)
                Add((stroke, false), shape);
        }
        var files = drawing.Files.Select((file, i) => (file, i)).ToDictionary(f => f.file, f => f.i);
        return new LinesResponse(
            [
                .. texts.Select(t => new LineResponse(
                    t.Key.Colour,
                    t.Key.Filled ? StrokeMeaning.Engrave : colours.Of(t.Key.Colour),
                    t.Key.Filled,
                    t.Value.ToString()
                )),
            ],
            cut,
            drawing.Format == "dxf",
            [
                .. (drawing.Pictures ?? [])
                    .Zip(drawing.PictureFiles ?? [])
                    .Where(p => p is { First.Place: not null, Second: not null })
                    .Select(p => new PictureResponse(files[p.Second!], p.First.Place!)),
            ]
        );

        void Add((string, bool) key, Shape shape)
        {
            if (!texts.TryGetValue(key, out var text))
                texts[key] = text = new StringBuilder();
            var before = text.Length;
            foreach (var path in shape.Subpaths)
                Write(text, path);
            total += text.Length - before;
            cut |= total > MostCharacters;
        }
    }

    private static void Write(StringBuilder text, Subpath path)
    {
        text.Append(CultureInfo.InvariantCulture, $"M{path.Start.X:0.###} {path.Start.Y:0.###}");
        for (var i = 0; i < path.Count; i++)
        {
            var s = path[i];
            if (s.Straight)
                text.Append(CultureInfo.InvariantCulture, $"L{s.End.X:0.###} {s.End.Y:0.###}");
            else
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"C{s.C1.X:0.###} {s.C1.Y:0.###} {s.C2.X:0.###} {s.C2.Y:0.###} {s.End.X:0.###} {s.End.Y:0.###}"
                );
        }
        if (path.ClosedByCommand)
            text.Append('Z');
    }
}
