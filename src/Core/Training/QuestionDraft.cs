namespace VelvetGate.Core.Training;

/// <summary>A question as it is written.</summary>
/// <param name="Options">The right ones first; for an order, the right order.</param>
/// <param name="Right">How many of the options are right; for an order it does not matter.</param>
/// <param name="Picture">Kept from the question it replaces; null without.</param>
public sealed record QuestionDraft(
    string Topic,
    QuestionKind Kind,
    bool Critical,
    string Text,
    IReadOnlyList<string> Options,
    int Right,
    string Why,
    string? Picture = null,
    string? Alt = null
)
{
    private const int LongestText = 400;
    private const int LongestOption = 200;
    private const int MostOptions = 8;

    /// <returns>Everything that is wrong with it.</returns>
    public IReadOnlyList<Refusal> Wrong(IReadOnlyCollection<string> topics)
    {
        var wrong = new List<Refusal>();
        void Against(string field, string text) => wrong.Add(new Refusal(TrainingProblems.QuestionWrong, text, field));
        if (!topics.Contains(Topic))
            Against("topic", "Choose the page that teaches it.");
        if (string.IsNullOrWhiteSpace(Text) || Text.Length > LongestText)
            Against("text", $"Write the question, in at most {LongestText} characters.");
        if (string.IsNullOrWhiteSpace(Why) || Why.Length > LongestText)
            Against("why", $"Explain the answer, in at most {LongestText} characters.");
        if (Options.Count is < 2 or > MostOptions || Options.Any(o => string.IsNullOrWhiteSpace(o) || o.Length > LongestOption))
            Against("options", $"Give two to {MostOptions} answers, one a line, the right ones first.");
        else if (Options.Distinct(StringComparer.OrdinalIgnoreCase).Count() < Options.Count)
            Against("options", "Two answers are the same.");
        else if (Kind == QuestionKind.Multiple && (Right < 1 || Right > Options.Count))
            Against("right", $"Between 1 and {Options.Count} of them are right.");
        if (Kind == QuestionKind.Picture && Picture is null)
            Against("kind", "A question with a picture replaces one that has it.");
        return wrong;
    }

    public Question As(string id) =>
        new(
            Id: id,
            Topic: Topic,
            Kind: Kind,
            Critical: Critical,
            Text: Text,
            Options: Options,
            Correct:
            [
                .. Enumerable.Range(
                    0,
                    Kind switch
                    {
                        QuestionKind.Order => Options.Count,
                        QuestionKind.Multiple => Right,
                        _ => 1,
                    }
                ),
            ],
            Why: Why,
            Picture: Kind == QuestionKind.Picture ? Picture : null,
            Alt: Kind == QuestionKind.Picture ? Alt : null
        );
}

/// <summary>What a bank has to keep so that every quiz can be drawn.</summary>
public static class QuestionBank
{
    /// <returns>What is missing; null when the bank serves.</returns>
    public static Refusal? Serves(IReadOnlyList<Question> bank, IReadOnlyList<string> topics)
    {
        foreach (var topic in topics)
        {
            var own = bank.Where(q => q.Topic == topic).ToList();
            if (own.Count < QuizDraw.PerTopic)
                return TrainingProblems.QuestionFew.Refuse(null, QuizDraw.PerTopic, topic);
            if (!own.Any(q => q.Critical))
                return TrainingProblems.QuestionCritical.Refuse(null, topic);
        }
        return null;
    }
}
