namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>Layer and colour as an entity names them.</summary>
/// <param name="Index">0 by block, 256 by layer, else a colour of the index.</param>
/// <param name="True">A true colour, which goes before the index.</param>
internal readonly record struct DxfStyle(string Layer, int Index, int? True);

/// <summary>What stands in a block or in the drawing itself.</summary>
internal abstract record DxfItem(DxfStyle Style);

/// <param name="Filled">A solid: an area, not a line.</param>
internal sealed record DxfPath(DxfStyle Style, Subpath Path, bool Filled = false) : DxfItem(Style);

/// <summary>A block placed, once or in rows and columns.</summary>
internal sealed record DxfInsert(
    DxfStyle Style,
    string Block,
    Matrix Plane,
    Point At,
    double Turn,
    Point Scale,
    int Columns,
    int Rows,
    Point Spacing
) : DxfItem(Style)
{
    /// <summary>From the block's coordinates to those around it.</summary>
    public Matrix Place(int column, int row, Point basePoint) =>
        Plane
            .Times(Matrix.Translate(At.X, At.Y))
            .Times(Matrix.Rotate(Turn))
            .Times(Matrix.Translate(column * Spacing.X, row * Spacing.Y))
            .Times(Matrix.Scale(Scale.X, Scale.Y))
            .Times(Matrix.Translate(-basePoint.X, -basePoint.Y));
}

internal sealed record DxfText(DxfStyle Style, Point At) : DxfItem(Style);

/// <summary>A kind of entity that is counted and not drawn.</summary>
internal sealed record DxfNoted(DxfStyle Style, string Kind) : DxfItem(Style);

/// <param name="Off">What lies on it is not drawn.</param>
/// <param name="Frozen">Nor is what a block placed on it holds on other layers.</param>
internal sealed record DxfLayer(int Index, int? True, bool Off, bool Frozen);

internal sealed record DxfBlock(Point Base, List<DxfItem> Items);

internal sealed record DxfFile(
    double MmPerUnit,
    IReadOnlyDictionary<string, DxfLayer> Layers,
    IReadOnlyDictionary<string, DxfBlock> Blocks,
    List<DxfItem> Items,
    int Broken,
    bool UnitStated
);
