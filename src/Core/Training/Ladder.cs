using System.Globalization;
using NodaTime;
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

/// <summary>A supervised run, or an induction that was attended.</summary>
public sealed record Practised(MachineId MachineId, Instant At);

/// <summary>A certificate of another house or an institution.</summary>
public sealed record OutsidePaper(string Title, Span Held);

/// <summary>An induction session to come that has a place.</summary>
public sealed record SessionAhead(MachineId MachineId, Instant Start, int Places);

/// <summary>Everything a person has done towards any authority.</summary>
/// <param name="Held">Certificates, past and present.</param>
/// <param name="Names">What authorities are called.</param>
public sealed record Progress(
    IReadOnlyList<TrainingModule> Modules,
    IReadOnlyList<ModuleDone> Done,
    IReadOnlyList<Practised> Runs,
    IReadOnlyList<Practised> Inductions,
    IReadOnlyList<OutsidePaper> Outside,
    IReadOnlyList<Certificate> Held,
    IReadOnlyList<SessionAhead> Sessions,
    IReadOnlyDictionary<string, string> Names
);

/// <summary>What is still to do before a sign-off.</summary>
/// <param name="From">When it can be done first; null where nothing waits for a time.</param>
public sealed record WayStep(string Title, Instant? From);

/// <summary>Where a person stands on a path.</summary>
public static class Ladder
{
    /// <summary>The readings and the quiz, which are done once for every path.</summary>
    public static IReadOnlyList<LadderStep> Safety(
        IReadOnlyList<TrainingModule> modules,
        IReadOnlyList<ModuleDone> done,
        Instant? failedAt,
        int questions,
        HouseRules rules,
        Instant now
    )
    {
        var today = rules.Clock.DateOf(now);
        var unread = ModuleRules.Unread(modules, done, today);
        return
        [
            .. modules.Select(m =>
            {
                var own = done.Where(d => d.ModuleId == m.Id).OrderBy(d => d.Version).LastOrDefault();
                if (ModuleRules.DueBy(m, done, today) is { } by)
                    return Step(
                        m,
                        StepState.Open,
                        own!.At,
                        null,
                        "It was changed since you "
                            + $"{(m.Kind == ModuleKind.Quiz ? "passed it: pass it anew" : "read it: read it again")} by "
                            + $"{by.ToString("d MMM uuuu", CultureInfo.InvariantCulture)}. Until then it counts."
                    );
                if (ModuleRules.IsDone(m, done, today))
                    return Step(
                        m,
                        StepState.Done,
                        own!.At,
                        null,
                        $"{(m.Kind == ModuleKind.Quiz ? "Passed" : "Read")} on {HouseDates.Day(own.At, rules)}."
                    );
                if (m.Kind == ModuleKind.Reading)
                    return Step(
                        m,
                        StepState.Open,
                        null,
                        null,
                        own is null ? "A page, and one question on it." : "It was changed since you read it: read it again."
                    );
                var refusal = ModuleRules.MayBegin(unread, failedAt, rules, now);
                var from = refusal?.Code == "quiz.coolDown" ? QuizMarking.NextTry(failedAt!.Value, rules) : (Instant?)null;
                return Step(
                    m,
                    refusal is null ? StepState.Open : StepState.Waits,
                    null,
                    from,
                    refusal?.Text ?? $"{questions} questions: {rules.QuizPassPercent} % and every critical one."
                );
            }),
        ];

        static LadderStep Step(TrainingModule m, StepState state, Instant? at, Instant? from, string text) =>
            new(Id: m.Id, Kind: m.Kind, Title: m.Title, State: state, At: at, From: from, Text: text);
    }

