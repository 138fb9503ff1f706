using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.Training;

namespace VelvetGate.Store.Gate;

/// <summary>Loads everything one decision rests on, in one round trip, as of any instant and as known at any instant.</summary>
/// <param name="db">The pool; bookings pass their own connection instead.</param>
public sealed class FactLoader(NpgsqlDataSource db)
{
    private const int IdleLooksBackDays = 400;

    /// <param name="now">The present of the decision.</param>
    /// <param name="knownAt">Facts as they were known then; null for what is known now.</param>
    /// <param name="booking">A standing booking that is decided again: what it holds itself does not stand against it.</param>
    /// <param name="ahead">Facts of the coming weeks too, for the soonest way.</param>
    /// <param name="askedBy">Drawings of this person are seen too; null sees only the member's own.</param>
    public async Task<Result<GateFacts>> Load(
        Ask ask,
        Instant now,
        Instant? knownAt,
        string? askedBy,
        CancellationToken cancel,
        Guid? booking = null,
        bool ahead = false
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Load(connection, null, ask, now, knownAt, askedBy, cancel, booking, ahead);
    }

    public static async Task<Result<GateFacts>> Load(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        Ask ask,
        Instant now,
        Instant? knownAt,
        string? askedBy,
        CancellationToken cancel,
        Guid? booking = null,
        bool ahead = false
    )
    {
        var first = Instant.Min(now, ask.Start);
        // No length yet: what the job needs is known only once the facts are.
        var last =
            ahead ? Instant.Max(ask.End, Instant.Max(now, ask.Start) + Duration.FromDays(SoonestWay.HorizonDays + 1))
            : ask.Minutes == 0 ? ask.Start + Duration.FromDays(1)
            : ask.End;
        var parameters = new
        {
            person = ask.MemberId,
            machine = ask.MachineId,
            supervisor = ask.SupervisorId ?? "",
            askedBy = askedBy ?? ask.MemberId,
            fixture = ask.Fixture is null ? "" : $"fixture:{ask.Fixture}",
            materials = ask.Items.Select(i => i.MaterialId).Distinct().ToArray(),
            tags = ask.Items.Select(i => i.SheetTag).OfType<string>().Distinct().ToArray(),
            drawings = ask.Items.Select(i => i.DrawingId).OfType<Guid>().Distinct().ToArray(),
            // A week before and after, for the weekly house limit.
            from = first - Duration.FromDays(8),
            until = last + Duration.FromDays(8),
            // Stops that an idle clock stood still for.
            idleFrom = first - Duration.FromDays(IdleLooksBackDays),
            first,
            last,
            now,
            start = ask.Start,
            knownAt,
            booking,
        };
        Result<GateFacts> facts;
        using (
            var rows = await connection.QueryMultipleAsync(
                new CommandDefinition(knownAt is null ? FactSql.Now : FactSql.Then, parameters, transaction, cancellationToken: cancel)
            )
        )
            facts = await new FactReading(rows, ask, now).Build();
        return ahead && facts.Refusal is null ? await WithWays(connection, transaction, facts.Value, ask, now) : facts;
    }

    /// <summary>For the soonest way: what the paths to missing certificates still ask.</summary>
    private static async Task<GateFacts> WithWays(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        GateFacts facts,
        Ask ask,
        Instant now
    )
    {
        var missing = NeededAuthorities
            .Of(ask, facts.Training.AddOns!.Select(a => (a.Authority, a.Need)))
            .Where(a =>
                !Span.Cover(
                    facts.Training.Certificates.Value.Where(c => c.Authority == a).Select(c => c.Held),
                    ask.Start,
                    Instant.Max(ask.End, ask.Start + Duration.FromMinutes(1))
                )
            )
            .ToList();
        if (missing.Count == 0)
            return facts;
        var paths = await PathStore.All(connection, transaction, facts.Rules, now);
        var progress = await PathStore.ProgressOf(connection, transaction, ask.MemberId, paths, now);
        var failed = (await QuizStore.Standing(connection, transaction, ask.MemberId, ModuleRules.SafetyQuiz)).Failed;
        var ways = paths
            .Where(p => missing.Contains(p.Path.Authority))
            .Select(p => new WayFacts(p.Path.Authority, Ladder.StillToDo(p.Path, progress, failed, facts.Rules, now)));
        return facts with { Training = facts.Training with { Ways = [.. ways] } };
    }
}

