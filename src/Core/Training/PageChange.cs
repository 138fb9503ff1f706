using NodaTime;

namespace VelvetGate.Core.Training;

/// <summary>A new version of a page.</summary>
/// <param name="Body">Markdown.</param>
/// <param name="Check">The question that acknowledges it.</param>
/// <param name="Options">Its answers, the right one first.</param>
/// <param name="RepeatBy">The last house day on which having read an older version still counts; null repeats nothing.</param>
public sealed record PageChange(string Body, string Check, IReadOnlyList<string> Options, LocalDate? RepeatBy)
{
    public const int LongestBody = 40_000;
    private const int LongestLine = 300;
    private const int MostOptions = 6;

    /// <returns>Everything that is wrong with it.</returns>
    public IReadOnlyList<Refusal> Wrong(LocalDate today)
    {
        var wrong = new List<Refusal>();
        if (string.IsNullOrWhiteSpace(Body))
            wrong.Add(TrainingProblems.PageBody.Refuse("body"));
        else if (Body.Length > LongestBody)
            wrong.Add(new Refusal(TrainingProblems.PageBody, $"Keep a page to {LongestBody} characters: make two of it.", "body"));
        if (string.IsNullOrWhiteSpace(Check) || Check.Length > LongestLine)
            wrong.Add(TrainingProblems.PageCheck.Refuse("check", LongestLine));
        if (Options.Count is < 2 or > MostOptions || Options.Any(o => string.IsNullOrWhiteSpace(o) || o.Length > LongestLine))
            wrong.Add(TrainingProblems.PageOptions.Refuse("options", MostOptions));
        else if (Options.Distinct(StringComparer.OrdinalIgnoreCase).Count() < Options.Count)
            wrong.Add(new Refusal(TrainingProblems.PageOptions, "Two answers are the same.", "options"));
        if (Repeats.Wrong(RepeatBy, today) is { } day)
            wrong.Add(day);
        return wrong;
    }
}

/// <summary>Pages that a house writes itself. They ask for nothing until a path has them, and no quiz waits for them.</summary>
public static class NewPages
{
    public const int TitleLongest = 60;

    public static Refusal? Wrong(string? title) =>
        string.IsNullOrWhiteSpace(title) || title.Trim().Length > TitleLongest ? TrainingProblems.PageTitle.Refuse("title", TitleLongest)
        : Slug(title).Length == 0 ? new Refusal(TrainingProblems.PageTitle, "Write at least one letter or digit in the title.", "title")
        : null;

    /// <summary>An id from the title, another than those there are.</summary>
    public static string IdOf(string title, IReadOnlyCollection<string> taken)
    {
        var slug = Slug(title) is { Length: > 0 } plain ? plain : "step";
        return Enumerable.Range(1, taken.Count + 1).Select(n => n == 1 ? slug : $"{slug}-{n}").First(id => !taken.Contains(id));
    }

    private static string Slug(string title) =>
        string.Join(
                '-',
                Materials
                    .PlainLetters.Of(title)
                    .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(w => string.Concat(w.Where(char.IsAsciiLetterOrDigit)))
                    .Where(w => w.Length > 0)
            )
            .ToLowerInvariant();
}
