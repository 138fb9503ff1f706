using System.Text;

namespace VelvetGate.Core.Materials;

/// <summary>Finds materials by any name people use for them, slips of the pen included.</summary>
public static class MaterialSearch
{
    /// <summary>
    /// Best first: a word as written, then the beginning of one, then inside one, then one slip off. Empty text finds all.
    /// </summary>
    public static IReadOnlyList<MaterialId> Find(IReadOnlyList<Material> materials, string text)
    {
        var wanted = Words(text);
        if (wanted.Count == 0)
            return [.. materials.Select(m => m.Id)];
        return
        [
            .. materials
                .Select((m, at) => (m.Id, At: at, Rank: Rank(m, wanted)))
                .Where(m => m.Rank is not null)
                .OrderBy(m => m.Rank)
                .ThenBy(m => m.At)
                .Select(m => m.Id),
        ];
    }

    private static int? Rank(Material material, List<string> wanted)
    {
        // A name that is wholly what was typed comes first: “ply” is plywood before it is bamboo ply.
        var names = material.Synonyms.Prepend(material.Name).Select(n => string.Join(' ', Words(n))).ToList();
        if (names.Contains(string.Join(' ', wanted)))
            return 0;
        var words = names.Append(material.Family).Concat(material.Id.Value.Split('-')).SelectMany(Words).Distinct().ToList();
        var worst = 0;
        foreach (var word in wanted)
        {
            var best = words.Min(w => Match(w, word));
            if (best == int.MaxValue)
                return null;
            worst = Math.Max(worst, best);
        }
        return worst;
    }

    private static int Match(string word, string wanted)
    {
        if (word == wanted)
            return 1;
        if (word.StartsWith(wanted, StringComparison.Ordinal))
            return 2;
        if (wanted.Length >= 3 && word.Contains(wanted, StringComparison.Ordinal))
            return 3;
        var slips = wanted.Length switch
        {
            < 4 => 0,
            < 8 => 1,
            _ => 2,
        };
        return slips > 0 && Slips(word, wanted, slips) <= slips ? 4 : int.MaxValue;
    }

    private static List<string> Words(string text)
    {
        var plain = new StringBuilder();
        foreach (var c in PlainLetters.Of(text))
            plain.Append(char.IsLetterOrDigit(c) ? c : ' ');
        return [.. plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries)];
    }

    /// <summary>Edit distance with swapped neighbours (optimal string alignment), given up above <paramref name="most"/>.</summary>
    private static int Slips(string a, string b, int most)
    {
        if (Math.Abs(a.Length - b.Length) > most)
            return most + 1;
        var (two, one) = (new int[b.Length + 1], Enumerable.Range(0, b.Length + 1).ToArray());
        for (var i = 1; i <= a.Length; i++)
        {
            var row = new int[b.Length + 1];
            row[0] = i;
            for (var j = 1; j <= b.Length; j++)
            {
                row[j] = Math.Min(Math.Min(row[j - 1], one[j]) + 1, one[j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1));
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                    row[j] = Math.Min(row[j], two[j - 2] + 1);
            }
            (two, one) = (one, row);
        }
        return one[b.Length];
    }
}
