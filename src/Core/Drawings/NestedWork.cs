using System.Text.Json;
using System.Text.Json.Serialization;
using VelvetGate.Core.Drawings.Spacing;

namespace VelvetGate.Core.Drawings;

/// <summary>What a file leaves open, or holds beside its lines.</summary>
/// <param name="SizeAssumed">It states no physical size: px at 96 to the inch, or the units of a DXF file without a unit, were
/// taken.</param>
/// <param name="Clipped">Elements that the file clips or masks; they are read whole.</param>
/// <param name="Painted">Elements painted with a pattern or gradient, which is not drawn.</param>
/// <param name="FilledOnly">Shapes with a fill and no stroke.</param>
/// <param name="FilledToo">Shapes with a fill beside their stroke, by the colour of the fill; null for none.</param>
/// <param name="StylesUnread">Rules of its style sheets whose selector this reader does not know.</param>
/// <param name="Hidden">Elements that the file hides, or that lie on layers that are off; they are not read. Null in drawings read before
/// this was counted.</param>
/// <param name="OffPage">Shapes wholly outside the page, where one is stated.</param>
/// <param name="PageStated">The file states how large its page is.</param>
/// <param name="Places">Where what is counted lies, by the code of its finding: a corner of up to fifty shapes.</param>
public sealed record DrawingAsides(
    bool SizeAssumed = false,
    int Clipped = 0,
    int Painted = 0,
    int FilledOnly = 0,
    int OffPage = 0,
    bool PageStated = false,
    IReadOnlyDictionary<string, IReadOnlyList<Place>>? Places = null,
    IReadOnlyDictionary<string, int>? FilledToo = null,
    int StylesUnread = 0,
    int? Hidden = null
)
{
    /// <summary>Places that are kept of each kind.</summary>
    public const int MostPlaces = 50;

    public IReadOnlyList<Place> At(string code) => Places?.GetValueOrDefault(code) ?? [];
}

/// <summary>Closed lines with as many others round them. Stored as [lines round them, lines, length in mm].</summary>
/// <param name="Round">How many lines of the colour lie round each of them.</param>
[JsonConverter(typeof(NumbersJson<NestingLevel>))]
public readonly record struct NestingLevel(int Round, int Lines, double LengthMm) : INumbers<NestingLevel>
{
    void INumbers<NestingLevel>.Write(Utf8JsonWriter writer)
    {
        writer.WriteNumberValue(Round);
        writer.WriteNumberValue(Lines);
        writer.WriteNumberValue(LengthMm);
    }

    static NestingLevel INumbers<NestingLevel>.Read(IReadOnlyList<double> n) => new((int)n[0], (int)n[1], n[2]);
}

/// <summary>The closed lines of a colour by how many others of it lie round them.</summary>
/// <param name="Levels">The outermost first.</param>
/// <param name="OuterFirst">Lines drawn after one that lies round them.</param>
/// <param name="At">Up to fifty of those.</param>
public sealed record NestedWork(string Colour, IReadOnlyList<NestingLevel> Levels, int OuterFirst, IReadOnlyList<Place> At)
{
    private const int MostColours = 24;

    internal static IReadOnlyList<NestedWork> Of(LinePieces pieces, Nesting nesting)
    {
        if (!nesting.Known)
            return [];
        var found = new List<NestedWork>();
        for (var colour = 0; colour < Math.Min(MostColours, pieces.Colours.Count); colour++)
        {
            var (levels, at, late) = (new SortedDictionary<int, NestingLevel>(), new List<Place>(), 0);
            var (first, end) = pieces.PathsOf(colour);
            for (var p = first; p < end; p++)
            {
                var path = pieces.Paths[p];
                if (path.Area == 0)
                    continue;
                var depth = nesting.Depth(p);
                var level = levels.GetValueOrDefault(depth, new NestingLevel(depth, 0, 0));
                levels[depth] = level with { Lines = level.Lines + 1, LengthMm = level.LengthMm + Length(pieces, p) };
                if (nesting.Parent(p) is var parent && (parent < 0 || pieces.Paths[parent].Order > path.Order))
                    continue;
                late++;
                if (at.Count < 50)
                    at.Add(new Place(path.Line.Start.X, path.Line.Start.Y));
            }
            if (levels.Count > 0)
                found.Add(new NestedWork(pieces.Colours[colour], [.. levels.Values], late, at));
        }
        return found;
    }

    private static double Length(LinePieces pieces, int path)
    {
        double length = 0;
        foreach (ref readonly var piece in pieces.PiecesOf(path))
            length += (piece.B - piece.A).Length * piece.PerChord;
        return Math.Round(length, 3);
    }
}
