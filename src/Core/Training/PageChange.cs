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
        if (string.IsNullOrWhiteSpace(Body)) wrong.Add(new("page.body", "A page needs words.", "body"));
        else if (Body.Length > LongestBody) wrong.Add(new("page.body", $"Keep a page to {LongestBody} characters: make two of it.", "body"));
        if (string.IsNullOrWhiteSpace(Check) || Check.Length > LongestLine) wrong.Add(new("page.check", $"Ask one question on what the page says, in at most {LongestLine} characters.", "check"));
        if (Options.Count is < 2 or > MostOptions || Options.Any(o => string.IsNullOrWhiteSpace(o) || o.Length > LongestLine))
            wrong.Add(new("page.options", $"Give two to {MostOptions} answers, one a line, the right one first.", "options"));
        else if (Options.Distinct(StringComparer.OrdinalIgnoreCase).Count() < Options.Count) wrong.Add(new("page.options", "Two answers are the same.", "options"));
        if (RepeatBy < today) wrong.Add(new("page.repeatBy", "Give a day that is not over.", "repeatBy"));
        return wrong;
    }
}