/// <summary>Rows of <see cref="FactSql.Now"/> or <see cref="FactSql.Then"/>, in its order, as facts.</summary>
internal sealed class FactReading(SqlMapper.GridReader rows, Ask ask, Instant now)
{
    private sealed record SpanRow(Instant From, Instant? Until)
    {
        public Span Span => new(From, Until);
    }

    private sealed record AtRow(Instant? At);

    private sealed record PersonRow(string GivenName, LocalDate? BirthDate);

    private sealed record CertificateRow(string Authority, bool Founding, Instant From, Instant? Until, bool Confirmed);

    private sealed record ModuleRow(string Id, string Kind, string Title, string Topic, int Version, int Done, string? Repeats)
    {
        /// <summary>Written as “2 2026-11-26,3 2026-12-05”.</summary>
        public IEnumerable<Repeat> Ahead =>
            (Repeats ?? "")
                .Split(',', StringSplitOptions.RemoveEmptyEntries)
                .Select(r => r.Split(' '))
                .Select(r => new Repeat(
                    int.Parse(r[0], System.Globalization.CultureInfo.InvariantCulture),
                    NodaTime.Text.LocalDatePattern.Iso.Parse(r[1]).Value
                ));
    }

    private sealed record PathOrHoldRow(string Authority, string Kind, string Body, Instant From, Instant? Until);

    private sealed record ConsentRow(string[] MachineIds, Instant From, Instant? Until);

    private sealed record ClosureRow(Guid Plan, string Title, Instant From, Instant Until);

    private sealed record ClassRow(Guid Plan, string Title, Instant From, Instant Until, string AdultId, int AtOnce, bool OnRoster);

    private sealed record RunningRow(Guid Plan, Instant From, Instant Until);

    private sealed record MaterialRow(string Id, string Name, decimal CutEnergy, bool HeavyResidue);

    private sealed record TwinRow(string MaterialId, string Name);

    private sealed record RulingRow(
        string MaterialId,
        string Kind,
        string Operation,
        decimal MinMm,
        decimal? MaxMm,
        string Standing,
        string Evidence,
        string[] Reasons,
        string Hazard,
        string Handling,
        bool FilteredNeedsArrangement,
        Instant From,
        Instant? Until
    );

    private sealed record SheetRow(
        string Tag,
        string MaterialId,
        string MaterialName,
        decimal ThicknessMm,
        decimal WidthMm,
        decimal HeightMm
    );

    private sealed record TestedRow(string MaterialId, decimal ThicknessMm, string Operation, Instant At);

    private sealed record ClearanceRow(string Tag, string[] Operations, string[] MachineIds, Instant From, Instant? Until);

    private sealed record QuarantineRow(string Tag, Instant From, Instant? Until);

    private sealed record DrawingRow(Guid Id, string Name, string Summary);

    private sealed record LiftRow(Guid AskId, Instant From, Instant Until, string Items, string Reasons);

    private sealed record EyewearRow(string Name, int MinNm, int MaxNm, decimal OpticalDensity, bool DamageRated, int Count);

    public async Task<Result<GateFacts>> Build()
    {
        var rulesText = (await rows.ReadAsync<string>()).SingleOrDefault();
        var person = (await rows.ReadAsync<PersonRow>()).SingleOrDefault();
        var specText = (await rows.ReadAsync<string>()).SingleOrDefault();
        if (person is null)
            return GateProblems.AskUnknownMember.Refuse("memberId", ask.MemberId);
        if (specText is null)
            return GateProblems.AskUnknownMachine.Refuse("machineId", ask.MachineId);
        if (rulesText is null)
            return GateProblems.HouseNoRules.Refuse();
        var rules = GateJson.Read<HouseRules>(rulesText);
        var spec = GateJson.Read<MachineSpec>(specText);
        var personFacts = await ReadPerson(person, rules);
        var lifts = (await rows.ReadAsync<LiftRow>())
            .Select(l => new LiftFacts(
                l.AskId,
                ask.MemberId,
                ask.MachineId,
                new Span(l.From, l.Until),
                GateJson.Read<List<AskItem>>(l.Items),
                GateJson.Read<List<LiftedReason>>(l.Reasons)
            ))
            .ToList();
        var training = await ReadTraining();
        var course = await ReadCourse();
        var sheets = await ReadSheets(spec);
        if (sheets.Refusal is { } refusal)
            return refusal;
        var drawings = await ReadDrawings();
        var machine = await ReadMachine(spec);
        var time = await ReadTime(personFacts);
        var room = await ReadRoom();
        training = course.Into(training, spec, machine.FixturesHere, rules, ask.Start);
        return new GateFacts(
            GateFacts.CurrentVersion,
            now,
            rules,
            personFacts,
            training,
            sheets.Value,
            drawings,
            machine,
            time,
            room,
            lifts
        );
    }

