using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Run;
using VelvetGate.Store.Training;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Store.Demo;

/// <summary>Eight weeks of history and three weeks ahead.</summary>
public sealed partial class DemoSeed
{
    /// <summary>What happened, each step at its own time.</summary>
    private List<(Instant At, Func<Task> Do)> Story()
    {
        var steps = new List<(Instant, Func<Task>)>();
        AddSettings(steps);
        var certified = SignEveryoneOff(steps);
        AddBookings(steps, certified);
        AddCalendar(steps);
        AddTraining(steps);
        AddIncidents(steps);
        steps.Add(
            (now - Duration.FromDays(16), () =>
                new PeopleStore(db).Pause(
                    Id(33),
                    Id(1),
                    "Left Wren running to answer the phone. We talk on Tuesday.",
                    null,
                    now - Duration.FromDays(16),
                    default
                )
            )
        );
        steps.Add((now - Duration.FromDays(30), async () =>
            {
                var house = new HouseStore(db);
                var stop = await house.Stop("wren", Id(13), "Lid switch clicks twice.", now - Duration.FromDays(30), default);
                var back = now - Duration.FromDays(30) + Duration.FromHours(3);
                var said = new ReturnSaid(
                    "Switch replaced and tested with the lid at three heights.",
                    [Touched.Interlock],
                    new ReturnTests(Interlock: true, AirflowM3PerHour: 170, CoolantC: 20, TestFire: true, Framed: true)
                );
                await new ReturnStore(db).Return(stop.Value, said, Id(2), false, back, default);
                await new ReturnStore(db).Return(stop.Value, said, Id(5), true, back + Duration.FromMinutes(10), default);
            }));
        steps.Add(
            (now - Duration.FromMinutes(95), () =>
                new HouseStore(db).Stop("kestrel", Id(12), "Smoke from the lens barrel.", now - Duration.FromMinutes(95), default)
            )
        );
        steps.Add(
            (now - Duration.FromMinutes(40), () =>
                AskAbout(
                    Id(14),
                    "heron",
                    new GateItem("mdf", 3, [Operation.Cut], RunMinutes: 12),
                    "Low-formaldehyde board for the harbour model; label in the rack."
                )
            )
        );
        steps.Add(
            (now - Duration.FromMinutes(25), () =>
                AskAbout(
                    Id(16),
                    "wren",
                    new GateItem("leather-veg", 2.4m, [Operation.Cut, Operation.Engrave], "S-0104", RunMinutes: 20),
                    "Masks for Saturday; the tannery’s statement is in the folder.",
                    supervisor: false
                )
            )
        );
        return steps;
    }

    private async Task AskAbout(string person, string machine, GateItem item, string note, bool supervisor = true)
    {
        var day = Today.PlusDays(supervisor ? 2 : 3);
        var at = now - Duration.FromMinutes(supervisor ? 40 : 25);
        var ask = new GateQuestion(
            MemberId: person,
            MachineId: machine,
            Items: [item],
            Fixture: null,
            SupervisorId: null,
            Start: _rules.Clock.Between(day, new LocalTime(18, 0), new LocalTime(19, 30)).Start,
            Minutes: 90
        );
        var facts = await new FactLoader(db).Load(ask, at, null, person, default);
        await new StewardRequestStore(db).Add(ask, facts.Value, note, at, default);
    }

    private Task WriteRota() =>
        WriteRota(
            new CalendarStore(db),
            _rules,
            Today.PlusDays(-WeeksBack * 7),
            Today.PlusDays(DaysAhead),
            now - Duration.FromDays(WeeksBack * 7 + 1),
            default
        );

    /// <summary>Each steward has a morning and an evening in every four days.</summary>
    /// <param name="at">When it is written down.</param>
    internal static async Task WriteRota(
        CalendarStore calendar,
        HouseRules rules,
        LocalDate first,
        LocalDate last,
        Instant at,
        CancellationToken cancel
    )
    {
        var until = $"UNTIL={last:uuuuMMdd}";
        foreach (var (steward, turn) in new[] { 1, 5, 6, 7 }.Select((s, i) => (Id(s), i)))
        {
            await Add(first.PlusDays(turn), new LocalTime(10, 0), new LocalTime(15, 30));
            await Add(first.PlusDays((turn + 2) % 4), new LocalTime(15, 30), new LocalTime(21, 0));

            Task Add(LocalDate day, LocalTime from, LocalTime to) =>
                calendar.Add(
                    new NewPlan(
                        Kind: PlanKind.Duty,
                        Title: "Steward on duty",
                        When: new Recurrence(day, from, to, $"FREQ=DAILY;INTERVAL=4;{until}"),
                        PersonId: steward,
                        MachineIds: [],
                        Roster: [],
                        AtOnce: null
                    ),
                    rules.Clock,
                    Id(0),
                    at,
                    cancel
                );
        }
    }

