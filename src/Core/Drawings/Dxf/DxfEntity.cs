namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// One entity as it stands in the file: its numbers in their order, and the few texts that matter. Used again for the next.
/// </summary>
internal sealed class DxfEntity
{
    private readonly List<(int Code, double Value)> _numbers = [];

    public string Type { get; private set; } = "";

    public string Layer { get; private set; } = "0";

    /// <summary>Code 2: the block that an insert places.</summary>
    public string Name { get; private set; } = "";

    public IReadOnlyList<(int Code, double Value)> Numbers => _numbers;

    public void Begin(string type)
    {
        (Type, Layer, Name) = (type, "0", "");
        _numbers.Clear();
    }

    public void Add(DxfGroups group)
    {
        switch (group.Code)
        {
            case 8:
                Layer = group.Text;
                break;
            case 2:
                Name = group.Text;
                break;
            case (>= 10 and < 80) or (>= 90 and < 100) or (>= 210 and < 240) or 420:
                if (_numbers.Count >= 8L * DrawingLimits.Segments)
                    throw new UnreadableDrawingException($"One {Type} has more than {DrawingLimits.Segments} points. Split it.");
                _numbers.Add((group.Code, group.Number));
                break;
        }
    }

    public double Get(int code, double otherwise = 0)
    {
        foreach (var (c, value) in _numbers)
        {
            if (c == code)
                return value;
        }
        return otherwise;
    }

    public bool Has(int code) => _numbers.Exists(n => n.Code == code);

    public int Whole(int code, int otherwise = 0) => DxfGroups.Clamp(Get(code, otherwise));

    public bool Flag(int code, int bit) => (Whole(code) & bit) != 0;

    public Point At(int code) => new(Get(code), Get(code + 10));

    public IEnumerable<double> All(int code) => _numbers.Where(n => n.Code == code).Select(n => n.Value);

    /// <summary>Points written one after another with these codes.</summary>
    public List<Point> Points(int code)
    {
        var points = new List<Point>();
        double? x = null;
        foreach (var (c, value) in _numbers)
        {
            if (c == code)
                x = value;
            else if (c == code + 10 && x is { } known)
            {
                points.Add(new Point(known, value));
                x = null;
            }
        }
        return points;
    }
}

/// <summary>The plane an entity is drawn in, seen from above (DXF reference, arbitrary axis algorithm).</summary>
internal static class DxfPlane
{
    /// <summary>From the entity's own coordinates to the drawing's.</summary>
    /// <param name="elevation">Height of the entity over its plane.</param>
    public static Matrix Of(DxfEntity entity, double elevation)
    {
        var (x, y, z) = Normal(entity);
        if (x == 0 && y == 0 && z > 0)
            return Matrix.Identity;
        // Near the pole the y axis of the world serves, else its z axis: a × n is the plane's own x axis.
        var across = Math.Abs(x) < 1 / 64.0 && Math.Abs(y) < 1 / 64.0 ? Unit((z, 0, -x)) : Unit((-y, x, 0));
        var down = Unit((y * across.Z - z * across.Y, z * across.X - x * across.Z, x * across.Y - y * across.X));
        return new Matrix(across.X, across.Y, down.X, down.Y, elevation * x, elevation * y);
    }

    public static (double X, double Y, double Z) Normal(DxfEntity entity) =>
        Unit((entity.Get(210), entity.Get(220), entity.Get(230, entity.Has(210) || entity.Has(220) ? 0 : 1)));

    private static (double X, double Y, double Z) Unit((double X, double Y, double Z) v)
    {
        var length = Math.Sqrt(v.X * v.X + v.Y * v.Y + v.Z * v.Z);
        return length > 0 ? (v.X / length, v.Y / length, v.Z / length) : (0, 0, 1);
    }
}
