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
        PersonId signerId,
        PersonId memberId,
        string authority,
        string? note,
        IEnumerable<Span> signerTrains,
        HouseRules rules,
        Instant now
    )
    {
        if (MaySign(signerId, memberId, authority, signerTrains, now) is { } refusal)
            return refusal;
        if (string.IsNullOrWhiteSpace(note))
            return TrainingProblems.SignOffNote.Refuse("note");
        if (note.Length > NoteLongest)
            return new Refusal(TrainingProblems.SignOffNote, $"The note is longer than {NoteLongest} characters. Shorten it.", "note");
        return new Span(now, EndOf(now, rules));
    }

    /// <summary>Nobody signs themselves, and the authority is looked at as of the moment.</summary>
    public static Refusal? MaySign(PersonId signerId, PersonId memberId, string authority, IEnumerable<Span> signerTrains, Instant now) =>
        signerId == memberId ? TrainingProblems.SignOffSelf.Refuse("memberId")
        : !signerTrains.Any(s => s.Holds(now)) ? TrainingProblems.SignOffAuthority.Refuse("authority", MachineOf(authority))
        : null;

    /// <summary>
    /// When somebody may sign for an authority: while they are a trainer of the machine and, where the house has a path for teaching on it,
    /// hold that too.
    /// For that path itself being a trainer is enough, since somebody has to be the first.
    /// </summary>
    /// <param name="roles">Spans of the trainer's role for the machine.</param>
    /// <param name="teaching">Authorities of the paths for teaching on the machine.</param>
    /// <param name="held">The signer's certificates.</param>
    public static IReadOnlyList<Span> Trains(
        string authority,
        IReadOnlyList<Span> roles,
        IReadOnlyList<string> teaching,
        IReadOnlyList<Certificate> held
    ) =>
        teaching.Count == 0 || teaching.Contains(authority)
            ? roles
            :
            [
                .. from role in roles
                from c in held
                where teaching.Contains(c.Authority)
                select role.Shared(c.Held) into both
                where both is not null
                select both,
            ];

    /// <summary>
    /// May a sign-off by a note alone be given with this left open on the path? A house that wants the whole course first says no, and so
    /// does one whose path ends with a practical sheet then.
    /// </summary>
    /// <param name="open">Steps that are not done.</param>
    public static Refusal? MayPass(TrainingPath path, IReadOnlyList<string> open, bool onSheet, HouseRules rules) =>
        !rules.CourseBeforeSignOff ? null
        : open.Count > 0 ? TrainingProblems.SignOffPath.Refuse("authority", string.Join("; ", open))
        : !onSheet && path.Steps[^1].Id.Length > 0 ? TrainingProblems.SignOffSheet.Refuse("authority")
        : null;

    /// <summary>
    /// May a paper of before be entered? By a steward, for somebody else, with what was seen of it, and not from the future.
    /// </summary>
    /// <returns>The span it holds: from its own day, as long as the house's certificates do.</returns>
    public static Result<Span> FromPaper(
        PersonId by,
        PersonId memberId,
        LocalDate? signedOn,
        string? evidence,
        HouseRules rules,
        Instant now
    )
    {
        if (by == memberId)
            return new Refusal(TrainingProblems.SignOffSelf, "Nobody enters their own papers. Ask another steward.", "memberId");
        if (signedOn is not { } day)
            return TrainingProblems.PaperDay.Refuse("signedOn");
        if (day > rules.Clock.DateOf(now))
            return new Refusal(TrainingProblems.PaperDay, "The day on the paper is still to come. Look again.", "signedOn");
        if (string.IsNullOrWhiteSpace(evidence))
            return TrainingProblems.PaperEvidence.Refuse("evidence");
        if (evidence.Length > NoteLongest)
            return new Refusal(
                TrainingProblems.PaperEvidence,
                $"The evidence is longer than {NoteLongest} characters. Shorten it.",
                "evidence"
            );
        var start = rules.Clock.Day(day).Start;
        var end = EndOf(start, rules);
        return end <= now ? TrainingProblems.PaperOver.Refuse("signedOn", HouseDates.LastDay(end, rules)) : new Span(start, end);
    }

    public const int FoundingMonths = 12;

    /// <summary>
    /// May a founding sign-off be written down? Only where nobody holds trainer authority for the machine; it ends after 12 months.
    /// </summary>
    /// <param name="hasTrainers">Somebody holds trainer authority there now.</param>
    /// <returns>The span it holds.</returns>
    public static Result<Span> Found(bool hasTrainers, string? evidence, HouseRules rules, Instant now)
    {
        if (hasTrainers)
            return TrainingProblems.FoundingTrainers.Refuse("machineId");
        if (string.IsNullOrWhiteSpace(evidence))
            return TrainingProblems.FoundingEvidence.Refuse("evidence");
        if (evidence.Length > NoteLongest)
            return new Refusal(
                TrainingProblems.FoundingEvidence,
                $"The evidence is longer than {NoteLongest} characters. Shorten it.",
                "evidence"
            );
        return new Span(now, new LastDay(rules.Clock.DateOf(now).PlusMonths(FoundingMonths)).End(rules.Clock));
    }

    /// <summary>Confirming looks at the evidence with another pair of eyes: neither the person's own nor the writer's.</summary>
    public static Refusal? MayConfirm(PersonId personId, PersonId setBy, PersonId by) =>
        by == personId || by == setBy ? TrainingProblems.FoundingSelf.Refuse() : null;

    /// <summary>The machine part of an authority: <c>heron</c> of <c>heron/rotary</c>.</summary>
    public static string MachineOf(string authority) => authority.Split('/', 2)[0];

    /// <summary>When a certificate of today ends: the local midnight after its last day.</summary>
    public static Instant EndOf(Instant now, HouseRules rules)
    {
        var today = rules.Clock.DateOf(now);
        var last = rules.CertificateMonths > 0 ? today.PlusMonths(rules.CertificateMonths) : SchoolYearEnd(today);
        return new LastDay(last).End(rules.Clock);
    }

    private static LocalDate SchoolYearEnd(LocalDate today)
    {
        var end = new LocalDate(today.Year, 7, 31);
        return today > end ? end.PlusYears(1) : end;
    }
}