    /// <summary>The youth company's Saturdays on Wren and Swift, and a day when the canal side is closed.</summary>
    private void AddCalendar(List<(Instant, Func<Task>)> steps)
    {
        var calendar = new CalendarStore(db);
        var at = now - Duration.FromDays(40);
        var saturday = Today.With(DateAdjusters.Next(IsoDayOfWeek.Saturday));
        var lesson = new Recurrence(
            saturday,
            new LocalTime(10, 0),
            new LocalTime(12, 30),
            $"FREQ=WEEKLY;BYDAY=SA;UNTIL={saturday.PlusWeeks(10):uuuuMMdd}"
        );
        var closed = new Recurrence(Today.PlusDays(19), LocalTime.Midnight, LocalTime.Midnight);
        steps.Add(
            (at, () =>
                calendar.Add(
                    new NewPlan(
                        Kind: PlanKind.Class,
                        Title: "Youth company",
                        When: lesson,
                        PersonId: Id(8),
                        MachineIds: ["swift", "wren"],
                        Roster: [.. Minors().Select(Id)],
                        AtOnce: 1
                    ),
                    _rules.Clock,
                    Id(0),
                    at,
                    default
                )
            )
        );
        steps.Add(
            (at, () =>
                calendar.Add(
                    new NewPlan(
                        Kind: PlanKind.Closure,
                        Title: "Lock gate repairs, no way in",
                        When: closed,
                        PersonId: null,
                        MachineIds: [],
                        Roster: [],
                        AtOnce: null
                    ),
                    _rules.Clock,
                    Id(1),
                    at,
                    default
                )
            )
        );
    }

    /// <returns>For each machine, who holds a certificate by when.</returns>
    private Dictionary<string, List<string>> SignEveryoneOff(List<(Instant, Func<Task>)> steps)
    {
        var certified = DemoHouse.Machines.ToDictionary(m => m.Id.Value, _ => new List<string>());
        var trainers = Roles().Where(r => r.Role == "trainer").ToLookup(r => r.Machine!, r => r.Person);
        var first = new Dictionary<int, Instant>();
        for (var i = 0; i < DemoHouse.People.Length; i++)
        {
            if (i is 0 or 4)
                continue;
            foreach (var machine in DemoHouse.Machines.Select(m => m.Id.Value))
            {
                if (!Holds(i, machine))
                    continue;
                var at = LapsesToday(i, machine)
                    ? _rules.Clock.At(now).LocalDateTime.PlusYears(-1).InZoneLeniently(_rules.Clock.Zone).ToInstant()
                    : now - Duration.FromDays(SignedDaysAgo(i)) - Duration.FromMinutes(_random.Next(600));
                Add(i, machine, at);
                // Only who is not idle and may run alone books; the others would be refused.
                if (now - at < Duration.FromDays(88) && DemoHouse.People[i].Age > _rules.AloneFromAge)
                    certified[machine].Add(Id(i));
            }
        }
        Add(8, "heron/rotary", now - Duration.FromDays(200));
        AddTheory(steps, first);
        return certified;

        void Add(int person, string authority, Instant at)
        {
            first[person] = first.TryGetValue(person, out var before) ? Instant.Min(before, at) : at;
            var signer = trainers[SignOffs.MachineOf(authority)].First(t => t != Id(person));
            steps.Add(
                (at, () =>
                    new TrainingStore(db).SignOff(
                        Id(person),
                        authority,
                        "Practical seen from start to finish: no critical step missed.",
                        signer,
                        _rules,
                        at,
                        default
                    )
                )
            );
        }
    }

    /// <summary>Most were signed off this term; some long ago and have not been back, so that idleness shows too.</summary>
    private int SignedDaysAgo(int person) =>
        person is 2 or 3 ? 45
        : _random.Next(5) == 0 ? _random.Next(100, 350)
        : _random.Next(48, 86);

    private bool Holds(int person, string machine)
    {
        if (Roles().Any(r => r.Person == Id(person) && r.Role == "trainer" && r.Machine == machine))
            return true;
        if (person == 3)
            return machine is "heron" or "wren";
        if (person is 9 or 14 or 16 && machine is "heron" or "wren")
            return true;
        var chance = machine switch
        {
            "heron" => 0.6,
            "wren" => 0.7,
            "swift" => 0.4,
            _ => 0.2,
        };
        return _random.NextDouble() < chance && person < 54;
    }

    private static bool LapsesToday(int person, string machine) => (person, machine) is (9, "heron") or (14, "wren");

    private void AddBookings(List<(Instant, Func<Task>)> steps, Dictionary<string, List<string>> certified)
    {
        for (var day = -WeeksBack * 7; day <= DaysAhead; day++)
        {
            foreach (var machine in DemoHouse.Machines.Select(m => m.Id.Value))
                AddDay(steps, certified[machine], machine, Today.PlusDays(day), day);
        }
        var seen = _rules.Clock.Between(Today.PlusDays(-20), new LocalTime(16, 0), new LocalTime(17, 0)).Start;
        var last = NextId();
        steps.Add(
            (seen - Duration.FromDays(2), () =>
                Book(last, Id(3), "heron", seen, seen - Duration.FromDays(2), ("birch-ply-laser", 3m, "S-0097"), 9)
            )
        );
        steps.Add((seen + Duration.FromMinutes(40), () => LogRun(last, seen, seen + Duration.FromMinutes(40), Outcome.Clean)));
    }