    private async Task<PersonFacts> ReadPerson(PersonRow person, HouseRules rules)
    {
        var active = await Spans();
        var agreement = await Spans();
        var pauses = await Spans();
        var attending = await Spans();
        var duties = await Spans();
        var consents = (await rows.ReadAsync<ConsentRow>()).Select(c => new ConsentFacts(new Span(c.From, c.Until), c.MachineIds)).ToList();
        var age = Ages.On(person.BirthDate, rules.Clock.DateOf(ask.Start));
        return new PersonFacts(
            person.GivenName,
            Known(active),
            Known(agreement),
            Known(pauses),
            Known(attending),
            Fact.Known(age),
            duties,
            consents
        );
    }

    private async Task<TrainingFacts> ReadTraining()
    {
        var held = (await rows.ReadAsync<CertificateRow>())
            .Select(c => new Certificate(c.Authority, new Span(c.From, c.Until), c.Founding, c.Confirmed))
            .ToList();
        var lastUse = (await rows.ReadAsync<AtRow>()).Single().At;
        var trains = await Spans();
        var certified = await Spans();
        var busy = await Spans();
        var teaches = await Spans();
        var supervises = await Spans();
        return new TrainingFacts(
            Fact.Known<IReadOnlyList<Certificate>>(held),
            Fact.Known(lastUse),
            trains,
            certified,
            busy,
            teaches,
            supervises
        );
    }

    private async Task<CourseRows> ReadCourse()
    {
        var modules = (await rows.ReadAsync<ModuleRow>()).ToList();
        var others = (await rows.ReadAsync<PathOrHoldRow>()).ToLookup(r => r.Kind is "path" or "repeat" ? r.Kind : "hold");
        return new CourseRows(
            [.. modules.Select(m => new TrainingModule(m.Id, Enum<ModuleKind>(m.Kind), m.Title, m.Topic, m.Version, [.. m.Ahead]))],
            [.. modules.Where(m => m.Done > 0).Select(m => new ModuleDone(m.Id, m.Done, now))],
            [.. others["path"].Select(p => (GateJson.Read<TrainingPath>(p.Body), p.From))],
            [
                .. others["hold"]
                    .Select(h => new CertificateHold(
                        h.Authority,
                        Enum<CertificateHoldKind>(h.Kind),
                        new Span(h.From, h.Until),
                        GateJson.Read<HoldConditions>(h.Body)
                    )),
            ],
            [
                .. others["repeat"]
                    .Select(r => new PracticalRepeat(
                        r.Authority,
                        r.Body[11..],
                        r.From,
                        NodaTime.Text.LocalDatePattern.Iso.Parse(r.Body[..10]).Value
                    )),
            ]
        );
    }

    private async Task<Result<IReadOnlyList<SheetFacts>>> ReadSheets(MachineSpec spec)
    {
        var materials = (await rows.ReadAsync<MaterialRow>()).ToDictionary(m => m.Id);
        var twins = (await rows.ReadAsync<TwinRow>()).ToLookup(t => t.MaterialId, t => t.Name);
        var kind = JsonNamingPolicy.CamelCase.ConvertName(spec.Kind.ToString());
        var rulings = (await rows.ReadAsync<RulingRow>()).Where(r => r.Kind == kind).ToLookup(r => r.MaterialId);
        var sheets = (await rows.ReadAsync<SheetRow>()).ToDictionary(s => s.Tag);
        var cleared = (await rows.ReadAsync<ClearanceRow>()).ToLookup(c => c.Tag);
        var quarantined = (await rows.ReadAsync<QuarantineRow>()).ToLookup(q => q.Tag);
        var facts = new List<SheetFacts>();
        for (var i = 0; i < ask.Items.Count; i++)
        {
            var item = ask.Items[i];
            if (!materials.TryGetValue(item.MaterialId, out var material))
                return GateProblems.AskUnknownMaterial.Refuse($"items[{i}].materialId", item.MaterialId);
            TagFacts? tag =
                item.SheetTag is { } number && sheets.TryGetValue(number, out var sheet)
                    ? new TagFacts(
                        sheet.Tag,
                        sheet.MaterialId,
                        sheet.MaterialName,
                        sheet.ThicknessMm,
                        [
                            .. cleared[number]
                                .Select(c => new ClearanceFacts(
                                    new Span(c.From, c.Until),
                                    [.. c.Operations.Select(Enum<Operation>)],
                                    c.MachineIds
                                )),
                        ],
                        [.. quarantined[number].Select(q => new Span(q.From, q.Until))],
                        sheet.WidthMm,
                        sheet.HeightMm
                    )
                    : null;
            facts.Add(
                new SheetFacts(
                    material.Name,
                    material.HeavyResidue,
                    material.CutEnergy,
                    Fact.Known<IReadOnlyList<HeldRuling>>([.. rulings[item.MaterialId].Select(r => Held(r, spec.Kind))]),
                    [.. twins[item.MaterialId]],
                    Fact.Known(tag)
                )
            );
        }
        return facts;
    }

