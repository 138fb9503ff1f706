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

/// <summary>Times as the house writes them: 24 h, weekday and day first.</summary>
internal static class Say
{
    public static string Day(NodaTime.Instant at, House.HouseRules rules) =>
        rules.Clock.At(at).ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The last day of what ends at an instant that no longer belongs to it, as papers print it.</summary>
    public static string LastDay(NodaTime.Instant end, House.HouseRules rules) => Day(end - NodaTime.Duration.Epsilon, rules);

    public static string Moment(NodaTime.Instant at, House.HouseRules rules) =>
        rules.Clock.At(at).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    public static string Length(decimal mm, Ask ask) => Units.Length.Show(mm, ask.ShowIn);

    public static string Size(decimal across, decimal down, Ask ask) => $"{Units.Length.Number(across, ask.ShowIn)} x {Length(down, ask)}";

    public static string Limit(decimal mm, Ask ask) => $"{Units.Length.Limit(mm, ask.ShowIn)} {ask.ShowIn.ToString().ToLowerInvariant()}";

    public static string Minutes(decimal minutes) =>
        string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{minutes:0.##} min");

    public static string Verb(House.Operation operation) => operation.ToString().ToLowerInvariant();
}
