using System.Text.Json;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Core.Training;

namespace VelvetGate.Store.Gate;

/// <summary>Rows as facts.</summary>
internal sealed class FactReading(FactSet rows, GateQuestion ask, Instant now)
{
    public Result<GateFacts> Build()
    {
        var rulesRow = rows.Of(FactQueries.Rules).SingleOrDefault();
        var person = rows.Of(FactQueries.Person).SingleOrDefault();
        var machineRow = rows.Of(FactQueries.Machine).SingleOrDefault();
        if (person is null)
            return GateProblems.AskUnknownMember.Refuse("memberId", ask.MemberId);
        if (machineRow is null)
            return GateProblems.AskUnknownMachine.Refuse("machineId", ask.MachineId);
        if (rulesRow is null)
            return GateProblems.HouseNoRules.Refuse();
        var rules = rulesRow.Rules;
        var spec = machineRow.Machine;
        var personFacts = ReadPerson(person, rules);
        var lifts = rows.Of(FactQueries.Lifts)
            .Select(l => new LiftFacts(
                l.AskId,
                ask.MemberId,
                ask.MachineId,
                new Span(l.From, l.Until),
                GateJson.Read<List<GateItem>>(l.Items),
                GateJson.Read<List<LiftedReason>>(l.Reasons)
            ))
            .ToList();
        var training = ReadTraining();
        var course = ReadCourse();
        var sheets = ReadSheets(spec);
        if (sheets.Refusal is { } refusal)
            return refusal;
        var drawings = ReadDrawings();
        var machine = ReadMachine(spec, rules);
        var time = ReadTime(personFacts);
        var room = ReadRoom();
        training = course.Into(training, spec, machine.FixturesHere, rules, ask.Start);
        return new GateFacts(
            V: GateFacts.CurrentVersion,
            Now: now,
            Rules: rules,
            Person: personFacts,
            Training: training,
            Sheets: sheets.Value,
            Drawings: drawings,
            Machine: machine,
            Time: time,
            Room: room,
            Lifts: lifts,
            Settings: ReadSettings()
        );
    }

    /// <returns>Null where the ask names none.</returns>
    private IReadOnlyList<SettingFacts>? ReadSettings()
    {
        if (rows.Question.Settings.Length == 0)
            return null;
        var results = rows.Of(FactQueries.SettingResults).ToLookup(r => r.SettingId);
        var pieces = rows.Of(FactQueries.Pieces).Select(p => (Row: p, GateJson.Read<PieceTold>(p.Told).Cells)).ToList();
        return
        [
            .. rows.Of(FactQueries.Settings)
                .Select(s =>
                {
                    var values = GateJson.Read<SettingValues>(s.Body);
                    return new SettingFacts(
                        Id: s.Id,
                        Number: s.Number,
                        MachineId: values.MachineId,
                        MaterialId: values.MaterialId,
                        ThicknessMm: values.ThicknessMm,
                        Operation: values.Operation,
                        JPerMm: values.JPerMm,
                        SpeedMmS: values.SpeedMmS,
                        Passes: values.Passes,
                        PitchMm: values.PitchMm,
                        Held: new Span(s.From, s.Until),
                        Flames: results[s.Id].Count(r => !r.Clean),
                        Clean:
                        [
                            .. results[s.Id].Where(r => r.Clean).Select(r => new CleanFacts(r.ThicknessMm, r.Tag, r.At)),
                            .. pieces
                                .Where(p =>
                                    values.Operation == Operation.Cut
                                    && p.Row.MaterialId == values.MaterialId
                                    && CutResults.Show(p.Cells, values.JPerMm)
                                )
                                .Select(p => new CleanFacts(p.Row.ThicknessMm, p.Row.Tag, p.Row.At)),
                        ]
                    );
                }),
        ];
    }

    private PersonFacts ReadPerson(PersonRow person, HouseRules rules)
    {
        var active = Spans(FactQueries.PersonSpans, "account");
        var agreement = Spans(FactQueries.PersonSpans, "agreement");
        var pauses = Spans(FactQueries.PersonSpans, "pause");
        var attending = Claims($"attend:{ask.MemberId}");
        IReadOnlyList<Span> duties = [.. Claims($"teach:{ask.MemberId}"), .. ClaimsOf($"supervise:{ask.MemberId}/")];
        var consents = rows.Of(FactQueries.Consents).Select(c => new ConsentFacts(new Span(c.From, c.Until), c.MachineIds)).ToList();
        var age = Ages.On(person.BirthDate, rules.Clock.DateOf(ask.Start));
        return new PersonFacts(
            Name: person.GivenName,
            Active: Known(active),
            Agreement: Known(agreement),
            Pauses: Known(pauses),
            Attending: Known(attending),
            AgeYears: Fact.Known(age),
            Duties: duties,
            Consents: consents
        );
    }

