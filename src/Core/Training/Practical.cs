using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>How a step was done: by itself, after a word, or not.</summary>
public enum StepMark
{
    Unprompted,
    Prompted,
    Missed,
}

/// <param name="Critical">Missing it ends the matter, whatever else was seen.</param>
public sealed record PracticalStep(string Id, string Text, bool Critical);

/// <summary>What a trainer watches, in its order.</summary>
public sealed record PracticalSheet(string Id, string Title, int Version, IReadOnlyList<PracticalStep> Steps);

/// <summary>From a version on, who was signed on an older one shows it again by a day.</summary>
/// <param name="Title">What the sheet is called.</param>
/// <param name="At">When the version was published: certificates of later rest on it.</param>
/// <param name="By">Last house day on which an older certificate still counts.</param>
public sealed record PracticalRepeat(string PracticalId, string Title, Instant At, LocalDate By);

/// <summary>A new version of a practical sheet.</summary>
public sealed record PracticalChange(string Title, IReadOnlyList<PracticalStep> Steps, LocalDate? RepeatBy)
{
    private const int LongestStep = 300;
    private const int MostSteps = 60;

    /// <returns>Everything that is wrong with it.</returns>
    public IReadOnlyList<Refusal> Wrong(LocalDate today)
    {
        var wrong = new List<Refusal>();
        void Against(string field, string text) => wrong.Add(new Refusal(TrainingProblems.PracticalChange, text, field));
        if (string.IsNullOrWhiteSpace(Title) || Title.Length > NewPages.TitleLongest)
            Against("title", $"Give the sheet a title of at most {NewPages.TitleLongest} characters.");
        if (Steps.Count is 0 or > MostSteps || Steps.Any(s => string.IsNullOrWhiteSpace(s.Text) || s.Text.Length > LongestStep))
            Against("steps", $"Between one and {MostSteps} steps, one a line.");
        else if (!Steps.Any(s => s.Critical))
            Against("steps", "At least one step is critical: begin its line with an exclamation mark.");
        else if (Steps.Select(s => s.Text).Distinct(StringComparer.OrdinalIgnoreCase).Count() < Steps.Count)
            Against("steps", "Two steps are the same.");
        if (Repeats.Wrong(RepeatBy, today) is { } day)
            wrong.Add(day);
        return wrong;
    }

    /// <summary>Steps from lines; an exclamation mark makes one critical. A step whose words stay keeps its id.</summary>
    public static IReadOnlyList<PracticalStep> Read(string? lines, IReadOnlyList<PracticalStep> before)
    {
        var steps = new List<PracticalStep>();
        foreach (var line in (lines ?? "").Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var text = line.TrimStart('!').Trim();
            if (text.Length == 0)
                continue;
            var same = before.FirstOrDefault(b => b.Text == text && steps.All(s => s.Id != b.Id));
            steps.Add(
                new PracticalStep(
                    same?.Id ?? NewPages.IdOf(text.Length > 40 ? text[..40] : text, [.. before.Concat(steps).Select(s => s.Id)]),
                    text,
                    line.StartsWith('!')
                )
            );
        }
        return steps;
    }
}

/// <summary>One mark. Several on one step: the latest counts, the others stay on record.</summary>
/// <param name="Id">Made by the tablet, so that one sent twice is one.</param>
public sealed record PracticalMark(Guid Id, string StepId, StepMark Mark, string? Note, Instant At, PersonId By);

/// <summary>By rule, not by feeling.</summary>
public enum PracticalOutcome
{
    /// <summary>Steps are not marked yet.</summary>
    Open,
    Signed,

    /// <summary>Too many prompts: repeat it.</summary>
    Repeat,

    /// <summary>A critical step was missed.</summary>
    NotSigned,
}

/// <param name="Why">The sentence that goes with it.</param>
public sealed record PracticalVerdict(
    PracticalOutcome Outcome,
    int Unmarked,
    int Prompted,
    int Missed,
    IReadOnlyList<string> CriticalMissed,
    string Why
);

