namespace VelvetGate.Core.Gating.Posts;

/// <summary>Collects the reasons of one post; its standing is the worst of them.</summary>
internal sealed class PostWriter(Post post, Phase phase)
{
    private readonly List<Reason> _reasons = [];

    public bool Any => _reasons.Count > 0;

    /// <param name="finding">Code of the drawing's finding it comes from.</param>
    public void Add(Rule rule, string text, int? item = null, Remedy? remedy = null, string? finding = null)
    {
        if (rule.Post != post)
            throw new InvalidOperationException($"{rule.Code} belongs to {rule.Post}, not to {post}.");
        _reasons.Add(new Reason(rule.Code, rule.At(phase), text, rule.Source, item, remedy, finding));
    }

    /// <summary>Was this reason given?</summary>
    public bool Has(Rule rule) => _reasons.Any(r => r.Code == rule.Code);

    /// <summary>The line under the post, of what holds alone: it never contradicts a reason beside it.</summary>
    /// <param name="statements">Each with whether it holds.</param>
    public PostReading Done(params (string Text, bool Holds)[] statements)
    {
        var line = string.Join(", ", statements.Where(s => s.Holds).Select(s => s.Text));
        return Done(line.Length > 0 ? char.ToUpperInvariant(line[0]) + line[1..] : "Not in order");
    }

    public PostReading Done(string fact) =>
        new(
            post,
            _reasons.Count == 0 ? Standing.Clear : _reasons.Max(r => r.Standing),
            [.. _reasons.OrderByDescending(r => r.Standing)],
            fact
        );
}
