using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Drawings.Spacing;

namespace VelvetGate.Core.Drawings;

/// <summary>Reduces a drawing to what is measured of it.</summary>
public static class DrawingReading
{
    /// <summary>A joint that turns more than this stops the head. Rough, common practice.</summary>
    private const double CornerDegrees = 15;

    private static readonly double CornerCosine = Math.Cos(CornerDegrees * Math.PI / 180);

    /// <param name="patience">Ends the measuring of a drawing that takes too long.</param>
    /// <exception cref="UnreadableDrawingException">It did.</exception>
    public static DrawingSummary Summarise(string name, Drawing drawing, CancellationToken patience = default)
    {
        try
        {
            return Measure(name, drawing, patience);
        }
        catch (OperationCanceledException)
        {
            throw new UnreadableDrawingException(
                "The drawing takes too long to check: very many lines cross each other. Simplify it, or split it."
            );
        }
    }

    private static DrawingSummary Measure(string name, Drawing drawing, CancellationToken patience)
    {
        var pieces = new LinePieces(drawing);
        var box = new Box();
        foreach (var shape in drawing.Shapes)
            shape.Extend(ref box);
        var strokes = drawing
            .Shapes.Where(s => s.Stroke is not null)
            .GroupBy(s => s.Stroke!)
            .OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => Stroke(g, pieces))
            .ToList();
        var fills = drawing
            .Shapes.Where(s => s.Fill is not null)
            .GroupBy(s => s.Fill!)
            .OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(Fill)
            .Where(f => f.AreaMm2 > 0)
            .ToList();
        var nesting = new Nesting(pieces);
        var (doubled, spacing) = LinesAlongside.Find(pieces, nesting, patience);
        return new DrawingSummary(
            Name: name,
            Format: drawing.Format,
            WidthMm: drawing.WidthMm,
            HeightMm: drawing.HeightMm,
            ExtentMm: Extent.Of(box),
            Strokes: strokes,
            Fills: fills,
            Doubled: doubled,
            Texts: drawing.TextAt.Count,
            TextAt: [.. drawing.TextAt.Take(50).Select(p => new Place(p.X, p.Y))],
            Images: drawing.Images,
            Broken: drawing.Broken,
            Noted: drawing.Noted is { Count: > 0 } noted ? noted : null,
            Pictures: Pictures(drawing, patience),
            Spacing: spacing,
            Nested: NestedWork.Of(pieces, nesting),
            Asides: Asides(drawing)
        );
    }

    private static DrawingAsides Asides(Drawing drawing)
    {
        var asides = (drawing.Asides ?? new()) with
        {
            FilledOnly = drawing.Shapes.Count(s => s is { Fill: not null, Stroke: null } && FilledArea.Of(s) > 0),
        };
        var both = drawing
            .Shapes.Where(s => s is { Fill: not null, Stroke: not null } && FilledArea.Of(s) > 0)
            .GroupBy(s => s.Fill!)
            .ToDictionary(g => g.Key, g => g.Count());
        if (both.Count > 0)
            asides = asides with { FilledToo = both };
        if (!asides.PageStated)
            return asides;
        var off = drawing.Shapes.Where(s => IsOff(s, drawing.WidthMm, drawing.HeightMm)).ToList();
        if (off.Count == 0)
            return asides;
        var places = new Dictionary<string, IReadOnlyList<Place>>(asides.Places ?? new Dictionary<string, IReadOnlyList<Place>>())
        {
            [FindingKinds.PageOutside.Code] = [.. off.Take(DrawingAsides.MostPlaces).Select(s => s.Corner())],
        };
        return asides with { OffPage = off.Count, Places = places };
    }

    /// <summary>Wholly outside the page: left over from somewhere, or forgotten.</summary>
    private static bool IsOff(Shape shape, double width, double height)
    {
        var box = new Box();
        shape.Extend(ref box);
        return !box.IsEmpty && (box.MaxX < 0 || box.MaxY < 0 || box.MinX > width || box.MinY > height);
    }

    private static List<PlacedPicture>? Pictures(Drawing drawing, CancellationToken patience)
    {
        if (drawing.Pictures is not { Count: > 0 } pictures)
            return null;
        var seen = new Dictionary<PictureFile, double?>();
        var left = DrawingLimits.Pixels;
        return [.. pictures.Select((picture, i) => drawing.PictureFiles?[i] is { } file ? picture with { Greys = Greys(file) } : picture)];

        double? Greys(PictureFile file)
        {
            if (seen.TryGetValue(file, out var greys))
                return greys;
            greys = PictureTones.Between(file, left, patience);
            if (greys is not null)
                left -= (long)file.Header.Width * file.Header.Height;
            return seen[file] = greys is { } share ? Math.Round(share, 4) : null;
        }
    }

    private static StrokeWork Stroke(IGrouping<string, Shape> shapes, LinePieces pieces)
    {
        var box = new Box();
        var moves = new MoveBins();
        double length = 0,
            travel = 0;
        int paths = 0,
            open = 0;
        Point? last = null;
        var ends = new LooseEnds();
        foreach (var shape in shapes)
            shape.Extend(ref box);
        foreach (var path in shapes.SelectMany(s => s.Subpaths))
        {
            paths++;
            if (!path.IsClosed)
                open++;
            if (last is { } from)
                travel += (path.Start - from).Length;
            last = path.End;
            double run = 0,
                start = length;
            Segment before = default;
            for (var i = 0; i < path.Count; i++)
            {
                var segment = path[i];
                if (i > 0 && IsCorner(before, segment))
                {
                    moves.Add(run);
                    run = 0;
                }
                var own = segment.Length();
                run += own;
                length += own;
                before = segment;
            }
            moves.Add(run);
            if (!path.IsClosed)
                ends.Add(path, length - start);
        }
        return new StrokeWork(
            Colour: shapes.Key,
            LengthMm: length,
            Paths: paths,
            OpenPaths: open,
            Moves: moves.Done(),
            TravelMm: travel,
            Box: Extent.Of(box)!,
            Loose: ends.Find(pieces, pieces.Of(pieces.Colours.BinarySearch(shapes.Key, StringComparer.Ordinal)))
        );
    }

    private static bool IsCorner(in Segment before, in Segment after)
    {
        Point a = before.Arriving,
            b = after.Leaving;
        var size = a.Length * b.Length;
        return size > 0 && (a.X * b.X + a.Y * b.Y) / size < CornerCosine;
    }

    private static FillWork Fill(IGrouping<string, Shape> shapes)
    {
        var box = new Box();
        double area = 0;
        foreach (var shape in shapes)
        {
            var own = FilledArea.Of(shape);
            area += own;
            if (own <= 0)
                continue;
            shape.Extend(ref box);
        }
        return new FillWork(shapes.Key, area, Extent.Of(box) ?? new Extent(0, 0, 0, 0));
    }

    /// <summary>Runs gathered in quarter-octaves, so that a million of them stay a short list.</summary>
    private sealed class MoveBins
    {
        private readonly Dictionary<int, MoveBin> _bins = [];

        public void Add(double mm)
        {
            if (mm <= 0)
                return;
            var key = (int)Math.Floor(Math.Log2(mm) * 4);
            var bin = _bins.GetValueOrDefault(key);
            _bins[key] = new MoveBin(bin.Count + 1, bin.TotalMm + mm);
        }

        public IReadOnlyList<MoveBin> Done() => [.. _bins.OrderBy(b => b.Key).Select(b => b.Value)];
    }
}
