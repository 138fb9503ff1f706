using System.Globalization;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>What is to be mended of a drawing. Everything that is not asked for stays as it is.</summary>
/// <param name="Doubled">Takes out stretches that lie on another line of their colour, or of another that means the same.</param>
/// <param name="Near">Takes out stretches of cuts nearer to another cut than the kerf, and joins what remains to it.</param>
/// <param name="CloseMm">Joins ends that lie no farther apart than this; null joins none.</param>
/// <param name="Outline">Colour, <c>#rrggbb</c>, that filled shapes without an outline are drawn in instead of filled; null leaves them
/// filled.</param>
/// <param name="Scale">All lengths are multiplied by this.</param>
/// <param name="Recolour">Colours to give instead of others, tidied both.</param>
/// <param name="Thin">Draws cut lines as thin as a hairline.</param>
/// <param name="WidthMm">Instead of a scale: how wide all that is drawn becomes; its height follows.</param>
public sealed record MendingQuestion(
    bool Doubled = false,
    bool Near = false,
    double? CloseMm = null,
    string? Outline = null,
    double Scale = 1,
    IReadOnlyDictionary<string, string>? Recolour = null,
    double? WidthMm = null,
    bool Thin = false
)
{
    /// <summary>A wider gap is a part of the drawing.</summary>
    public const double MostCloseMm = 2;

    public const double LeastScale = 0.001,
        MostScale = 1000;

    /// <exception cref="UnreadableDrawingException">A width was asked for, and nothing in the drawing has one.</exception>
    internal double ScaleOf(Drawing drawing)
    {
        if (WidthMm is not { } width)
            return Scale;
        var box = new Box();
        foreach (var shape in drawing.Shapes)
            shape.Extend(ref box);
        foreach (var covered in (drawing.Pictures ?? []).Select(p => p.Covers).OfType<Extent>())
        {
            box.Add(new Point(covered.MinX, covered.MinY));
            box.Add(new Point(covered.MaxX, covered.MaxY));
        }
        return !box.IsEmpty && box.Width > 0
            ? width / box.Width
            : throw new UnreadableDrawingException("Nothing in the drawing has a width that could be changed.");
    }

    /// <returns>Null when it can be done.</returns>
    public Refusal? Refused()
    {
        if (CloseMm is { } gap && gap is not (> 0 and <= MostCloseMm))
            return new(
                DrawingsProblems.MendClose,
                string.Create(CultureInfo.InvariantCulture, $"Gaps can be closed up to {MostCloseMm} mm: write a length above 0."),
                "close"
            );
        if (Scale is not (>= LeastScale and <= MostScale))
            return new(
                DrawingsProblems.MendScale,
                string.Create(CultureInfo.InvariantCulture, $"Write a factor from {LeastScale} to {MostScale}, such as 25.4."),
                "scale"
            );
        if (WidthMm is { } width && width is not (>= 0.1 and <= 100_000))
            return DrawingsProblems.MendWidth.Refuse("width");
        if (WidthMm is not null && Scale is not 1)
            return new(DrawingsProblems.MendWidth, "Give a width or a factor, not both.", "width");
        if (Outline is { } outline && ColourMap.Tidy(outline) is null)
            return DrawingsProblems.MendOutline.Refuse("outline");
        return
            this is { Doubled: false, Near: false, CloseMm: null, Outline: null, Scale: 1, Recolour: null or { Count: 0 }, WidthMm: null }
            && !Thin
            ? DrawingsProblems.MendNothing.Refuse("doubled")
            : null;
    }
}

/// <summary>What one mend did.</summary>
/// <param name="Kind">As the names of <see cref="MendingQuestion"/>.</param>
/// <param name="Count">Lines, gaps or shapes it changed.</param>
/// <param name="LengthMm">Length it took out or drew.</param>
public sealed record MendStep(string Kind, int Count, double LengthMm);

/// <param name="LeftOut">What the drawing held beside lines and fills, and a mended file does not: in words, with its number.</param>
public sealed record Mended(Drawing Drawing, IReadOnlyList<MendStep> Steps, IReadOnlyList<string> LeftOut);
