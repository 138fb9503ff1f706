using VelvetGate.Core.Drawings.Pictures;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>A drawing as a file that is written here holds it: lines, fills and the pictures that stand in it.</summary>
public static class PlainDrawing
{
    /// <returns>And what such a file does not hold, in words.</returns>
    public static (Drawing Drawing, IReadOnlyList<string> LeftOut) Of(Drawing drawing)
    {
        var (pictures, files) = Kept(drawing);
        var plain = drawing with
        {
            TextAt = [],
            Images = pictures.Count,
            Noted = null,
            Pictures = pictures,
            PictureFiles = files,
            Broken = 0,
            Asides = new DrawingAsides(PageStated: drawing.Asides?.PageStated ?? false, Hidden: 0),
        };
        return (plain, LeftOut(drawing, pictures.Count));
    }

    /// <summary>Pictures whose file is in the drawing: those that are linked cannot be taken along.</summary>
    private static (List<PlacedPicture> Pictures, List<PictureFile?> Files) Kept(Drawing drawing)
    {
        var kept = (drawing.Pictures ?? [])
            .Zip(drawing.PictureFiles ?? [])
            .Where(p => p is { First.Place: not null, Second: not null })
            .ToList();
        return ([.. kept.Select(p => p.First)], [.. kept.Select(p => p.Second)]);
    }

    private static List<string> LeftOut(Drawing drawing, int pictures)
    {
        var left = new List<string>();
        if (drawing.TextAt.Count > 0)
            left.Add(Count(drawing.TextAt.Count, "piece of live lettering", "pieces of live lettering"));
        if (drawing.Images > pictures)
            left.Add(
                Count(
                    drawing.Images - pictures,
                    "pixel picture that is linked or cannot be read",
                    "pixel pictures that are linked or cannot be read"
                )
            );
        foreach (var (kind, count) in drawing.Noted ?? new Dictionary<string, int>())
            left.Add(Count(count, kind, kind));
        if (drawing.Broken > 0)
            left.Add(
                Count(
                    drawing.Broken,
                    "shape beyond the place where its data breaks off",
                    "shapes beyond the place where their data breaks off"
                )
            );
        return left;
    }

    internal static string Count(int n, string one, string more) => n == 1 ? $"1 {one}" : $"{n} {more}";
}
