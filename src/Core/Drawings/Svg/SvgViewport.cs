namespace VelvetGate.Core.Drawings.Svg;

/// <summary>Viewports and viewBoxes (SVG 2, sections 8.2, 8.6 and 8.8), in px.</summary>
internal static class SvgViewport
{
    /// <param name="WidthPx">Null when the file states no size at all.</param>
    /// <param name="UserWidth">What 100 % is inside, in user units.</param>
    public sealed record Root(double? WidthPx, double? HeightPx, double UserWidth, double UserHeight, Matrix ToPage);

    public sealed record Nested(double Width, double Height, Matrix ToParent);

    /// <summary>The page. Without a physical size the user unit is a px, 96 to the inch.</summary>
    public static Root OfRoot(SvgNode root)
    {
        var box = ViewBox(root);
        var width = Stated(root["width"]);
        var height = Stated(root["height"]);
        if (box is not { } b)
            return new Root(width, height, width ?? 0, height ?? 0, Matrix.Identity);
        var w = width ?? (height is { } h0 ? h0 * b.Width / b.Height : b.Width);
        var h = height ?? (width is { } w0 ? w0 * b.Height / b.Width : b.Height);
        return new Root(w, h, b.Width, b.Height, Fit(b, w, h, root["preserveAspectRatio"]));
    }

    /// <summary>An inner svg, or a symbol placed by <c>use</c>; null when it has no area and so is not drawn.</summary>
    public static Nested? OfNested(SvgNode node, (double Width, double Height)? useSize, Inherited style)
    {
        var width =
            useSize is { } u && !double.IsNaN(u.Width) ? u.Width : SvgValues.Length(node["width"], style.ViewWidth) ?? style.ViewWidth;
        var height =
            useSize is { } v && !double.IsNaN(v.Height) ? v.Height : SvgValues.Length(node["height"], style.ViewHeight) ?? style.ViewHeight;
        var x = SvgValues.Length(node["x"], style.ViewWidth) ?? 0;
        var y = SvgValues.Length(node["y"], style.ViewHeight) ?? 0;
        var place = Matrix.Translate(x, y);
        if (ViewBox(node) is not { } box)
            return new Nested(width, height, place);
        if (width <= 0 || height <= 0)
            return style.ViewWidth == 0 ? new Nested(box.Width, box.Height, place.Times(Matrix.Translate(-box.X, -box.Y))) : null;
        return new Nested(box.Width, box.Height, place.Times(Fit(box, width, height, node["preserveAspectRatio"])));
    }

    private readonly record struct View(double X, double Y, double Width, double Height);

    private static View? ViewBox(SvgNode node) =>
        node["viewBox"] is { } text && SvgValues.Numbers(text) is [var x, var y, var w, var h] && w > 0 && h > 0
            ? new View(x, y, w, h)
            : null;

    /// <summary>A stated absolute size; a percentage of an unknown window is no size.</summary>
    private static double? Stated(string? text) =>
        text is null || text.TrimEnd().EndsWith('%') ? null
        : SvgValues.Length(text, 0) is > 0 and var px ? px
        : null;

    /// <summary>
    /// Both sides of the page, or the one that is stated, are in mm, inches and the like: a px is whatever a program takes it for.
    /// </summary>
    public static bool IsPhysical(SvgNode root)
    {
        var stated = new[] { root["width"], root["height"] }.Where(s => Stated(s) is not null).Select(s => s!.Trim()).ToList();
        return stated.Count > 0 && stated.All(s => char.IsLetter(s[^1]) && !s.EndsWith("px", StringComparison.OrdinalIgnoreCase));
    }

    private static Matrix Fit(View box, double width, double height, string? preserve)
    {
        var sx = width / box.Width;
        var sy = height / box.Height;
        var words = (preserve ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var align = words.FirstOrDefault(w => w != "defer") ?? "xMidYMid";
        if (align == "none")
            return Matrix.Scale(sx, sy).Times(Matrix.Translate(-box.X, -box.Y));
        var scale = words.Contains("slice") ? Math.Max(sx, sy) : Math.Min(sx, sy);
        var dx =
            (width - box.Width * scale)
            * (
                align.Contains("xMin", StringComparison.Ordinal) ? 0
                : align.Contains("xMax", StringComparison.Ordinal) ? 1
                : 0.5
            );
        var dy =
            (height - box.Height * scale)
            * (
                align.Contains("YMin", StringComparison.Ordinal) ? 0
                : align.Contains("YMax", StringComparison.Ordinal) ? 1
                : 0.5
            );
        return Matrix.Translate(dx, dy).Times(Matrix.Scale(scale, scale)).Times(Matrix.Translate(-box.X, -box.Y));
    }
}