    /// <summary>
    /// The rungs of one path beyond readings and quiz. A certificate that holds stands for all of them; one that lapsed leaves the shorter
    /// refresher.
    /// </summary>
    public static IReadOnlyList<LadderStep> Of(TrainingPath path, Progress progress, HouseRules rules, Instant now)
    {
        var own = progress.Held.Where(c => c.Authority == path.Authority && c.Held.Start <= now).ToList();
        var held = own.Where(c => c.Held.Holds(now)).MaxBy(c => c.Held.End ?? Instant.MaxValue)?.Held;
        var ended = held is null && own.Count > 0 ? own.Max(c => c.Held.End!.Value) : (Instant?)null;
        var steps = ended is null ? path.Steps : path.Refresher;
        var unread = steps
            .Where(s => IsTheory(s.Kind))
            .Select(s => progress.Modules.FirstOrDefault(m => m.Id == s.Id))
            .OfType<TrainingModule>()
            .Where(m => !ModuleRules.IsDone(m, progress.Done, rules.Clock.DateOf(now)))
            .ToList();
        var ready = unread.Count == 0;
        var rungs = new List<LadderStep>();
        foreach (var step in steps.Where(s => !IsTheory(s.Kind)))
        {
            var rung = step.Kind switch
            {
                ModuleKind.Outside => Outside(step, progress, rules, now),
                ModuleKind.Authority => First(step, progress, rules, now),
                ModuleKind.Induction => Induction(path, progress, ended, rules, now),
                ModuleKind.SupervisedRuns => Runs(step, path, progress, ended, rules),
                _ => SignOff(path, held, rungs.All(r => r.State == StepState.Done), rules),
            };
            if (held is { } certificate)
                rung = StoodFor(rung, certificate, rules);
            else if (rung.State == StepState.Open && !ready)
                rung = rung with { State = StepState.Waits, Text = "Waits for the readings and the quiz." };
            else if (rung.State == StepState.Open && rungs.Any(r => r.Kind == ModuleKind.Authority && r.State != StepState.Done))
                rung = rung with { State = StepState.Waits, Text = "Waits for the step before it." };
            rungs.Add(rung);
        }
        return rungs;
    }

    /// <summary>What a person has not done of a path before its sign-off, in order; empty when a trainer may sign.</summary>
    /// <param name="failedAt">When the last quiz attempt failed; null when there is none, or it passed.</param>
    public static IReadOnlyList<WayStep> StillToDo(TrainingPath path, Progress progress, Instant? failedAt, HouseRules rules, Instant now)
    {
        var wanted = (IsRefresher(path, progress, now) ? path.Refresher : path.Steps).Select(s => s.Id).ToHashSet();
        var theory = Safety(progress.Modules, progress.Done, failedAt, 0, rules, now)
            .Where(s =>
                wanted.Contains(s.Id)
                && !ModuleRules.IsDone(progress.Modules.First(m => m.Id == s.Id), progress.Done, rules.Clock.DateOf(now))
            )
            .ToList();
        var pages = theory.Where(s => s.Kind == ModuleKind.Reading).Select(s => s.Title).ToList();
        var read =
            pages.Count == 0
                ? []
                : new[]
                {
                    new WayStep($"{(pages.Count == 1 ? "A page" : $"{pages.Count} pages")} to read: {string.Join(", ", pages)}", null),
                };
        return
        [
            .. read,
            .. theory
                .Where(s => s.Kind != ModuleKind.Reading)
                .Concat(Of(path, progress, rules, now))
                .Where(s => s.Kind != ModuleKind.SignOff && s.State != StepState.Done)
                .Select(s => new WayStep(s.Title, s.From)),
        ];
    }

    /// <summary>True when a certificate of this path lapsed by date: what renews it is shorter.</summary>
    public static bool IsRefresher(TrainingPath path, Progress progress, Instant now)
    {
        var own = progress.Held.Where(c => c.Authority == path.Authority).ToList();
        return own.Any(c => c.Held.End <= now) && !own.Any(c => c.Held.Holds(now));
    }

    /// <summary>A step that a certificate stands for says so, rather than what it would still ask.</summary>
    private static LadderStep StoodFor(LadderStep rung, Span certificate, HouseRules rules) =>
        rung.State == StepState.Done ? rung
        : rung.Kind == ModuleKind.SignOff ? rung with { State = StepState.Done }
        : rung with
        {
            State = StepState.Done,
            At = certificate.Start,
            From = null,
            Text = $"Covered by the sign-off of {HouseDates.Day(certificate.Start, rules)}.",
        };

