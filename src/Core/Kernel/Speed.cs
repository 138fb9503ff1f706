using System.Globalization;
using System.Text.RegularExpressions;

namespace VelvetGate.Core.Kernel;

/// <summary>Reads speeds as people type them: <c>20 mm/s</c>, <c>15 in/min</c>, <c>1.2 m/min</c>. Kept in mm/s.</summary>
public static partial class Speed
{
    /// <summary>Faster than any head: a typing error.</summary>
    public const decimal FastestMmS = 20_000m;

    /// <summary>A bare number is mm/s.</summary>
    /// <returns>mm/s, above 0, or what to type instead.</returns>
    public static Result<decimal> Parse(string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return Bad("Type a speed, such as 20 mm/s or 15 in/min.");
        if (text.Length > 40 || Form().Match(text.Trim()) is not { Success: true } match)
            return Bad($"“{Short(text)}” is not a speed. Type it like 20 mm/s, 1200 mm/min or 15 in/min.");
        var number = decimal.Parse(
            match.Groups["number"].Value.Replace(',', '.'),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture
        );
        var unit = match.Groups["unit"].Value.ToLowerInvariant();
        var mm = unit switch
        {
            "mm" or "" => 1m,
            "cm" => 10m,
            "m" => 1000m,
            _ => Length.MmPerInch,
        };
        var seconds = match.Groups["per"].Value.ToLowerInvariant() switch
        {
            "" or "s" or "sec" => 1m,
            _ => 60m,
        };
        if (unit.Length > 0 && match.Groups["per"].Value.Length == 0)
            return Bad("Say for each second or minute, such as 20 mm/s or 15 in/min.");
        var speed = number * mm / seconds;
        return speed switch
        {
            <= 0 => Bad("A speed has to be more than nothing."),
            > FastestMmS => Bad("No head moves that fast. Check the number and its unit."),
            _ => speed,
        };
    }

    /// <summary>As people here read it: 20 mm/s.</summary>
    public static string Show(decimal mmPerS) => $"{mmPerS.ToString("0.##", CultureInfo.InvariantCulture)} mm/s";

    private static string Short(string text) => text.Trim().Length > 40 ? text.Trim()[..40] : text.Trim();

    private static Refusal Bad(string text) => new(CommonProblems.SpeedBad, text);

    [GeneratedRegex(
        "^(?<number>[0-9]{1,9}(?:[.,][0-9]{1,9})?)\\s*(?<unit>mm|cm|m|inch|in|\")?\\s*(?:(?:/|per)\\s*(?<per>s|sec|min))?$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Form();
}
