using System.Reflection;

namespace VelvetGate.Core.Gating;

/// <summary>
/// Every reason the gate can give, each once: how hard it is, who may lift it, which house rules it reads, what opens it and how the
/// soonest way takes that as done. docs/rules.md is written from here.
/// </summary>
public static partial class Codes
{
    private const string HouseRule = "house rule";
    private const string Common = "common practice";
    private const string NoLoosening = "common practice; no house can relax it";

    // The parts of this class are initialised in no order that could be relied on.
    private static readonly Lazy<IReadOnlyList<Rule>> Found = new(() =>
        [
            .. typeof(Codes)
                .GetFields(BindingFlags.Public | BindingFlags.Static)
                .Where(f => f.FieldType == typeof(Rule))
                .Select(f => (Rule)f.GetValue(null)!),
        ]
    );

    private static readonly Lazy<Dictionary<string, Rule>> ByCode = new(() => All.ToDictionary(r => r.Code));

    public static IReadOnlyList<Rule> All => Found.Value;

    /// <summary>What codes mean, in one line of words, such as “somebody stopped the machine”.</summary>
    public static string Says(IEnumerable<string> codes) =>
        string.Join("; ", codes.Select(c => ByCode.Value.TryGetValue(c, out var rule) ? Clause(rule.Means) : c));

    private static string Clause(string sentence) => char.ToLowerInvariant(sentence[0]) + sentence[1..].TrimEnd('.');

    /// <exception cref="KeyNotFoundException">No such code.</exception>
    public static Rule Of(string code) => ByCode.Value[code];

    /// <returns>Null for a code that no rule has any more.</returns>
    public static Rule? Find(string code) => ByCode.Value.GetValueOrDefault(code);

    private static Rule Shut(string code, Post post, string means, string source, int changedIn = 1) =>
        new(
            Code: code,
            Post: post,
            Means: means,
            AtBooking: Standing.Shut,
            AtMachine: Standing.Shut,
            LiftedBy: LiftedBy.Nobody,
            Source: source,
            ChangedIn: changedIn
        );

    private static Rule Ask(string code, Post post, string means, string source, int changedIn = 1) =>
        new(
            Code: code,
            Post: post,
            Means: means,
            AtBooking: Standing.Ask,
            AtMachine: Standing.Ask,
            LiftedBy: LiftedBy.Steward,
            Source: source,
            ChangedIn: changedIn
        );

    private static Rule Caution(string code, Post post, string means, string source, int changedIn = 1) =>
        new(
            Code: code,
            Post: post,
            Means: means,
            AtBooking: Standing.Caution,
            AtMachine: Standing.Caution,
            LiftedBy: LiftedBy.Nobody,
            Source: source,
            ChangedIn: changedIn
        );
}
