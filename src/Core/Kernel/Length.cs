using System.Globalization;
using System.Text.RegularExpressions;

namespace VelvetGate.Core.Kernel;

/// <summary>Units people type for lengths in this trade. Everything is kept in millimetres.</summary>
public enum LengthUnit
{
    Mm,
    Cm,
    M,
    In,
    Ft,
    Pt,
    Px,
}

/// <summary>Reads and shows lengths: <c>3 mm</c>, <c>0.125 in</c>, <c>1/8 in</c>, <c>1 1/2"</c>, <c>6 x 6 in</c>.</summary>
public static partial class Length
{
    /// <summary>Exact by definition (international inch, 1959).</summary>
    public const decimal MmPerInch = 25.4m;

    /// <summary>Longest length taken, in millimetres: longer is a typing error, not a sheet.</summary>
    public const decimal LongestMm = 100_000m;

    private static readonly Dictionary<string, LengthUnit> Names = new(StringComparer.OrdinalIgnoreCase)
    {
        ["mm"] = LengthUnit.Mm,
        ["millimetre"] = LengthUnit.Mm,
        ["millimetres"] = LengthUnit.Mm,
        ["millimeters"] = LengthUnit.Mm,
        ["cm"] = LengthUnit.Cm,
        ["m"] = LengthUnit.M,
        ["in"] = LengthUnit.In,
        ["inch"] = LengthUnit.In,
        ["inches"] = LengthUnit.In,
        ["\""] = LengthUnit.In,
        ["″"] = LengthUnit.In,
        ["”"] = LengthUnit.In,
        ["ft"] = LengthUnit.Ft,
        ["'"] = LengthUnit.Ft,
        ["pt"] = LengthUnit.Pt,
        ["px"] = LengthUnit.Px,
    };

    /// <summary>Millimetres in one unit. A point is 1/72 inch, a CSS pixel 1/96 inch (CSS Values 4, section 6.2).</summary>
    public static decimal MmPer(LengthUnit unit) =>
        unit switch
        {
            LengthUnit.Mm => 1m,
            LengthUnit.Cm => 10m,
            LengthUnit.M => 1000m,
            LengthUnit.In => MmPerInch,
            LengthUnit.Ft => MmPerInch * 12m,
            LengthUnit.Pt => MmPerInch / 72m,
            LengthUnit.Px => MmPerInch / 96m,
            _ => throw new ArgumentOutOfRangeException(nameof(unit)),
        };

    /// <summary>Reads one length.</summary>
    /// <param name="text">What the person typed.</param>
    /// <param name="assumed">The unit of a bare number: the one the person has chosen to see.</param>
    /// <returns>Millimetres, above 0, or what to type instead.</returns>
    public static Result<decimal> Parse(string? text, LengthUnit assumed = LengthUnit.Mm)
    {
        var many = ParseMany(text, assumed);
        if (many.Refusal is { } refusal)
            return refusal;
        return many.Value.Count == 1 ? many.Value[0] : Bad("One length is wanted here, such as 3 mm.");
    }

    /// <summary>Reads one length or several joined by <c>x</c>; a unit at the end serves those before it.</summary>
    /// <returns>One to three lengths in millimetres.</returns>
    public static Result<IReadOnlyList<decimal>> ParseMany(string? text, LengthUnit assumed = LengthUnit.Mm) =>
        Many(text, assumed, orNothing: false);

    /// <summary>Reads a place along an axis: as a length, and 0 and below it too.</summary>
    /// <returns>Millimetres, or what to type instead.</returns>
    public static Result<decimal> ParsePlace(string? text, LengthUnit assumed = LengthUnit.Mm)
    {
        var typed = text?.Trim() ?? "";
        var below = typed.StartsWith('-') || typed.StartsWith('\u2212');
        var many = Many(below ? typed[1..] : typed, assumed, orNothing: true);
        if (many.Refusal is { } refusal)
            return refusal;
        return many.Value.Count == 1
            ? below
                ? -many.Value[0]
                : many.Value[0]
            : Bad("One place is wanted here, such as 120 mm.");
    }

