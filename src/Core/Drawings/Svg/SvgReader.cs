using VelvetGate.Core.Drawings.Pictures;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>
/// Reads an SVG file into true millimetres: units, viewBox, nested transforms, groups, <c>use</c>, style sheets, every basic shape and path
/// command.
/// </summary>
public static class SvgReader
{
    /// <param name="stream">The file; read once, not closed.</param>
    /// <param name="patience">Ends the reading of a file that takes too long.</param>
    /// <exception cref="UnreadableDrawingException">Ill-formed, hostile or beyond <see cref="DrawingLimits"/>; its message says what to
    /// do.</exception>
    public static Drawing Read(Stream stream, CancellationToken patience = default)
    {
        try
        {
            return new SvgWalk(SvgTree.Read(stream, patience), patience).Run();
        }
        catch (OperationCanceledException)
        {
            throw new UnreadableDrawingException("The file takes too long to read. Simplify it, or save it again as plain SVG.");
        }
    }
}

/// <summary>What children inherit (SVG 2, chapter 6), and the viewport that percentages refer to, in px.</summary>
internal readonly record struct Inherited(
    string Stroke,
    string Fill,
    string Color,
    string FillRule,
    string Visibility,
    string StrokeWidth,
    double FontSize,
    double ViewWidth,
    double ViewHeight
)
{
    public static readonly Inherited Initial = new(
        Stroke: "none",
        Fill: "black",
        Color: "black",
        FillRule: "nonzero",
        Visibility: "visible",
        StrokeWidth: "1",
        FontSize: 16,
        ViewWidth: 0,
        ViewHeight: 0
    );
}

/// <summary>One pass over the tree with a stack of its own: no recursion over input.</summary>
internal sealed class SvgWalk
{
    private static readonly HashSet<string> NeverDrawn = new(StringComparer.Ordinal)
    {
        "defs",
        "clipPath",
        "mask",
        "pattern",
        "marker",
        "linearGradient",
        "radialGradient",
        "filter",
        "symbol",
        "style",
        "script",
        "title",
        "desc",
        "metadata",
        "foreignObject",
        "font",
        "cursor",
        "view",
        "meshgradient",
        "hatch",
    };

    private static readonly string[] Presentation =
    [
        "stroke",
        "fill",
        "fill-rule",
        "display",
        "visibility",
        "color",
        "stroke-width",
        "font-size",
        "transform",
    ];

    private readonly SvgNode _root;
    private readonly Dictionary<string, SvgNode> _byId = new(StringComparer.Ordinal);
    private readonly StyleSheet _styles;
    private readonly List<Shape> _shapes = [];
    private readonly List<Point> _texts = [];
    private readonly Stack<Frame> _stack = new();
    private readonly List<Segment> _scratch = [];
    private readonly List<PlacedPicture> _pictures = [];
    private readonly List<PictureFile?> _files = [];
    private readonly Dictionary<SvgNode, PictureFile?> _fileOf = [];
    private int _images;
    private int _broken;
    private int _drawn;
    private int _segments;
    private int _clipped;
    private int _painted;
    private int _hidden;

    /// <summary>What a finding is about, and which shape it is: the next one that is drawn.</summary>
    private readonly List<(string Code, int Shape)> _marks = [];

    private readonly record struct Frame(SvgNode Node, Matrix Matrix, Inherited Style, int Uses, (double Width, double Height)? UseSize);

    private readonly CancellationToken _patience;

    public SvgWalk(SvgNode root, CancellationToken patience)
    {
        _root = root;
        _patience = patience;
        var sheets = new List<string>();
        foreach (var node in All(root))
        {
            if (node.Id is { } id)
                _byId.TryAdd(id, node);
            if (node is { Name: "style", Text: { } text })
                sheets.Add(text.ToString());
        }
        _styles = StyleSheet.Parse(sheets);
    }

    public Drawing Run()
    {
        var page = SvgViewport.OfRoot(_root);
        var toMm = Matrix.Scale(SvgValues.MmPerPx, SvgValues.MmPerPx);
        var style = Inherited.Initial with { ViewWidth = page.UserWidth, ViewHeight = page.UserHeight };
        _stack.Push(new Frame(_root, toMm.Times(page.ToPage), style, 0, null));
        while (_stack.TryPop(out var frame))
        {
            _patience.ThrowIfCancellationRequested();
            Visit(frame);
        }
        var box = new Box();
        if (page.WidthPx is null || page.HeightPx is null)
        {
            foreach (var shape in _shapes)
                shape.Extend(ref box);
        }
        return new Drawing(
            Format: "svg",
            WidthMm: page.WidthPx is { } w ? w * SvgValues.MmPerPx : box.Width,
            HeightMm: page.HeightPx is { } h ? h * SvgValues.MmPerPx : box.Height,
            Shapes: _shapes,
            TextAt: _texts,
            Images: _images,
            Broken: _broken,
            Pictures: _pictures,
            Asides: new DrawingAsides(
                !SvgViewport.IsPhysical(_root),
                _clipped,
                _painted,
                PageStated: page is { WidthPx: not null, HeightPx: not null },
                Places: Places(),
                StylesUnread: _styles.Unread,
                Hidden: _hidden
            ),
            PictureFiles: _files
        );
    }

