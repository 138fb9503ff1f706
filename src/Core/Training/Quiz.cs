namespace VelvetGate.Core.Training;

public enum QuestionKind
{
    /// <summary>One answer is right.</summary>
    Single,

    /// <summary>Several are right, and all of them are wanted.</summary>
    Multiple,

    /// <summary>Steps to put in order.</summary>
    Order,

    /// <summary>One answer to what a picture shows.</summary>
    Picture,
}

/// <summary>One question of the bank.</summary>
/// <param name="Critical">Wrong here fails the attempt, whatever the mark.</param>
/// <param name="Options">As written; a person sees them shuffled. For <see cref="QuestionKind.Order"/> in the right order.</param>
/// <param name="Correct">Places in <paramref name="Options"/> that are right; for <see cref="QuestionKind.Order"/> all, in order.</param>
/// <param name="Why">The explanation, shown when the attempt has ended.</param>
/// <param name="Picture">File name of a picture, and <paramref name="Alt"/> what it shows; null without.</param>
public sealed record Question(
    string Id,
    string Topic,
    QuestionKind Kind,
    bool Critical,
    string Text,
    IReadOnlyList<string> Options,
    IReadOnlyList<int> Correct,
    string Why,
    string? Picture = null,
    string? Alt = null
)
{
    public bool IsRight(IReadOnlyList<int>? answer) =>
        answer is not null
        && (Kind == QuestionKind.Multiple ? answer.Order().SequenceEqual(Correct.Order()) : answer.SequenceEqual(Correct));

    /// <summary>Whether an answer is one that the form can give: places that exist, each once, and as many as the kind takes.</summary>
    public bool CanBe(IReadOnlyList<int> answer) =>
        answer.All(a => a >= 0 && a < Options.Count)
        && answer.Distinct().Count() == answer.Count
        && Kind switch
        {
            QuestionKind.Multiple => true,
            QuestionKind.Order => answer.Count == Options.Count,
            _ => answer.Count <= 1,
        };
}

/// <summary>A question as drawn: the places of its options in the order shown.</summary>
public sealed record DrawnQuestion(string Id, IReadOnlyList<int> Shown);

/// <summary>
/// Draws a quiz from the bank: the same seed gives the same quiz, for ever, so that a disputed attempt can be laid out again.
/// </summary>
public static class QuizDraw
{
    /// <summary>Questions of each topic. House practice.</summary>
    public const int PerTopic = 3;

    /// <param name="bank">Questions in use.</param>
    /// <param name="topics">Topics, each with the same weight.</param>
    /// <returns>As many questions of each topic, fewer where the bank has fewer; at least one critical one of a topic that has
    /// any.</returns>
    public static IReadOnlyList<DrawnQuestion> Of(IReadOnlyList<Question> bank, IReadOnlyList<string> topics, long seed)
    {
        var random = new SplitMix((ulong)seed);
        var drawn = new List<Question>();
        foreach (var topic in topics)
        {
            var own = Shuffled([.. bank.Where(q => q.Topic == topic).OrderBy(q => q.Id, StringComparer.Ordinal)], random);
            var taken = own.Take(PerTopic).ToList();
            if (taken.Count > 0 && !taken.Any(q => q.Critical) && own.Find(q => q.Critical) is { } critical)
                taken[^1] = critical;
            drawn.AddRange(taken);
        }
        return
        [
            .. Shuffled(drawn, random).Select(q => new DrawnQuestion(q.Id, Shuffled([.. Enumerable.Range(0, q.Options.Count)], random))),
        ];
    }

    /// <summary>Fisher and Yates 1938, as in Knuth, The Art of Computer Programming, vol. 2, algorithm P.</summary>
    private static List<T> Shuffled<T>(List<T> list, SplitMix random)
    {
        for (var i = list.Count - 1; i > 0; i--)
        {
            var j = random.Below(i + 1);
            (list[i], list[j]) = (list[j], list[i]);
        }
        return list;
    }
}

/// <summary>
/// SplitMix64: Steele, Lea and Flood 2014, "Fast splittable pseudorandom number generators". Of our own, because the runtime's generator
/// may change with the runtime.
/// </summary>
public sealed class SplitMix(ulong seed)
{
    private ulong _state = seed;

    public ulong Next()
    {
        var z = _state += 0x9E3779B97F4A7C15;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }

    /// <summary>A number from 0 to <paramref name="bound"/> - 1; off from even by less than one part in 2^32.</summary>
    public int Below(int bound) => (int)(((Next() >> 32) * (ulong)bound) >> 32);
}
