namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>Entities as lines, in the drawing's plane seen from above and in the file's unit.</summary>
/// <param name="tolerance">For curves that are not cubics, in the file's unit.</param>
internal sealed class DxfShapes(double tolerance)
{
    /// <summary>A polyline's vertices come as entities of their own.</summary>
    private readonly List<(Point At, double Bulge)> _vertices = [];

    /// <summary>The lines of an entity; null when it says nothing that can be drawn.</summary>
    public Subpath? Of(DxfEntity e) =>
        e.Type switch
        {
            "LINE" => Path([Segment.Line(e.At(10), e.At(11))], false),
            "ARC" => Circle(e, Degrees(e.Get(50)), Turn(e.Get(50), e.Get(51))),
            "CIRCLE" => Circle(e, 0, 2 * Math.PI),
            "ELLIPSE" => Ellipse(e),
            "LWPOLYLINE" => Polyline(Bulged(e), e.Flag(70, 1))?.Map(DxfPlane.Of(e, e.Get(38))),
            "LEADER" => Polyline([.. e.Points(10).Select(p => (p, 0.0))], false),
            "SPLINE" => Spline(e),
            "SOLID" or "TRACE" => Solid(e),
            _ => null,
        };

    public void BeginPolyline() => _vertices.Clear();

    public void AddVertex(DxfEntity e)
    {
        // 16 is a point of the frame around a smoothed polyline; 64 and 128 belong to meshes.
        if (e.Flag(70, 16) || (e.Flag(70, 128) && !e.Flag(70, 64)))
            return;
        if (_vertices.Count >= DrawingLimits.Segments)
            throw new UnreadableDrawingException($"One POLYLINE has more than {DrawingLimits.Segments} points. Split it.");
        _vertices.Add((e.At(10), e.Get(42)));
    }

    /// <param name="plane">What the head of the polyline says of it; the identity for one in space.</param>
    public Subpath? EndPolyline(bool closed, Matrix plane) => Polyline(_vertices, closed)?.Map(plane);

    private static List<(Point At, double Bulge)> Bulged(DxfEntity e)
    {
        var vertices = new List<(Point, double)>();
        double x = 0;
        foreach (var (code, value) in e.Numbers)
        {
            if (code == 10)
                x = value;
            else if (code == 20)
                vertices.Add((new Point(x, value), 0));
            else if (code == 42 && vertices.Count > 0)
                vertices[^1] = (vertices[^1].Item1, value);
        }
        return vertices;
    }

    private static Subpath? Polyline(List<(Point At, double Bulge)> vertices, bool closed)
    {
        var pieces = new List<Segment>(vertices.Count);
        var count = closed && vertices.Count > 1 ? vertices.Count : vertices.Count - 1;
        for (var i = 0; i < count; i++)
        {
            var (from, to) = (vertices[i], vertices[(i + 1) % vertices.Count].At);
            // Two points in one place make no line, but a dot that is closed stays one.
            if (from.At == to)
                continue;
            pieces.AddRange(Arcs.Bulge(from.At, to, from.Bulge));
        }
        return Path(pieces, closed);
    }

    private static Subpath? Circle(DxfEntity e, double first, double delta)
    {
        var r = e.Get(40);
        if (r <= 0)
            return null;
        var whole = Math.Abs(delta) >= 2 * Math.PI - 1e-9;
        return Path([.. Arcs.Turn(e.At(10), new Point(r, 0), new Point(0, r), first, delta)], whole)?.Map(DxfPlane.Of(e, e.Get(30)));
    }

    private static Subpath? Ellipse(DxfEntity e)
    {
        var (u, z, ratio) = (e.At(11), e.Get(31), e.Get(40, 1));
        if (u.Length + Math.Abs(z) == 0 || ratio == 0)
            return null;
        var n = DxfPlane.Normal(e);
        // The minor axis: normal × major, in the ratio of the two.
        var v = ratio * new Point(n.Y * z - n.Z * u.Y, n.Z * u.X - n.X * z);
        var (first, last) = (e.Get(41), e.Get(42, 2 * Math.PI));
        var delta = (last - first) % (2 * Math.PI);
        if (delta <= 1e-9)
            delta += 2 * Math.PI;
        return Path([.. Arcs.Turn(e.At(10), u, v, first, delta)], delta >= 2 * Math.PI - 1e-9);
    }

    private Subpath? Spline(DxfEntity e)
    {
        var (controls, through, closed) = (e.Points(10), e.Points(11), e.Flag(70, 1));
        if (controls.Count > 0)
            return Path(DxfSpline.ToCubics(e.Whole(71, 3), [.. e.All(40)], controls, [.. e.All(41)], tolerance), closed);
        if (closed && through.Count > 2 && through[0] != through[^1])
            through.Add(through[0]);
        if (through.Count < 2)
            return null;
        return Path(DxfSpline.Through(through, e.Has(12) ? e.At(12) : null, e.Has(13) ? e.At(13) : null), closed);
    }

    /// <summary>Three or four corners; the last two are written crosswise.</summary>
    private static Subpath? Solid(DxfEntity e)
    {
        Point[] corners = e.Has(13) && e.At(13) != e.At(12) ? [e.At(10), e.At(11), e.At(13), e.At(12)] : [e.At(10), e.At(11), e.At(12)];
        return Polyline([.. corners.Select(c => (c, 0.0))], true)?.Map(DxfPlane.Of(e, e.Get(30)));
    }

    private static Subpath? Path(List<Segment> pieces, bool closed) =>
        pieces.Count == 0 ? null : new Subpath(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(pieces), closed);

    private static double Degrees(double degrees) => degrees * Math.PI / 180;

    /// <summary>How far an arc turns: always to the left, a whole circle where both ends are one.</summary>
    private static double Turn(double from, double to)
    {
        var turn = (to - from) % 360;
        return Degrees(turn <= 1e-9 ? turn + 360 : turn);
    }
}