    private static Result<IReadOnlyList<decimal>> Many(string? text, LengthUnit assumed, bool orNothing)
    {
        if (string.IsNullOrWhiteSpace(text))
            return Bad("Type a length, such as 3 mm or 1/8 in.");
        if (text.Length > 60)
            return Bad("That is too long for a length. Type it like 3 mm or 1/8 in.");
        var parts = Times().Split(text.Trim());
        if (parts.Length > 3)
            return Bad("At most three lengths can be given, as in 6 x 6 x 3 mm.");
        var found = new (decimal Number, LengthUnit? Unit)[parts.Length];
        for (var i = 0; i < parts.Length; i++)
        {
            var one = ParsePart(parts[i]);
            if (one.Refusal is { } refusal)
                return refusal;
            found[i] = one.Value;
        }
        var lengths = new decimal[parts.Length];
        var unit = assumed;
        for (var i = parts.Length - 1; i >= 0; i--)
        {
            unit = found[i].Unit ?? unit;
            if (found[i].Number > LongestMm)
                return Bad("That is longer than any sheet. Check the number and its unit.");
            lengths[i] = found[i].Number * MmPer(unit);
            if (lengths[i] <= 0 && !orNothing)
                return Bad("A length has to be more than nothing.");
            if (lengths[i] > LongestMm)
                return Bad("That is longer than any sheet. Check the number and its unit.");
        }
        return lengths;
    }

    /// <summary>Shows millimetres in the unit a person chose: to 0.01 mm, or 0.001 in, without trailing zeros.</summary>
    public static string Show(decimal mm, LengthUnit unit = LengthUnit.Mm) => $"{Number(mm, unit)} {unit.ToString().ToLowerInvariant()}";

    /// <summary>As <see cref="Show"/>, without the unit: for a column that says it once.</summary>
    public static string Number(decimal mm, LengthUnit unit) => Write(mm, unit, MidpointRounding.ToEven);

    /// <summary>
    /// A greatest thickness as a number: cut off, never rounded up, so that what is shown is still allowed. 8 mm is 0.314 in.
    /// </summary>
    public static string Limit(decimal mm, LengthUnit unit) => Write(mm, unit, MidpointRounding.ToZero);

    private static string Write(decimal mm, LengthUnit unit, MidpointRounding rounding) =>
        Math.Round(mm / MmPer(unit), unit == LengthUnit.In ? 3 : 2, rounding).ToString("0.###", CultureInfo.InvariantCulture);

    /// <summary>The unit a person sees lengths in and types bare numbers in: mm unless they chose inches.</summary>
    public static Result<LengthUnit> ParseChoice(string? text) =>
        text?.Trim().ToLowerInvariant() switch
        {
            null or "" or "mm" => LengthUnit.Mm,
            "in" => LengthUnit.In,
            _ => CommonProblems.UnitBad.Refuse("unit"),
        };

    private static Result<(decimal, LengthUnit?)> ParsePart(string part)
    {
        var match = Number().Match(part.Trim());
        if (!match.Success)
        {
            return LetterForDigit().IsMatch(part)
                ? Bad("There is a letter where a digit should be. Use a number, such as 3.0.")
                : Bad($"“{part.Trim()}” is not a length. Type it like 3 mm, 0.125 in or 1/8 in.");
        }
        if (GroupedThousands().IsMatch(part))
            return Bad("A comma before three digits can be read two ways. Write 1000, or 1.0.");
        var number = 0m;
        if (match.Groups["whole"] is { Success: true, Value: var whole })
            number += Decimal(whole);
        if (match.Groups["top"].Success)
        {
            var bottom = Decimal(match.Groups["bottom"].Value);
            if (bottom == 0)
                return Bad("A fraction cannot have 0 below the line.");
            number += Decimal(match.Groups["top"].Value) / bottom;
        }
        var unitText = match.Groups["unit"].Value;
        if (unitText.Length == 0)
            return (number, null);
        return Names.TryGetValue(unitText, out var unit)
            ? (number, unit)
            : Bad($"The unit “{unitText}” is not known here. Use mm, cm, in, ft, pt or px.");
    }

    private static decimal Decimal(string digits) =>
        decimal.Parse(digits.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);

    private static Refusal Bad(string text) => new(CommonProblems.LengthBad, text);

    [GeneratedRegex(@"\s*[x×*]\s*(?=[0-9.])", RegexOptions.IgnoreCase)]
    private static partial Regex Times();

    [GeneratedRegex(
        @"^(?:(?<whole>[0-9]{1,9})[ -]+(?<top>[0-9]{1,6})\s*[/⁄]\s*(?<bottom>[0-9]{1,6})"
            + @"|(?<top>[0-9]{1,6})\s*[/⁄]\s*(?<bottom>[0-9]{1,6})"
            + @"|(?<whole>[0-9]{1,9}(?:[.,][0-9]{1,9})?|[.,][0-9]{1,9}))\s*(?<unit>[a-zA-Z""″”']*)$"
    )]
    private static partial Regex Number();

    [GeneratedRegex(@"[0-9],[0-9]{3}(?![0-9])")]
    private static partial Regex GroupedThousands();

    [GeneratedRegex(@"[0-9][.,]?[OolI]|[OolI][.,]?[0-9]")]
    private static partial Regex LetterForDigit();
}
