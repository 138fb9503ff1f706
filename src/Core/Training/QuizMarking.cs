using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>An attempt as marked.</summary>
/// <param name="Percent">Questions right, in per cent of all.</param>
/// <param name="CriticalMissed">Critical questions answered wrong or not at all.</param>
public sealed record QuizMark(int Right, int Of, decimal Percent, int CriticalMissed, bool Passed);

/// <summary>
/// Marks a quiz. Pass mark, critical questions and the wait after a fail are house rules (house practice: 80 %, all critical ones, 24 h).
/// </summary>
public static class QuizMarking
{
    /// <summary>An attempt that nobody ends is closed after this long, with the answers it has.</summary>
    public static readonly Duration Longest = Duration.FromHours(24);

    public static QuizMark Mark(IReadOnlyList<Question> drawn, IReadOnlyDictionary<string, IReadOnlyList<int>> answers, HouseRules rules)
    {
        var right = drawn.Count(q => q.IsRight(answers.GetValueOrDefault(q.Id)));
        var missed = drawn.Count(q => q.Critical && !q.IsRight(answers.GetValueOrDefault(q.Id)));
        var percent = drawn.Count == 0 ? 0 : 100m * right / drawn.Count;
        return new QuizMark(right, drawn.Count, percent, missed, drawn.Count > 0 && percent >= rules.QuizPassPercent && missed == 0);
    }

    /// <summary>From when a failed quiz may be tried again: hours later, or with the next house day where the rules give none.</summary>
    public static Instant NextTry(Instant failedAt, HouseRules rules) =>
        rules.QuizCoolDownHours > 0
            ? failedAt + Duration.FromHours(rules.QuizCoolDownHours)
            : rules.Clock.Day(rules.Clock.DateOf(failedAt)).End;

    /// <param name="question">Null when it was not drawn for this attempt.</param>
    /// <param name="order">Which answer of the question is shown at which place.</param>
    /// <param name="shown">The places that the person chose.</param>
    /// <returns>The answers as the question numbers them.</returns>
    public static Result<IReadOnlyList<int>> Places(Question? question, IReadOnlyList<int> order, IReadOnlyList<int> shown)
    {
        if (question is null)
            return TrainingProblems.QuizQuestion.Refuse("question");
        if (shown.Any(s => s < 0 || s >= order.Count))
            return TrainingProblems.QuizAnswer.Refuse("answer");
        List<int> places = [.. shown.Select(s => order[s])];
        return places.Count == 0 || question.CanBe(places) ? places : TrainingProblems.QuizAnswer.Refuse("answer");
    }
}
