using System.Text.Json;
using VelvetGate.Core.Ledger;

namespace VelvetGate.Core.Gating;

/// <summary>Which standing bookings a stretch of the record may have changed: those of these people, on these machines, or all.</summary>
/// <param name="People">Person numbers, as the record has them.</param>
/// <param name="Unreadable">Numbers of entries that could not be read; what they may have changed is decided again whole.</param>
public sealed record RecordImpact(IReadOnlySet<int> People, IReadOnlySet<string> Machines, bool All, IReadOnlyList<long> Unreadable)
{
    public bool Nothing => !All && People.Count == 0 && Machines.Count == 0;

    public static RecordImpact Of(IEnumerable<(long Seq, string Kind, string Body)> entries)
    {
        var unreadable = new List<long>();
        var people = new HashSet<int>();
        var machines = new HashSet<string>(StringComparer.Ordinal);
        var all = false;
        foreach (var (seq, kind, text) in entries)
        {
            // A kind that this version does not know may have changed anything.
            var impact = RecordEvents.Find(kind)?.Impact ?? Impact.Everybody;
            if (impact == Impact.Nobody)
                continue;
            try
            {
                using var body = JsonDocument.Parse(text);
                if (impact == Impact.Machine && body.RootElement.TryGetProperty("machine", out var machine))
                    machines.Add(machine.GetString()!);
                else if (impact == Impact.People && body.RootElement.TryGetProperty("person", out var person))
                    people.Add(person.GetInt32());
                else
                    all = true;
                // Whoever else it concerns, such as those who booked for themselves with the owner's drawing.
                if (impact == Impact.People && body.RootElement.TryGetProperty("others", out var others))
                    people.UnionWith(others.EnumerateArray().Select(o => o.GetInt32()));
            }
            catch (Exception e) when (e is JsonException or InvalidOperationException or FormatException)
            {
                unreadable.Add(seq);
                all = true;
            }
        }
        return new RecordImpact(people, machines, all, unreadable);
    }
}