    private static HeldRuling Held(RulingRow r, LaserKind kind) =>
        new(
            new Ruling(
                r.MaterialId,
                kind,
                Enum<Operation>(r.Operation),
                r.MinMm,
                r.MaxMm,
                Enum<RulingStanding>(r.Standing),
                Enum<Evidence>(r.Evidence),
                r.Reasons,
                r.Hazard,
                r.Handling,
                r.FilteredNeedsArrangement
            ),
            new Span(r.From, r.Until)
        );

    private async Task<IReadOnlyList<DrawingFacts>> ReadDrawings()
    {
        var drawings = (await rows.ReadAsync<DrawingRow>()).ToDictionary(d => d.Id);
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

    private async Task<MachineFacts> ReadMachine(MachineSpec spec)
    {
        var stops = await Spans();
        var upkeep = (await rows.ReadAsync<UpkeepFacts>()).ToList();
        var fixtures = (await rows.ReadAsync<string>()).ToList();
        var tested = (await rows.ReadAsync<TestedRow>())
            .Select(t => new TestedFacts(t.MaterialId, t.ThicknessMm, Enum<Operation>(t.Operation), t.At))
            .ToList();
        return new MachineFacts(
            spec,
            Known(stops),
            Fact.Known<IReadOnlyList<UpkeepFacts>>(upkeep),
            fixtures,
            Fact.OnlyAtMachine<bool>(),
            tested
        );
    }

    private async Task<TimeFacts> ReadTime(PersonFacts person)
    {
        var taken = await Spans();
        var fixture = await Spans();
        var closures = (await rows.ReadAsync<ClosureRow>())
            .Select(c => new ClosureFacts(c.Plan, c.Title, new Span(c.From, c.Until)))
            .ToList();
        var classes = (await rows.ReadAsync<ClassRow>()).ToList();
        var running = (await rows.ReadAsync<RunningRow>()).ToLookup(r => r.Plan, r => new Span(r.From, r.Until));
        return new TimeFacts(
            Known(taken),
            Known(fixture),
            person.Attending,
            closures,
            [
                .. classes.Select(c => new ClassFacts(
                    c.Plan,
                    c.Title,
                    new Span(c.From, c.Until),
                    c.AdultId,
                    c.OnRoster,
                    c.AtOnce,
                    [.. running[c.Plan]]
                )),
            ]
        );
    }

    private async Task<RoomFacts> ReadRoom()
    {
        var kit = (await rows.ReadAsync<KitFacts>()).ToList();
        var duty = await Spans();
        var rotaUntil = (await rows.ReadAsync<AtRow>()).Single().At ?? now;
        var described = (await rows.ReadAsync<string>()).SingleOrDefault();
        var eyewear = (await rows.ReadAsync<EyewearRow>())
            .Select(e => new EyewearFacts(e.Name, e.MinNm, e.MaxNm, e.OpticalDensity, e.DamageRated, e.Count))
            .ToList();
        return new RoomFacts(
            Fact.Known<IReadOnlyList<KitFacts>>(kit),
            Known(duty),
            rotaUntil,
            Fact.Known<IReadOnlyList<EyewearFacts>>(eyewear),
            Air(described)
        );
    }

    private static Fact<RoomAirFacts> Air(string? body) =>
        body is null ? Fact.Unknown<RoomAirFacts>() : Fact.Known(RoomAirFacts.Of(GateJson.Read<RoomSpec>(body)));

    private async Task<IReadOnlyList<Span>> Spans() => [.. (await rows.ReadAsync<SpanRow>()).Select(r => r.Span)];

    private static Fact<IReadOnlyList<Span>> Known(IReadOnlyList<Span> spans) => Fact.Known(spans);

    private static T Enum<T>(string word)
        where T : struct, System.Enum => System.Enum.Parse<T>(word, ignoreCase: true);
}
