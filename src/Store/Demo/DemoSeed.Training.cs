using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;

namespace VelvetGate.Store.Demo;

/// <summary>
/// The training room: a path that the house changed, sessions at the machines, a practical that is not finished, papers from elsewhere, a
/// certificate under review.
/// </summary>
public sealed partial class DemoSeed
{
    private void AddTraining(List<(Instant, Func<Task>)> steps)
    {
        // Whose certificate ends today came back into practice by a supervised run that both confirmed.
        foreach (var (person, machine) in new[] { (9, "heron"), (14, "wren") })
        {
            var booking = NextId();
            steps.Add((now - Duration.FromDays(21), () => BookSupervised(booking, Id(person), machine, Id(8))));
            steps.Add((now - Duration.FromDays(12), () => LogSupervised(booking, Id(8))));
        }
        steps.Add((now - Duration.FromDays(50), HeronBeforeKestrel));
        steps.Add((now - Duration.FromDays(11), () => HoldSession(now - Duration.FromDays(11))));
        steps.Add((now - Duration.FromHours(20), PlanSessions));
        steps.Add(
            (now - Duration.FromDays(44), () =>
                new OutsideStore(db).Record(
                    Id(3),
                    "Laser safety, open course",
                    "Tidewater College",
                    now - Duration.FromDays(90),
                    now + Duration.FromDays(640),
                    "Card 2291 seen, copy in the binder.",
                    Id(1),
                    now - Duration.FromDays(44),
                    default
                )
            )
        );
        steps.Add((now - Duration.FromHours(19), BeginPractical));
        steps.Add(
            (now - Duration.FromDays(2), () =>
                new CertificateHoldStore(db).Set(
                    Id(22),
                    "wren",
                    CertificateHoldKind.Review,
                    new HoldConditions(),
                    "The practical was cut short by a fire drill. We look at it again together.",
                    Id(1),
                    now - Duration.FromDays(2),
                    default
                )
            )
        );
        steps.Add((now - Duration.FromDays(16) + Duration.FromMinutes(5), async () =>
            {
                var conduct = new ConductStore(db);
                var at = now - Duration.FromDays(16) + Duration.FromMinutes(5);
                var entry = await conduct.Write(
                    Id(29),
                    "swift",
                    Core.People.ConductMatter.Other,
                    Core.People.ConductStep.Note,
                    "Left scraps in the open bin after the run.",
                    Id(1),
                    _rules,
                    at,
                    default
                );
                await conduct.Appeal(
                    entry.Value,
                    "They were not mine: the bin was full when I came.",
                    Id(29),
                    at + Duration.FromDays(1),
                    default
                );
            }));
    }

    private async Task HeronBeforeKestrel()
    {
        var (paths, at) = (new PathStore(db), now - Duration.FromDays(50));
        var present = (await paths.Find("kestrel", _rules, at, default))!;
        var first = new PathStep(ModuleKind.Authority, "heron");
        var theory = present.Path.Steps.TakeWhile(s => s.Kind is ModuleKind.Reading or ModuleKind.Quiz).ToList();
        await paths.Change(
            present.Path with
            {
                Steps = [.. theory, first, .. present.Path.Steps.Skip(theory.Count)],
            },
            present.Version,
            "Whoever marks metal has run a closed cutter before.",
            at,
            Id(1),
            _rules,
            at,
            default
        );
    }

    /// <summary>A session of the past, with its roll.</summary>
    private async Task HoldSession(Instant at)
    {
        var sessions = new InductionStore(db);
        var start = _rules.Clock.Between(_rules.Clock.DateOf(at), new LocalTime(18, 0), new LocalTime(19, 30));
        if (await FirstFree(sessions, "wren", start.Start, at - Duration.FromDays(7), -1) is not { } session)
            return;
        foreach (var person in new[] { 55, 56, 57 })
            await sessions.Take(session, Id(person), at - Duration.FromDays(3), default);
        await sessions.RollCall(
            session,
            new Dictionary<PersonId, bool>
            {
                [Id(55)] = true,
                [Id(56)] = true,
                [Id(57)] = false,
            },
            Id(1),
            true,
            at + Duration.FromDays(1),
            default
        );
    }