    private TrainingFacts ReadTraining()
    {
        var held = rows.Of(FactQueries.Certificates)
            .Select(c => new Certificate(c.Authority, new Span(c.From, c.Until), c.Founding, c.Confirmed))
            .ToList();
        var lastUse = rows.Of(FactQueries.LastUse).Single().At;
        var trains = Spans(FactQueries.Supervisor, "trains");
        var certified = Spans(FactQueries.Supervisor, "certified");
        // What the supervisor does meanwhile.
        var supervisor = ask.SupervisorId?.Value ?? "";
        var busy = Claims($"attend:{supervisor}", around: true);
        var teaches = Claims($"teach:{supervisor}");
        var supervises = ClaimsOf($"supervise:{supervisor}/");
        return new TrainingFacts(
            Certificates: Fact.Known<IReadOnlyList<Certificate>>(held),
            LastUse: Fact.Known(lastUse),
            SupervisorTrains: trains,
            SupervisorCertified: certified,
            SupervisorBusy: busy,
            SupervisorTeaches: teaches,
            SupervisorRuns: supervises
        );
    }

    private CourseRows ReadCourse()
    {
        var modules = rows.Of(FactQueries.Modules);
        var repeats = rows.Of(FactQueries.Repeats).ToLookup(r => r.ModuleId, r => new Repeat(r.Version, r.ByDay));
        return new CourseRows(
            [.. modules.Select(m => new TrainingModule(m.Id, Enum<ModuleKind>(m.Kind), m.Title, m.Topic, m.Version, [.. repeats[m.Id]]))],
            [.. rows.Of(FactQueries.Done).Select(d => new ModuleDone(d.ModuleId, d.Version, now))],
            [.. rows.Of(FactQueries.Paths).Select(p => (p.Path, p.From))],
            [
                .. rows.Of(FactQueries.Holds)
                    .Select(h => new CertificateHold(
                        h.Authority,
                        Enum<CertificateHoldKind>(h.Kind),
                        new Span(h.From, h.Until),
                        GateJson.Read<HoldConditions>(h.Conditions)
                    )),
            ],
            [.. rows.Of(FactQueries.PracticalRepeats).Select(r => new PracticalRepeat(r.PracticalId, r.Title, r.At, r.ByDay))]
        );
    }

    private Result<IReadOnlyList<SheetFacts>> ReadSheets(MachineSpec spec)
    {
        var materials = rows.Of(FactQueries.Materials).ToDictionary(m => m.Id);
        var twins = rows.Of(FactQueries.LookAlikes).ToLookup(t => t.MaterialId, t => t.Name);
        var kind = JsonNamingPolicy.CamelCase.ConvertName(spec.Kind.ToString());
        var rulings = rows.Of(FactQueries.Rulings).Where(r => r.Kind == kind).ToLookup(r => r.MaterialId);
        var sheets = rows.Of(FactQueries.Sheets).ToDictionary(s => s.Tag);
        var cleared = rows.Of(FactQueries.Clearances).ToLookup(c => c.Tag);
        var quarantined = rows.Of(FactQueries.Quarantines).ToLookup(q => q.Tag);
        var facts = new List<SheetFacts>();
        for (var i = 0; i < ask.Items.Count; i++)
        {
            var item = ask.Items[i];
            if (!materials.TryGetValue(item.MaterialId, out var material))
                return GateProblems.AskUnknownMaterial.Refuse($"items[{i}].materialId", item.MaterialId.Value);
            TagFacts? tag =
                item.SheetTag is { } number && sheets.TryGetValue(number, out var sheet)
                    ? new TagFacts(
                        Tag: sheet.Tag,
                        MaterialId: sheet.MaterialId,
                        MaterialName: sheet.MaterialName,
                        ThicknessMm: sheet.ThicknessMm,
                        Cleared:
                        [
                            .. cleared[number]
                                .Select(c => new ClearanceFacts(
                                    new Span(c.From, c.Until),
                                    [.. c.Operations.Select(Enum<Operation>)],
                                    c.MachineIds
                                )),
                        ],
                        Quarantined: [.. quarantined[number].Select(q => new Span(q.From, q.Until))],
                        WidthMm: sheet.WidthMm,
                        HeightMm: sheet.HeightMm,
                        IncidentHolds:
                        [
                            .. quarantined[number]
                                .Where(q => q.Incident is not null)
                                .Select(q => new IncidentHold(new Span(q.From, q.Until), q.Incident!.Value)),
                        ]
                    )
                    : null;
            facts.Add(
                new SheetFacts(
                    MaterialName: material.Name,
                    HeavyResidue: material.HeavyResidue,
                    CutEnergyJPerMm2: material.CutEnergy,
                    Rulings: Fact.Known<IReadOnlyList<HeldRuling>>([.. rulings[item.MaterialId].Select(r => Held(r, spec.Kind))]),
                    TwinNames: [.. twins[item.MaterialId]],
                    Tag: Fact.Known<TagFacts?>(tag),
                    UnderReview: HoldSpanRow.OfIncidents(
                        rows.Of(FactQueries.Stops).Where(h => h.Kind == "ruling" && h.Target == item.MaterialId.Value),
                        "ruling"
                    )
                )
            );
        }
        return facts;
    }

