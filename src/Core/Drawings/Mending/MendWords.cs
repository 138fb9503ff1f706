using System.Globalization;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings.Mending;

/// <summary>What is to be mended, as it was typed: in a form, or on the command line.</summary>
/// <param name="Close">A length, or nothing.</param>
/// <param name="Scale">A factor, with a point or a comma; nothing is 1.</param>
/// <param name="Recolour">From one colour to another.</param>
/// <param name="Width">A length, or nothing.</param>
public sealed record MendWords(
    bool Doubled,
    bool Near,
    string? Close,
    string? Outline,
    string? Scale,
    IReadOnlyList<(string? From, string? To)> Recolour,
    string? Width = null,
    bool Thin = false
)
{
    /// <param name="unit">Of lengths typed without one.</param>
    /// <param name="refusals">All that is wrong, each with the field it stands in; the ask counts only when there is none.</param>
    public MendingQuestion Read(LengthUnit unit, out IReadOnlyList<Refusal> refusals)
    {
        var wrong = new List<Refusal>();
        refusals = wrong;
        var (close, width) = (Mm(Close, "close"), Mm(Width, "width"));
        var scale = 1.0;
        if (
            !string.IsNullOrWhiteSpace(Scale)
            && !double.TryParse(Scale.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out scale)
        )
            scale = double.NaN;
        var colours = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (from, to) in Recolour)
        {
            if (ColourMap.Tidy(from ?? "") is { } was && ColourMap.Tidy(to ?? "") is { } now)
            {
                if (was != now)
                    colours[was] = now;
            }
            else if (wrong.All(w => w.Field != "recolour"))
            {
                wrong.Add(DrawingsProblems.MendRecolour.Refuse("recolour", from, to));
            }
        }
        var ask = new MendingQuestion(
            Doubled: Doubled,
            Near: Near,
            CloseMm: close,
            Outline: string.IsNullOrWhiteSpace(Outline) ? null : Outline.Trim(),
            Scale: scale,
            Recolour: colours,
            WidthMm: width,
            Thin: Thin
        );
        if (wrong.Count == 0 && ask.Refused() is { } refusal)
            wrong.Add(refusal);
        return ask;

        double? Mm(string? text, string field)
        {
            if (string.IsNullOrWhiteSpace(text))
                return null;
            var mm = Length.Parse(text, unit);
            if (mm.Refusal is not { } bad)
                return (double)mm.Value;
            wrong.Add(bad with { Field = field });
            return null;
        }
    }
}
