using NodaTime;

namespace VelvetGate.Core.Gating;

/// <summary>The worst post's standing as a whole.</summary>
public enum Verdict
{
    Open,

    /// <summary>Open; the conditions become checks at the machine.</summary>
    Conditions,
    Ask,
    Shut,
}

/// <summary>The seven posts in the order they are read.</summary>
public enum Post
{
    Person,
    Training,
    Sheet,
    Drawing,
    Machine,
    Time,
    Room,
}

/// <summary>The one action that would clear a reason.</summary>
/// <param name="Action">Stable name of the action, such as <c>training.signOff</c>.</param>
public sealed record Remedy(string Action, string Text);

/// <summary>Why a post does not read clear.</summary>
/// <param name="Source">Where the rule comes from.</param>
/// <param name="Item">Index of the item concerned; null when it concerns the whole ask.</param>
/// <param name="Finding">Code of the drawing's finding that brought it, such as <c>line.duplicate</c>; null for any other reason.</param>
public sealed record Reason(
    string Code,
    Standing Standing,
    string Text,
    string Source,
    int? Item = null,
    Remedy? Remedy = null,
    string? Finding = null
)
{
    /// <summary>Names of the house rules that say so. Said with the answer; a stored decision has the rules themselves.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<string> Settings { get; init; } = [];
}

/// <param name="Fact">One short line of what was found, shown under a post.</param>
public sealed record PostReading(Post Post, Standing Standing, IReadOnlyList<Reason> Reasons, string Fact);

/// <summary>The answer to an ask: always seven posts, with every reason, never only the first.</summary>
/// <param name="Lifted">Asks whose lift it rests on.</param>
public sealed record Decision(Verdict Verdict, IReadOnlyList<PostReading> Posts, BookingLength Length, IReadOnlyList<Guid> Lifted)
{
    public IEnumerable<Reason> Reasons => Posts.SelectMany(p => p.Reasons);
}

/// <param name="At">When it can be done; null when nobody has set a date for it.</param>
/// <param name="Opens">The post this step opens; null for the run itself.</param>
public sealed record SoonestStep(string Action, string Text, Instant? At, Post? Opens);

/// <summary>The shortest chain of actions that opens the gate, ending in the run.</summary>
public sealed record Soonest(IReadOnlyList<SoonestStep> Steps, Instant Start, int Minutes, Verdict Verdict);
