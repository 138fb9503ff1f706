using System.Text.Json;

namespace VelvetGate.Core.Gating;

/// <summary>Which standing bookings a stretch of the record may have changed: those of these people, on these machines, or all.</summary>
/// <param name="People">Person numbers, as the record has them.</param>
/// <param name="Unreadable">Numbers of entries that could not be read; what they may have changed is decided again whole.</param>
public sealed record Touched(IReadOnlySet<int> People, IReadOnlySet<string> Machines, bool All, IReadOnlyList<long> Unreadable)
{
    // What only tells of a booking or an ask changes nothing for others; what is told of the house changes everything.
    private static readonly HashSet<string> Silent =
    [
        "ledger.baseline",
        "drawing.deleted",
        "person.secondFactorSet",
        "person.secondFactorRemoved",
        "booking.made",
        "booking.arrived",
        "booking.atRisk",
        "booking.openAgain",
        "gate.asked",
        "gate.withdrawn",
        "gate.refused",
        "gate.expired",
        "person.erased",
        "machine.returnAgreed",
        "person.releaseAgreed",
        "ruling.proposed",
        "ruling.refused",
        "ruling.withdrawn",
        "ruling.requested",
        "ruling.answered",
        "sheet.registered",
        "sheet.evidence",
        "quiz.begun",
        "training.reworded",
        "training.pageAdded",
        "training.questionChanged",
        "practical.reworded",
        "training.pathPlanned",
        "practical.begun",
        "practical.ended",
        "induction.planned",
        "induction.placed",
        "induction.left",
        "induction.called",
        "outside.recorded",
        "training.holdAgreed",
        "training.reminded",
        "conduct.written",
        "conduct.appealed",
        "conduct.heard",
        "identification.flameTested",
        "person.invited",
        "person.inviteAgreed",
        "person.passwordSet",
        "person.textsErased",
    ];

    public bool Nothing => !All && People.Count == 0 && Machines.Count == 0;

    public static Touched By(IEnumerable<(long Seq, string Kind, string Body)> entries)
    {
        var unreadable = new List<long>();
        var people = new HashSet<int>();
        var machines = new HashSet<string>(StringComparer.Ordinal);
        var all = false;
        foreach (var (seq, kind, text) in entries.Where(e => !Silent.Contains(e.Kind)))
        {
            try
            {
                using var body = JsonDocument.Parse(text);
                if (kind.StartsWith("machine.", StringComparison.Ordinal) && body.RootElement.TryGetProperty("machine", out var machine))
                    machines.Add(machine.GetString()!);
                else if (body.RootElement.TryGetProperty("person", out var person))
                    people.Add(person.GetInt32());
                else
                    all = true;
                // Whoever else it concerns, such as those who booked for themselves with the owner's drawing.
                if (body.RootElement.TryGetProperty("others", out var others))
                    people.UnionWith(others.EnumerateArray().Select(o => o.GetInt32()));
            }
            catch (Exception e) when (e is JsonException or InvalidOperationException or FormatException)
            {
                unreadable.Add(seq);
                all = true;
            }
        }
        return new Touched(people, machines, all, unreadable);
    }
}
