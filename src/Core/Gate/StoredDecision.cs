using System.Security.Cryptography;
using System.Text;

namespace VelvetGate.Core.Gating;

/// <summary>A decision that was acted on, with the facts it was taken on, so that it can be replayed. No names inside.</summary>
/// <param name="Words">What each reason said and where its rule came from; null in decisions of rules version 1, which kept codes
/// alone.</param>
public sealed record StoredDecision(int RulesVersion, string Ask, string Facts, string Outcome, string? Words = null)
{
    /// <summary>SHA-256 over the texts, lower-case hex; the same stands in the chain.</summary>
    public string Hash
    {
        get
        {
            var text = $"{RulesVersion}\n{Ask}\n{Facts}\n{Outcome}{(Words is null ? "" : "\n" + Words)}";
            return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
        }
    }

    /// <summary>Decides again on facts without names, and keeps all of it.</summary>
    public static StoredDecision Of(GateQuestion ask, GateFacts facts)
    {
        var nameless = facts with
        {
            // Long, and no part of any answer.
            Rules = facts.Rules with
            {
                Agreement = "",
            },
            Person = facts.Person with { Name = ask.MemberId.Value },
            Drawings =
            [
                .. facts.Drawings.Select(
                    (d, i) =>
                        d.Drawing is { IsKnown: true, Value: { } drawing }
                            ? d with
                            {
                                Drawing = drawing with { Name = ask.Items[i].DrawingId.ToString()! },
                            }
                            : d
                ),
            ],
            Time = facts.Time with
            {
                Closures = facts.Time.Closures?.Select(c => c with { Title = c.Plan.ToString() }).ToList(),
                Classes = facts.Time.Classes?.Select(c => c with { Title = c.Plan.ToString() }).ToList(),
            },
        };
        var decision = Gate.Decide(ask, nameless);
        return new StoredDecision(
            Gate.RulesVersion,
            GateJson.Write(ask),
            GateJson.Write(nameless),
            GateJson.Write(StoredOutcome.Of(decision)),
            GateJson.Write(StoredWords.Of(decision))
        );
    }

    /// <summary>The outcome as it was stored, and today's rules on the same facts.</summary>
    public Replay Replay() =>
        Gating.Replay.Of(
            GateJson.Read<StoredOutcome>(Outcome),
            Words is null ? null : GateJson.Read<StoredWords>(Words),
            RulesVersion,
            Gate.Decide(GateJson.Read<GateQuestion>(Ask), GateJson.Read<GateFacts>(Facts))
        );
}

/// <summary>
/// Verdict, standings and codes: what is held against a later replay. Wording stands beside it, since it may be improved.
/// </summary>
public sealed record StoredOutcome(Verdict Verdict, IReadOnlyList<StoredPost> Posts)
{
    public static StoredOutcome Of(Decision decision) =>
        new(
            decision.Verdict,
            [
                .. decision.Posts.Select(p => new StoredPost(
                    p.Post,
                    p.Standing,
                    [.. p.Reasons.Select(r => new StoredReason(r.Code, r.Standing, r.Item))]
                )),
            ]
        );
}

public sealed record StoredPost(Post Post, Standing Standing, IReadOnlyList<StoredReason> Codes);

/// <param name="Item">Index of the item concerned; null when it concerns the whole ask.</param>
public sealed record StoredReason(string Code, Standing Standing, int? Item);

/// <summary>What people were told, reason by reason in the order of the outcome.</summary>
public sealed record StoredWords(IReadOnlyList<StoredPostWords> Posts)
{
    public static StoredWords Of(Decision decision) =>
        new([
            .. decision.Posts.Select(p => new StoredPostWords(
                p.Post,
                p.Fact,
                [.. p.Reasons.Select(r => new StoredSentence(r.Text, r.Source))]
            )),
        ]);
}

public sealed record StoredPostWords(Post Post, string Fact, IReadOnlyList<StoredSentence> Reasons);

public sealed record StoredSentence(string Text, string Source);