    /// <summary>A corner of each shape that was marked.</summary>
    private Dictionary<string, IReadOnlyList<Place>>? Places() =>
        _marks.Count == 0
            ? null
            : _marks
                .Where(m => m.Shape < _shapes.Count)
                .GroupBy(m => m.Code)
                .ToDictionary(
                    g => g.Key,
                    IReadOnlyList<Place> (g) => [.. g.Take(DrawingAsides.MostPlaces).Select(m => _shapes[m.Shape].Corner())]
                );

    private static IEnumerable<SvgNode> All(SvgNode root)
    {
        var stack = new Stack<SvgNode>([root]);
        while (stack.TryPop(out var node))
        {
            yield return node;
            for (var i = node.Children.Count - 1; i >= 0; i--)
                stack.Push(node.Children[i]);
        }
    }

    private void Visit(Frame frame)
    {
        var node = frame.Node;
        var viaUse = frame.UseSize is not null;
        if (!IsTaken(node) || (NeverDrawn.Contains(node.Name) && !(viaUse && node.Name == "symbol")))
            return;
        if (++_drawn > DrawingLimits.Drawn)
            throw new UnreadableDrawingException(
                $"With every copy counted the file draws more than {DrawingLimits.Drawn} elements. Split it."
            );
        var properties = Properties(node);
        if (properties.GetValueOrDefault("display") == "none")
        {
            _hidden++;
            return;
        }
        if (IsSet(properties, "clip-path") || IsSet(properties, "mask"))
            Mark(FindingKinds.ClipIgnored.Code, ref _clipped);
        var style = Inherit(frame.Style, properties);
        var matrix =
            node == _root
                ? frame.Matrix
                : frame.Matrix.Times(SvgValues.Transform(properties.GetValueOrDefault("transform")) ?? Matrix.Identity);
        switch (node.Name)
        {
            case "svg" when node != _root:
            case "symbol":
                if (SvgViewport.OfNested(node, frame.UseSize, style) is { } inner)
                    Push(node, matrix.Times(inner.ToParent), style with { ViewWidth = inner.Width, ViewHeight = inner.Height }, frame.Uses);
                break;
            case "use":
                Use(node, matrix, style, frame.Uses);
                break;
            case "switch":
                if (node.Children.FirstOrDefault(IsTaken) is { } chosen)
                    _stack.Push(new Frame(chosen, matrix, style, frame.Uses, null));
                break;
            case "text":
                if (style.Visibility == "visible")
                    _texts.Add(matrix.Map(new Point(First(properties, "x"), First(properties, "y"))));
                break;
            case "image":
                if (style.Visibility == "visible")
                    Place(node, properties, matrix, style);
                break;
            case "svg" or "g" or "a":
                Push(node, matrix, style, frame.Uses);
                break;
            default:
                Draw(node, properties, matrix, style);
                break;
        }
    }

    private static bool IsSet(Dictionary<string, string> properties, string name) =>
        properties.TryGetValue(name, out var value) && value.Contains("url(", StringComparison.Ordinal);

    private void Place(SvgNode node, Dictionary<string, string> properties, Matrix matrix, Inherited style)
    {
        _images++;
        if (_pictures.Count >= DrawingLimits.Pictures)
            return;
        double? Length(string name, double of) => SvgValues.Length(properties.GetValueOrDefault(name), of, style.FontSize);
        // A copy of a picture is no second file.
        if (!_fileOf.TryGetValue(node, out var file))
            _fileOf[node] = file = PictureFile.Of(DataUri.Bytes(node["href"]));
        _files.Add(file);
        _pictures.Add(
            PlacedPicture.Of(
                file?.Header,
                Length("x", style.ViewWidth) ?? 0,
                Length("y", style.ViewHeight) ?? 0,
                Length("width", style.ViewWidth),
                Length("height", style.ViewHeight),
                node["preserveAspectRatio"],
                matrix
            )
        );
    }

    private static double First(Dictionary<string, string> properties, string name) =>
        properties.TryGetValue(name, out var text) && SvgValues.Numbers(text) is [var x, ..] ? x : 0;

    /// <summary>SVG 2, section 5.8: what asks for an extension is for another program, and English stands for every reader here.</summary>
    private static bool IsTaken(SvgNode node) =>
        node.Name[0] != '{'
        && node["requiredExtensions"] is null
        && (
            node["systemLanguage"] is not { } languages
            || languages.Split(',').Any(l => l.Trim().StartsWith("en", StringComparison.OrdinalIgnoreCase))
        );

