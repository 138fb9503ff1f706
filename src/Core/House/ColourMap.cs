using System.Text.Json.Serialization;

namespace VelvetGate.Core.House;

/// <summary>What the beam does along a stroke or over a fill.</summary>
public enum Operation
{
    Cut,
    Score,
    Engrave,
}

/// <summary>What a drawn colour means. An unlisted colour is <see cref="Unknown"/>: refused, never guessed.</summary>
public enum StrokeMeaning
{
    Cut,
    Score,
    Engrave,
    Ignore,
    Unknown,
}

/// <summary>A house's map from stroke colour, <c>#rrggbb</c> in lower case, to operation. Fills engrave.</summary>
public sealed record ColourMap(IReadOnlyDictionary<string, StrokeMeaning> Strokes)
{
    public StrokeMeaning Of(string colour) => Strokes.GetValueOrDefault(colour, StrokeMeaning.Unknown);

    /// <summary>Reads <c>#ff0000=cut,#0000ff=score</c>.</summary>
    public static Result<ColourMap> Parse(string text)
    {
        var map = new Dictionary<string, StrokeMeaning>(StringComparer.Ordinal);
        foreach (var pair in text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var halves = pair.Split('=', 2, StringSplitOptions.TrimEntries);
            if (halves.Length != 2 || Tidy(halves[0]) is not { } colour)
                return new Refusal("colours.bad", $"“{pair}” is not a colour rule. Write it like #ff0000=cut.", "colours");
            if (!Enum.TryParse<StrokeMeaning>(halves[1], ignoreCase: true, out var meaning) || meaning == StrokeMeaning.Unknown || int.TryParse(halves[1], out _))
                return new Refusal("colours.bad", $"“{halves[1]}” is not an operation. Use cut, score, engrave or ignore.", "colours");
            map[colour] = meaning;
        }
        return map.Count == 0 ? new Refusal("colours.bad", "The colour map is empty. Write it like #ff0000=cut.", "colours") : new ColourMap(map);
    }

    /// <returns>A colour as it is kept, <c>#rrggbb</c> in lower case; null for what is none.</returns>
    public static string? Tidy(string colour) => colour.Trim().ToLowerInvariant() is { Length: 7 } tidy && tidy[0] == '#' && tidy.AsSpan(1).ContainsOnlyHex() ? tidy : null;

    /// <summary>The demo house's map: red cuts, blue scores, black engraves, magenta is a note to people. Common practice, no one source.</summary>
    [JsonIgnore]
    public static ColourMap Starting { get; } = new(new Dictionary<string, StrokeMeaning>
    {
        ["#ff0000"] = StrokeMeaning.Cut,
        ["#0000ff"] = StrokeMeaning.Score,
        ["#000000"] = StrokeMeaning.Engrave,
        ["#ff00ff"] = StrokeMeaning.Ignore,
    });

    public bool Equals(ColourMap? other) =>
        other is not null && Strokes.Count == other.Strokes.Count && Strokes.All(p => other.Strokes.TryGetValue(p.Key, out var m) && m == p.Value);

    public override int GetHashCode() => Strokes.Count;
}

internal static class HexText
{
    public static bool ContainsOnlyHex(this ReadOnlySpan<char> text)
    {
        foreach (var c in text)
        {
            if (!char.IsAsciiHexDigit(c)) return false;
        }
        return true;
    }
}