    private static bool IsTheory(ModuleKind kind) => kind is ModuleKind.Reading or ModuleKind.Quiz;

    private static LadderStep Outside(PathStep step, Progress progress, HouseRules rules, Instant now)
    {
        var paper = progress.Outside.Where(p => p.Title == step.Id && p.Held.Holds(now)).MaxBy(p => p.Held.End ?? Instant.MaxValue);
        return new(
            Id: $"outside/{step.Id}",
            Kind: step.Kind,
            Title: step.Id,
            State: paper is null ? StepState.Open : StepState.Done,
            At: paper?.Held.Start,
            From: null,
            Text: paper is null ? "Show the paper to a steward, who records it."
                : paper.Held.End is { } end ? $"Recorded, valid to {HouseDates.LastDay(end, rules)}."
                : "Recorded, without end."
        );
    }

    private static LadderStep First(PathStep step, Progress progress, HouseRules rules, Instant now)
    {
        var held = progress.Held.FirstOrDefault(c => c.Authority == step.Id && c.Held.Holds(now));
        var name = progress.Names.GetValueOrDefault(step.Id, step.Id);
        return new(
            Id: $"first/{step.Id}",
            Kind: step.Kind,
            Title: $"Signed off for {name} first",
            State: held is null ? StepState.Waits : StepState.Done,
            At: held?.Held.Start,
            From: null,
            Text: held is null ? $"Waits for your certificate for {name}." : $"Since {HouseDates.Day(held.Held.Start, rules)}."
        );
    }

    private static LadderStep Induction(TrainingPath path, Progress progress, Instant? since, HouseRules rules, Instant now)
    {
        var attended = progress.Inductions.Where(i => i.MachineId == path.MachineId && !(i.At < since)).Select(i => (Instant?)i.At).Max();
        var next = progress.Sessions.Where(s => s.MachineId == path.MachineId && s.Start > now).MinBy(s => s.Start);
        return new(
            Id: $"{path.Authority}/induction",
            Kind: ModuleKind.Induction,
            Title: "An induction",
            State: attended is null ? StepState.Open : StepState.Done,
            At: attended,
            From: attended is null ? next?.Start : null,
            Text: attended is { } at ? $"Attended on {HouseDates.Day(at, rules)}."
                : next is null ? "No session with a free place is planned: ask a trainer of this machine."
                : $"Next with a place: {HouseDates.Moment(next.Start, rules)}, "
                    + $"{(next.Places == 1 ? "one place left" : $"{next.Places} places left")}."
        );
    }

    private static LadderStep Runs(PathStep step, TrainingPath path, Progress progress, Instant? since, HouseRules rules)
    {
        var wanted = step.Count > 0 ? step.Count : rules.SupervisedRuns;
        var runs = progress.Runs.Where(r => r.MachineId == path.MachineId && !(r.At < since)).ToList();
        var enough = runs.Count >= wanted;
        return new(
            Id: $"{path.Authority}/runs",
            Kind: step.Kind,
            Title: wanted == 1 ? "A supervised run" : $"{wanted} supervised runs",
            State: enough ? StepState.Done : StepState.Open,
            At: enough && runs.Count > 0 ? runs.Max(r => r.At) : null,
            From: null,
            Text: enough ? $"{runs.Count} logged." : $"{runs.Count} of {wanted} logged. Book with a trainer of this machine as supervisor."
        );
    }

    private static LadderStep SignOff(TrainingPath path, Span? held, bool before, HouseRules rules) =>
        new(
            Id: $"{path.Authority}/sign-off",
            Kind: ModuleKind.SignOff,
            Title: "Sign-off by a trainer",
            State: before ? StepState.Open : StepState.Waits,
            At: held?.Start,
            From: null,
            Text: held is { } h
                ? h.End is { } end
                    ? $"Certificate to {HouseDates.LastDay(end, rules)}."
                    : "Certificate without end."
                : before
                    ? "A trainer of this machine watches you work and signs."
                    : "Waits for the steps before it."
        );
}