    private void AddDay(List<(Instant, Func<Task>)> steps, List<string> people, string machine, LocalDate date, int day)
    {
        var busy =
            machine switch
            {
                "heron" => 0.8,
                "wren" => 0.75,
                "swift" => 0.5,
                _ => 0.2,
            } * (day > 0 ? Math.Max(0.12, 0.9 - day * 0.05) : 1);
        var open = _rules.OpenOn(date)!.Value;
        var at = open.Start + Duration.FromMinutes(15 * _random.Next(0, 4));
        while (at < open.End - Duration.FromMinutes(100))
        {
            var run = _random.Next(4, 32);
            var minutes = (int)Math.Ceiling((22 + 2 * (run + 4)) / 15.0) * 15;
            if (_random.NextDouble() < busy)
            {
                var person = people[_random.Next(people.Count)];
                var material = Materials(machine);
                var (start, made) = (
                    at,
                    Instant.Min(now - Duration.FromMinutes(30 + _random.Next(600)), at - Duration.FromHours(6 + _random.Next(120)))
                );
                if (person != Id(3) && (person != Id(2) || day < 0))
                    Add(person, start, made, material, run, minutes);
            }
            at += Duration.FromMinutes(minutes + 15 * _random.Next(0, 5));
        }

        void Add(string person, Instant start, Instant made, (string, decimal, string?) material, int run, int minutes)
        {
            var id = NextId();
            var outcome = Outcomes[_random.Next(Outcomes.Length)];
            steps.Add((made, () => Book(id, person, machine, start, made, material, run)));
            var end = start + Duration.FromMinutes(minutes - 11);
            if (end < now)
                steps.Add((end, () => LogRun(id, start, end, outcome)));
        }
    }

    private (string Material, decimal Mm, string? Tag) Materials(string machine) =>
        machine switch
        {
            "kestrel" => ("metal-plain", 1m, null),
            "swift" => _random.Next(2) == 0 ? ("mat-board", 1.4m, null) : ("birch-ply-laser", 3m, "S-0097"),
            _ => _random.Next(4) switch
            {
                0 => ("mat-board", 1.4m, null),
                1 => ("acrylic-clear", 3m, "S-0101"),
                _ => ("birch-ply-laser", 3m, "S-0097"),
            },
        };

    /// <summary>Most runs come out clean.</summary>
    private static readonly Outcome[] Outcomes =
    [
        .. Enumerable.Repeat(Outcome.Clean, 16),
        Outcome.NotThrough,
        Outcome.NotThrough,
        Outcome.Charred,
        Outcome.Abandoned,
    ];

    /// <summary>Arrives and logs the run of a booking that was really made.</summary>
    private async Task LogRun(Guid booking, Instant start, Instant end, Outcome outcome)
    {
        var store = new BookingStore(db);
        var made = (await store.Between(start, end, null, default)).SingleOrDefault(b => b.Id == booking);
        if (made is null)
            return;
        await store.Arrive(booking, made.PersonId, false, start + Duration.FromMinutes(2), default);
        var item = made.Ask.Items[0];
        await new RunStore(db).Log(
            NextId(),
            booking,
            new LoggedRun(
                PersonId: made.PersonId,
                MachineId: made.MachineId,
                MaterialId: item.MaterialId,
                ThicknessMm: item.ThicknessMm,
                Operations: item.Operations,
                Start: start + Duration.FromMinutes(12),
                End: _boxes.TryGetValue(booking, out var ran) ? start + Duration.FromMinutes(12) + ran : end,
                Outcome: outcome,
                Settings: null,
                SettingId: SettingFor(made.MachineId, item.MaterialId, item.ThicknessMm, item.Operations)
            ),
            made.PersonId,
            false,
            false,
            end,
            default
        );
    }

    private async Task Book(
        Guid id,
        string person,
        string machine,
        Instant start,
        Instant made,
        (string Material, decimal Mm, string? Tag) sheet,
        int run
    )
    {
        Operation[] operations =
            machine == "kestrel" ? [Operation.Engrave]
            : _random.Next(3) == 0 ? [Operation.Cut, Operation.Score]
            : [Operation.Cut];
        var minutes = (int)Math.Ceiling((decimal)(22 + 2 * (run + 4)) / 15) * 15;
        var box = await BoxFor(id, person, machine, (sheet.Material, sheet.Mm), made);
        var ask = new GateQuestion(
            MemberId: person,
            MachineId: machine,
            Items: [new GateItem(sheet.Material, sheet.Mm, operations, Ids.From<SheetTag>(sheet.Tag), box, box is null ? run : null)],
            Fixture: null,
            SupervisorId: null,
            Start: start,
            Minutes: minutes
        );
        await new BookingStore(db).Book(id, ask, person, made, default);
    }

    private Guid NextId()
    {
        var bytes = new byte[16];
        _random.NextBytes(bytes);
        return new Guid(bytes);
    }

    internal static string Id(int index) => $"m-{index + 1}";
}