    private void Push(SvgNode node, Matrix matrix, Inherited style, int uses)
    {
        _stack.EnsureCapacity(_stack.Count + node.Children.Count);
        for (var i = node.Children.Count - 1; i >= 0; i--)
            _stack.Push(new Frame(node.Children[i], matrix, style, uses, null));
    }

    private void Use(SvgNode node, Matrix matrix, Inherited style, int uses)
    {
        if (node["href"] is not { Length: > 1 } href || href[0] != '#' || !_byId.TryGetValue(href[1..], out var target))
            return;
        if (uses >= DrawingLimits.UseDepth || IsWithin(node, target))
            throw new UnreadableDrawingException(
                $"A <use> copies itself, or copies nest deeper than {DrawingLimits.UseDepth}. Turn the copies into shapes in your "
                    + "drawing program."
            );
        var x = SvgValues.Length(node["x"], style.ViewWidth) ?? 0;
        var y = SvgValues.Length(node["y"], style.ViewHeight) ?? 0;
        var size = (
            SvgValues.Length(node["width"], style.ViewWidth) ?? double.NaN,
            SvgValues.Length(node["height"], style.ViewHeight) ?? double.NaN
        );
        _stack.Push(new Frame(target, matrix.Times(Matrix.Translate(x, y)), style, uses + 1, size));
    }

    private static bool IsWithin(SvgNode node, SvgNode target)
    {
        for (var up = node; up is not null; up = up.Parent)
        {
            if (up == target)
                return true;
        }
        return false;
    }

    private Dictionary<string, string> Properties(SvgNode node)
    {
        var found = new Dictionary<string, string>(node.Attributes, StringComparer.Ordinal);
        HashSet<string>? important = null;
        foreach (var (name, value, strong) in _styles.For(node))
            Set(name, value, strong);
        if (node["style"] is { } inline)
        {
            foreach (var (name, value, strong) in StyleSheet.Inline(inline))
                Set(name, value, strong);
        }
        return found;

        void Set(string name, string value, bool strong)
        {
            if (!strong && important?.Contains(name) == true)
                return;
            if (strong)
                (important ??= []).Add(name);
            found[name] = value;
        }
    }

    private static Inherited Inherit(Inherited from, Dictionary<string, string> properties)
    {
        var to = from;
        foreach (var name in Presentation)
        {
            if (!properties.TryGetValue(name, out var value) || value.Length == 0 || value is "inherit" or "unset")
                continue;
            to = name switch
            {
                "stroke" => to with { Stroke = value },
                "fill" => to with { Fill = value },
                "fill-rule" => to with { FillRule = value },
                "visibility" => to with { Visibility = value },
                "color" => to with { Color = SvgValues.Colour(value, from.Color) ?? from.Color },
                "stroke-width" => to with { StrokeWidth = value },
                "font-size" => to with { FontSize = SvgValues.Length(value, from.FontSize, from.FontSize) ?? from.FontSize },
                _ => to,
            };
        }
        return to;
    }

    private void Mark(string code, ref int count)
    {
        count++;
        _marks.Add((code, _shapes.Count));
    }

    private void Draw(SvgNode node, Dictionary<string, string> properties, Matrix matrix, Inherited style)
    {
        if (style.Visibility != "visible")
        {
            _hidden++;
            return;
        }
        var current = SvgValues.Colour(style.Color, "#000000");
        var fill = node.Name == "line" ? null : SvgValues.Colour(style.Fill, current);
        var stroke = SvgValues.Colour(style.Stroke, current);
        var width = SvgValues.Length(style.StrokeWidth, 1, style.FontSize);
        if (width is 0)
            stroke = null;
        if (style.Fill.StartsWith("url(", StringComparison.Ordinal) || style.Stroke.StartsWith("url(", StringComparison.Ordinal))
            Mark(FindingKinds.PaintNoted.Code, ref _painted);
        if (stroke is null && fill is null)
            return;
        var shapes = new SvgShapes(properties, style, DrawingLimits.Segments - _segments, _scratch);
        var subpaths = shapes.Of(node.Name);
        if (shapes.HadError)
            Mark(FindingKinds.PathBroken.Code, ref _broken);
        if (subpaths.Count == 0)
            return;
        var mapped = new List<Subpath>(subpaths.Count);
        foreach (var subpath in subpaths)
        {
            _segments += subpath.Count;
            if (_segments > DrawingLimits.Segments)
                throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
            var placed = subpath.Map(matrix);
            if (!placed.LiesWithin(DrawingLimits.CoordinateMm))
                throw new UnreadableDrawingException(
                    "The drawing has places ten kilometres away, or numbers no machine can reach. Look for stray objects, and save "
                        + "it again."
                );
            mapped.Add(placed);
        }
        // A width follows the scale that lies on it; where that differs by direction, its middle is taken.
        var wide = stroke is null ? null : width * Math.Sqrt(Math.Abs(matrix.A * matrix.D - matrix.B * matrix.C));
        _shapes.Add(new Shape(mapped, stroke, fill, style.FillRule == "evenodd", wide));
    }
}
