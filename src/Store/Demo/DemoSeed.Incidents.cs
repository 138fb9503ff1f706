using NodaTime;
using VelvetGate.Core.Incidents;
using VelvetGate.Store.Incidents;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Demo;

/// <summary>Three incidents of different kinds, one of them open, and near misses over eight weeks.</summary>
public sealed partial class DemoSeed
{
    private void AddIncidents(List<(Instant At, Func<Task> Do)> steps)
    {
        AddFlame(steps);
        AddSmoke(steps);
        AddHeadHit(steps);
        AddNearMisses(steps);
    }

    /// <summary>After the last run of an evening: found, watched, understood, closed and taught.</summary>
    private void AddFlame(List<(Instant At, Func<Task> Do)> steps)
    {
        var (at, id) = (Evening(-43, 20, 36), Guid.Empty);
        var holds = new IncidentHoldStore(db, new ConductStore(db));
        var (watches, investigation) = (new FireWatchStore(db), new InvestigationStore(db));
        var morning = _rules.Clock.Between(Today.PlusDays(-42), new LocalTime(9, 20), new LocalTime(9, 21)).Start;
        steps.Add(
            (at + Duration.FromMinutes(4), async () =>
                id = await Told(
                    Told("heron", at, Mishap.Flame, Severity.NoHarm, "Small flame at the left edge. It did not die in three seconds.") with
                    {
                        Damage = "Two tags charred, the bed lightly scorched.",
                        Cost = 0,
                        Marked = true,
                        PutOut = "It went out by itself with the lid shut and the air assist off.",
                        Facts = new ToldFacts(SettingsForMm: 6.35m, MeasuredMm: 3.175m, SomebodyThere: true, AirAssistOn: true),
                        There = [Id(8), Id(12)],
                    },
                    Id(5),
                    at + Duration.FromMinutes(4)
                )
            )
        );
        var began = at + Duration.FromMinutes(6);
        steps.Add((began, () => watches.Begin(id, Id(12), _rules, Id(5), began, default)));
        foreach (var minute in WatchPlan.Of(_rules.FireWatchMinutes))
        {
            var look = began + Duration.FromMinutes(minute);
            steps.Add((look, () => watches.Look(id, minute, Found.Nothing, null, Id(12), look, default)));
        }
        steps.Add((morning, async () =>
            {
                var whole = await new IncidentReading(db).Find(id, morning, default);
                await holds.End(
                    id,
                    whole!.Holds[0].Id,
                    [.. IncidentHolds.MachineList.Select(l => l.Code)],
                    "Bed brushed, lens clean, filter cold and changed. A test piece came out clean.",
                    false,
                    true,
                    Id(1),
                    morning,
                    default
                );
            }));
        var day = at + Duration.FromDays(2);
        steps.Add(
            (day, () =>
                investigation.SetCauses(
                    id,
                    ["lines", "settings"],
                    "The file came from a memory stick, not from the checked drawing.",
                    Id(6),
                    day,
                    default
                )
            )
        );
        var action = Guid.Empty;
        steps.Add(
            (day + Duration.FromMinutes(5), async () =>
                action = (
                    await investigation.AddAction(
                        id,
                        new NewAction(
                            "Take old labels off the offcut rack",
                            Id(7),
                            Today.PlusDays(-34),
                            "Every piece on the rack has its tag",
                            "/sheets"
                        ),
                        _rules,
                        Id(6),
                        day + Duration.FromMinutes(5),
                        default
                    )
                ).Value
            )
        );
        var done = day + Duration.FromDays(4);
        steps.Add(
            (done, () => investigation.EndAction(id, action, true, "Rack cleared, nine pieces tagged.", false, Id(7), done, default))
        );
        steps.Add(
            (done + Duration.FromHours(1), () =>
                investigation.Close(
                    id,
                    "Lines over lines and settings for twice the thickness. Measure the sheet, never trust a label.",
                    new ClosingRoles(true, false),
                    Id(6),
                    done + Duration.FromHours(1),
                    default
                )
            )
        );
        steps.Add(
            (done + Duration.FromHours(2), () =>
                investigation.Teach(
                    id,
                    "A file from a stick ran instead of the drawing that was checked, with settings for twice the thickness. The label on "
                        + "the offcut said 6 mm, the sheet was 3. Measure, and run what was checked.",
                    Id(6),
                    done + Duration.FromHours(2),
                    default
                )
            )
        );
    }