/// <summary>
/// Rules of a practical observation: any critical miss is not signed, more prompts than the house allows is repeated. Source: common
/// practice; three prompts are a house rule.
/// </summary>
public static class Practicals
{
    public const int NoteLongest = 500;

    /// <summary>Marks of one sheet, corrections counted: many times what an hour beside a learner needs.</summary>
    public const int MostMarks = 500;

    /// <summary>The mark that counts for each step: the latest; of two at one instant the harder.</summary>
    public static IReadOnlyDictionary<string, PracticalMark> Counting(IEnumerable<PracticalMark> marks) =>
        marks.GroupBy(m => m.StepId).ToDictionary(g => g.Key, g => g.OrderBy(m => m.At).ThenBy(m => m.Mark).ThenBy(m => m.Id).Last());

    /// <summary>A step that was missed without being critical counts as a prompt.</summary>
    public static PracticalVerdict Judge(PracticalSheet sheet, IEnumerable<PracticalMark> marks, HouseRules rules)
    {
        var counting = Counting(marks);
        StepMark? Of(PracticalStep s) => counting.TryGetValue(s.Id, out var m) ? m.Mark : null;
        var unmarked = sheet.Steps.Count(s => Of(s) is null);
        var prompted = sheet.Steps.Count(s => Of(s) == StepMark.Prompted);
        var missed = sheet.Steps.Count(s => Of(s) == StepMark.Missed);
        List<string> critical = [.. sheet.Steps.Where(s => s.Critical && Of(s) == StepMark.Missed).Select(s => s.Text)];
        PracticalVerdict As(PracticalOutcome outcome, string why) => new(outcome, unmarked, prompted, missed, critical, why);
        if (critical.Count > 0)
            return As(PracticalOutcome.NotSigned, $"A critical step was missed: {string.Join("; ", critical)}. Not signed.");
        if (prompted + missed > rules.PromptsAllowed)
            return As(
                PracticalOutcome.Repeat,
                $"{prompted + missed} steps were prompted or missed, {rules.PromptsAllowed} are allowed. Practise, then repeat it."
            );
        return unmarked > 0
            ? As(PracticalOutcome.Open, unmarked == 1 ? "One step is not marked yet." : $"{unmarked} steps are not marked yet.")
            : As(PracticalOutcome.Signed, "Every critical step was done, and no more prompts than the house allows.");
    }

    /// <summary>The form by which the last step of a path is watched.</summary>
    public static Result<string> FormOf(TrainingPath path) =>
        path.Steps[^1].Id is { Length: > 0 } form ? form : TrainingProblems.PracticalNone.Refuse("authority");

    public static Refusal? MayAdd(int marks, int more) =>
        marks + more > MostMarks ? TrainingProblems.PracticalFull.Refuse("marks", MostMarks) : null;

    /// <param name="theirs">It is the trainer who began it, or the person who was watched.</param>
    /// <param name="seen">How many marks there were when they looked.</param>
    /// <returns>Null when they may agree to it.</returns>
    public static Refusal? MayAgree(bool theirs, int marks, int seen, PracticalVerdict verdict) =>
        !theirs ? TrainingProblems.PracticalNotYours.Refuse()
        : seen != marks ? TrainingProblems.PracticalStale.Refuse()
        : verdict.Outcome == PracticalOutcome.Open ? TrainingProblems.PracticalOpen.Refuse(null, verdict.Why)
        : null;

    /// <summary>May this mark be put on the sheet?</summary>
    public static Refusal? MayMark(PracticalSheet sheet, string? stepId, string? note) =>
        sheet.Steps.All(s => s.Id != stepId) ? TrainingProblems.PracticalStep.Refuse("stepId")
        : note?.Length > NoteLongest ? TrainingProblems.PracticalNote.Refuse("note", NoteLongest)
        : null;
}
