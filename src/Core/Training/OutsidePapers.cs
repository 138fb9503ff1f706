using NodaTime;

namespace VelvetGate.Core.Training;

/// <summary>Certificates of other houses and institutions: a steward records what was shown (common practice).</summary>
public static class OutsidePapers
{
    /// <summary>What stands against a paper as written.</summary>
    /// <param name="from">First day on the paper.</param>
    /// <param name="to">Last day; null without end.</param>
    public static IReadOnlyList<Refusal> Wrong(
        PersonId personId,
        PersonId by,
        string? title,
        string? issuer,
        LocalDate? from,
        LocalDate? to,
        string? evidence,
        LocalDate today
    )
    {
        var found = new List<Refusal>();
        void Against(string field, string text) => found.Add(new Refusal(TrainingProblems.OutsideWrong, text, field));
        if (personId == by)
            Against("personId", "Nobody records their own papers. Ask another steward.");
        if (string.IsNullOrWhiteSpace(title) || title.Length > Paths.NameLongest)
            Against("title", $"Say what it is called, in at most {Paths.NameLongest} characters.");
        if (string.IsNullOrWhiteSpace(issuer) || issuer.Length > Paths.NameLongest)
            Against("issuer", $"Say who issued it, in at most {Paths.NameLongest} characters.");
        if (from is null)
            Against("from", "Give the day on the paper, such as 2026-03-14.");
        if (from > today)
            Against("from", "The day on the paper is still to come. Look again.");
        if (to < from || to < today)
            Against("to", "It is over already. Leave it empty when the paper names no end.");
        if (string.IsNullOrWhiteSpace(evidence) || evidence.Length > SignOffs.NoteLongest)
            Against("evidence", "Write what you saw, its number, and where a copy lies.");
        return found;
    }
}
