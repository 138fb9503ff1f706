using NodaTime;

namespace VelvetGate.Core.Training;

/// <summary>
/// The day until which what was done before still counts, of a page, a practical sheet or the quiz. Source: house practice.
/// </summary>
public static class Repeats
{
    /// <param name="by">Null repeats nothing.</param>
    /// <param name="today">The house's day.</param>
    /// <param name="asked">True where repeating is what is asked for, so that a day has to be given.</param>
    public static Refusal? Wrong(LocalDate? by, LocalDate today, bool asked = false) =>
        by is null && asked ? TrainingProblems.RepeatDay.Refuse("repeatBy")
        : by < today ? new Refusal(TrainingProblems.RepeatDay, "Give a day that is not over.", "repeatBy")
        : null;
}