    private static HeldRuling Held(RulingRow r, LaserKind kind) =>
        new(
            new Ruling(
                MaterialId: r.MaterialId,
                Kind: kind,
                Operation: Enum<Operation>(r.Operation),
                MinMm: r.MinMm,
                MaxMm: r.MaxMm,
                Standing: Enum<RulingStatus>(r.Standing),
                Evidence: Enum<Evidence>(r.Evidence),
                Reasons: r.Reasons,
                Hazard: r.Hazard,
                Handling: r.Handling,
                FilteredNeedsArrangement: r.FilteredNeedsArrangement
            ),
            new Span(r.From, r.Until)
        );

    private IReadOnlyList<DrawingFacts> ReadDrawings()
    {
        var drawings = rows.Of(FactQueries.Drawings).ToDictionary(d => d.Id);
        return
        [
            .. ask.Items.Select(i => new DrawingFacts(
                i.DrawingId is not null,
                Fact.Known(
                    i.DrawingId is { } id && drawings.TryGetValue(id, out var d)
                        ? GateJson.Read<DrawingSummary>(d.Summary) with
                        {
                            Name = d.Name,
                        }
                        : null
                )
            )),
        ];
    }

    private MachineFacts ReadMachine(MachineSpec spec, HouseRules rules)
    {
        var stops = rows.Of(FactQueries.Stops);
        var upkeep = rows.Of(FactQueries.Upkeep);
        var due = upkeep.Where(u => u.Kind == "task").Select(u => new UpkeepFacts(u.Task, u.OverdueFrom) { DueFrom = u.DueFrom }).ToList();
        IReadOnlyList<string> fixtures = [.. rows.Of(FactQueries.Fixtures).Select(f => f.Id)];
        var tested = rows.Of(FactQueries.Tested)
            .ToLookup(t => t.Before, t => new TestedFacts(t.MaterialId, t.ThicknessMm, Enum<Operation>(t.Operation), t.At));
        var faults = HoldSpanRow.OfFaults(stops);
        var setUp = SetUpFacts.Of(
            machine: spec,
            sheet: rows.Of(FactQueries.Commissioning).SingleOrDefault()?.Read,
            room: rows.Of(FactQueries.Room).SingleOrDefault()?.Room,
            controller: upkeep.Any(u => u.Kind == "controller"),
            tried: At("interlocks"),
            clock: rules.Clock
        );
        return new MachineFacts(
            Spec: spec,
            Stops: Known([.. stops.Where(s => s.Kind == "stop").Select(s => s.Span)]),
            Upkeep: Fact.Known<IReadOnlyList<UpkeepFacts>>(due),
            FixturesHere: fixtures,
            Readings: Fact.OnlyAtMachine<bool>(),
            Tested: [.. tested[false]],
            IncidentStops: HoldSpanRow.OfIncidents(stops, "stop"),
            LookAsked: [.. stops.Where(s => s.Kind == "look").Select(s => s.Span)]
        )
        {
            Fixture = rows.Of(FactQueries.FixtureOut)
                .Select(f => new FixtureFacts(
                    Out: f.DamagedSince is null ? new Span(f.From, f.Until) : null,
                    Mine: f.DamagedSince is null && f.Mine,
                    DamagedSince: f.DamagedSince
                ))
                .FirstOrDefault(),
            Faults = faults.Count > 0 ? faults : null,
            Measured = MeasuredOf(upkeep),
            TestedBefore = tested.Contains(true) ? [.. tested[true]] : null,
            SetUp = setUp,
            UsedAt = Breaks.LastUse(At("ran"), At("broken"), setUp),
            LongClosures = [.. stops.Where(s => s.Kind == "closed").Select(s => s.Span)],
        };

        Instant? At(string kind) => upkeep.FirstOrDefault(u => u.Kind == kind)?.DueFrom;
    }

    private static MeasuredFacts? MeasuredOf(IReadOnlyList<UpkeepRow> rows)
    {
        var (airflow, coolant, room) = (Last("airflow"), Last("coolant"), Last("room"));
        return airflow is null && coolant is null && room is null
            ? null
            : new(
                AirflowM3PerHour: airflow?.Value,
                AirflowAt: airflow?.DueFrom,
                CoolantC: coolant?.Value,
                CoolantAt: coolant?.DueFrom,
                RoomC: room?.Value,
                RoomAt: room?.DueFrom
            );

        UpkeepRow? Last(string kind) => rows.FirstOrDefault(r => r.Kind == kind);
    }

