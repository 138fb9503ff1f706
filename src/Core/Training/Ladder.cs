using NodaTime;
using VelvetGate.Core.Gating.Posts;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

public enum StepState
{
    Done,

    /// <summary>Can be done now.</summary>
    Open,

    /// <summary>Waits for another step, or for a time.</summary>
    Waits,
}

/// <summary>One rung.</summary>
/// <param name="At">When it was done.</param>
/// <param name="From">From when it opens, where it waits for a time.</param>
/// <param name="Text">What it asks, or waits for, in a sentence.</param>
public sealed record LadderStep(string Id, ModuleKind Kind, string Title, StepState State, Instant? At, Instant? From, string Text);

/// <summary>What a person did towards one machine.</summary>
/// <param name="Runs">Runs under supervision.</param>
/// <param name="Held">Their certificate, with its end; null without.</param>
public sealed record MachineProgress(string MachineId, string Name, int Runs, Instant? LastRun, Span? Held);

/// <summary>Where a person stands on the way to a machine: general safety first, then the machine itself. Both are needed (common practice).</summary>
public static class Ladder
{
    /// <summary>The readings and the quiz that come before every machine.</summary>
    public static IReadOnlyList<LadderStep> Safety(IReadOnlyList<TrainingModule> modules, IReadOnlyList<ModuleDone> done, Instant? failedAt, int questions, HouseRules rules, Instant now)
    {
        var today = rules.Clock.DateOf(now);
        var unread = TrainingPaths.Unread(modules, done, today);
        return [.. modules.Select(m =>
        {
            var own = done.Where(d => d.ModuleId == m.Id).OrderBy(d => d.Version).LastOrDefault();
            if (TrainingPaths.DueBy(m, done, today) is { } by)
                return Step(m, StepState.Open, own!.At, null, $"It was changed since you read it: read it again by {by.ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture)}. Until then it counts.");
            if (TrainingPaths.IsDone(m, done, today)) return Step(m, StepState.Done, own!.At, null, $"{(m.Kind == ModuleKind.Quiz ? "Passed" : "Read")} on {Say.Day(own.At, rules)}.");
            if (m.Kind == ModuleKind.Reading) return Step(m, StepState.Open, null, null, own is null ? "A page, and one question on it." : "It was changed since you read it: read it again.");
            var refusal = TrainingPaths.MayBegin(unread, failedAt, rules, now);
            var from = refusal?.Code == "quiz.coolDown" ? QuizMarking.NextTry(failedAt!.Value, rules) : (Instant?)null;
            return Step(m, refusal is null ? StepState.Open : StepState.Waits, null, from, refusal?.Text ?? $"{questions} questions: {rules.QuizPassPercent} % and every critical one.");
        })];

        static LadderStep Step(TrainingModule m, StepState state, Instant? at, Instant? from, string text) => new(m.Id, m.Kind, m.Title, state, at, from, text);
    }

    /// <summary>The rungs of one machine. A certificate that holds stands for all of them.</summary>
    /// <param name="safetyDone">Every step before is done.</param>
    public static IReadOnlyList<LadderStep> Machine(MachineProgress progress, bool safetyDone, HouseRules rules, Instant now)
    {
        var holds = progress.Held is { } held && held.Holds(now);
        var enough = progress.Runs >= rules.SupervisedRuns;
        var runs = new LadderStep(
            $"{progress.MachineId}/runs", ModuleKind.SupervisedRuns, rules.SupervisedRuns == 1 ? "A supervised run" : $"{rules.SupervisedRuns} supervised runs",
            holds || enough ? StepState.Done : safetyDone ? StepState.Open : StepState.Waits, enough ? progress.LastRun : null, null,
            holds || enough ? $"{progress.Runs} logged." : safetyDone ? $"{progress.Runs} of {rules.SupervisedRuns} logged. Book with a trainer of this machine as supervisor." : "Waits for the readings and the quiz.");
        var sign = new LadderStep(
            $"{progress.MachineId}/sign-off", ModuleKind.SignOff, "Sign-off by a trainer",
            holds ? StepState.Done : safetyDone && enough ? StepState.Open : StepState.Waits, holds ? progress.Held!.Start : null, null,
            holds ? progress.Held!.End is { } end ? $"Certificate to {Say.Day(end - Duration.Epsilon, rules)}." : "Certificate without end."
            : safetyDone && enough ? "A trainer of this machine watches you work and signs." : "Waits for the steps before it.");
        return [runs, sign];
    }
}
