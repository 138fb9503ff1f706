using VelvetGate.Core.Drawings;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Collects the reasons of one post; its standing is the worst of them.</summary>
internal sealed class PostWriter(Post post, Phase phase)
{
    private readonly List<Reason> _reasons = [];

    public bool Any => _reasons.Count > 0;

    /// <param name="finding">Of the drawing, from which it comes.</param>
    /// <param name="setting">The house rule that says no, where the rule reads several.</param>
    /// <exception cref="InvalidOperationException">The catalogue has it otherwise: a bug.</exception>
    public void Add(Rule rule, string text, int? item = null, Remedy? remedy = null, FindingKind? finding = null, string? setting = null)
    {
        if (rule.Post != post)
            throw new InvalidOperationException($"{rule.Code} belongs to {rule.Post}, not to {post}.");
        if (remedy is not null && rule.Remedies.All(a => a.Name != remedy.Action))
            throw new InvalidOperationException($"{rule.Code} is not opened by {remedy.Action}.");
        if (setting is not null && !rule.Settings.Contains(setting))
            throw new InvalidOperationException($"{rule.Code} does not read {setting}.");
        if (rule.At(phase) == Standing.Clear)
            return;
        var read = finding?.Settings ?? (rule.Settings.Count == 1 ? rule.Settings : []);
        _reasons.Add(
            new Reason(
                Code: rule.Code,
                Standing: rule.At(phase),
                Text: text,
                Source: rule.Source,
                Item: item,
                Remedy: remedy,
                Finding: finding?.Code
            )
            {
                Settings = setting is null ? read : [setting],
            }
        );
    }

    /// <summary>Does something about this item, or about all, say no for good?</summary>
    public bool IsShut(int item) => _reasons.Any(r => r.Standing == Standing.Shut && (r.Item is null || r.Item == item));

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