    private TimeFacts ReadTime(PersonFacts person)
    {
        var taken = Claims($"machine:{ask.MachineId}");
        var fixture = ask.Fixture is null ? [] : Claims(rows.Question.Fixture);
        var calendar = rows.Of(FactQueries.Calendar).ToLookup(o => o.Kind);
        var closures = calendar["closure"].Select(c => new ClosureFacts(c.Plan, c.Title, new Span(c.From, c.Until))).ToList();
        return new TimeFacts(
            Known(taken),
            Known(fixture),
            person.Attending,
            closures,
            [
                .. calendar["class"]
                    .Select(c => new ClassFacts(
                        Plan: c.Plan,
                        Title: c.Title,
                        During: new Span(c.From, c.Until),
                        AdultId: c.AdultId!.Value,
                        OnRoster: c.OnRoster,
                        AtOnce: c.AtOnce,
                        Running: ClaimsOf($"class:{c.Plan}/")
                    )),
            ],
            [.. rows.Of(FactQueries.NoShows).Select(n => n.At).OfType<Instant>()]
        )
        {
            Benches = ask.Bench is null
                ? null
                : [.. rows.Of(FactQueries.Benches).Select(b => new BenchFacts(b.Number, new Span(b.From, b.Until)))],
            InClass = [.. rows.Of(FactQueries.InClass).Select(c => new Span(c.From, c.Until))],
        };
    }

    private static KitFacts KitOf(KitRow row) =>
        new(row.Name, row.InDateUntil, row.Wrong.Length > 0 ? KitFaults.Says(row.Wrong.Select(KitFaults.Of)) : null, row.WrongSince);

    private RoomFacts ReadRoom()
    {
        IReadOnlyList<KitFacts> kit = [.. rows.Of(FactQueries.FireKit).Select(KitOf)];
        var rota = rows.Of(FactQueries.OnDuty);
        IReadOnlyList<Span> duty = [.. rota.Where(d => d.From is not null).Select(d => new Span(d.From!.Value, d.Until))];
        var rotaUntil = rota.Single(d => d.From is null).Until ?? now;
        var onDuty = rota.Where(d => d.From <= now && (d.Until is null || d.Until > now)).ToList();
        var described = rows.Of(FactQueries.Room).SingleOrDefault();
        var eyewear = rows.Of(FactQueries.Eyewear)
            .Select(e => new EyewearFacts(e.Name, e.MinNm, e.MaxNm, e.OpticalDensity, e.DamageRated, e.Count))
            .ToList();
        return new RoomFacts(
            FireKit: Fact.Known(kit),
            OnDuty: Known(duty),
            RotaUntil: rotaUntil,
            Eyewear: Fact.Known<IReadOnlyList<EyewearFacts>>(eyewear),
            Air: Air(described),
            Shut: HoldSpanRow.OfIncidents(rows.Of(FactQueries.Stops), "room"),
            Seen: onDuty.Count == 0 ? null : onDuty.Exists(d => d.Seen)
        );
    }

    private static Fact<RoomAirFacts> Air(RoomRow? described) =>
        described is null ? Fact.Unknown<RoomAirFacts>() : Fact.Known(RoomAirFacts.Of(described.Room));

    private IReadOnlyList<Span> Spans(FactQuery<SpanRow> query) => [.. rows.Of(query).Select(r => r.Span)];

    private IReadOnlyList<Span> Spans(FactQuery<KindSpanRow> query, string kind) =>
        [.. rows.Of(query).Where(r => r.Kind == kind).Select(r => r.Span)];

    /// <summary>What one resource is taken for.</summary>
    /// <param name="around">Only at the time asked about, though more of it was read.</param>
    private IReadOnlyList<Span> Claims(string resource, bool around = false) =>
        [
            .. rows.Of(FactQueries.Claims)
                .Where(c => c.Resource == resource && (!around || rows.Question.Around(c.From, c.Until)))
                .Select(c => c.Span),
        ];

    /// <summary>The same for each of its places.</summary>
    private IReadOnlyList<Span> ClaimsOf(string places) =>
        [.. rows.Of(FactQueries.Claims).Where(c => c.Resource.StartsWith(places, StringComparison.Ordinal)).Select(c => c.Span)];

    private static Fact<IReadOnlyList<Span>> Known(IReadOnlyList<Span> spans) => Fact.Known(spans);

    private static T Enum<T>(string word)
        where T : struct, System.Enum => System.Enum.Parse<T>(word, ignoreCase: true);
}
