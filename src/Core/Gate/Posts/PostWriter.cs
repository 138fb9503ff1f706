namespace VelvetGate.Core.Gating.Posts;

/// <summary>Collects the reasons of one post; its standing is the worst of them.</summary>
internal sealed class PostWriter(Post post, Phase phase)
{
    private readonly List<Reason> _reasons = [];

    public bool Any => _reasons.Count > 0;

    public void Add(Rule rule, string text, int? item = null, Remedy? remedy = null)
    {
        if (rule.Post != post) throw new InvalidOperationException($"{rule.Code} belongs to {rule.Post}, not to {post}.");
        _reasons.Add(new Reason(rule.Code, rule.At(phase), text, rule.Source, item, remedy));
    }

    public PostReading Done(string fact) =>
        new(post, _reasons.Count == 0 ? Standing.Clear : _reasons.Max(r => r.Standing), [.. _reasons.OrderByDescending(r => r.Standing)], fact);
}

/// <summary>Times as the house writes them: 24 h, weekday and day first.</summary>
internal static class Say
{
    public static string Day(NodaTime.Instant at, House.HouseRules rules) =>
        rules.Clock.At(at).ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture);

    public static string Moment(NodaTime.Instant at, House.HouseRules rules) =>
        rules.Clock.At(at).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    public static string Length(decimal mm, Ask ask) => Units.Length.Show(mm, ask.ShowIn);

    public static string Limit(decimal mm, Ask ask) => $"{Units.Length.Limit(mm, ask.ShowIn)} {ask.ShowIn.ToString().ToLowerInvariant()}";

    public static string Minutes(decimal minutes) =>
        string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{minutes:0.##} min");

    public static string Verb(House.Operation operation) => operation.ToString().ToLowerInvariant();
}
