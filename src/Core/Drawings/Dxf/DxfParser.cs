namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// Reads the sections of a DXF file: units, layers, blocks, entities. What is drawn becomes lines at once, in the file's unit.
/// </summary>
internal sealed class DxfParser(DxfGroups groups)
{
    private const double ToleranceMm = 1e-4;

    private static readonly HashSet<string> Silent = new(StringComparer.Ordinal)
    {
        "VIEWPORT",
        "ATTDEF",
        "SEQEND",
        "VERTEX",
        "POINT",
        "ACAD_PROXY_OBJECT",
    };

    private readonly Dictionary<string, DxfLayer> _layers = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, DxfBlock> _blocks = new(StringComparer.OrdinalIgnoreCase);
    private readonly List<DxfItem> _items = [];
    private readonly DxfEntity _entity = new();
    private DxfShapes _shapes = new(ToleranceMm);
    private double _mmPerUnit = 1;
    private bool _unitStated;
    private int _broken;
    private int _segments;

    public DxfFile Read()
    {
        if (!groups.Read())
            throw DxfGroups.Broken("it is empty");
        while (true)
        {
            // A comment may stand before anything.
            while (groups.Code == 999)
                Next();
            if (groups.Code != 0)
                throw DxfGroups.Broken("it does not begin with a section");
            if (groups.Is("EOF"u8))
                break;
            if (!groups.Is("SECTION"u8))
                throw DxfGroups.Broken($"“{groups.Text}” stands where a section should");
            Next();
            if (groups.Code != 2)
                throw DxfGroups.Broken("a section has no name");
            var name = groups.Text;
            Next();
            switch (name)
            {
                case "HEADER":
                    Header();
                    break;
                case "TABLES":
                    Tables();
                    break;
                case "BLOCKS":
                    Blocks();
                    break;
                case "ENTITIES":
                    Entities(_items);
                    break;
                default:
                    Skip();
                    break;
            }
            Next();
        }
        return new DxfFile(_mmPerUnit, _layers, _blocks, _items, _broken, _unitStated);
    }

    private void Next()
    {
        if (!groups.Read())
            throw DxfGroups.Broken("it ends in the middle");
    }

    private bool AtEnd => groups.Code == 0 && groups.Is("ENDSEC"u8);

    private void Skip()
    {
        while (!AtEnd)
            Next();
    }

    private void Header()
    {
        var variable = "";
        for (; !AtEnd; Next())
        {
            if (groups.Code == 9)
                variable = groups.Text;
            else if (variable == "$INSUNITS" && groups.Code == 70)
                (_mmPerUnit, _unitStated) = (DxfUnits.Mm(groups.Whole), groups.Whole != 0);
        }
        _shapes = new DxfShapes(ToleranceMm / _mmPerUnit);
    }

    private void Tables()
    {
        while (!AtEnd)
        {
            var isLayer = groups.Code == 0 && groups.Is("LAYER"u8);
            Next();
            if (!isLayer)
                continue;
            var (name, flags, index, trueColour) = ("", 0, 7, (int?)null);
            for (; groups.Code != 0; Next())
            {
                switch (groups.Code)
                {
                    case 2:
                        name = groups.Text;
                        break;
                    case 70:
                        flags = groups.Whole;
                        break;
                    case 62:
                        index = groups.Whole;
                        break;
                    case 420:
                        trueColour = groups.Whole;
                        break;
                }
            }
            // A colour below zero switches the layer off; flag 1 freezes it.
            if (name.Length > 0)
                _layers[name] = new DxfLayer(Math.Abs(index), trueColour, index < 0, (flags & 1) != 0);
        }
    }

    private void Blocks()
    {
        while (!AtEnd)
        {
            var isBlock = groups.Code == 0 && groups.Is("BLOCK"u8);
            Next();
            if (!isBlock)
                continue;
            _entity.Begin("BLOCK");
            for (; groups.Code != 0; Next())
                _entity.Add(groups);
            var (name, basePoint) = (_entity.Name, _entity.At(10));
            var items = new List<DxfItem>();
            Entities(items);
            _blocks[name] = new DxfBlock(basePoint, items);
        }
    }

    /// <summary>Reads entities up to the end of the block or section.</summary>
    private void Entities(List<DxfItem> into)
    {
        while (!AtEnd && !groups.Is("ENDBLK"u8))
        {
            if (groups.Code != 0)
                throw DxfGroups.Broken("an entity has no beginning");
            if (groups.Is("EOF"u8))
                throw DxfGroups.Broken("a section has no end");
            ReadEntity();
            if (into.Count >= DrawingLimits.Drawn)
                throw new UnreadableDrawingException($"The file draws more than {DrawingLimits.Drawn} entities. Split it.");
            if (_entity.Type == "POLYLINE")
                ReadPolyline(into);
            else
                Add(into, _entity.Type is "LINE" ? _shapes.Of(_entity) : null);
        }
    }

