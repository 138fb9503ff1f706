namespace VelvetGate.Core.Gating;

/// <summary>One reason that a stored decision had and today's rules do not give, or the reverse, or as hard as another.</summary>
/// <param name="Then">Its standing in the stored decision; null when it was not given.</param>
/// <param name="Now">Its standing by today's rules; null when it is not given.</param>
/// <param name="ChangedIn">The version of the rules that last changed this one.</param>
/// <param name="Explained">True when the rule changed after the decision: facts and record are sound.</param>
public sealed record ReplayDifference(Post Post, string Code, int? Item, Standing? Then, Standing? Now, int ChangedIn, bool Explained);

/// <summary>A stored decision beside what today's rules say of the same facts. What was decided stands; this permits nothing.</summary>
/// <param name="Then">Read back as it was stored.</param>
/// <param name="Words">What people were told then; null for decisions of rules version 1.</param>
/// <param name="Version">Rules version of the stored decision.</param>
/// <param name="Today">The seven posts by today's rules.</param>
public sealed record Replay(
    StoredOutcome Then,
    StoredWords? Words,
    int Version,
    Decision Today,
    IReadOnlyList<ReplayDifference> Differences
)
{
    /// <summary>The same verdict for the same reasons.</summary>
    public bool Same => Differences.Count == 0 && Then.Verdict == Today.Verdict;

    /// <summary>Every difference comes from a rule that changed after the decision.</summary>
    public bool Explained => Differences.All(d => d.Explained) && (Differences.Count > 0 || Then.Verdict == Today.Verdict);

    public static Replay Of(StoredOutcome then, StoredWords? words, int version, Decision today)
    {
        var before = Keyed(then.Posts.SelectMany(p => p.Codes.Select(c => (p.Post, c.Code, c.Item, c.Standing))));
        var now = Keyed(StoredOutcome.Of(today).Posts.SelectMany(p => p.Codes.Select(c => (p.Post, c.Code, c.Item, c.Standing))));
        var differences = new List<ReplayDifference>();
        foreach (
            var key in before.Keys.Union(now.Keys).OrderBy(k => k.Post).ThenBy(k => k.Code, StringComparer.Ordinal).ThenBy(k => k.Item)
        )
        {
            // The same code may stand several times against one item, such as two closures.
            var (a, b) = (before.GetValueOrDefault(key) ?? [], now.GetValueOrDefault(key) ?? []);
            for (var i = 0; i < Math.Max(a.Count, b.Count); i++)
            {
                var (was, is_) = (i < a.Count ? a[i] : (Standing?)null, i < b.Count ? b[i] : (Standing?)null);
                if (was == is_)
                    continue;
                var changedIn = Codes.Find(key.Code)?.ChangedIn ?? 0;
                differences.Add(
                    new ReplayDifference(
                        Post: key.Post,
                        Code: key.Code,
                        Item: key.Item,
                        Then: was,
                        Now: is_,
                        ChangedIn: changedIn,
                        Explained: changedIn > version
                    )
                );
            }
        }
        return new Replay(then, words, version, today, differences);
    }

    private static Dictionary<(Post Post, string Code, int? Item), List<Standing>> Keyed(
        IEnumerable<(Post Post, string Code, int? Item, Standing Standing)> reasons
    ) => reasons.GroupBy(r => (r.Post, r.Code, r.Item)).ToDictionary(g => g.Key, g => g.Select(r => r.Standing).OrderDescending().ToList());
}
