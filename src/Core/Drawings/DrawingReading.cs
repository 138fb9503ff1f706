using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Drawings.Spacing;

namespace VelvetGate.Core.Drawings;

/// <summary>Reduces a drawing to what is measured of it.</summary>
public static class DrawingReading
{
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
        var nesting = new Nesting(pieces);
        var depths = Depths(pieces, nesting);
        var strokes = drawing
            .Shapes.Where(s => s.Stroke is not null)
            .GroupBy(s => s.Stroke!)
            .OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => Stroke([.. g], g.Key, pieces, depths))
            .ToList();
        var fills = drawing
            .Shapes.Where(s => s.Fill is not null)
            .GroupBy(s => s.Fill!)
            .OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(Fill)
            .Where(f => f.AreaMm2 > 0)
            .ToList();
        var (doubled, spacing) = LinesAlongside.Find(pieces, nesting, patience);
        var pictures = Pictures(drawing, patience);
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
            Pictures: pictures,
            Spacing: spacing,
            Nested: NestedWork.Of(pieces, nesting),
            Asides: Asides(drawing),
            Filled: RasterRows.Of([
                .. drawing.Shapes.Where(s => s.Fill is not null).Select(RasterRows.BoxOf),
                .. (pictures ?? []).Select(p => p.Covers).OfType<Extent>().Select(RasterRows.BoxOf),
            ])
        );
    }

    /// <summary>How many lines lie round each closed one; open ones are run first.</summary>
    internal static Func<Subpath, int> Depths(LinePieces pieces, Nesting nesting)
    {
        var depths = new Dictionary<Subpath, int>(ReferenceEqualityComparer.Instance);
        for (var p = 0; p < pieces.Paths.Length; p++)
            depths[pieces.Paths[p].Line] = pieces.Paths[p].Area == 0 ? int.MaxValue : nesting.Depth(p);
        return path => depths.GetValueOrDefault(path, int.MaxValue);
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

    private static StrokeWork Stroke(IReadOnlyList<Shape> shapes, string colour, LinePieces pieces, Func<Subpath, int> depth)
    {
        var box = new Box();
        var moves = new MoveBins();
        double length = 0,
            travel = 0;
        var open = 0;
        Point? last = null;
        var ends = new LooseEnds();
        foreach (var shape in shapes)
            shape.Extend(ref box);
        List<Subpath> paths = [.. shapes.SelectMany(s => s.Subpaths)];
        foreach (var path in paths)
        {
            if (!path.IsClosed)
                open++;
            if (last is { } from)
                travel += (path.Start - from).Length;
            last = path.End;
            var own = Runs(path, moves);
            length += own;
            if (!path.IsClosed)
                ends.Add(path, own);
        }
        var widest = shapes.MaxBy(s => s.WidthMm);
        return new StrokeWork(
            WidestMm: widest?.WidthMm is { } wide ? Math.Round(wide, 4) : null,
            WidestAt: widest?.WidthMm is null ? null : widest.Corner(),
            Colour: colour,
            LengthMm: length,
            Paths: paths.Count,
            OpenPaths: open,
            Moves: moves.Done(),
            TravelMm: travel,
            Box: Extent.Of(box)!,
            Loose: ends.Find(pieces, pieces.Of(pieces.Colours.BinarySearch(colour, StringComparer.Ordinal))),
            Route: StrokeRoute.Of(shapes, paths, depth)
        );
    }

    /// <summary>The runs of a path between its sharp corners.</summary>
    /// <returns>Its length in mm.</returns>
    private static double Runs(Subpath path, MoveBins moves)
    {
        var length = 0.0;
        var before = 0.0;
        Segment last = default;
        for (var i = 0; i < path.Count; i++)
        {
            var segment = path[i];
            var own = segment.Length();
            if (i > 0)
            {
                var turn = Turns.Of(last.Arriving, segment.Leaving);
                if (turn > Turns.Corner)
                    moves.Stop();
                else if (turn > 1e-9)
                    moves.Bend((before + own) / 2, Math.Min(before, own) / (2 * Math.Tan(turn / 2)));
            }
            var bend = segment.Straight
                ? 0
                : Turns.Of(segment.Leaving, segment.C2 - segment.C1) + Turns.Of(segment.C2 - segment.C1, segment.Arriving);
            moves.Go(own, bend < 1e-9 ? double.PositiveInfinity : own / bend);
            length += own;
            (before, last) = (own, segment);
        }
        moves.Stop();
        return length;
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
}
