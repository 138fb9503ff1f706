using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A certificate that opens one authority, such as <c>heron</c> or <c>heron/rotary</c>.</summary>
/// <param name="Founding">The first authority on a machine that had nobody to sign.</param>
/// <param name="Confirmed">False for a founding one that no second person has confirmed yet.</param>
public sealed record Certificate(string Authority, Span Held, bool Founding = false, bool Confirmed = true);

/// <summary>Rules of signing people off. Source: common practice; validity is a house rule.</summary>
public static class SignOffs
{
    public const int NoteLongest = 2000;

    /// <summary>May this signer sign this person off now?</summary>
    /// <param name="signerTrains">Spans in which the signer holds trainer authority for the machine.</param>
    /// <returns>The span the certificate holds, from now.</returns>
    public static Result<Span> Sign(
        string signerId, string memberId, string authority, string? note, IEnumerable<Span> signerTrains, HouseRules rules, Instant now)
    {
        if (signerId == memberId)
            return new Refusal("signOff.self", "Nobody signs themselves off. Ask another trainer.", "memberId");
        if (!signerTrains.Any(s => s.Holds(now)))
            return new Refusal("signOff.authority", $"You do not hold trainer authority for {MachineOf(authority)} now. Ask a trainer who does.", "authority");
        if (string.IsNullOrWhiteSpace(note))
            return new Refusal("signOff.note", "Write what you saw the person do, in a sentence.", "note");
        if (note.Length > NoteLongest)
            return new Refusal("signOff.note", $"The note is longer than {NoteLongest} characters. Shorten it.", "note");
        return new Span(now, EndOf(now, rules));
    }

    public const int FoundingMonths = 12;

    /// <summary>May a founding sign-off be written down? Only where nobody holds trainer authority for the machine; it ends after 12 months.</summary>
    /// <param name="hasTrainers">Somebody holds trainer authority there now.</param>
    /// <returns>The span it holds.</returns>
    public static Result<Span> Found(bool hasTrainers, string? evidence, HouseRules rules, Instant now)
    {
        if (hasTrainers) return new Refusal("founding.trainers", "This machine has a trainer: they sign people off.", "machineId");
        if (string.IsNullOrWhiteSpace(evidence)) return new Refusal("founding.evidence", "Write what the authority rests on: the maker’s course, earlier papers, years at such a machine.", "evidence");
        if (evidence.Length > NoteLongest) return new Refusal("founding.evidence", $"The evidence is longer than {NoteLongest} characters. Shorten it.", "evidence");
        return new Span(now, rules.Clock.Day(rules.Clock.DateOf(now).PlusMonths(FoundingMonths)).End);
    }

    /// <summary>Confirming looks at the evidence with another pair of eyes: neither the person's own nor the writer's.</summary>
    public static Refusal? MayConfirm(string personId, string setBy, string by) =>
        by == personId || by == setBy ? new Refusal("founding.self", "Another person confirms it: neither whose authority it is nor who wrote it down.") : null;

    /// <summary>The machine part of an authority: <c>heron</c> of <c>heron/rotary</c>.</summary>
    public static string MachineOf(string authority) => authority.Split('/', 2)[0];

    /// <summary>When a certificate of today ends: the local midnight after its last day.</summary>
    public static Instant EndOf(Instant now, HouseRules rules)
    {
        var today = rules.Clock.DateOf(now);
        var last = rules.CertificateMonths > 0 ? today.PlusMonths(rules.CertificateMonths) : SchoolYearEnd(today);
        return rules.Clock.Day(last).End;
    }

    private static LocalDate SchoolYearEnd(LocalDate today)
    {
        var end = new LocalDate(today.Year, 7, 31);
        return today > end ? end.PlusYears(1) : end;
    }
}
