using System.Text.Json.Serialization;
using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Drawings.Spacing;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>
/// What the gate needs of a drawing, without its lines. Lengths in mm, areas in mm2. Stored with the file and in decisions.
/// </summary>
/// <param name="WidthMm">Page width as the file states it.</param>
/// <param name="Broken">Shapes whose path data stopped at an error.</param>
/// <param name="Pictures">Pixel pictures as placed; null for none, and in drawings read before they were looked at.</param>
/// <param name="Noted">Kinds of entity that are counted and not drawn; null for none.</param>
/// <param name="Own">What colours mean in this drawing alone; null for none.</param>
/// <param name="Filled">What engraving fills and pictures covers; null in drawings read before this was measured.</param>
/// <param name="Spacing">How near lines run to one another; null in drawings read before this was measured; so too the two after
/// it.</param>
public sealed record DrawingSummary(
    string Name,
    string Format,
    double WidthMm,
    double HeightMm,
    Extent? ExtentMm,
    IReadOnlyList<StrokeWork> Strokes,
    IReadOnlyList<FillWork> Fills,
    IReadOnlyList<Doubled> Doubled,
    int Texts,
    IReadOnlyList<Place> TextAt,
    int Images,
    int Broken,
    IReadOnlyDictionary<string, int>? Noted = null,
    IReadOnlyList<PlacedPicture>? Pictures = null,
    IReadOnlyList<LineSpacing>? Spacing = null,
    IReadOnlyList<NestedWork>? Nested = null,
    DrawingAsides? Asides = null,
    ColourMap? Own = null,
    RasterRows? Filled = null
)
{
    /// <summary>What its colours mean in a house: by the house's map, and by its own where that is silent.</summary>
    public ColourMap Meanings(ColourMap house) => house.With(Own);

    /// <summary>What pictures cover.</summary>
    internal IEnumerable<Extent> Covered => (Pictures ?? []).Select(p => p.Covers).OfType<Extent>();

    /// <summary>Lines, fills and pictures together; <see cref="ExtentMm"/> is without pictures. Null when nothing is drawn.</summary>
    [JsonIgnore]
    public Extent? Reach
    {
        get
        {
            var box = new Box();
            foreach (var part in ExtentMm is { } lines ? Covered.Prepend(lines) : Covered)
            {
                box.Add(new Point(part.MinX, part.MinY));
                box.Add(new Point(part.MaxX, part.MaxY));
            }
            return Extent.Of(box);
        }
    }

    public IEnumerable<Operation> OperationsWith(ColourMap colours)
    {
        var meanings = Meanings(colours);
        var used = Strokes.Select(s => meanings.Of(s.Colour));
        if (Fills.Count > 0 || Covered.Any())
            used = used.Append(StrokeMeaning.Engrave);
        return used.Where(m => m <= StrokeMeaning.Engrave).Select(m => (Operation)m).Distinct().Order();
    }
}

public sealed record Extent(double MinX, double MinY, double MaxX, double MaxY)
{
    [JsonIgnore]
    public double Width => MaxX - MinX;

    [JsonIgnore]
    public double Height => MaxY - MinY;

    public static Extent? Of(in Box box) => box.IsEmpty ? null : new(box.MinX, box.MinY, box.MaxX, box.MaxY);
}

/// <param name="Paths">Subpaths.</param>
/// <param name="Moves">Runs between sharp corners, grouped by length.</param>
/// <param name="TravelMm">Head travel between its paths in drawing order.</param>
/// <param name="Loose">Lines that do not close; null for none, and in drawings read before this was looked for.</param>
/// <param name="Route">Null in drawings read before this was measured.</param>
/// <param name="WidestMm">How wide its widest line is drawn; null where the file does not say, and before this was read.</param>
public sealed record StrokeWork(
    string Colour,
    double LengthMm,
    int Paths,
    int OpenPaths,
    IReadOnlyList<MoveBin> Moves,
    double TravelMm,
    Extent Box,
    Loose? Loose = null,
    StrokeRoute? Route = null,
    double? WidestMm = null,
    Place? WidestAt = null
);

public sealed record FillWork(string Colour, double AreaMm2, Extent Box);

/// <summary>Stretches drawn more than once by strokes of two colours, or of one with itself.</summary>
/// <param name="LengthMm">Redundant length: drawn three times counts twice.</param>
/// <param name="At">Middle of up to fifty stretches.</param>
public sealed record Doubled(string ColourA, string ColourB, int Count, double LengthMm, IReadOnlyList<Place> At);
