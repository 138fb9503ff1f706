using System.Security.Cryptography;
using System.Text;

namespace VelvetGate.Core.Gating;

/// <summary>A decision that was acted on, with the facts it was taken on, so that it can be replayed. No names inside.</summary>
public sealed record StoredDecision(int RulesVersion, string Ask, string Facts, string Outcome)
{
    /// <summary>SHA-256 over the three texts, lower-case hex; the same stands in the chain.</summary>
    public string Hash => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{RulesVersion}\n{Ask}\n{Facts}\n{Outcome}")));

    /// <summary>Decides again on facts without names, and keeps all three.</summary>
    public static StoredDecision Of(Ask ask, GateFacts facts)
    {
        var nameless = facts with
        {
            // Long, and no part of any answer.
            Rules = facts.Rules with { Agreement = "" },
            Person = facts.Person with { Name = ask.MemberId },
            Drawings = [.. facts.Drawings.Select((d, i) => d.Drawing is { IsKnown: true, Value: { } drawing }
                ? d with { Drawing = drawing with { Name = ask.Items[i].DrawingId.ToString()! } }
                : d)],
            Time = facts.Time with
            {
                Closures = facts.Time.Closures?.Select(c => c with { Title = c.Plan.ToString() }).ToList(),
                Classes = facts.Time.Classes?.Select(c => c with { Title = c.Plan.ToString() }).ToList(),
            },
        };
        return new StoredDecision(Gate.RulesVersion, GateJson.Write(ask), GateJson.Write(nameless), Line(Gate.Decide(ask, nameless)));
    }

    /// <summary>Decides again on the stored facts.</summary>
    /// <returns>The answer now, and whether it is the answer then.</returns>
    public (Decision Decision, bool Same) Replay()
    {
        var decision = Gate.Decide(GateJson.Read<Ask>(Ask), GateJson.Read<GateFacts>(Facts));
        return (decision, Line(decision) == Outcome);
    }

    /// <summary>Verdict, standings and codes: what a replay has to repeat. Wording may be improved later.</summary>
    private static string Line(Decision decision) => GateJson.Write(new
    {
        decision.Verdict,
        Posts = decision.Posts.Select(p => new { p.Post, p.Standing, Codes = p.Reasons.Select(r => new { r.Code, r.Standing, r.Item }) }),
    });
}
