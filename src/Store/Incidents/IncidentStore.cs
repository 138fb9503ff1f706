using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Run;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Incidents;

/// <summary>What may be said anew of an incident by whoever investigates. Null leaves a thing as it is.</summary>
public sealed record IncidentChange(
    Severity? Severity = null,
    string? Damage = null,
    decimal? Cost = null,
    bool? FireService = null,
    bool? Marked = null,
    string? PutOut = null,
    string? MakerSays = null,
    SheetTag? Tag = null,
    ToldFacts? Facts = null,
    LawReport? Law = null
);

/// <summary>Incidents: told, described, and read.</summary>
public sealed class IncidentStore(NpgsqlDataSource db)
{
    /// <summary>
    /// Tells an incident. What follows at once is set in the same transaction; the stewards are called. Of a run that was logged with a
    /// flame there is one already: it takes up what is told now.
    /// </summary>
    /// <param name="staff">A steward who writes down what others told was not involved by that.</param>
    /// <returns>Its id.</returns>
    public Task<Result<Guid>> Tell(ToldIncident told, HouseRules rules, PersonId by, bool staff, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Wrong(connection, transaction, told, rules, now) is { } wrong)
                    return ((Result<Guid>)wrong, false);
                var run = await RunOf(connection, transaction, told.RunId);
                var there = told.There.ToDictionary(p => p, _ => "there");
                if (!there.ContainsKey(by))
                    there[by] = staff ? "told" : "there";
                if (run is { } ran)
                    there[ran.PersonId] = "ran";
                var known = await connection.ExecuteScalarAsync<Guid?>(
                    "select id from incidents.incident where run_id = @RunId and what = @what for update",
                    new { told.RunId, what = IncidentAct.Word(told.What) },
                    transaction
                );
                var id = known ?? await Insert(connection, transaction, told, run, by, now);
                await Involve(connection, transaction, id, there);
                var incident = (await IncidentRow.Lock(connection, transaction, id))!;
                if (incident.ClosedAt is not null)
                    return (IncidentsProblems.Closed.Refuse(), false);
                var act = new IncidentAct(connection, transaction, incident, there[by], by, now);
                if (known is not null)
                    await Describe(act, Again(told));
                await AddSeen(act, told.At, told.Seen);
                if (told.Hurt)
                    await IncidentPapers.AddInjury(act, null, told.Injury ?? told.Seen, rules);
                await Called(act, known is null ? RecordEvents.IncidentTold : RecordEvents.IncidentChanged);
                return (id, true);
            },
            cancel
        );

    /// <summary>A run was logged at which a flame stayed: its incident opens with it, so that nobody has to tell it twice.</summary>
    internal static async Task OfFlame(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid runId,
        LoggedRun logged,
        PersonId by,
        Instant now
    )
    {
        var told = new ToldIncident(
            MachineId: logged.MachineId,
            At: logged.End,
            What: Mishap.Flame,
            Severity: Severity.NoHarm,
            RunId: runId,
            Seen: RunLog.FlameSeen,
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
        var run = await RunOf(connection, transaction, runId);
        var id = await Insert(connection, transaction, told, run, by, now);
        var parts = new Dictionary<PersonId, string> { [by] = "told", [logged.PersonId] = "ran" };
        await Involve(connection, transaction, id, parts);
        var incident = (await IncidentRow.Lock(connection, transaction, id))!;
        var act = new IncidentAct(connection, transaction, incident, parts[by], by, now);
        await AddSeen(act, told.At, told.Seen);
        await Called(act, RecordEvents.IncidentTold);
    }

    /// <summary>Says things of it anew.</summary>
    public Task<Result<int>> Change(Guid id, IncidentChange change, int version, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (IncidentRules.MayInvestigate(act.Involved, act.Incident.ClosedAt is not null) is { } refusal)
                    return (Result<int>)refusal;
                if (act.Incident.Version != version)
                    return CommonProblems.Stale.Refuse(null, "This incident");
                if (IncidentRules.MayRate(act.Incident.Hurt, change.Severity) is { } low)
                    return low;
                if (
                    change.Tag is { } tag
                    && !await Exists(act.Connection, act.Transaction, "materials.sheet where tag = @tag", new { tag })
                )
                    return IncidentsProblems.UnknownSheet.Refuse("tag", tag);
                await Describe(act, change);
                await act.Record(RecordEvents.IncidentChanged, new { severity = (int?)change.Severity });
                return version + 1;
            },
            cancel
        );

    /// <summary>Words to it, from anybody who was there and from the stewards; nobody changes the words of another.</summary>
    public Task<Result<Guid>> AddWords(
        Guid id,
        Instant? seenAt,
        string words,
        bool staff,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (IncidentRules.MayAddWords(staff || act.Part is not null, act.Incident.ClosedAt is not null, seenAt, now) is { } refusal)
                    return (Result<Guid>)refusal;
                var (seen, text) = await AddSeen(act, seenAt, words);
                await act.Record(RecordEvents.IncidentWords, new { words = text });
                return seen;
            },
            cancel
        );

    /// <summary>Old incidents from a list, closed as they are; their numbers follow those there are.</summary>
    public Task<int> CarryOver(IReadOnlyList<OldIncident> rows, HouseClock clock, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                foreach (var row in rows)
                {
                    var text = await LedgerStore.Keep(connection, transaction, row.Seen, null);
                    // At noon: an old list has days.
                    var at = Instant.Min(clock.Day(row.Day).Start + Duration.FromHours(12), now);
                    var id = Guid.NewGuid();
                    await connection.ExecuteAsync(
                        """
                        insert into incidents.incident (id, machine_id, at, what, severity, seen_text_id, cost, carried_over, reported_at,
                            closed_at, closed_by, causes_at, causes_by)
                        values (@id, @MachineId, @at, @what, @severity, @text, @Cost, true, @now, @now, @by, @now, @by);
                        insert into incidents.cause (incident_id, code) select @id, c from unnest(@causes) c on conflict do nothing;
                        """,
                        new
                        {
                            id,
                            row.MachineId,
                            at,
                            what = IncidentAct.Word(row.What),
                            severity = (short)row.Severity,
                            text = text.Id,
                            row.Cost,
                            now,
                            by,
                            causes = row.Causes.ToArray(),
                        },
                        transaction
                    );
                }
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.IncidentCarriedOver,
                    new { rows = rows.Count, by = await LedgerStore.Number(connection, transaction, by) }
                );
                return (rows.Count, true);
            },
            cancel
        );

    /// <summary>What follows at once, and who is told.</summary>
    private static async Task Called(IncidentAct act, RecordEvent kind)
    {
        var (_, facts, _) = await IncidentEvidence.Load(act.Connection, act.Transaction, act.Incident);
        var held = new List<string>();
        foreach (var hold in IncidentHolds.Propose(facts).Where(h => h.AtOnce))
            if (await IncidentHoldStore.Set(act, hold))
                held.Add($"{IncidentAct.Word(hold.Kind)} {hold.Target}");
        var place = act.Incident.MachineId is { } machine
            ? await act.Connection.ExecuteScalarAsync<string>(
                "select name from house.machine where id = @machine",
                new { machine },
                act.Transaction
            )
            : "the room";
        await HouseStore.TellStewards(
            act.Connection,
            act.Transaction,
            act.By,
            $"incident:{act.Incident.Id}",
            $"Incident {act.Incident.Number}: {Mishaps.InWords(act.Incident.What)} at {place}",
            act.Incident.WantsAWatch
                ? "The machine is out of service. A named person begins the fire watch now: filter, duct and bin."
                : "Look at it, set what has to be held, and find out why.",
            $"/incidents/{act.Incident.Id}",
            act.Now
        );
        await act.Record(
            kind,
            new
            {
                what = IncidentAct.Word(act.Incident.What),
                severity = (int)act.Incident.Severity,
                at = Chain.Instant(act.Incident.At),
                run = act.Incident.RunId,
                sheet = act.Incident.Tag?.Value,
            }
        );
        // Bookings that stand are decided again after it.
        if (held.Count > 0)
            await act.Record(RecordEvents.IncidentHeld, new { holds = held });
    }

    private static async Task<Refusal?> Wrong(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        ToldIncident told,
        HouseRules rules,
        Instant now
    )
    {
        var spec = await connection.ExecuteScalarAsync<string>(
            "select spec::text from house.machine where id = @MachineId",
            new { told.MachineId },
            transaction
        );
        if (told.MachineId is { } machine && spec is null)
            return IncidentsProblems.UnknownMachine.Refuse("machineId", machine);
        var checkedBy = spec is null ? null : GateJson.Read<MachineSpec>(spec);
        if (IncidentRules.Check(told, checkedBy, rules.Clock, now).FirstOrDefault() is { } wrong)
            return wrong;
        if (
            told.RunId is { } run
            && !await Exists(connection, transaction, "run.log where id = @run and machine_id = @MachineId", new { run, told.MachineId })
        )
            return IncidentsProblems.UnknownRun.Refuse("runId");
        if (told.Tag is { } tag && !await Exists(connection, transaction, "materials.sheet where tag = @tag", new { tag }))
            return IncidentsProblems.UnknownSheet.Refuse("tag", tag);
        var people = told.There.Select(p => p.Value).Distinct().ToArray();
        var known = await connection.ExecuteScalarAsync<int>(
            "select count(*)::int from people.person where id = any(@people) and not erased",
            new { people },
            transaction
        );
        return known < people.Length ? IncidentsProblems.UnknownPerson.Refuse("there") : null;
    }

    private static Task<bool> Exists(NpgsqlConnection connection, NpgsqlTransaction transaction, string what, object values) =>
        connection.ExecuteScalarAsync<bool>($"select exists (select from {what})", values, transaction);

    private static async Task<Guid> Insert(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        ToldIncident told,
        IncidentEvidence.RunFacts? run,
        PersonId by,
        Instant now
    )
    {
        var id = Guid.NewGuid();
        var item = IncidentEvidence.Item(run, [.. run?.Operations.Select(o => Enum.Parse<Operation>(o, true)) ?? []]);
        var texts = new List<Guid?>();
        foreach (var text in new string?[] { told.Seen, told.Damage, told.PutOut })
            texts.Add(string.IsNullOrWhiteSpace(text) ? null : (await LedgerStore.Keep(connection, transaction, text.Trim(), null)).Id);
        var tag = told.Tag ?? item?.SheetTag;
        await connection.ExecuteAsync(
            """
            insert into incidents.incident (id, machine_id, at, what, severity, run_id, tag, material_id, facts, seen_text_id,
                damage_text_id, put_out_text_id, cost, fire_service, marked, hurt, reported_by, reported_at)
            values (@id, @MachineId, @At, @what, @severity,
                (select @RunId::uuid where not exists (select from incidents.incident where run_id = @RunId::uuid)), @tag,
                coalesce((select material_id from materials.sheet where tag = @tag), @material), @facts::jsonb, @seen, @damage, @putOut,
                @Cost, @FireService, @Marked, @Hurt, @by, @now)
            """,
            new
            {
                id,
                told.MachineId,
                told.At,
                what = IncidentAct.Word(told.What),
                severity = (short)told.Severity,
                told.RunId,
                tag,
                material = run?.MaterialId,
                facts = GateJson.Write(told.Facts),
                seen = texts[0],
                damage = texts[1],
                putOut = texts[2],
                told.Cost,
                told.FireService,
                told.Marked,
                told.Hurt,
                by,
                now,
            },
            transaction
        );
        return id;
    }

    private static Task<IncidentEvidence.RunFacts?> RunOf(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid? runId) =>
        connection.QuerySingleOrDefaultAsync<IncidentEvidence.RunFacts?>(
            """
            select r.person_id, r.material_id, r.thickness_mm, r.operations, b.ask::text as ask, r.item
                from run.log r left join booking.booking b on b.id = r.booking_id where r.id = @runId
            """,
            new { runId },
            transaction
        );

    private static Task Involve(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        IReadOnlyDictionary<PersonId, string> parts
    ) =>
        connection.ExecuteAsync(
            """
            insert into incidents.involved (incident_id, person_id, part) select @id, p, t from unnest(@people, @parts) x (p, t)
            on conflict do nothing
            """,
            new
            {
                id,
                people = parts.Keys.Select(p => p.Value).ToArray(),
                parts = parts.Values.ToArray(),
            },
            transaction
        );

    /// <summary>One line of what was seen.</summary>
    private static async Task<(Guid Id, object InChain)> AddSeen(IncidentAct act, Instant? at, string words)
    {
        var text = await act.Keep(words);
        var id = Guid.NewGuid();
        await act.Do(
            "insert into incidents.seen (id, incident_id, at, text_id, by, told_at) values (@id, @incident, @at, @text, @By, @Now)",
            new
            {
                id,
                incident = act.Incident.Id,
                at,
                text = text.Id,
                act.By,
                act.Now,
            }
        );
        return (id, text.InChain);
    }

    /// <summary>What somebody adds who tells it after the run was logged.</summary>
    private static IncidentChange Again(ToldIncident told) =>
        new(
            Severity: told.Severity,
            Damage: told.Damage,
            Cost: told.Cost,
            FireService: told.FireService,
            Marked: told.Marked,
            PutOut: told.PutOut,
            Tag: told.Tag,
            Facts: told.Facts
        );

    private static async Task Describe(IncidentAct act, IncidentChange change)
    {
        var damage = await act.KeepIf(change.Damage);
        var putOut = await act.KeepIf(change.PutOut);
        var maker = await act.KeepIf(change.MakerSays);
        await act.Do(
            """
            update incidents.incident set severity = coalesce(@severity, severity), damage_text_id = coalesce(@damage, damage_text_id),
                put_out_text_id = coalesce(@putOut, put_out_text_id), maker_text_id = coalesce(@maker, maker_text_id),
                cost = coalesce(@Cost, cost), fire_service = coalesce(@FireService, fire_service), marked = coalesce(@Marked, marked),
                tag = coalesce(@Tag, tag),
                material_id = coalesce((select material_id from materials.sheet where tag = @Tag), material_id),
                facts = facts || jsonb_strip_nulls(coalesce(@facts::jsonb, '{}')), law = coalesce(@law::jsonb, law),
                version = version + 1
            where id = @id
            """,
            new
            {
                id = act.Incident.Id,
                severity = (short?)change.Severity,
                damage = damage?.Id,
                putOut = putOut?.Id,
                maker = maker?.Id,
                change.Cost,
                change.FireService,
                change.Marked,
                change.Tag,
                facts = change.Facts is { } facts ? GateJson.Write(facts) : null,
                law = change.Law is { } law ? GateJson.Write(law) : null,
            }
        );
    }
}
