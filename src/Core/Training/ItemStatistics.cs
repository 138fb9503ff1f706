namespace VelvetGate.Core.Training;

/// <summary>How one question did.</summary>
/// <param name="Asked">Attempts in which it was drawn.</param>
/// <param name="Difficulty">Share of them that got it right, 0 to 1; high is easy.</param>
/// <param name="Discrimination">Point-biserial correlation with the rest of the attempt, -1 to 1; null where it is not defined.</param>
/// <param name="Chosen">How often each option was chosen, in the order of the bank.</param>
/// <param name="Advice">What to do about it; empty when nothing.</param>
public sealed record ItemStatistic(
    string QuestionId,
    int Asked,
    double Difficulty,
    double? Discrimination,
    IReadOnlyList<int> Chosen,
    string Advice
);

/// <summary>One answer of one attempt.</summary>
/// <param name="Rest">Share of the other questions of the same attempt that were right, 0 to 1.</param>
public readonly record struct ItemAnswer(bool Right, double Rest, IReadOnlyList<int> Chosen);

/// <summary>
/// Classical item analysis. Source: Crocker and Algina, "Introduction to Classical and Modern Test Theory", 1986, chapters 5, 7 and 14.
/// </summary>
public static class ItemStatistics
{
    /// <summary>Fewer answers say nothing. House practice.</summary>
    public const int Enough = 20;

    public static ItemStatistic Of(Question question, IReadOnlyList<ItemAnswer> answers)
    {
        var difficulty = answers.Count == 0 ? 0 : (double)answers.Count(a => a.Right) / answers.Count;
        var discrimination = PointBiserial([.. answers.Select(a => a.Right)], [.. answers.Select(a => a.Rest)]);
        var chosen = Enumerable.Range(0, question.Options.Count).Select(o => answers.Count(a => a.Chosen.Contains(o))).ToList();
        return new ItemStatistic(
            question.Id,
            answers.Count,
            difficulty,
            discrimination,
            chosen,
            Advice(question, answers.Count, difficulty, discrimination, chosen)
        );
    }

    /// <summary>
    /// Correlation of right or wrong with a score: (M1 - M0)/s · √(pq), s being the standard deviation of the whole group.
    /// </summary>
    /// <returns>Null when all or none are right, or all scores are the same.</returns>
    public static double? PointBiserial(IReadOnlyList<bool> right, IReadOnlyList<double> score)
    {
        var (ones, zeros) = (right.Count(r => r), right.Count(r => !r));
        if (ones == 0 || zeros == 0)
            return null;
        var mean = score.Average();
        var deviation = Math.Sqrt(score.Average(s => (s - mean) * (s - mean)));
        if (deviation < 1e-12)
            return null;
        var (p, q) = ((double)ones / right.Count, (double)zeros / right.Count);
        var with = score.Where((_, i) => right[i]).Average();
        var without = score.Where((_, i) => !right[i]).Average();
        return (with - without) / deviation * Math.Sqrt(p * q);
    }

    /// <summary>Reliability of a form that all took: Kuder and Richardson 1937, formula 20, with the variance of the whole group.</summary>
    /// <param name="items">One row a person, one column a question.</param>
    /// <returns>Null with fewer than two questions or people, or when all scores are the same.</returns>
    public static double? Kr20(IReadOnlyList<IReadOnlyList<bool>> items)
    {
        if (items.Count < 2 || items[0].Count < 2)
            return null;
        var k = items[0].Count;
        var totals = items.Select(r => (double)r.Count(x => x)).ToList();
        var sum = Enumerable
            .Range(0, k)
            .Sum(i =>
            {
                var p = items.Average(r => r[i] ? 1.0 : 0);
                return p * (1 - p);
            });
        return Kr20(k, sum, Variance(totals));
    }

    /// <summary>
    /// The same for quizzes drawn from a bank, where people had different questions: the mean item variance stands for each of theirs.
    /// </summary>
    /// <param name="k">Questions of one quiz.</param>
    /// <param name="itemVariance">Mean of p(1 - p) over the questions, weighted by how often each was asked.</param>
    /// <param name="totals">Questions right, one a quiz.</param>
    public static double? Kr20Drawn(int k, double itemVariance, IReadOnlyList<double> totals) =>
        k < 2 || totals.Count < 2 ? null : Kr20(k, k * itemVariance, Variance(totals));

    private static double? Kr20(int k, double itemVariances, double variance) =>
        variance < 1e-12 ? null : k / (k - 1.0) * (1 - itemVariances / variance);

    private static double Variance(IReadOnlyCollection<double> values)
    {
        var mean = values.Average();
        return values.Average(v => (v - mean) * (v - mean));
    }

    private static string Advice(Question question, int asked, double difficulty, double? discrimination, IReadOnlyList<int> chosen)
    {
        if (asked < Enough)
            return $"Too few answers to judge: {asked} of {Enough}.";
        if (discrimination < 0)
            return "Most who know the rest miss this: look for a second right answer, and reword.";
        if (difficulty < 0.3)
            return "Few get this right: is it taught, and is it worded plainly?";
        if (discrimination < 0.15)
            return "It hardly tells who knows: reword, or let it go.";
        var idle = Enumerable
            .Range(0, chosen.Count)
            .Where(o => chosen[o] == 0 && !question.Correct.Contains(o))
            .Select(o => $"“{question.Options[o]}”")
            .ToList();
        if (idle.Count > 0 && question.Kind != QuestionKind.Order)
            return $"Nobody ever chooses {string.Join(" or ", idle)}: find a better wrong answer.";
        return difficulty > 0.95 ? "Nearly everybody knows this." : "";
    }
}
