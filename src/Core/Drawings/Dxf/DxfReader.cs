namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// Reads an ASCII DXF file, R12 to current, into true millimetres, y upwards: LINE, LWPOLYLINE and POLYLINE with bulges, ARC, CIRCLE,
/// ELLIPSE, SPLINE, SOLID, LEADER,
/// and blocks placed by INSERT, nested, scaled, turned, in rows. Text, hatches and what is not flat are counted. Source: the published DXF
/// reference.
/// </summary>
public static class DxfReader
{
    /// <param name="stream">The file; read once, not closed.</param>
    /// <param name="patience">Ends the reading of a file that takes too long.</param>
    /// <exception cref="UnreadableDrawingException">Ill-formed, cut short, hostile or beyond <see cref="DrawingLimits"/>; its message says
    /// what to do.</exception>
    public static Drawing Read(Stream stream, CancellationToken patience = default)
    {
        try
        {
            return new DxfWalk(new DxfParser(new DxfGroups(stream, patience)).Read(), patience).Run();
        }
        catch (OperationCanceledException)
        {
            throw new UnreadableDrawingException("The file takes too long to read. Simplify it, or split it.");
        }
    }
}

/// <summary>Places every block and gives each line its colour, with a stack of its own: no recursion over input.</summary>
internal sealed class DxfWalk(DxfFile file, CancellationToken patience)
{
    private static readonly DxfLayer Plain = new(7, null, false, false);

    private readonly List<Shape> _shapes = [];
    private readonly List<Point> _texts = [];
    private readonly SortedDictionary<string, int> _noted = new(StringComparer.Ordinal);
    private readonly Stack<Frame> _stack = new();
    private int _hidden;
    private int _images,
        _drawn,
        _segments,
        _missing;

    /// <summary>Layer and colour that a block's entities take over.</summary>
    private readonly record struct Outer(string Layer, string Colour);

    private readonly record struct Frame(List<DxfItem> Items, Matrix Matrix, Outer? Outer, int Depth);

    public Drawing Run()
    {
        _stack.Push(new Frame(file.Items, Matrix.Scale(file.MmPerUnit, file.MmPerUnit), null, 0));
        while (_stack.TryPop(out var frame))
        {
            foreach (var item in frame.Items)
            {
                if ((++_drawn & 0xFF) == 0)
                    patience.ThrowIfCancellationRequested();
                Visit(item, frame);
            }
            if (_drawn > DrawingLimits.Drawn)
                throw TooMany();
        }
        var box = new Box();
        foreach (var shape in _shapes)
            shape.Extend(ref box);
        return new Drawing(
            Format: "dxf",
            WidthMm: box.Width,
            HeightMm: box.Height,
            Shapes: _shapes,
            TextAt: _texts,
            Images: _images,
            Broken: file.Broken + _missing,
            Noted: _noted,
            Asides: new DrawingAsides(!file.UnitStated, Hidden: _hidden)
        );
    }

    private static UnreadableDrawingException TooMany() =>
        new($"With every copy counted the file draws more than {DrawingLimits.Drawn} entities. Split it.");

    private void Visit(DxfItem item, in Frame frame)
    {
        // Layer 0 in a block is the layer that the block is placed on.
        var layerName = item.Style.Layer == "0" && frame.Outer is { } outer ? outer.Layer : item.Style.Layer;
        var layer = file.Layers.GetValueOrDefault(layerName, Plain);
        if (layer.Frozen || (layer.Off && item is not DxfInsert))
        {
            _hidden++;
            return;
        }
        var colour = item.Style switch
        {
            { True: { } rgb } => DxfColours.True(rgb),
            { Index: DxfColours.ByBlock } => frame.Outer?.Colour ?? DxfColours.Of(7),
            { Index: DxfColours.ByLayer } => layer.True is { } rgb ? DxfColours.True(rgb) : DxfColours.Of(layer.Index),
            var own => DxfColours.Of(own.Index),
        };
        switch (item)
        {
            case DxfPath path:
                Draw(path, frame.Matrix, colour);
                break;
            case DxfInsert insert:
                Place(insert, frame, new Outer(layerName, colour));
                break;
            case DxfText text:
                _texts.Add(frame.Matrix.Map(text.At));
                break;
            case DxfNoted { Kind: "IMAGE" }:
                _images++;
                break;
            case DxfNoted noted:
                _noted[noted.Kind] = _noted.GetValueOrDefault(noted.Kind) + 1;
                break;
        }
    }

    private void Draw(DxfPath path, in Matrix matrix, string colour)
    {
        _segments += path.Path.Count;
        if (_segments > DrawingLimits.Segments)
            throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
        var placed = path.Path.Map(matrix);
        if (!placed.LiesWithin(DrawingLimits.CoordinateMm))
            throw new UnreadableDrawingException(
                "The drawing has places ten kilometres away, or numbers no machine can reach. Look for stray objects, and save it again."
            );
        _shapes.Add(new Shape([placed], path.Filled ? null : colour, path.Filled ? colour : null, false));
    }

    private void Place(DxfInsert insert, in Frame frame, Outer outer)
    {
        if (!file.Blocks.TryGetValue(insert.Block, out var block))
        {
            _missing++;
            return;
        }
        if (frame.Depth >= DrawingLimits.UseDepth)
            throw new UnreadableDrawingException(
                $"A block places itself, or blocks nest deeper than {DrawingLimits.UseDepth}. Explode the blocks in your drawing program."
            );
        if ((long)insert.Columns * insert.Rows * Math.Max(1, block.Items.Count) > DrawingLimits.Drawn - _drawn)
            throw TooMany();
        for (var row = 0; row < insert.Rows; row++)
        {
            for (var column = 0; column < insert.Columns; column++)
                _stack.Push(new Frame(block.Items, frame.Matrix.Times(insert.Place(column, row, block.Base)), outer, frame.Depth + 1));
        }
    }
}
