namespace VelvetGate.Core.Kernel;

/// <summary>The reason that a person writes for what they do to somebody: a sentence, and not a book.</summary>
public static class WrittenReason
{
    /// <summary>Characters.</summary>
    public const int Longest = 2000;

    /// <returns>What is wrong with it; null when it serves.</returns>
    public static Refusal? Wrong(string? reason, int longest = Longest) =>
        string.IsNullOrWhiteSpace(reason) ? CommonProblems.ReasonMissing.Refuse("reason")
        : reason.Length > longest ? CommonProblems.ReasonLong.Refuse("reason", longest)
        : null;
}