    private void ReadEntity()
    {
        _entity.Begin(groups.Text);
        for (Next(); groups.Code != 0; Next())
            _entity.Add(groups);
    }

    private void Add(List<DxfItem> into, Subpath? line)
    {
        // Invisible, or on a page of paper beside the drawing.
        if (_entity.Flag(60, 1) || _entity.Flag(67, 1) || Silent.Contains(_entity.Type))
            return;
        var style = Style();
        switch (_entity.Type)
        {
            case "INSERT":
                into.Add(Insert(style));
                break;
            case "DIMENSION" when _entity.Name.Length > 0:
                // Its picture is a block that lies where it belongs already.
                into.Add(
                    new DxfInsert(
                        Style: style,
                        Block: _entity.Name,
                        Plane: Matrix.Identity,
                        At: default,
                        Turn: 0,
                        Scale: new Point(1, 1),
                        Columns: 1,
                        Rows: 1,
                        Spacing: default
                    )
                );
                break;
            case "TEXT" or "MTEXT" or "ATTRIB":
                into.Add(new DxfText(style, _entity.At(10)));
                break;
            case "LINE" or "ARC" or "CIRCLE" or "ELLIPSE" or "LWPOLYLINE" or "LEADER" or "SPLINE" or "SOLID" or "TRACE":
                Keep(into, style, line ?? _shapes.Of(_entity), _entity.Type is "SOLID" or "TRACE");
                break;
            default:
                into.Add(new DxfNoted(style, _entity.Type));
                break;
        }
    }

    private void Keep(List<DxfItem> into, DxfStyle style, Subpath? path, bool filled = false)
    {
        if (path is null)
        {
            _broken++;
            return;
        }
        _segments += path.Count;
        if (_segments > DrawingLimits.Segments)
            throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
        into.Add(new DxfPath(style, path, filled));
    }

    /// <summary>A polyline of before R14: its vertices follow as entities, up to SEQEND.</summary>
    private void ReadPolyline(List<DxfItem> into)
    {
        var (flags, style) = (_entity.Whole(70), Style());
        var hidden = _entity.Flag(60, 1) || _entity.Flag(67, 1);
        // 8 is a polyline in space: its points are the drawing's own, whatever its plane.
        var plane = (flags & 8) != 0 ? Matrix.Identity : DxfPlane.Of(_entity, _entity.Get(30));
        _shapes.BeginPolyline();
        while (groups.Code == 0 && groups.Is("VERTEX"u8))
        {
            ReadEntity();
            _shapes.AddVertex(_entity);
        }
        if (groups.Code == 0 && groups.Is("SEQEND"u8))
            ReadEntity();
        else
            throw DxfGroups.Broken("a POLYLINE has no end");
        if (hidden)
            return;
        if ((flags & (16 | 64)) != 0)
            into.Add(new DxfNoted(style, "MESH"));
        else
            Keep(into, style, _shapes.EndPolyline((flags & 1) != 0, plane));
    }

    private DxfInsert Insert(DxfStyle style) =>
        new(
            Style: style,
            Block: _entity.Name,
            Plane: DxfPlane.Of(_entity, _entity.Get(30)),
            At: _entity.At(10),
            Turn: _entity.Get(50),
            Scale: new Point(_entity.Get(41, 1), _entity.Get(42, 1)),
            Columns: Math.Max(1, _entity.Whole(70, 1)),
            Rows: Math.Max(1, _entity.Whole(71, 1)),
            Spacing: new Point(_entity.Get(44), _entity.Get(45))
        );

    private DxfStyle Style() => new(_entity.Layer, _entity.Whole(62, DxfColours.ByLayer), _entity.Has(420) ? _entity.Whole(420) : null);
}

/// <summary>$INSUNITS of the DXF reference. A file without units is in millimetres.</summary>
internal static class DxfUnits
{
    public static double Mm(int code) =>
        code switch
        {
            1 => 25.4,
            2 => 304.8,
            3 => 1_609_344,
            5 => 10,
            6 => 1000,
            7 => 1e6,
            8 => 25.4e-6,
            9 => 0.0254,
            10 => 914.4,
            11 => 1e-7,
            12 => 1e-6,
            13 => 1e-3,
            14 => 100,
            15 => 1e4,
            16 => 1e5,
            21 => 1_200_000 / 3937.0,
            22 => 100_000 / 3937.0,
            23 => 3_600_000 / 3937.0,
            24 => 6_336_000_000 / 3937.0,
            _ => 1,
        };
}
