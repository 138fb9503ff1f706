using System.Text;

namespace VelvetGate.Core.Materials;

/// <summary>
/// Names as people type them on any keyboard: small letters without their marks. A table, since the runtime folds nothing without a
/// culture.
/// </summary>
public static class PlainLetters
{
    private static readonly Dictionary<char, string> Table = new[]
    {
        ("a", "àáâãäåāăą"),
        ("c", "çćčĉċ"),
        ("d", "ďđð"),
        ("e", "èéêëēĕėęě"),
        ("g", "ĝğġģ"),
        ("h", "ĥħ"),
        ("i", "ìíîïĩīĭįı"),
        ("k", "ķ"),
        ("l", "ĺļľł"),
        ("n", "ñńņň"),
        ("o", "òóôõöøōŏő"),
        ("r", "ŕŗř"),
        ("s", "śŝşš"),
        ("t", "ţťŧ"),
        ("u", "ùúûüũūŭůűų"),
        ("w", "ŵ"),
        ("y", "ýÿŷ"),
        ("z", "źżž"),
        ("ss", "ß"),
        ("ae", "æ"),
        ("oe", "œ"),
        ("th", "þ"),
    }
        .SelectMany(row => row.Item2.Select(c => (Marked: c, Plain: row.Item1)))
        .ToDictionary(p => p.Marked, p => p.Plain);

    public static string Of(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text.ToLowerInvariant())
            plain.Append(Table.TryGetValue(c, out var letters) ? letters : c.ToString());
        return plain.ToString();
    }
}
