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

    /// <summary>Reads <c>#8a2252=cut,#2f6f5e=score</c>, with commas or line ends between.</summary>
    public static Result<ColourMap> Parse(string text)
    {
        var map = new Dictionary<string, StrokeMeaning>(StringComparer.Ordinal);
        foreach (var pair in text.Split([',', '\n'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var halves = pair.Split('=', 2, StringSplitOptions.TrimEntries);
            if (halves.Length != 2 || Tidy(halves[0]) is not { } colour)
                return HouseProblems.ColoursBad.Refuse("colours", pair);
            if (
                !Enum.TryParse<StrokeMeaning>(halves[1], ignoreCase: true, out var meaning)
                || meaning == StrokeMeaning.Unknown
                || int.TryParse(halves[1], out _)
            )
                return new Refusal(
                    HouseProblems.ColoursBad,
                    $"“{halves[1]}” is not an operation. Use cut, score, engrave or ignore.",
                    "colours"
                );
            map[colour] = meaning;
        }
        return map.Count == 0
            ? new Refusal(HouseProblems.ColoursBad, "The colour map is empty. Write it like #8a2252=cut.", "colours")
            : new ColourMap(map);
    }

    /// <returns>A colour as it is kept, <c>#rrggbb</c> in lower case; null for what is none.</returns>
    public static string? Tidy(string colour) =>
        colour.Trim().ToLowerInvariant() is { Length: 7 } tidy && tidy[0] == '#' && tidy.AsSpan(1).ContainsOnlyHex() ? tidy : null;

    /// <summary>No colour means anything yet: where a house starts.</summary>
    [JsonIgnore]
    public static ColourMap None { get; } = new(new Dictionary<string, StrokeMeaning>());

    /// <summary>This map, and what a drawing says of colours that are not in it. What the house names keeps its meaning.</summary>
    public ColourMap With(ColourMap? own)
    {
        if (own is null || own.Strokes.Count == 0)
            return this;
        var both = own.Strokes.ToDictionary(StringComparer.Ordinal);
        foreach (var (colour, meaning) in Strokes)
            both[colour] = meaning;
        return new ColourMap(both);
    }

    /// <summary>What a drawing says that counts here: colours that this map names keep its meaning, whatever the drawing says.</summary>
    public ColourMap Counting(ColourMap? own) =>
        new((own ?? None).Strokes.Where(p => !Strokes.ContainsKey(p.Key)).ToDictionary(StringComparer.Ordinal));

    /// <summary>One <c>#rrggbb=operation</c> to a line, by colour: what <see cref="Parse"/> reads.</summary>
    public string ToText() =>
        string.Concat(
            Strokes.OrderBy(p => p.Key, StringComparer.Ordinal).Select(p => $"{p.Key}={p.Value.ToString().ToLowerInvariant()}\n")
        );

    public bool Equals(ColourMap? other) =>
        other is not null
        && Strokes.Count == other.Strokes.Count
        && Strokes.All(p => other.Strokes.TryGetValue(p.Key, out var m) && m == p.Value);

    public override int GetHashCode() => Strokes.Count;

    /// <summary>The map a house begins with: it names at least one colour.</summary>
    public static Result<ColourMap> OfHouse(IReadOnlyDictionary<string, string>? given) =>
        given is { Count: > 0 } ? Parse(string.Join(",", given.Select(p => $"{p.Key}={p.Value}"))) : HouseProblems.ColoursMissing.Refuse();
}

internal static class HexText
{
    public static bool ContainsOnlyHex(this ReadOnlySpan<char> text)
    {
        foreach (var c in text)
        {
            if (!char.IsAsciiHexDigit(c))
                return false;
        }
        return true;
    }
}