    private async Task PlanSessions()
    {
        var (sessions, at) = (new InductionStore(db), now - Duration.FromHours(20));
        foreach (var (machine, day, people) in new[] { ("heron", 2, new[] { 55, 56 }), ("wren", 4, [58]) })
        {
            var start = _rules.Clock.Between(Today.PlusDays(day), new LocalTime(17, 0), new LocalTime(18, 30)).Start;
            if (await FirstFree(sessions, machine, start, at, 1) is { } session)
                foreach (var person in people)
                    await sessions.Take(session, Id(person), at, default);
        }
    }

    /// <summary>The first time near the one wished for at which the machine is free.</summary>
    private async Task<Guid?> FirstFree(InductionStore sessions, string machine, Instant from, Instant at, int step)
    {
        for (var i = 0; i < 80; i++)
        {
            var start = from + Duration.FromMinutes(45 * i * step);
            var during = new Interval(start, start + Duration.FromMinutes(90));
            if (
                Inductions.Wrong(start, 90, 3, _rules, at).Count == 0
                && (await sessions.Plan(new Induction(machine, Id(2), during, 3), _rules.Clock, Id(2), at, default))
                    is { Refusal: null } planned
            )
                return planned.Value;
        }
        return null;
    }

    private async Task BeginPractical()
    {
        var (practicals, at) = (new PracticalStore(db), now - Duration.FromHours(19));
        var begun = await practicals.Begin(Id(56), "wren", Id(2), _rules, at, default);
        var sheet = (await practicals.Find(begun.Value, default))!.Sheet;
        var marks = sheet
            .Steps.Take(8)
            .Select(
                (s, i) =>
                    new PracticalMark(
                        Guid.NewGuid(),
                        s.Id,
                        i == 5 ? StepMark.Prompted : StepMark.Unprompted,
                        i == 5 ? "One place only; measured three after a word." : null,
                        at + Duration.FromSeconds(70 * (i + 1)),
                        Id(2)
                    )
            );
        foreach (var mark in marks)
            await practicals.Mark(begun.Value, [mark], Id(2), mark.At, default);
    }

    /// <summary>The first hour of the coming week at which the gate opens for a learner beside this trainer.</summary>
    private async Task BookSupervised(Guid booking, string person, string machine, string supervisor)
    {
        var made = now - Duration.FromDays(21);
        for (var hour = 0; hour < 7 * 8; hour++)
        {
            var start = _rules.Clock.Between(Today.PlusDays(-20 + hour / 8), new LocalTime(11 + hour % 8, 0), new LocalTime(20, 0)).Start;
            var ask = new Core.Gating.GateQuestion(
                MemberId: person,
                MachineId: machine,
                Items: [new Core.Gating.GateItem("mat-board", 1.4m, [Core.House.Operation.Cut], null, null, 5)],
                Fixture: null,
                SupervisorId: supervisor,
                Start: start,
                Minutes: 60
            );
            if (await new Booking.BookingStore(db).Book(booking, ask, person, made, default) is Booking.BookingOutcome.Booked)
                return;
        }
        throw new InvalidOperationException($"No hour for {person} on {machine}.");
    }

    private async Task LogSupervised(Guid booking, string supervisor)
    {
        var (at, run) = (now - Duration.FromDays(12), NextId());
        var made = (await new Booking.BookingStore(db).Between(now - Duration.FromDays(22), at, null, default)).Single(b =>
            b.Id == booking
        );
        var logged = new Core.Run.LoggedRun(
            PersonId: made.PersonId,
            MachineId: made.MachineId,
            MaterialId: "mat-board",
            ThicknessMm: 1.4m,
            Operations: [Core.House.Operation.Cut],
            Start: made.Start + Duration.FromMinutes(15),
            End: made.Start + Duration.FromMinutes(30),
            Outcome: Core.Run.Outcome.Clean,
            Settings: null
        );
        await new Run.RunStore(db).Log(run, booking, logged, made.PersonId, false, false, at, default);
        await new Run.RunStore(db).Confirm(run, supervisor, at, default);
    }
}
