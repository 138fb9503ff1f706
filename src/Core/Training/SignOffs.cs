using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>A certificate that opens one authority, such as <c>heron</c> or <c>heron/rotary</c>.</summary>
public sealed record Certificate(string Authority, Span Held, bool Founding = false);

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