    private void AddSmoke(List<(Instant At, Func<Task> Do)> steps)
    {
        var (at, id) = (Evening(-24, 20, 40), Guid.Empty);
        var investigation = new InvestigationStore(db);
        steps.Add(
            (at + Duration.FromMinutes(9), async () =>
                id = await Told(
                    Told("wren", at, Mishap.Smoke, Severity.NoHarm, "Smoke came back into the room through the lid while it cut.") with
                    {
                        Facts = new ToldFacts(AirflowPercent: 62, AirAssistOn: true, SomebodyThere: true, FocusSet: true),
                        There = [Id(9)],
                    },
                    Id(9),
                    at + Duration.FromMinutes(9)
                )
            )
        );
        var day = at + Duration.FromDays(1);
        steps.Add((day, () => investigation.SetCauses(id, ["extraction"], null, Id(5), day, default)));
        steps.Add(
            (day + Duration.FromDays(2), () =>
                investigation.Close(
                    id,
                    "The duct was half shut by dust. Cleaned; the airflow is back.",
                    new ClosingRoles(true, false),
                    Id(5),
                    day + Duration.FromDays(2),
                    default
                )
            )
        );
    }

    /// <summary>The open one: a hold to decide, a cause to tick, an action to do.</summary>
    private void AddHeadHit(List<(Instant At, Func<Task> Do)> steps)
    {
        var (at, id) = (Evening(-2, 20, 42), Guid.Empty);
        steps.Add(
            (at + Duration.FromMinutes(12), async () =>
                id = await Told(
                    Told("swift", at, Mishap.HeadHit, Severity.DamageOrFirstAid, "The head ran into a magnet that held the card down.") with
                    {
                        Damage = "Nozzle bent, changed the same evening.",
                        Cost = 18,
                        Marked = false,
                        Facts = new ToldFacts(SomebodyThere: true),
                        There = [Id(15)],
                    },
                    Id(15),
                    at + Duration.FromMinutes(12)
                )
            )
        );
        var evening = at + Duration.FromMinutes(40);
        steps.Add(
            (evening, () =>
                new IncidentStore(db).AddWords(
                    id,
                    null,
                    "New nozzle fitted, belts run free, a test square came out square.",
                    true,
                    Id(7),
                    evening,
                    default
                )
            )
        );
        steps.Add(
            (evening + Duration.FromMinutes(4), () =>
                new InvestigationStore(db).AddAction(
                    id,
                    new NewAction(
                        "Mark clamps and magnets on the drawing before framing",
                        Id(8),
                        Today.PlusDays(9),
                        "Four weeks without a head that hits",
                        "/drawings"
                    ),
                    _rules,
                    Id(7),
                    evening + Duration.FromMinutes(4),
                    default
                )
            )
        );
    }

    private void AddNearMisses(List<(Instant At, Func<Task> Do)> steps)
    {
        var told = new NearMissStore(db);
        var ids = new Random(20261125);
        (int Day, int Hour, string? Machine, Mishap What, string Note)[] list =
        [
            (-54, 11, "wren", Mishap.LidTooSoon, ""),
            (-47, 16, "heron", Mishap.NobodyThere, "Somebody went for a coffee while it cut."),
            (-38, 15, "swift", Mishap.HeadHit, "Brushed the honeycomb pin."),
            (-31, 10, "heron", Mishap.WrongSheet, "Grey board without a tag was on the bed. Taken out before the start."),
            (-29, 17, "wren", Mishap.Smoke, "More smoke than usual for a few minutes."),
            (-20, 12, "heron", Mishap.LidTooSoon, "Ten seconds after the run."),
            (-12, 14, null, Mishap.Other, "The way to the extinguisher was blocked by a pallet."),
            (-6, 18, "wren", Mishap.NobodyThere, ""),
            (-3, 11, "heron", Mishap.LidTooSoon, "Smoke still inside."),
        ];
        foreach (var (day, hour, machine, what, note) in list)
        {
            var at = Evening(day, hour, 5);
            var bytes = new byte[16];
            ids.NextBytes(bytes);
            steps.Add((at, () => told.Tell(new Guid(bytes), null, Ids.From<MachineId>(machine), what, note, _rules, at, default)));
            if (what == Mishap.Smoke)
                steps.Add(
                    (at + Duration.FromMinutes(20), () =>
                        told.Looked(machine!, "Bed brushed, filter cold, duct clear.", Id(1), at + Duration.FromMinutes(20), default)
                    )
                );
            var over = at + Duration.FromDays(1);
            if (over < now)
                steps.Add((over, () => told.TellRecord(_rules, over, default)));
        }
    }

    private Instant Evening(int day, int hour, int minute) =>
        _rules.Clock.Between(Today.PlusDays(day), new LocalTime(hour, minute), new LocalTime(hour, minute + 1)).Start;

    private async Task<Guid> Told(ToldIncident told, string by, Instant at) =>
        (await new IncidentStore(db).Tell(told, _rules, by, by == Id(5), at, default)).Value;

    private static ToldIncident Told(string machine, Instant at, Mishap what, Severity severity, string seen) =>
        new(
            MachineId: machine,
            At: at,
            What: what,
            Severity: severity,
            RunId: null,
            Seen: seen,
            Damage: null,
            Cost: null,
            FireService: false,
            Marked: null,
            Hurt: false,
            Injury: null,
            PutOut: null,
            Tag: null,
            Facts: new ToldFacts(),
            There: []
        );
}
